"""Pages that people had printed."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand


class PrintedPage(models.Model):
    """A page as somebody asked for it: an address of ours, and its PDF once it is made.

    It is theirs alone, for it shows what they may see; it goes when its day is over.
    """

    class State(models.TextChoices):
        """Whereabouts it is."""

        WAITING = "waiting"
        PRINTING = "printing"
        DONE = "done"
        FAILED = "failed"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    path = models.CharField(max_length=4000)
    file_name = models.CharField(max_length=200)
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    # Why it failed, in words for the person.
    detail = models.TextField(default="", blank=True)
    content = models.BinaryField(null=True)
    asked_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["state", "asked_at"], name="printing_in_turn")]

    def __str__(self) -> str:
        return self.file_name
