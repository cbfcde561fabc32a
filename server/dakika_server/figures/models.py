"""Studies that somebody keeps under a name."""

from django.conf import settings
from django.db import models
from django.db.models.functions import Lower

from dakika_server.brands.models import Brand


class KeptStudy(models.Model):
    """What a study asks besides its days, as an address has it; the team's, so that all mean the same by its name."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=80)
    query = models.JSONField(default=dict)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint("brand", Lower("name"), name="kept_study_once")]

    def __str__(self) -> str:
        return self.name
