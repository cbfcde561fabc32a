"""Hashtags that are put in together, that are followed, and what networks told of them."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand

LONGEST_TAG = 100


class HashtagSet(models.Model):
    """Hashtags that are put into a text together; network: for which one, empty is any."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="hashtag_sets", db_index=False)
    name = models.CharField(max_length=60)
    tags = ArrayField(models.CharField(max_length=LONGEST_TAG))
    network = models.CharField(max_length=40, blank=True, default="", db_default="")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "network", "name"], name="one_hashtag_set_per_name")]

    def __str__(self) -> str:
        return self.name


class FollowedHashtag(models.Model):
    """A hashtag whose results and use are looked at over time; without its sign, in small letters."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="followed_hashtags", db_index=False)
    tag = models.CharField(max_length=LONGEST_TAG)
    followed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    followed_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "tag"], name="hashtag_followed_once")]

    def __str__(self) -> str:
        return f"#{self.tag}"


class HashtagReading(models.Model):
    """What a network's public search told of a hashtag. uses None: it knows of nobody who uses it.

    problem: why it told nothing; nothing is known then, and nothing is taken from it.
    """

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+", db_index=False)
    network = models.CharField(max_length=40)
    tag = models.CharField(max_length=LONGEST_TAG)
    taken_at = models.DateTimeField()
    uses = models.BigIntegerField(null=True)
    week = models.BigIntegerField(null=True)
    warm = models.FloatField(null=True)
    cold = models.FloatField(null=True)
    related = ArrayField(models.CharField(max_length=LONGEST_TAG), default=list)
    is_restricted = models.BooleanField(default=False)
    problem = models.CharField(max_length=300, blank=True)

    class Meta:
        indexes = [models.Index(fields=["brand", "tag", "network", "-taken_at"], name="hashtag_reading_by_tag")]

    def __str__(self) -> str:
        return f"#{self.tag} on {self.network}"
