"""A team's own metrics."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand


class OwnMetric(models.Model):
    """A formula over counted metrics, with its name and how to read it. `key` is what addresses hold."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="own_metrics", db_index=False)
    key = models.CharField(max_length=48)
    name = models.CharField(max_length=60)
    definition = models.CharField(max_length=300, blank=True)
    formula = models.CharField(max_length=400)
    more_is_better = models.BooleanField(default=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["brand", "key"], name="own_metric_key_once"),
            models.UniqueConstraint(fields=["brand", "name"], name="own_metric_name_once"),
        ]

    def __str__(self) -> str:
        return self.name
