"""Shapes of targets."""

from typing import Any

from rest_framework import serializers

from dakika_server.figures.serializers import UNITS, FigureSerializer
from dakika_server.figures.study import LARGEST_KEY


class TargetInputSerializer(serializers.Serializer[Any]):
    """What a metric is to become by a day. profiles: own ones that it is of, all without any."""

    metric = serializers.CharField(max_length=60)
    value = serializers.FloatField(min_value=-1e15, max_value=1e15)
    by = serializers.DateField()
    why = serializers.CharField(max_length=300, required=False, allow_blank=True)
    profiles = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=LARGEST_KEY), required=False, max_length=60
    )

    def validate_value(self, value: float) -> float:
        """A number that can be reached."""
        if value != value:
            raise serializers.ValidationError("Give a number.")
        return value


class TargetSerializer(serializers.Serializer[Any]):
    """A target and where it stands."""

    id = serializers.IntegerField(source="target.pk")
    metric = serializers.CharField(source="target.metric")
    name = serializers.CharField()
    unit = serializers.ChoiceField(choices=UNITS)
    value = serializers.FloatField(source="target.value")
    start = serializers.FloatField(source="target.start", allow_null=True)
    by = serializers.DateField(source="target.by")
    why = serializers.CharField(source="target.why", allow_blank=True)
    profiles = serializers.SerializerMethodField()
    now = FigureSerializer()
    way = serializers.FloatField(allow_null=True)
    time = serializers.FloatField()
    is_reached = serializers.BooleanField()
    days_left = serializers.IntegerField()

    def get_profiles(self, followed: Any) -> list[int]:
        """Of which profiles it is; of all without any."""
        return list(followed.target.query.get("profiles") or [])
