"""Posts that come again, by a rule or with a season."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.sources.models import Post


class Repetition(models.Model):
    """A post that comes again between two days, its texts in turn. posts: those that were made of it."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="repetitions", db_index=False)
    of = models.ForeignKey("plan.PlannedPost", on_delete=models.SET_NULL, null=True, related_name="repetitions")
    rule = models.CharField(max_length=200, help_text="RFC 5545, 3.3.10, without an end")
    first = models.DateField()
    last = models.DateField()
    at = models.TimeField(help_text="by the brand's clock")
    texts = ArrayField(models.TextField(), help_text="in turn, the post's own one first")
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at"], name="repetition_by_brand")]

    def __str__(self) -> str:
        return f"{self.rule} from {self.first} to {self.last}"


class SeasonReturn(models.Model):
    """A post that comes back as a draft every year, some days before its season begins. made_for: the last one made."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="season_returns", db_index=False)
    post = models.OneToOneField(Post, on_delete=models.CASCADE, related_name="season_return")
    month = models.PositiveSmallIntegerField()
    day = models.PositiveSmallIntegerField()
    days_before = models.PositiveSmallIntegerField(default=14)
    made_for = models.DateField(null=True)
    set_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        indexes = [models.Index(fields=["brand"], name="season_return_by_brand")]

    def __str__(self) -> str:
        return f"{self.post_id} on {self.day}/{self.month}"
