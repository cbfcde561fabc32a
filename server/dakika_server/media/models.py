"""Files that people brought, and what was made of them.

A file's name in the storage is chance alone: what a person called it stands here, and nowhere on the disk.
"""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models

from dakika_server.brands.models import Brand


class Asset(models.Model):
    """A picture, video or document of a brand. The same content is one asset, however often it is brought.

    Until a worker has looked into it nothing is known but its size, and nothing of it is given out.
    """

    class Kind(models.TextChoices):
        """What it is."""

        PICTURE = "picture"
        VIDEO = "video"
        DOCUMENT = "document"

    class State(models.TextChoices):
        """Where it stands."""

        CHECKING = "checking"
        READY = "ready"
        REFUSED = "refused"

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="assets", db_index=False)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    created_at = models.DateTimeField()
    name = models.CharField(max_length=200, help_text="what people call it")
    words = models.CharField(max_length=1000, blank=True, help_text="what is to be seen, for those who do not see it")
    file = models.CharField(max_length=120, unique=True, help_text="name in the storage: as it was brought")
    digest = models.BinaryField(max_length=32, help_text="SHA-256 of its content")
    size = models.BigIntegerField(help_text="bytes")
    state = models.CharField(max_length=8, choices=State.choices, default=State.CHECKING)
    message = models.CharField(max_length=300, blank=True, help_text="why it was refused, or what to know of it")
    kind = models.CharField(max_length=8, choices=Kind.choices, blank=True)
    media_type = models.CharField(max_length=40, blank=True, help_text="RFC 6838, as its content says")
    width = models.IntegerField(null=True, help_text="pixels, as it is to be seen")
    height = models.IntegerField(null=True)
    seconds = models.FloatField(null=True)
    tags = ArrayField(models.CharField(max_length=60), default=list, db_default=[])
    focus_x = models.FloatField(default=0.5, db_default=0.5, help_text="0 to 1: what must stay when it is cut")
    focus_y = models.FloatField(default=0.5, db_default=0.5)
    made_from = models.ForeignKey(
        "self", on_delete=models.SET_NULL, null=True, related_name="made", help_text="the asset it was worked on from"
    )
    edits = models.JSONField(default=dict, db_default={}, help_text="what was done to it, as in media.pictures.Edits")
    origin = models.CharField(max_length=300, blank=True, default="", db_default="", help_text="author, licence, place")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["brand", "digest"], name="asset_once_per_brand")]
        indexes = [models.Index(fields=["brand", "-created_at", "-id"], name="asset_by_brand_time")]

    def __str__(self) -> str:
        return self.name


class Rendition(models.Model):
    """What was made of an asset for a purpose: without what a camera wrote into it, turned as it is to be seen."""

    class Purpose(models.TextChoices):
        """What for: to be looked through, and to be sent to networks."""

        PREVIEW = "preview"
        FULL = "full"

    asset = models.ForeignKey(Asset, on_delete=models.CASCADE, related_name="renditions", db_index=False)
    purpose = models.CharField(max_length=8, choices=Purpose.choices)
    file = models.CharField(max_length=120, unique=True, help_text="name in the storage")
    media_type = models.CharField(max_length=40)
    width = models.IntegerField()
    height = models.IntegerField()
    size = models.BigIntegerField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["asset", "purpose"], name="rendition_once_per_purpose")]

    def __str__(self) -> str:
        return f"{self.purpose} of {self.asset_id}"


class Upload(models.Model):
    """A large file that comes in parts, so that a connection that breaks off costs one part and not the file."""

    brand = models.ForeignKey(Brand, on_delete=models.CASCADE, related_name="+")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+", db_index=False)
    name = models.CharField(max_length=200)
    size = models.BigIntegerField(help_text="bytes, of all of it")
    received = models.BigIntegerField(default=0)
    parts = ArrayField(models.CharField(max_length=120), default=list, help_text="names in the storage, in their order")
    touched_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["person", "brand", "name", "size"], name="one_upload_of_a_file"),
        ]

    def __str__(self) -> str:
        return f"{self.name}: {self.received} of {self.size}"
