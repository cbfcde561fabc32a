"""The networks there are."""

from typing import Any

from dakika_core.metrics.observed import OBSERVED
from dakika_core.networks.definition import Shape
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.networks.definitions import all_networks, is_in_reach, network_api


class MediaSerializer(serializers.Serializer[Any]):
    """Pictures and videos of a network."""

    need = serializers.ChoiceField(choices=["", "picture", "video", "picture_or_video"])
    most_pictures = serializers.IntegerField()
    narrowest = serializers.FloatField(allow_null=True, help_text="width / height")
    widest = serializers.FloatField(allow_null=True)
    takes_videos = serializers.BooleanField()
    takes_documents = serializers.BooleanField()
    has_still = serializers.BooleanField(help_text="a picture may go with a video, as its still")


class OfferSerializer(serializers.Serializer[Any]):
    """What a network gives beside posts and counters, for one's own profiles."""

    has_presence = serializers.BooleanField()
    has_comments = serializers.BooleanField()
    has_webhooks = serializers.BooleanField()
    has_search = serializers.BooleanField()
    has_publishing = serializers.BooleanField()
    has_first_comment = serializers.BooleanField()
    has_own_preview = serializers.BooleanField()
    audience = serializers.ListField(child=serializers.CharField())


class NetworkSerializer(serializers.Serializer[Any]):
    """A network: what it is, what it takes, what it tells of own and of public profiles."""

    key = serializers.CharField()
    name = serializers.CharField()
    monogram = serializers.CharField()
    shape = serializers.ChoiceField(choices=[shape.value for shape in Shape], help_text="outline of its mark")
    kind = serializers.CharField()
    text_limit = serializers.IntegerField(source="text.limit")
    title_limit = serializers.IntegerField(source="text.title_limit", help_text="0 where posts have no title")
    has_options = serializers.BooleanField(source="options", help_text="boards, buttons: asked for with a post")
    media = MediaSerializer()
    offer = OfferSerializer()
    half_life_hours = serializers.FloatField()
    calls_per_minute = serializers.IntegerField()
    is_connectable = serializers.SerializerMethodField()
    has_public_profiles = serializers.SerializerMethodField()
    own_metrics = serializers.SerializerMethodField()
    public_metrics = serializers.SerializerMethodField()

    def get_is_connectable(self, network: Any) -> bool:
        """Whether own profiles can be connected by consent."""
        return bool(network_api(network.key).scopes) and is_in_reach(network.key)

    def get_has_public_profiles(self, network: Any) -> bool:
        """Whether anybody's profiles can be followed."""
        return bool(network.has_public_profiles) and is_in_reach(network.key)

    def get_own_metrics(self, network: Any) -> list[str]:
        """Told of one's own profiles' posts; none where nothing can be connected."""
        return [key for key in OBSERVED if key in network.own_metrics] if network_api(network.key).scopes else []

    def get_public_metrics(self, network: Any) -> list[str]:
        """Told of anybody's posts."""
        return [key for key in OBSERVED if key in network.public_metrics]


class NetworksView(APIView):
    """All networks."""

    takes_tokens = True

    @extend_schema(operation_id="list_networks", responses=NetworkSerializer(many=True))
    def get(self, request: Request) -> Response:
        """By key."""
        return Response(NetworkSerializer(all_networks().values(), many=True).data)
