"""What follows from the readings, kept so that screens need not work it out: rebuilt after every collection.

published_at and format are the post's own, repeated here so that the sums of a period need no join.
"""

from typing import Any

from dakika_core.metrics.observed import FINAL_AGE, LATEST_AGE
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.sources.models import Post, Profile

LATEST, FINAL = LATEST_AGE, FINAL_AGE


def _owner(to: type[models.Model], **more: Any) -> "models.ForeignKey[Any, Any]":
    """Whose a row is. No constraint of the database: these rows are rebuilt at any time, by the million."""
    return models.ForeignKey(to, on_delete=models.CASCADE, db_constraint=False, db_index=False, **more)


class PostMeasure(models.Model):
    """A post at one age (hours; 0 = as last seen, -1 = final), with what is typical there. NULL is missing.

    As last seen it is held against what is typical at the age it had then.
    """

    brand = _owner(Brand)
    profile = _owner(Profile)
    post = _owner(Post, related_name="measures")
    age_hours = models.SmallIntegerField()
    published_at = models.DateTimeField()
    format = models.CharField(max_length=12)
    taken_at = models.DateTimeField(null=True)
    followers = models.FloatField(null=True)
    impressions = models.FloatField(null=True)
    reach = models.FloatField(null=True)
    interactions = models.FloatField(null=True)
    reactions = models.FloatField(null=True)
    comments = models.FloatField(null=True)
    shares = models.FloatField(null=True)
    saves = models.FloatField(null=True)
    link_clicks = models.FloatField(null=True)
    profile_visits = models.FloatField(null=True)
    video_views = models.FloatField(null=True)
    video_seconds = models.FloatField(null=True)
    video_completions = models.FloatField(null=True)
    calls = models.FloatField(null=True)
    directions = models.FloatField(null=True)
    negative = models.FloatField(null=True)
    reactions_like = models.FloatField(null=True)
    reactions_warmth = models.FloatField(null=True)
    reactions_amusement = models.FloatField(null=True)
    reactions_wonder = models.FloatField(null=True)
    reactions_dismay = models.FloatField(null=True)
    shares_with_words = models.FloatField(null=True)
    follows = models.FloatField(null=True)
    unfollows = models.FloatField(null=True)
    bookings = models.FloatField(null=True)
    typical = models.FloatField(null=True, help_text="typical interactions of its format at this age")
    index = models.FloatField(null=True, help_text="interactions / typical")
    profile_index = models.FloatField(null=True, help_text="interactions / typical of the profile, whatever the format")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["post", "age_hours", "published_at", "brand"], name="measure_once_per_age")
        ]
        indexes = [models.Index(fields=["profile", "age_hours", "published_at"], name="measure_by_profile_age_time")]

    def __str__(self) -> str:
        return f"{self.post_id} at {self.age_hours} h"


class PostDay(models.Model):
    """What a post gained on one day of the brand's calendar.

    is_placed: what stands here, on the day of publishing, is a later total whose days are not known.
    """

    brand = _owner(Brand)
    profile = _owner(Profile)
    post = _owner(Post, related_name="days")
    day = models.DateField()
    impressions = models.FloatField(null=True)
    reach = models.FloatField(null=True)
    interactions = models.FloatField(null=True)
    link_clicks = models.FloatField(null=True)
    is_placed = models.BooleanField(default=False, db_default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "day", "brand"], name="gain_once_per_day")]
        indexes = [
            models.Index(
                fields=["profile", "day"], name="gain_by_profile_day",
                include=["post", "impressions", "reach", "interactions", "link_clicks"],
            )
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"{self.post_id} on {self.day}"


class ProfileDay(models.Model):
    """What a profile's posts gained on a day, and how many were published: sums of PostDay.

    One row for each format, and one for all of them with an empty format, which is what is asked for most.

    A rate needs numerator and denominator of the same posts: the pairs hold the numerator over the
    posts that have both. NULL where no post reports it.
    """

    brand = _owner(Brand)
    profile = _owner(Profile)
    day = models.DateField()
    format = models.CharField(max_length=12)
    published = models.IntegerField(default=0)
    placed = models.IntegerField(
        default=0, db_default=0, help_text="posts whose later total stands on this day, that of publishing"
    )
    impressions = models.FloatField(null=True)
    reach = models.FloatField(null=True)
    interactions = models.FloatField(null=True)
    link_clicks = models.FloatField(null=True)
    interactions_with_reach = models.FloatField(null=True)
    reach_with_interactions = models.FloatField(null=True)
    interactions_with_impressions = models.FloatField(null=True)
    impressions_with_interactions = models.FloatField(null=True)
    link_clicks_with_impressions = models.FloatField(null=True)
    impressions_with_link_clicks = models.FloatField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "format", "day", "brand"], name="profile_day_once")]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.day} {self.format}"


