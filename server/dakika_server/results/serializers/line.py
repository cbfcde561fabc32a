"""Shapes of the minute line."""

from typing import Any

from rest_framework import serializers

from dakika_server.figures.serializers import UNITS
from dakika_server.results.queries import Tick
from dakika_server.shared.plain import PlainSerializer

LONGEST_DAYS = 1200


class LineQuerySerializer(serializers.Serializer[Any]):
    """The days under study, where they lie further back than half a year."""

    first = serializers.DateField(required=False)
    last = serializers.DateField(required=False)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """A span of days that there can be, and not too long to be drawn."""
        first, last = attrs.get("first"), attrs.get("last")
        if first and last and (last < first or (last - first).days > LONGEST_DAYS):
            raise serializers.ValidationError({"last": f"Ask for at most {LONGEST_DAYS} days in their order."})
        if any(day and not 1990 <= day.year <= 2100 for day in (first, last)):
            raise serializers.ValidationError({"first": "Choose a day between 1990 and 2100."})
        return attrs


class LineMonthSerializer(serializers.Serializer[Any]):
    """A month with posts."""

    month = serializers.DateField()
    posts = serializers.IntegerField()


class LinePostSerializer(PlainSerializer):
    """A tick of the minute line: a post, or all posts of a day where they are too many to be told apart."""

    id = serializers.IntegerField(allow_null=True, help_text="null where it stands for a day")
    at = serializers.DateTimeField()
    network = serializers.CharField(allow_blank=True)
    height = serializers.SerializerMethodField(help_text="square root of the interactions, of a day of their mean")
    interactions = serializers.FloatField(
        allow_null=True, help_text="at 72 hours, else as last seen; of a day the mean"
    )
    posts = serializers.IntegerField()
    text = serializers.CharField(allow_blank=True)

    def get_height(self, tick: Tick) -> float:
        """A tick is as high as the root of what it got."""
        return float(max(0.0, tick.interactions or 0.0) ** 0.5)


class LineCampaignSerializer(serializers.Serializer[Any]):
    """A band of the minute line."""

    name = serializers.CharField()
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    colour = serializers.IntegerField()


class LineTargetSerializer(PlainSerializer):
    """A flag of the minute line: what is aimed at by a day."""

    name = serializers.CharField()
    unit = serializers.ChoiceField(choices=UNITS)
    value = serializers.FloatField()
    by = serializers.DateField()


class LineSerializer(serializers.Serializer[Any]):
    """The minute line's posts, campaigns and holes; what is planned comes with the plan."""

    posts = LinePostSerializer(many=True)
    campaigns = LineCampaignSerializer(many=True)
    targets = LineTargetSerializer(many=True)
    holes = serializers.ListField(child=serializers.DateField())
    months = LineMonthSerializer(many=True)
    languages = serializers.ListField(child=serializers.CharField())
    as_of = serializers.DateTimeField(allow_null=True)
