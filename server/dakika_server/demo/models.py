"""A demo that stands beside somebody's own brands."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand


class DemoBrand(models.Model):
    """A brand of invented figures, and for whom it was made; a person has one."""

    class State(models.TextChoices):
        """How far it is."""

        WAITING = "waiting"
        READY = "ready"
        FAILED = "failed"
        GOING = "going"

    brand = models.OneToOneField(Brand, on_delete=models.CASCADE, primary_key=True)
    person = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    state = models.CharField(max_length=8, choices=State, default=State.WAITING)
    asked_at = models.DateTimeField(db_index=True)

    def __str__(self) -> str:
        return f"{self.brand_id}: {self.state}"
