"""Web feeds (RSS 2.0, Atom) that a brand follows, and their items."""

from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand


class Feed(models.Model):
    """A feed. etag and modified are what its server gave to ask whether anything changed."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="feeds", db_index=False)
    address = models.CharField(max_length=2000)
    title = models.CharField(max_length=300)
    site = models.CharField(max_length=2000, blank=True)
    etag = models.CharField(max_length=300, blank=True)
    modified = models.CharField(max_length=100, blank=True)
    added_at = models.DateTimeField()
    fetched_at = models.DateTimeField(null=True)
    next_at = models.DateTimeField(null=True)
    failures = models.IntegerField(default=0)
    message = models.CharField(max_length=500, blank=True)
    is_followed = models.BooleanField(default=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "address"], name="feed_once_per_brand")]
        indexes = [models.Index(fields=["next_at"], name="feed_due", condition=Q(is_followed=True))]

    def __str__(self) -> str:
        return self.title


class FeedItem(models.Model):
    """An item of a feed, known by the identifier that the feed gives it."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    feed = models.ForeignKey(Feed, on_delete=models.CASCADE, related_name="items", db_index=False)
    guid = models.CharField(max_length=500)
    title = models.CharField(max_length=500, blank=True)
    summary = models.TextField(blank=True)
    address = models.CharField(max_length=2000, blank=True)
    author = models.CharField(max_length=200, blank=True)
    published_at = models.DateTimeField(null=True)
    seen_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["feed", "guid"], name="item_once_per_feed")]
        indexes = [models.Index(fields=["brand", "-seen_at"], name="item_by_brand_time")]

    def __str__(self) -> str:
        return self.title
