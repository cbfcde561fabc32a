"""Conversions as they are sent and taken in."""

from typing import Any

from rest_framework import serializers

from dakika_server.figures.study import LARGEST_KEY, StudySerializer
from dakika_server.site.serializers.sites import LARGEST_CENTS

MOST_ROWS = 1000


class ConversionInSerializer(serializers.Serializer[Any]):
    """A conversion to be taken in. `key` is yours: the same key again adds nothing."""

    key = serializers.CharField(max_length=120)
    goal = serializers.CharField(max_length=80, help_text="a goal's name")
    at = serializers.DateTimeField()
    cents = serializers.IntegerField(min_value=0, max_value=LARGEST_CENTS, required=False, allow_null=True)
    click = serializers.UUIDField(required=False, allow_null=True, help_text="the parameter dk of the page's address")
    contact = serializers.CharField(max_length=120, allow_blank=True, default="")
    stage = serializers.CharField(max_length=40, allow_blank=True, default="")


class ConversionsInSerializer(serializers.Serializer[Any]):
    """Many at once."""

    rows = serializers.ListField(child=ConversionInSerializer(), allow_empty=False, max_length=MOST_ROWS)


class TakenSerializer(serializers.Serializer[Any]):
    """What came of it."""

    added = serializers.IntegerField()
    stages = serializers.IntegerField()


class StageSerializer(serializers.Serializer[Any]):
    """A contact's stage."""

    stage = serializers.CharField(max_length=40, allow_blank=True)


class VisitsQuerySerializer(StudySerializer):
    """A period, and how conversions are looked at."""

    by = serializers.ChoiceField(choices=["channel", "campaign", "post"], default="channel")
    goal = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY, default=0)
    window = serializers.IntegerField(required=False, min_value=1, max_value=365, default=30)
    stage = serializers.CharField(max_length=40, allow_blank=True, required=False, default="")


class ConversionSerializer(serializers.Serializer[Any]):
    """One conversion."""

    id = serializers.IntegerField(source="pk")
    goal = serializers.CharField(source="goal.name")
    at = serializers.DateTimeField()
    cents = serializers.IntegerField()
    currency = serializers.CharField()
    stage = serializers.CharField(allow_blank=True)
    contact = serializers.CharField(allow_blank=True)
    channel = serializers.CharField(source="visit.channel", default="", allow_blank=True)


class ConversionListSerializer(serializers.Serializer[Any]):
    """The latest conversions of a period."""

    total = serializers.IntegerField()
    conversions = ConversionSerializer(many=True)


class StepOfWaySerializer(serializers.Serializer[Any]):
    """A visit on the way."""

    at = serializers.DateTimeField()
    channel = serializers.CharField()
    landing = serializers.CharField()
    post_id = serializers.IntegerField(allow_null=True)
    link_id = serializers.IntegerField(allow_null=True)


class WaySerializer(serializers.Serializer[Any]):
    """How one conversion came about."""

    conversion = ConversionSerializer()
    steps = StepOfWaySerializer(many=True)
    weights = serializers.DictField(child=serializers.ListField(child=serializers.FloatField()))


class InCurrencySerializer(serializers.Serializer[Any]):
    """Worth in another currency than the one that is shown; it is in no sum."""

    currency = serializers.CharField()
    cents = serializers.IntegerField()
    conversions = serializers.IntegerField()
