"""Shapes of files of people."""

from typing import Any

from rest_framework import serializers

from dakika_server.media.colours import LEAST_CONTRAST, contrast
from dakika_server.media.models import Asset, Rendition

NUMBER: Any = {"min_value": 1, "max_value": 2**63 - 1}
COLOUR = r"^#[0-9a-f]{6}$"


class RenditionSerializer(serializers.Serializer[Any]):
    """What was made of an asset, and where it is."""

    purpose = serializers.ChoiceField(choices=Rendition.Purpose.values)
    media_type = serializers.CharField()
    width = serializers.IntegerField()
    height = serializers.IntegerField()
    size = serializers.IntegerField(help_text="bytes")


class AssetSerializer(serializers.Serializer[Any]):
    """A picture, video or document. Until it is ready its kind and measures are not known."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    words = serializers.CharField(allow_blank=True)
    state = serializers.ChoiceField(choices=Asset.State.values)
    message = serializers.CharField(allow_blank=True)
    kind = serializers.ChoiceField(choices=Asset.Kind.values, allow_blank=True)
    media_type = serializers.CharField(allow_blank=True)
    size = serializers.IntegerField(help_text="bytes")
    width = serializers.IntegerField(allow_null=True)
    height = serializers.IntegerField(allow_null=True)
    seconds = serializers.FloatField(allow_null=True)
    created_at = serializers.DateTimeField()
    created_by = serializers.CharField(source="created_by.name", default="")
    tags = serializers.ListField(child=serializers.CharField())
    focus_x = serializers.FloatField(help_text="0 to 1: what must stay when it is cut to a network's shape")
    focus_y = serializers.FloatField()
    made_from = serializers.IntegerField(source="made_from_id", allow_null=True)
    origin = serializers.CharField(allow_blank=True, help_text="author and licence, where it came from elsewhere")
    renditions = RenditionSerializer(many=True, source="renditions.all")


class AssetsSerializer(serializers.Serializer[Any]):
    """A part of a brand's files, newest first. next: what the part after it is asked for with; null at the end."""

    assets = AssetSerializer(many=True)
    next = serializers.CharField(allow_null=True)


class AssetsQuerySerializer(serializers.Serializer[Any]):
    """Which files."""

    cursor = serializers.CharField(required=False, max_length=200)
    kind = serializers.ChoiceField(choices=Asset.Kind.values, required=False)
    text = serializers.CharField(required=False, max_length=100)
    tag = serializers.CharField(required=False, max_length=60)


class AssetInputSerializer(serializers.Serializer[Any]):
    """A file to bring."""

    file = serializers.FileField(allow_empty_file=True, max_length=1000)


class AssetChangeSerializer(serializers.Serializer[Any]):
    """What is said of a file."""

    name = serializers.CharField(required=False, max_length=200, allow_blank=True)
    words = serializers.CharField(required=False, max_length=1000, allow_blank=True)
    tags = serializers.ListField(child=serializers.CharField(max_length=60), required=False, max_length=40)
    focus_x = serializers.FloatField(required=False, min_value=0, max_value=1)
    focus_y = serializers.FloatField(required=False, min_value=0, max_value=1)


class WordsOnSerializer(serializers.Serializer[Any]):
    """Words on a picture: their middle, and how high a line is, as parts of the picture."""

    text = serializers.CharField(max_length=300)
    x = serializers.FloatField(min_value=0, max_value=1, default=0.5)
    y = serializers.FloatField(min_value=0, max_value=1, default=0.85)
    size = serializers.FloatField(min_value=0.02, max_value=0.3, default=0.07)
    colour = serializers.RegexField(COLOUR, default="#ffffff")
    ground = serializers.RegexField(COLOUR, default="#1c1714")

    def validate(self, given: dict[str, Any]) -> dict[str, Any]:
        """Words that can be read."""
        found = contrast(given["colour"], given["ground"])
        if found < LEAST_CONTRAST:
            words = f"These colours are too near to each other ({found:.1f} to 1; {LEAST_CONTRAST:.0f} at least)."
            raise serializers.ValidationError({"colour": words})
        return given


