"""Files that are brought in: their bytes while they wait, what became of their rows."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand
from dakika_server.sources.models.profiles import Profile


class Import(models.Model):
    """A file. Its bytes wait in chunks until it is read, and are thrown away once it is done or discarded.

    `detected` is what was found out about it, `options` what holds (a person may have changed it).
    rows_read is how far the reading got: a worker that is killed is followed by one that goes on there.
    mapping holds a list of columns for each field; notes are what was done with cells and rows that is
    not plain. spread are rows from all over the file, by which its way of writing is told.
    """

    class State(models.TextChoices):
        """How it stands."""

        LOOKING = "looking"
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        FAILED = "failed"
        UNDOING = "undoing"
        UNDONE = "undone"
        DISCARDED = "discarded"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, db_index=False)
    profile = models.ForeignKey(Profile, on_delete=models.SET_NULL, null=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()
    file_name = models.CharField(max_length=255)
    size = models.BigIntegerField(default=0)
    digest = models.CharField(max_length=64)
    kind = models.CharField(max_length=20, default="posts")
    detected = models.JSONField(default=dict)
    options = models.JSONField(default=dict)
    header = models.JSONField(default=list)
    sample = models.JSONField(default=list)
    sample_rows = models.JSONField(default=list, help_text="the sample's row numbers in the file")
    spread = models.JSONField(default=list)
    row_count = models.BigIntegerField(default=0)
    is_exact = models.BooleanField(default=True, help_text="whether row_count was counted or estimated from the size")
    mapping = models.JSONField(default=dict)
    state = models.CharField(max_length=10, choices=State.choices, default=State.WAITING)
    rows_read = models.BigIntegerField(default=0)
    accepted = models.BigIntegerField(default=0)
    refused = models.BigIntegerField(default=0)
    added = models.BigIntegerField(default=0)
    posts_added = models.BigIntegerField(default=0)
    known = models.BigIntegerField(default=0, help_text="rows that speak of posts that were here before the file")
    together = models.BigIntegerField(default=0, help_text="rows that say what another row of the file says")
    notes = models.JSONField(default=list)
    first_day = models.DateField(null=True, help_text="the first of the days that the rows speak of")
    last_day = models.DateField(null=True)
    profiles_touched = ArrayField(models.BigIntegerField(), default=list)
    message = models.CharField(max_length=500, blank=True)
    is_forgotten = models.BooleanField(default=False, help_text="its columns are no proposal for the next file")
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["brand", "-created_at"], name="import_by_brand_time"),
            models.Index(fields=["brand", "digest"], name="import_by_digest", condition=Q(state="done")),
        ]

    def __str__(self) -> str:
        return self.file_name


class ImportChunk(models.Model):
    """A mebibyte of a file, in order."""

    item = models.ForeignKey(Import, on_delete=models.CASCADE, related_name="chunks", db_index=False)
    number = models.IntegerField()
    data = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["item", "number"], name="chunk_once")]

    def __str__(self) -> str:
        return f"{self.item_id} {self.number}"


class ImportProblem(models.Model):
    """A row that was left out, with the reason and its cells, so that it can be mended and brought in again."""

    item = models.ForeignKey(Import, on_delete=models.CASCADE, related_name="problems", db_index=False)
    row = models.BigIntegerField()
    column = models.CharField(max_length=200, blank=True)
    message = models.CharField(max_length=300)
    cells = ArrayField(models.TextField(), default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["item", "row"], name="problem_once_per_row")]

    def __str__(self) -> str:
        return f"{self.item_id} row {self.row}"
