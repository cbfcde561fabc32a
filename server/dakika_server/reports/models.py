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
