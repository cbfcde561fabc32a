"""Findings: statements made from the data, and what people did with them."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand


class Finding(models.Model):
    """A statement with its evidence and a next step.

    `key` names what it is about ("spike:interactions:2026-10-31"): found again, it is the same
    finding, and what somebody did with it stays. It is current while the last computation found it.
    """

    class State(models.TextChoices):
        """What somebody did with it."""

        NEW = "new"
        PINNED = "pinned"
        DISMISSED = "dismissed"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="findings", db_index=False)
    key = models.CharField(max_length=160)
    kind = models.CharField(max_length=20)
    text = models.CharField(max_length=400)
    detail = models.CharField(max_length=600, blank=True)
    weight = models.FloatField(help_text="size times certainty: the order of the list")
    evidence = models.JSONField(default=dict)
    posts = models.JSONField(default=list, help_text="numbers of the posts behind it")
    step = models.JSONField(default=dict, help_text="what to do next: words and a path within the brand")
    state = models.CharField(max_length=10, choices=State.choices, default=State.NEW)
    state_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    is_current = models.BooleanField(default=True)
    first_found_at = models.DateTimeField()
    found_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "key"], name="finding_once")]
        indexes = [models.Index(fields=["brand", "is_current", "-weight"], name="finding_by_weight")]

    def __str__(self) -> str:
        return self.text
