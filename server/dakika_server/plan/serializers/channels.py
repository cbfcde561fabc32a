"""Shapes of channels that a person publishes to."""

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers


class ByHandSerializer(serializers.Serializer[Any]):
    """That a version is out: its address, and since when (null is now)."""

    address = serializers.URLField(max_length=500, allow_blank=True, default="")
    at = serializers.DateTimeField(allow_null=True, default=None)


class ChannelRulesSerializer(serializers.Serializer[Any]):
    """What a channel without a connection takes; lengths in characters, 0 titles are none. Shapes are width divided by
    height; a picture of another is cut to the nearest, one that is too heavy made lighter.
    """

    text_limit = serializers.IntegerField(min_value=1, max_value=20_000)
    title_limit = serializers.IntegerField(min_value=0, max_value=300, default=0)
    needs_text = serializers.BooleanField(default=False)
    most_hashtags = serializers.IntegerField(min_value=0, max_value=100, allow_null=True, default=None)
    has_links = serializers.BooleanField(default=True)
    most_pictures = serializers.IntegerField(min_value=0, max_value=20, default=0)
    needs_picture = serializers.BooleanField(default=False)
    takes_videos = serializers.BooleanField(default=False)
    longest_seconds = serializers.IntegerField(min_value=1, max_value=86_400, allow_null=True, default=None)
    takes_documents = serializers.BooleanField(default=False)
    narrowest = serializers.FloatField(min_value=0.1, max_value=10, allow_null=True, default=None)
    widest = serializers.FloatField(min_value=0.1, max_value=10, allow_null=True, default=None)
    largest_picture_mb = serializers.FloatField(min_value=0.05, max_value=1000, allow_null=True, default=None)
    largest_video_mb = serializers.FloatField(min_value=0.1, max_value=100_000, allow_null=True, default=None)

    def validate(self, given: dict[str, Any]) -> dict[str, Any]:
        """What is required is taken."""
        if given["needs_picture"] and not given["most_pictures"]:
            raise serializers.ValidationError({"most_pictures": "It wants a picture: say how many it takes."})
        narrowest, widest = given["narrowest"], given["widest"]
        if narrowest is not None and widest is not None and narrowest > widest:
            raise serializers.ValidationError({"widest": "This is narrower than the narrowest shape it takes."})
        return given


class ChannelRulesInputSerializer(serializers.Serializer[Any]):
    """The rules of a channel; null forgets them."""

    rules = ChannelRulesSerializer(allow_null=True)


class ChannelInputSerializer(serializers.Serializer[Any]):
    """A channel that is published to by hand."""

    name = serializers.CharField(max_length=80)
    rules = ChannelRulesSerializer(allow_null=True, default=None)


class ChannelSerializer(serializers.Serializer[Any]):
    """The same, as a profile. rules: null where nobody said any."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    network = serializers.CharField()
    rules = serializers.SerializerMethodField()

    @extend_schema_field(ChannelRulesSerializer(allow_null=True))
    def get_rules(self, profile: Any) -> Any:
        """What it takes."""
        found = getattr(profile, "channel_rules", None)
        return ChannelRulesSerializer(found).data if found else None
