"""Posts, their readings, and what people wrote under them.

Readings carry brand_id and are keyed by post and instant: the same observation cannot be stored
twice, whoever brings it, and the table can be split by brand or month later.
"""

from dakika_core.networks.definition import Format
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign
from dakika_server.sources.models.profiles import Profile

FORMATS = [(f.value, f.value.replace("_", " ")) for f in Format]


class Post(models.Model):
    """What was published on a profile. Removed posts are marked, never erased.

    next_reading_at is when its counters are due again, NULL once it is too old.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="posts", db_index=False)
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="posts")
    external_id = models.CharField(max_length=200)
    published_at = models.DateTimeField()
    has_time = models.BooleanField(default=True, db_default=True, help_text="False: only the day is known")
    format = models.CharField(max_length=12, choices=FORMATS)
    text = models.TextField(blank=True)
    url = models.CharField(max_length=2000, blank=True)
    hashtags = ArrayField(models.CharField(max_length=100), default=list)
    language = models.CharField(max_length=8, blank=True, default="", help_text="ISO 639, where the network says it")
    picture = models.CharField(max_length=500, blank=True, default="", help_text="address at the network")
    is_boosted = models.BooleanField(null=True, help_text="whether money showed it to more people; NULL: not said")
    removed_at = models.DateTimeField(null=True)
    first_import = models.ForeignKey("Import", on_delete=models.SET_NULL, null=True)
    next_reading_at = models.DateTimeField(null=True)
    comments_read = models.BigIntegerField(null=True, help_text="counter of comments when they were fetched last")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "external_id"], name="post_once_per_profile")]
        indexes = [
            models.Index(fields=["brand", "published_at"], name="post_by_brand_time"),
            models.Index(fields=["profile", "published_at"], name="post_by_profile_time"),
            models.Index(
                fields=["profile", "next_reading_at"], name="post_due", condition=Q(next_reading_at__isnull=False)
            ),
        ]

    def __str__(self) -> str:
        return f"{self.external_id} {self.text[:40]}"


class PostReading(models.Model):
    """One dated observation of a post's counters. NULL is missing, never zero."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="readings", db_index=False)
    taken_at = models.DateTimeField()
    impressions = models.BigIntegerField(null=True)
    reach = models.BigIntegerField(null=True)
    reactions = models.BigIntegerField(null=True)
    comments = models.BigIntegerField(null=True)
    shares = models.BigIntegerField(null=True)
    saves = models.BigIntegerField(null=True)
    link_clicks = models.BigIntegerField(null=True)
    profile_visits = models.BigIntegerField(null=True)
    video_views = models.BigIntegerField(null=True)
    video_seconds = models.BigIntegerField(null=True)
    video_completions = models.BigIntegerField(null=True)
    calls = models.BigIntegerField(null=True)
    directions = models.BigIntegerField(null=True)
    negative = models.BigIntegerField(null=True)
    reactions_like = models.BigIntegerField(null=True)
    reactions_warmth = models.BigIntegerField(null=True)
    reactions_amusement = models.BigIntegerField(null=True)
    reactions_wonder = models.BigIntegerField(null=True)
    reactions_dismay = models.BigIntegerField(null=True)
    shares_with_words = models.BigIntegerField(null=True)
    follows = models.BigIntegerField(null=True)
    unfollows = models.BigIntegerField(null=True)
    bookings = models.BigIntegerField(null=True)
    raw = models.JSONField(null=True, help_text="what the network said, in its own words")
    import_id = models.BigIntegerField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "taken_at", "brand"], name="reading_once_per_instant")]
        indexes = [
            models.Index(fields=["import_id"], name="reading_by_import", condition=Q(import_id__isnull=False)),
            # What is to be forgotten: the oldest that still hold what the network said.
            models.Index(fields=["taken_at"], name="reading_with_answer", condition=Q(raw__isnull=False)),
        ]

    def __str__(self) -> str:
        return f"{self.post_id} {self.taken_at}"


class Comment(models.Model):
    """What somebody wrote under one of our posts. Removed ones are marked, never erased."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="said", db_index=False)
    external_id = models.CharField(max_length=200)
    author = models.CharField(max_length=200)
    text = models.TextField()
    written_at = models.DateTimeField()
    seen_at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "external_id"], name="comment_once_per_post")]
        indexes = [models.Index(fields=["brand", "-written_at"], name="comment_by_brand_time")]

    def __str__(self) -> str:
        return f"{self.author}: {self.text[:40]}"


class PostSource(models.Model):
    """That a file spoke of a post. A post goes with the last that speaks of it."""

    id = models.BigAutoField(primary_key=True)
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False, db_constraint=False)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="sources", db_constraint=False)
    import_id = models.BigIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["import_id", "post"], name="post_once_per_import")]

    def __str__(self) -> str:
        return f"{self.post_id} in {self.import_id}"
