"""What young posts are heading for, what was said of posts and what came, and what is known of each profile's level."""

from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.sources.models import Post, Profile


class Outlook(models.Model):
    """A young post at its latest reading: derived, made anew with every measuring of its profile. Counts of
    interactions.

    state: where it stands to the band in which 95 % of its profile's posts were at that age.
    """

    class State(models.TextChoices):
        """Whether it does as its profile's posts do."""

        USUAL = "usual"
        RISING = "rising"
        FLAT = "flat"
        UNKNOWN = "unknown"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_constraint=False, db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, db_constraint=False)
    post = models.OneToOneField(Post, on_delete=models.CASCADE, primary_key=True, db_constraint=False)
    published_at = models.DateTimeField()
    taken_at = models.DateTimeField()
    count = models.FloatField()
    typical = models.FloatField(null=True)
    index = models.FloatField(null=True)
    index_low = models.FloatField(null=True)
    index_high = models.FloatField(null=True)
    heading = models.FloatField()
    heading_low = models.FloatField()
    heading_high = models.FloatField()
    band_low = models.FloatField(null=True)
    band_high = models.FloatField(null=True)
    band_posts = models.IntegerField(default=0)
    state = models.CharField(max_length=8, choices=State.choices, default=State.UNKNOWN.value)

    class Meta:
        indexes = [models.Index(fields=["brand", "-published_at"], name="outlook_by_brand_time")]

    def __str__(self) -> str:
        return f"{self.post_id}: {self.heading:.0f}"

    @property
    def age_hours(self) -> float:
        """How old the post was at its latest reading."""
        return (self.taken_at - self.published_at).total_seconds() / 3600


class Projection(models.Model):
    """What was said of a post's interactions at seven days when it was of an age (hours; 0 = before it was published).

    Once said it stays. truth: what came. last and median: what two plain rivals would have said. is_tried: not said
    then, but tried afterwards on what was known then.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE)
    post = models.ForeignKey(Post, on_delete=models.CASCADE)
    horizon_hours = models.SmallIntegerField()
    published_at = models.DateTimeField()
    said_at = models.DateTimeField()
    is_tried = models.BooleanField(default=False)
    value = models.FloatField()
    low = models.FloatField()
    high = models.FloatField()
    last = models.FloatField(null=True)
    median = models.FloatField(null=True)
    truth = models.FloatField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "profile", "published_at", "post", "horizon_hours"], name="said_once_per_age"
            )
        ]

    def __str__(self) -> str:
        return f"{self.post_id} at {self.horizon_hours} h: {self.value:.0f}"


class ProfileLevel(models.Model):
    """What a profile's posts are expected to bring by seven days, by metric: the fitted model as data."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="levels", db_index=False)
    metric = models.CharField(max_length=20)
    made_at = models.DateTimeField()
    model = models.JSONField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["profile", "metric"], name="level_once")]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.metric}"
