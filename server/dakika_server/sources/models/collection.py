"""Collection runs, and consents on their way."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand
from dakika_server.sources.models.profiles import Credential, Profile


class CollectionRun(models.Model):
    """One job that brings what a network says of a profile.

    A waiting run with resume_at lies down until then: the network asked for it, or others have
    their turn. `step` is what it is doing, `missing` what it did not bring.
    """

    class State(models.TextChoices):
        """How it stands. A partial run says in `missing` what the next one brings."""

        WAITING = "waiting"
        RUNNING = "running"
        COMPLETE = "complete"
        PARTIAL = "partial"
        FAILED = "failed"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.CASCADE, related_name="runs", db_index=False)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    asked_at = models.DateTimeField()
    started_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    resume_at = models.DateTimeField(null=True)
    turns = models.IntegerField(default=0)
    step = models.CharField(max_length=40, blank=True)
    posts_seen = models.IntegerField(default=0)
    posts_new = models.IntegerField(default=0)
    readings_new = models.IntegerField(default=0)
    comments_new = models.IntegerField(default=0)
    requests = models.IntegerField(default=0)
    slow = models.IntegerField(default=0)
    refused = models.IntegerField(default=0)
    calls_left = models.IntegerField(null=True)
    message = models.CharField(max_length=500, blank=True)
    missing = models.CharField(max_length=200, blank=True)

    class Meta:
        indexes = [
            models.Index(fields=["brand", "-asked_at"], name="run_by_brand_time"),
            models.Index(fields=["profile", "-asked_at"], name="run_by_profile_time"),
        ]
        constraints = [
            models.UniqueConstraint(
                fields=["profile"], condition=Q(state__in=["waiting", "running"]), name="one_open_run_per_profile"
            )
        ]

    def __str__(self) -> str:
        return f"{self.profile_id} {self.state}"


class Connection(models.Model):
    """A consent on its way: the secret state, and afterwards the accounts that are offered.

    `renews` is the profile whose lapsed authorisation it is to renew: then nothing is chosen.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    network = models.CharField(max_length=40)
    state = models.CharField(max_length=64, unique=True)
    verifier = models.BinaryField()
    credential = models.ForeignKey(Credential, on_delete=models.SET_NULL, null=True)
    renews = models.ForeignKey(Profile, on_delete=models.CASCADE, null=True)
    offered = models.JSONField(default=list)
    created_at = models.DateTimeField()

    def __str__(self) -> str:
        return f"{self.network} {self.pk}"
