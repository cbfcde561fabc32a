"""Changes of many planned posts at once."""

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand


class SeveralChange(models.Model):
    """What many posts were before they were changed together, so that it can be undone together for a day."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    what = models.CharField(max_length=10)
    before = models.JSONField(help_text="of each post what it was, or all of one that was thrown away")
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    made_at = models.DateTimeField()
    undone_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "-made_at"], name="several_change_by_brand")]

    def __str__(self) -> str:
        return f"{self.what} of {len(self.before)}"
