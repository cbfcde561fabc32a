"""What follows from the readings, kept so that screens need not work it out: rebuilt after every collection."""

from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.sources.models import Post, Profile

LATEST = 0


class PostMeasure(models.Model):
    """A post at one age (hours; 0 = as last seen), with what is typical there. NULL is missing."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="measures")
    age_hours = models.SmallIntegerField()
    taken_at = models.DateTimeField(null=True)
    readings = models.IntegerField(null=True, help_text="how many readings it was made from; NULL asks for it anew")
    followers = models.FloatField(null=True)
    impressions = models.FloatField(null=True)
    reach = models.FloatField(null=True)
    interactions = models.FloatField(null=True)
    reactions = models.FloatField(null=True)
    comments = models.FloatField(null=True)
    shares = models.FloatField(null=True)
    saves = models.FloatField(null=True)
    link_clicks = models.FloatField(null=True)
    video_views = models.FloatField(null=True)
    negative = models.FloatField(null=True)
    typical = models.FloatField(null=True, help_text="typical interactions at this age")
    index = models.FloatField(null=True, help_text="interactions / typical")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "age_hours"], name="measure_once_per_age")]
        indexes = [models.Index(fields=["profile", "age_hours"], name="measure_by_profile_age")]

    def __str__(self) -> str:
        return f"{self.post_id} at {self.age_hours} h"


class PostDay(models.Model):
    """What a post gained on one day of the brand's calendar."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE)
    post = models.ForeignKey(Post, on_delete=models.CASCADE, related_name="days")
    day = models.DateField()
    impressions = models.FloatField(null=True)
    reach = models.FloatField(null=True)
    interactions = models.FloatField(null=True)
    link_clicks = models.FloatField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["post", "day"], name="gain_once_per_day")]
        indexes = [
            models.Index(
                fields=["profile", "day"], name="gain_by_profile_day",
                include=["post", "impressions", "reach", "interactions", "link_clicks"],
            )
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"{self.post_id} on {self.day}"
