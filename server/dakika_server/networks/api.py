"""The networks there are."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.networks.definitions import all_networks


class NetworkSerializer(serializers.Serializer[Any]):
    """A network that can be connected."""

    key = serializers.CharField()
    name = serializers.CharField()
    monogram = serializers.CharField()
    text_limit = serializers.IntegerField(source="text.limit")
    max_pictures = serializers.IntegerField()
    half_life_hours = serializers.FloatField()


class NetworksView(APIView):
    """All networks."""

    @extend_schema(operation_id="list_networks", responses=NetworkSerializer(many=True))
    def get(self, request: Request) -> Response:
        """By key."""
        return Response(NetworkSerializer(all_networks().values(), many=True).data)
