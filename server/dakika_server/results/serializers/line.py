"""Shapes of the minute line."""

from typing import Any

from rest_framework import serializers


class LinePostSerializer(serializers.Serializer[Any]):
    """A tick of the minute line."""

    id = serializers.IntegerField()
    at = serializers.DateTimeField()
    network = serializers.CharField()
    height = serializers.FloatField(help_text="square root of the interactions")
    text = serializers.CharField(allow_blank=True)


class LineCampaignSerializer(serializers.Serializer[Any]):
    """A band of the minute line."""

    name = serializers.CharField()
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    colour = serializers.IntegerField()


class LineSerializer(serializers.Serializer[Any]):
    """The minute line's posts, campaigns and holes; what is planned comes with the plan."""

    posts = LinePostSerializer(many=True)
    campaigns = LineCampaignSerializer(many=True)
    holes = serializers.ListField(child=serializers.DateField())
    languages = serializers.ListField(child=serializers.CharField())
    as_of = serializers.DateTimeField(allow_null=True)
