"""Shape of the health page."""

from typing import Any

from rest_framework import serializers

from dakika_server.sources.serializers.files import FeedSerializer, ImportSerializer
from dakika_server.sources.serializers.profiles import ProfileHealthSerializer


class HealthSerializer(serializers.Serializer[Any]):
    """Profiles with coverage and troubles, feeds that fail, the latest files."""

    profiles = ProfileHealthSerializer(many=True)
    feeds = FeedSerializer(many=True)
    imports = ImportSerializer(many=True)