class ProfilePublished(models.Model):
    """The posts that a profile published on a day, at one age: sums of PostMeasure for what every summary shows.

    The pair holds interactions and followers of the posts that have both; index_log is the sum of the
    logs of their indices. taken_at is the latest reading of them. What ends with _squares is a sum of squares, from
    which an interval follows; the audience is the pair of those posts whose profile had followers at all.
    """

    brand = _owner(Brand)
    profile = _owner(Profile)
    age_hours = models.SmallIntegerField()
    day = models.DateField()
    posts = models.IntegerField()
    taken_at = models.DateTimeField(null=True)
    interactions_n = models.IntegerField(default=0)
    interactions = models.FloatField(null=True)
    pair_n = models.IntegerField(default=0)
    interactions_with_followers = models.FloatField(null=True)
    followers_with_interactions = models.FloatField(null=True)
    index_n = models.IntegerField(default=0)
    index_log = models.FloatField(null=True)
    interactions_squares = models.FloatField(null=True)
    audience_n = models.IntegerField(default=0, db_default=0)
    audience_interactions = models.FloatField(null=True)
    audience_interactions_squares = models.FloatField(null=True)
    audience_followers = models.FloatField(null=True)
    audience_followers_squares = models.FloatField(null=True)
    audience_product = models.FloatField(null=True)
    reactions_n = models.IntegerField(default=0, db_default=0)
    reactions = models.FloatField(null=True)
    reactions_squares = models.FloatField(null=True)
    comments_n = models.IntegerField(default=0, db_default=0)
    comments = models.FloatField(null=True)
    comments_squares = models.FloatField(null=True)
    shares_n = models.IntegerField(default=0, db_default=0)
    shares = models.FloatField(null=True)
    shares_squares = models.FloatField(null=True)

    class Meta:
        constraints = [
            # What the minute line and a set of two hundred profiles sum up stands in the index itself.
            models.UniqueConstraint(
                fields=["profile", "age_hours", "day", "brand"], name="published_once",
                include=[
                    "posts", "interactions_n", "interactions", "interactions_squares", "audience_n",
                    "audience_interactions", "audience_interactions_squares", "audience_followers",
                    "audience_followers_squares", "audience_product",
                ],
            )
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"{self.profile_id} {self.day} at {self.age_hours} h"


class ProfileMeasured(models.Model):
    """That a profile was measured. count_as says by age how far its formats count for themselves (metrics/typical)."""

    brand = _owner(Brand)
    profile = models.OneToOneField(Profile, on_delete=models.CASCADE, primary_key=True, db_constraint=False)
    posts = models.IntegerField()
    changed = models.IntegerField(help_text="posts measured since the last whole round")
    count_as = ArrayField(models.FloatField())
    extent = models.JSONField(default=dict, help_text="when posts with a known value were published (typical.Extent)")
    languages = ArrayField(models.CharField(max_length=3), default=list, help_text="of its posts, where they are known")
    months = models.JSONField(default=dict, help_text="posts published, by the first day of each month that has any")

    def __str__(self) -> str:
        return f"{self.profile_id}: {self.posts}"


class MeasureChange(models.Model):
    """Something that came, went or changed since a profile was measured (changes.py): a post, followers since a day,
    or, without either, everything.
    """

    id = models.BigAutoField(primary_key=True)
    brand = _owner(Brand)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, db_constraint=False)
    post_id = models.BigIntegerField(null=True)
    day = models.DateField(null=True)

    def __str__(self) -> str:
        return f"{self.profile_id} {self.post_id or self.day or 'everything'}"
