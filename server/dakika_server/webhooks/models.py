"""Addresses that are told, what happened, and each telling of it."""

from datetime import timedelta
from uuid import uuid4

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand

LONGEST_ADDRESS, LONGEST_KIND = 2048, 40
# How long an old secret goes on signing beside the new one.
BOTH_FOR = timedelta(days=1)


class WebHook(models.Model):
    """An address that is told of some kinds of what happens in a brand.

    secret signs, sealed; secret_before goes on signing until before_until. off_because says why it was switched off by
    itself. failing_since: since when nothing of it was taken; rests_until: nothing is sent before.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="webhooks")
    name = models.CharField(max_length=80)
    address = models.CharField(max_length=LONGEST_ADDRESS)
    kinds = ArrayField(models.CharField(max_length=LONGEST_KIND))
    secret = models.BinaryField()
    secret_before = models.BinaryField(null=True)
    before_until = models.DateTimeField(null=True)
    is_on = models.BooleanField(default=True)
    off_because = models.CharField(max_length=300, blank=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()
    failures = models.PositiveIntegerField(default=0)
    failing_since = models.DateTimeField(null=True)
    rests_until = models.DateTimeField(null=True)

    def __str__(self) -> str:
        return self.name


class HookEvent(models.Model):
    """Something that happened and that somebody wanted to be told of. The same key of a kind happens once."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    number = models.UUIDField(default=uuid4, unique=True)
    kind = models.CharField(max_length=LONGEST_KIND)
    key = models.CharField(max_length=160)
    at = models.DateTimeField()
    about = models.JSONField(default=dict)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "kind", "key"], name="happens_once")]
        # What is forgotten after its time.
        indexes = [models.Index(fields=["at"], name="hook_event_by_time")]

    def __str__(self) -> str:
        return f"{self.kind} {self.key}"


class HookDelivery(models.Model):
    """One telling of one event to one address, until it is taken or given up."""

    class State(models.TextChoices):
        """Where it stands."""

        WAITING = "waiting"
        TAKEN = "taken"
        FAILED = "failed"

    webhook = models.ForeignKey(WebHook, on_delete=models.CASCADE, related_name="deliveries", db_index=False)
    event = models.ForeignKey(HookEvent, on_delete=models.CASCADE, related_name="deliveries")
    state = models.CharField(max_length=7, choices=State, default=State.WAITING)
    attempts = models.PositiveIntegerField(default=0)
    next_at = models.DateTimeField(null=True)
    tried_at = models.DateTimeField(null=True)
    status = models.PositiveIntegerField(null=True, help_text="what the address answered last")
    error = models.CharField(max_length=300, blank=True)
    took_ms = models.PositiveIntegerField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["webhook", "event"], name="told_once_to_each")]
        indexes = [
            # The history of an address, the newest first.
            models.Index(fields=["webhook", "-id"], name="hook_delivery_list"),
            models.Index(fields=["webhook", "next_at"], name="hook_delivery_due", condition=Q(state="waiting")),
        ]

    def __str__(self) -> str:
        return f"{self.event_id} to {self.webhook_id}"
