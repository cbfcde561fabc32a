"""Shapes of files of people."""

from typing import Any

from rest_framework import serializers

from dakika_server.media.models import Asset, Rendition


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


class AssetInputSerializer(serializers.Serializer[Any]):
    """A file to bring."""

    file = serializers.FileField(allow_empty_file=True, max_length=1000)


class AssetChangeSerializer(serializers.Serializer[Any]):
    """What is said of a file."""

    name = serializers.CharField(required=False, max_length=200, allow_blank=True)
    words = serializers.CharField(required=False, max_length=1000, allow_blank=True)
