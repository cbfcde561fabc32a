"""Traffic as it is sent."""

from typing import Any

from rest_framework import serializers

from dakika_server.figures.serializers import PeriodSerializer


class SpikeDaySerializer(serializers.Serializer[Any]):
    """A day whose clicks stand out."""

    day = serializers.DateField()
    z = serializers.FloatField(help_text="robust standard deviations")


class TrafficSerializer(serializers.Serializer[Any]):
    """Clicks, visits and conversions by day."""

    period = PeriodSerializer()
    clicks = serializers.ListField(child=serializers.IntegerField())
    visits = serializers.ListField(child=serializers.IntegerField())
    conversions = serializers.ListField(child=serializers.IntegerField())
    has_visits = serializers.BooleanField(help_text="whether any visit is known at all")
    site_visits = serializers.IntegerField(
        allow_null=True, help_text="all visits of the period, however they came; of everything studied alone"
    )
    spikes = SpikeDaySerializer(many=True)
