"""What somebody has looked at, and who is sent what happened."""

import secrets

from django.conf import settings
from django.db import models

from dakika_server.brands.models import Brand
from dakika_server.sources.models import PeerSet


class LastLook(models.Model):
    """When a person last looked at the posts of a set, so that what is new since can be marked; no set: everybody's."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    peers = models.ForeignKey(PeerSet, on_delete=models.CASCADE, null=True, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "person", "peers"], name="looked_once_per_set", nulls_distinct=False
            )
        ]

    def __str__(self) -> str:
        return f"{self.person_id} looked at {self.peers_id}"


def _token() -> str:
    return secrets.token_urlsafe(32)


class DigestReader(models.Model):
    """Somebody who is sent a set's weekly digest. The token ends it from within the letter, without signing in."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    peers = models.ForeignKey(PeerSet, on_delete=models.CASCADE, null=True, related_name="+")
    token = models.CharField(max_length=60, unique=True, default=_token)
    since = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["brand", "person", "peers"], name="digest_once_per_set", nulls_distinct=False
            )
        ]

    def __str__(self) -> str:
        return f"{self.person_id} reads of {self.peers_id}"
