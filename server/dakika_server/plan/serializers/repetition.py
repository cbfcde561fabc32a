"""Shapes of repetitions."""

from typing import Any

from rest_framework import serializers

from dakika_server.plan.repeating import MOST_TEXTS
from dakika_server.plan.serializers.posts import STATE_CHOICES


class RepetitionRuleSerializer(serializers.Serializer[Any]):
    """How a post is to come again. rule: as RFC 5545 writes it; texts: further ones that take turns with its own."""

    rule = serializers.CharField(max_length=200)
    first = serializers.DateField()
    last = serializers.DateField()
    at = serializers.TimeField()
    texts = serializers.ListField(
        child=serializers.CharField(max_length=20_000, allow_blank=True, trim_whitespace=False), max_length=MOST_TEXTS,
        default=list,
    )  # fmt: skip


class RepetitionInputSerializer(RepetitionRuleSerializer):
    """The same to be made: set to go out, or as drafts."""

    becomes_scheduled = serializers.BooleanField(default=False)


class OccurrenceSerializer(serializers.Serializer[Any]):
    """One of the times. problems: why it cannot come then, by network."""

    number = serializers.IntegerField()
    at = serializers.DateTimeField()
    text = serializers.CharField(allow_blank=True)
    problems = serializers.ListField(child=serializers.CharField())


class NthTimeSerializer(serializers.Serializer[Any]):
    """What posts got that said the same for the number-th time (the last one: or later), as times the usual."""

    number = serializers.IntegerField()
    posts = serializers.IntegerField()
    index = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(source="interval.low", allow_null=True, default=None)
    high = serializers.FloatField(source="interval.high", allow_null=True, default=None)
    is_worn = serializers.BooleanField()


class RepetitionPreviewSerializer(serializers.Serializer[Any]):
    """A repetition looked at beforehand. said_before: how often its words are out already."""

    times = OccurrenceSerializer(many=True)
    conflicts = serializers.IntegerField()
    said_before = serializers.IntegerField()
    nth = NthTimeSerializer(many=True)


class RepetitionMadeSerializer(serializers.Serializer[Any]):
    """What was made, and how many times were left out."""

    id = serializers.IntegerField()
    posts = serializers.IntegerField()
    left_out = serializers.IntegerField()


class RepeatedPostSerializer(serializers.Serializer[Any]):
    """A post of a repetition."""

    id = serializers.IntegerField()
    state = serializers.ChoiceField(choices=STATE_CHOICES)
    scheduled_at = serializers.DateTimeField(allow_null=True)
    text = serializers.CharField(allow_blank=True)


class RepetitionSerializer(serializers.Serializer[Any]):
    """A repetition with its posts."""

    id = serializers.IntegerField()
    of = serializers.IntegerField(allow_null=True)
    rule = serializers.CharField()
    first = serializers.DateField()
    last = serializers.DateField()
    at = serializers.TimeField()
    texts = serializers.ListField(child=serializers.CharField(allow_blank=True))
    posts = RepeatedPostSerializer(many=True)


class BusiestWeeksSerializer(serializers.Serializer[Any]):
    """A link's busiest six weeks of the last year. times: its clicks a day by those of the other days."""

    first = serializers.DateField()
    last = serializers.DateField()
    clicks = serializers.IntegerField()
    times = serializers.FloatField()


class SeasonReturnSerializer(serializers.Serializer[Any]):
    """Whether a post comes back. day: when next, null where it does not."""

    day = serializers.DateField(allow_null=True)
    days_before = serializers.IntegerField()
    busiest = BusiestWeeksSerializer(allow_null=True)


class SeasonReturnInputSerializer(serializers.Serializer[Any]):
    """On which day of every year it comes back, and how many days before a draft waits."""

    day = serializers.DateField()
    days_before = serializers.IntegerField(min_value=0, max_value=90, default=14)


class RepetitionEndedSerializer(serializers.Serializer[Any]):
    """How many posts were taken back."""

    posts = serializers.IntegerField()
