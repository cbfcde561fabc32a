"""Tracked links and the clicks on them."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from dakika_server.brands.models import Brand, Campaign
from dakika_server.sources.models import Post


class TrackedLink(models.Model):
    """A short address that leads to a stored one, with its UTM parameters."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="links")
    code = models.CharField(max_length=32, unique=True)
    name = models.CharField(max_length=200)
    destination = models.CharField(max_length=2048, help_text="as typed, cleaned")
    target = models.CharField(max_length=3000, help_text="with UTM parameters: where clicks are sent")
    utm = models.JSONField(default=dict)
    network = models.CharField(max_length=40, blank=True)
    campaign = models.ForeignKey(Campaign, on_delete=models.SET_NULL, null=True, related_name="links")
    post = models.ForeignKey(Post, on_delete=models.SET_NULL, null=True, related_name="links")
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["brand", "-created_at"], name="link_by_brand_time")]

    def __str__(self) -> str:
        return f"{self.code} {self.name}"


class Click(models.Model):
    """One request for a short link. bot_reason is empty for people's clicks."""

    id = models.BigAutoField(primary_key=True)
    brand = models.ForeignKey(Brand, on_delete=models.CASCADE)
    link = models.ForeignKey(TrackedLink, on_delete=models.CASCADE, related_name="clicks")
    key = models.UUIDField(unique=True, help_text="the identifier that the destination is given")
    at = models.DateTimeField()
    referrer = models.CharField(max_length=255, blank=True, help_text="host only")
    device = models.CharField(max_length=10)
    visitor = models.BinaryField(max_length=16)
    bot_reason = models.CharField(max_length=10, blank=True)
    import_id = models.BigIntegerField(null=True)

    class Meta:
        indexes = [
            models.Index(fields=["import_id"], name="click_by_import", condition=Q(import_id__isnull=False)),
            models.Index(fields=["link", "at"], name="click_by_link_time"),
            models.Index(
                fields=["brand", "at"], name="human_click_by_brand_time", condition=Q(bot_reason=""), include=["link"]
            ),
        ]

    def __str__(self) -> str:
        return f"{self.link_id} {self.at}"


class VisitorSalt(models.Model):
    """The key of one day's visitor hashes; thrown away the day after, and the hashes cannot be undone."""

    day = models.DateField(unique=True)
    salt = models.BinaryField(max_length=32)

    def __str__(self) -> str:
        return str(self.day)
