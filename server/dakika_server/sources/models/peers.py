"""Peer sets: named groups of own and competitor profiles that are compared."""

from django.conf import settings
from django.db import models
from django.db.models.functions import Lower

from dakika_server.brands.models import Brand
from dakika_server.sources.models.profiles import Profile


class PeerSet(models.Model):
    """A group of profiles, of one network or across them. `edition` counts changes, as with planned posts."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="peer_sets", db_index=False)
    name = models.CharField(max_length=80)
    profiles = models.ManyToManyField(Profile, related_name="peer_sets")
    edition = models.PositiveIntegerField(default=1)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint("brand", Lower("name"), name="peer_set_once")]

    def __str__(self) -> str:
        return self.name