class CropSerializer(serializers.Serializer[Any]):
    """What stays of a picture, as parts of it once it is turned."""

    left = serializers.FloatField(min_value=0, max_value=1)
    top = serializers.FloatField(min_value=0, max_value=1)
    width = serializers.FloatField(min_value=0.02, max_value=1)
    height = serializers.FloatField(min_value=0.02, max_value=1)


class EditsSerializer(serializers.Serializer[Any]):
    """What is to be done to a picture. light, contrast and saturation: 1 is as it is. blur: thousandths of its side."""

    turn = serializers.ChoiceField(choices=[0, 90, 180, 270], default=0)
    crop = CropSerializer(required=False, allow_null=True)
    light = serializers.FloatField(min_value=0.2, max_value=3, default=1)
    contrast = serializers.FloatField(min_value=0.2, max_value=3, default=1)
    saturation = serializers.FloatField(min_value=0, max_value=3, default=1)
    blur = serializers.FloatField(min_value=0, max_value=50, default=0)
    words = WordsOnSerializer(many=True, required=False)

    def validate_words(self, given: list[dict[str, Any]]) -> list[dict[str, Any]]:
        """A few."""
        if len(given) > 6:
            raise serializers.ValidationError("At most six pieces of text on a picture.")
        return given


class UploadInputSerializer(serializers.Serializer[Any]):
    """A large file that is to come in parts."""

    name = serializers.CharField(max_length=1000)
    size = serializers.IntegerField(min_value=1, max_value=2**40, help_text="bytes")


class PartQuerySerializer(serializers.Serializer[Any]):
    """Where the part begins."""

    start = serializers.IntegerField(min_value=0, max_value=2**40)


class UploadSerializer(serializers.Serializer[Any]):
    """How far an upload is. asset: the file, once all of it is there."""

    id = serializers.IntegerField()
    size = serializers.IntegerField()
    received = serializers.IntegerField(help_text="bytes: where to go on")
    part = serializers.IntegerField(help_text="bytes that a part may have")
    asset = AssetSerializer(allow_null=True)


class StillSerializer(serializers.Serializer[Any]):
    """Which moment of a video."""

    seconds = serializers.FloatField(min_value=0, max_value=100_000)


class SequenceSerializer(serializers.Serializer[Any]):
    """Pictures to be shown one after the other. seconds: of each. shape: width divided by height."""

    pictures = serializers.ListField(child=serializers.IntegerField(**NUMBER), min_length=1, max_length=20)
    seconds = serializers.FloatField(min_value=0.5, max_value=10, default=2)
    shape = serializers.FloatField(min_value=0.2, max_value=5, default=0.5625)


class CollectionQuerySerializer(serializers.Serializer[Any]):
    """What to look for in the outside collection."""

    text = serializers.CharField(max_length=100)


class FoundPictureSerializer(serializers.Serializer[Any]):
    """A picture of the outside collection: what is to be seen, whose it is, and under which licence."""

    key = serializers.CharField()
    title = serializers.CharField()
    author = serializers.CharField()
    licence = serializers.CharField()
    page = serializers.CharField()
    preview = serializers.CharField()


class FromCollectionSerializer(serializers.Serializer[Any]):
    """A picture of the outside collection to be brought."""

    key = serializers.RegexField(r"^[\w-]{1,80}$")


class FromAddressSerializer(serializers.Serializer[Any]):
    """Where a file is to be fetched from."""

    address = serializers.URLField(max_length=2000)


class UsesSerializer(serializers.Serializer[Any]):
    """What a file is used for: in words, and where, below the brand."""

    text = serializers.CharField()
    path = serializers.CharField()
    result = serializers.CharField(allow_blank=True, help_text="what came of it, in words")


class ReplaceSerializer(serializers.Serializer[Any]):
    """The file that takes its place wherever nothing went out yet."""

    by = serializers.IntegerField(**NUMBER)


class ReplacedSerializer(serializers.Serializer[Any]):
    """In how many planned posts it was replaced."""

    posts = serializers.IntegerField()


class TagsSerializer(serializers.Serializer[Any]):
    """A tag, and how many files have it."""

    tag = serializers.CharField()
    files = serializers.IntegerField()


class AssetChoiceSerializer(serializers.Serializer[Any]):
    """Some files, by their numbers."""

    assets = serializers.ListField(child=serializers.IntegerField(**NUMBER), min_length=1, max_length=200)
