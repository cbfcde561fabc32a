"""The brand's own feed: what of the plan also appears there, and how often it was seen."""

from uuid import uuid4

from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.links.models import TrackedLink
from dakika_server.plan.models.posts import PlannedPost


class OwnFeed(models.Model):
    """A brand's feed of its own. key stands in its address, and is no secret. site: the page that it is of."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, primary_key=True, related_name="own_feed")
    key = models.CharField(max_length=40, unique=True)
    guid = models.UUIDField(default=uuid4)
    title = models.CharField(max_length=120)
    site = models.CharField(max_length=500, blank=True)
    is_on = models.BooleanField(default=True)
    changed_at = models.DateTimeField()
    edition = models.PositiveIntegerField(default=1)

    def __str__(self) -> str:
        return self.title


class OwnFeedItem(models.Model):
    """A post as it stands in the feed: its words as they were when it came out, so that they stay if the post goes."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="own_feed_items", db_index=False)
    planned_post = models.OneToOneField(PlannedPost, on_delete=models.SET_NULL, null=True, related_name="own_feed_item")
    guid = models.UUIDField(default=uuid4, unique=True)
    title = models.CharField(max_length=300)
    text = models.TextField(blank=True)
    picture = models.BigIntegerField(null=True, help_text="the asset that is shown with it")
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, related_name="+")
    published_at = models.DateTimeField()
    updated_at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "-published_at", "-id"], name="own_feed_item_by_time")]

    def __str__(self) -> str:
        return self.title


class OwnFeedSeen(models.Model):
    """How often an item was seen in an hour (UTC)."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    item = models.ForeignKey(OwnFeedItem, on_delete=models.CASCADE, related_name="views", db_index=False)
    hour = models.DateTimeField()
    views = models.PositiveIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["item", "hour", "brand"], name="own_feed_view_once_an_hour")]
        indexes = [models.Index(fields=["brand", "hour"], name="own_feed_view_by_hour")]

    def __str__(self) -> str:
        return f"{self.views} at {self.hour}"
