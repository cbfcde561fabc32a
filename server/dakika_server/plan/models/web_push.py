"""Web Push: who asked for messages in their browser, what was sent, and how often it was shown."""

from uuid import uuid4

from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.links.models import TrackedLink
from dakika_server.plan.models.posts import PlannedPost


class PushChannel(models.Model):
    """A brand's messages to browsers. key stands in addresses and is no secret; private_key is sealed (RFC 8292)."""

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, primary_key=True, related_name="push_channel")
    key = models.CharField(max_length=40, unique=True)
    public_key = models.CharField(max_length=100)
    private_key = models.BinaryField()
    is_on = models.BooleanField(default=True)
    changed_at = models.DateTimeField()
    edition = models.PositiveIntegerField(default=1)

    def __str__(self) -> str:
        return self.key


class PushSubscriber(models.Model):
    """A browser that asked for messages: where its push service takes them, and its keys (RFC 8291, 3.2)."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    endpoint = models.CharField(max_length=1000)
    p256dh = models.CharField(max_length=100)
    auth = models.CharField(max_length=40)
    since = models.DateTimeField()
    failures = models.PositiveSmallIntegerField(default=0, help_text="messages in a row that did not reach it")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "endpoint"], name="push_subscriber_once")]

    def __str__(self) -> str:
        return f"browser {self.pk}"


class PushMessage(models.Model):
    """A post as it was sent to browsers. The numbers are of browsers: asked, taken by their services, gone, failed."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    planned_post = models.OneToOneField(PlannedPost, on_delete=models.SET_NULL, null=True, related_name="push_message")
    guid = models.UUIDField(default=uuid4, unique=True)
    title = models.CharField(max_length=300)
    text = models.CharField(max_length=300, blank=True)
    address = models.CharField(max_length=2048, blank=True, help_text="where it leads")
    link = models.ForeignKey(TrackedLink, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()
    asked = models.PositiveIntegerField(default=0)
    taken = models.PositiveIntegerField(default=0)
    gone = models.PositiveIntegerField(default=0)
    failed = models.PositiveIntegerField(default=0)

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at", "-id"], name="push_message_by_time")]

    def __str__(self) -> str:
        return self.title


class PushDelivery(models.Model):
    """A message to a browser. token is in what is sent, so that its being shown is counted once."""

    class State(models.TextChoices):
        """How far it is."""

        WAITING = "waiting"
        TAKEN = "taken"
        FAILED = "failed"

    message = models.ForeignKey(PushMessage, on_delete=models.CASCADE, related_name="deliveries", db_index=False)
    subscriber = models.ForeignKey(PushSubscriber, on_delete=models.CASCADE)
    token = models.UUIDField(default=uuid4, unique=True)
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    attempts = models.PositiveSmallIntegerField(default=0)
    next_at = models.DateTimeField(null=True)
    shown_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["message", "subscriber"], name="push_delivery_once")]
        indexes = [
            models.Index(
                fields=["next_at"], name="push_delivery_due", condition=models.Q(next_at__isnull=False)
            )
        ]  # fmt: skip

    def __str__(self) -> str:
        return f"{self.message_id} to {self.subscriber_id}"


class PushSeen(models.Model):
    """How often a message was shown in an hour (UTC)."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    message = models.ForeignKey(PushMessage, on_delete=models.CASCADE, related_name="views", db_index=False)
    hour = models.DateTimeField()
    views = models.PositiveIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["message", "hour", "brand"], name="push_view_once_an_hour")]
        indexes = [models.Index(fields=["brand", "hour"], name="push_view_by_hour")]

    def __str__(self) -> str:
        return f"{self.views} at {self.hour}"
