"""How the installation is, over HTTP: in names for whoever watches, in words for admins."""

from typing import Any

from django.http import HttpRequest, JsonResponse
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.monitoring.status import look_at
from dakika_server.monitoring.version import version
from dakika_server.shared import clock


def ready(request: HttpRequest) -> JsonResponse:
    """200 where all does its work, else 503 with what does not. Names alone: anybody may ask."""
    del request
    found = [name for name, _, standing in look_at() if standing.is_down]
    return JsonResponse({"ok": not found, "failing": found}, status=503 if found else 200)


class InstallationPartSerializer(serializers.Serializer[Any]):
    """A part and how it stands. is_down: it does not do its work; without that and not well, it wants looking at."""

    name = serializers.CharField()
    words = serializers.CharField()
    told = serializers.CharField()
    is_well = serializers.BooleanField()
    is_down = serializers.BooleanField()
    advice = serializers.CharField(allow_blank=True)


class StatusSerializer(serializers.Serializer[Any]):
    """The installation, looked at just now."""

    version = serializers.CharField()
    at = serializers.DateTimeField()
    parts = InstallationPartSerializer(many=True)


class StatusView(BrandView):
    """How the installation runs, for admins of a brand of it."""

    reads = "brand.status"

    @extend_schema(operation_id="read_status", responses=StatusSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Part by part; no numbers of any other brand."""
        parts = [
            {"name": name, "words": part.words, "told": standing.told, "is_well": standing.is_well,
             "is_down": standing.is_down, "advice": standing.advice}
            for name, part, standing in look_at()
        ]  # fmt: skip
        return Response(StatusSerializer({"version": version(), "at": clock.now(), "parts": parts}).data)
