"""Many posts in one table."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.plan.models.posts import PlannedPost


class Batch(models.Model):
    """Many posts that came in one table, to be made together and taken back together."""

    class State(models.TextChoices):
        """Where it stands."""

        CHECKED = "checked"
        MAKING = "making"
        MADE = "made"
        UNDONE = "undone"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="batches", db_index=False)
    name = models.CharField(max_length=200)
    state = models.CharField(max_length=8, choices=State.choices, default=State.CHECKED)
    header = ArrayField(models.TextField(), default=list)
    columns = models.JSONField(default=dict, help_text="field to column")
    pictures = models.JSONField(
        default=dict, help_text="files that came with it: their names there, and which they are"
    )
    choices = models.JSONField(default=dict, help_text="order of dates, times, profiles, what becomes of them")
    left_out = models.PositiveIntegerField(default=0, help_text="rows beyond the most that are taken")
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    made_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at"], name="batch_by_brand")]

    def __str__(self) -> str:
        return self.name


class BatchRow(models.Model):
    """A row of it: its cells as they came, what was mended of them, and the post that was made of it."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="rows", db_index=False)
    number = models.PositiveIntegerField(help_text="as the file counts")
    cells = models.JSONField(default=list)
    mended = models.JSONField(default=dict)
    problem = models.CharField(max_length=500, blank=True, help_text="why no post was made of it")
    planned_post = models.ForeignKey(PlannedPost, on_delete=models.SET_NULL, null=True, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["batch", "number"], name="one_row_each")]

    def __str__(self) -> str:
        return f"row {self.number} of {self.batch_id}"
