"""Targets: what a metric is to become by a day, and why."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand


class Target(models.Model):
    """A metric's value that is aimed at. start: what it was when it was set, over the 28 days before; query: the own
    profiles that it is of, as an address has them.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="targets", db_index=False)
    metric = models.CharField(max_length=60)
    value = models.FloatField()
    start = models.FloatField(null=True)
    by = models.DateField()
    why = models.CharField(max_length=300, blank=True)
    query = models.JSONField(default=dict)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "metric", "query"], name="target_once_per_metric"),
        ]

    def __str__(self) -> str:
        return f"{self.metric} {self.value} by {self.by}"
