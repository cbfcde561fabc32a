"""Reports, what they were before, and the links that open them to people outside."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand


class Report(models.Model):
    """A report. study: what its figures are of, unless they say otherwise; look: cover, colours, header, footer;
    pages: their figures, words and places (`serializers.content` says their shape). A template is one to begin from.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    title = models.CharField(max_length=120)
    label = models.CharField(max_length=60, blank=True)
    language = models.CharField(max_length=5, default="en")
    study = models.JSONField(default=dict)
    look = models.JSONField(default=dict)
    pages = models.JSONField(default=list)
    is_template = models.BooleanField(default=False)
    edition = models.PositiveIntegerField(default=1)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()
    changed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    changed_at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "-changed_at", "-id"], name="report_by_change")]

    def __str__(self) -> str:
        return self.title


class ReportVersion(models.Model):
    """A report as it was before somebody changed it, or as somebody kept it under a name."""

    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="versions", db_index=False)
    edition = models.PositiveIntegerField()
    name = models.CharField(max_length=80, blank=True)
    title = models.CharField(max_length=120)
    language = models.CharField(max_length=5)
    study = models.JSONField()
    look = models.JSONField()
    pages = models.JSONField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["report", "edition"], name="report_version_once")]

    def __str__(self) -> str:
        return f"{self.title} {self.edition}"


class ReportLink(models.Model):
    """A link that opens a report to whoever has it, until it ends. Its key is kept as a digest; so is the password.

    shown: the report with its figures as they were, for a frozen one; without them it is live.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="links")
    name = models.CharField(max_length=80)
    digest = models.CharField(max_length=64, unique=True)
    password = models.CharField(max_length=200, blank=True)
    until = models.DateTimeField()
    is_frozen = models.BooleanField(default=False)
    shown = models.JSONField(null=True)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    visits = models.PositiveIntegerField(default=0)
    visited_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at"], name="report_link_by_time")]

    def __str__(self) -> str:
        return self.name


class Delivery(models.Model):
    """A report that goes out by a rule (RFC 5545) at an hour of the brand's clock. begins: local, without a zone."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    report = models.ForeignKey(Report, on_delete=models.CASCADE, related_name="deliveries")
    every = models.CharField(max_length=10)
    weekday = models.PositiveSmallIntegerField(default=0)
    day = models.PositiveSmallIntegerField(default=1)
    rule = models.CharField(max_length=200)
    begins = models.DateTimeField()
    next_at = models.DateTimeField(null=True)
    message = models.CharField(max_length=1000, blank=True)
    wait_hours = models.PositiveSmallIntegerField(default=3, help_text="how long it waits for data that are missing")
    is_on = models.BooleanField(default=True)
    edition = models.PositiveIntegerField(default=1)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        indexes = [
            models.Index(fields=["brand", "report"], name="delivery_of_report"),
            models.Index(fields=["next_at"], name="delivery_due", condition=models.Q(is_on=True)),
        ]

    def __str__(self) -> str:
        return f"{self.report_id} {self.rule}"


class DeliveryReader(models.Model):
    """Somebody whom a report is sent to: outside, or of the team as long as they are of it, wherever their mail goes.

    token ends it from within a letter (RFC 8058).
    """

    delivery = models.ForeignKey(Delivery, on_delete=models.CASCADE, related_name="readers", db_index=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+")
    address = models.EmailField()
    token = models.CharField(max_length=60, unique=True)
    stopped_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["delivery", "address"], name="delivery_reader_once")]

    def __str__(self) -> str:
        return self.address


class DeliveryRun(models.Model):
    """A report as it went out once: its figures of that time, and its PDF. test_to: sent to whoever tried it alone."""

    class State(models.TextChoices):
        """Whereabouts it is."""

        WAITING = "waiting"
        SENT = "sent"
        FAILED = "failed"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    delivery = models.ForeignKey(Delivery, on_delete=models.CASCADE, related_name="runs", db_index=False)
    due_at = models.DateTimeField()
    test_to = models.EmailField(blank=True)
    waits_until = models.DateTimeField(null=True, help_text="how long it waits for figures that are not there yet")
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    missing = models.CharField(max_length=500, blank=True, help_text="what was not collected when it went out")
    detail = models.CharField(max_length=300, blank=True)
    shown = models.JSONField(null=True)
    content = models.BinaryField(null=True)
    letters = models.PositiveIntegerField(default=0)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["delivery", "due_at", "test_to"], name="delivery_run_once")]
        indexes = [
            models.Index(fields=["brand", "-due_at"], name="delivery_run_by_time"),
            models.Index(fields=["state", "due_at"], name="delivery_run_waiting", condition=models.Q(state="waiting")),
        ]

    def __str__(self) -> str:
        return f"{self.delivery_id} at {self.due_at}"
