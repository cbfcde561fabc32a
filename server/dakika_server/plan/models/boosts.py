"""Money that shows posts to more people: boosts, what networks tell of them, and what a month may cost."""

from uuid import uuid4

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand
from dakika_server.links.models import TrackedLink
from dakika_server.sources.models import Post, Profile


class Boost(models.Model):
    """A post that is shown to more people for money, with what its network has told of it last.

    The key is told to the network with the first call and with every one after it that may be a second one, so that
    whatever is lost or killed in between, the money is spent once. Counts hold what was paid for alone. A boost that
    may still spend is open.
    """

    class State(models.TextChoices):
        """Where it stands. asked: to be told to the network, which may know of it already; stopping: to be stopped."""

        ASKED = "asked"
        RUNNING = "running"
        STOPPING = "stopping"
        ENDED = "ended"
        REFUSED = "refused"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="boosts", db_index=False)
    # What was spent stays told when a profile goes; none goes while money runs on it.
    profile = models.ForeignKey(Profile, on_delete=models.SET_NULL, null=True, related_name="boosts")
    network = models.CharField(max_length=40)
    post = models.ForeignKey(Post, on_delete=models.SET_NULL, null=True, related_name="boosts")
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, related_name="boosts")
    state = models.CharField(max_length=10, choices=State.choices, default=State.ASKED)
    cents = models.PositiveBigIntegerField(help_text="never more in all")
    currency = models.CharField(max_length=3)
    starts_at = models.DateTimeField()
    ends_at = models.DateTimeField()
    countries = ArrayField(models.CharField(max_length=2), default=list)
    ages = ArrayField(models.CharField(max_length=10), default=list)
    idempotency_key = models.UUIDField(default=uuid4)
    external_id = models.CharField(max_length=200, blank=True)
    attempts = models.PositiveIntegerField(default=0)
    error = models.CharField(max_length=300, blank=True)
    next_at = models.DateTimeField(null=True, help_text="when its network is asked again; NULL: never more")
    seen_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    spent = models.PositiveBigIntegerField(default=0, help_text="cents")
    impressions = models.BigIntegerField(default=0)
    reach = models.BigIntegerField(default=0)
    interactions = models.BigIntegerField(default=0)
    link_clicks = models.BigIntegerField(default=0)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()
    stopped_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        constraints = [
            # However often somebody presses: one post is not paid for twice at the same time.
            models.UniqueConstraint(
                fields=["post"], name="one_open_boost_per_post", condition=Q(state__in=["asked", "running", "stopping"])
            ),
        ]
        indexes = [
            models.Index(fields=["brand", "-starts_at", "-id"], name="boost_by_brand_time"),
            models.Index(fields=["next_at"], name="boost_due", condition=Q(next_at__isnull=False)),
        ]

    def __str__(self) -> str:
        return f"{self.cents} {self.currency} {self.state}"


class BoostReading(models.Model):
    """What a network had told of a boost by an instant. What it spent only grows; counts may be corrected."""

    boost = models.ForeignKey(Boost, on_delete=models.CASCADE, related_name="readings", db_index=False)
    at = models.DateTimeField()
    spent = models.PositiveBigIntegerField()
    impressions = models.BigIntegerField()
    interactions = models.BigIntegerField()
    link_clicks = models.BigIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["boost", "at"], name="one_boost_reading_at_once")]

    def __str__(self) -> str:
        return f"{self.spent} at {self.at}"


class BoostLimit(models.Model):
    """What all boosts of a brand may cost in a month, in cents; without one nothing is boosted."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, primary_key=True, related_name="boost_limit")
    cents = models.PositiveBigIntegerField()
    currency = models.CharField(max_length=3)
    edition = models.PositiveIntegerField(default=1)

    def __str__(self) -> str:
        return f"{self.cents} {self.currency}"
