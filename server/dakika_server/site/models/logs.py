"""Access logs that somebody brought in by the browser: their bytes until they are read, and what came of them."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.site.models.visits import Site


class AccessLog(models.Model):
    """A log file of a site. The counts are those of links.logs.LogRead; they grow while it is read."""

    class State(models.TextChoices):
        """Where it stands."""

        WAITING = "waiting"
        READING = "reading"
        DONE = "done"
        FAILED = "failed"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    site = models.ForeignKey(Site, on_delete=models.CASCADE, related_name="logs")
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    file_name = models.CharField(max_length=255)
    size = models.BigIntegerField(help_text="bytes")
    state = models.CharField(max_length=8, choices=State.choices, default=State.WAITING)
    lines = models.BigIntegerField(default=0)
    visits = models.BigIntegerField(default=0)
    new_visits = models.BigIntegerField(default=0)
    not_pages = models.BigIntegerField(default=0)
    bots = models.BigIntegerField(default=0)
    unreadable = models.BigIntegerField(default=0)
    message = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "-created_at"], name="access_log_by_brand")]

    def __str__(self) -> str:
        return self.file_name


class AccessLogChunk(models.Model):
    """A mebibyte of a log, in order; thrown away once it is read."""

    log = models.ForeignKey(AccessLog, on_delete=models.CASCADE, related_name="chunks", db_index=False)
    number = models.IntegerField()
    data = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["log", "number"], name="access_log_chunk_once")]

    def __str__(self) -> str:
        return f"{self.log_id} {self.number}"
