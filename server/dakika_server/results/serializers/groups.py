"""Shapes of group comparisons."""

from typing import Any

from rest_framework import serializers

from dakika_server.figures.serializers import IntervalSerializer
from dakika_server.figures.study import StudySerializer
from dakika_server.results.groups import GROUPINGS


class GroupsQuerySerializer(StudySerializer):
    """Which groups, by which metric."""

    by = serializers.ChoiceField(choices=GROUPINGS, default="format")
    metric = serializers.CharField(default="index", max_length=60)


class RatioSerializer(serializers.Serializer[Any]):
    """How many times the others."""

    value = serializers.FloatField()
    interval = IntervalSerializer()
    p = serializers.FloatField()


class GroupSerializer(serializers.Serializer[Any]):
    """One group against the posts outside of it."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.CharField(source="result.name", allow_blank=True)
    n = serializers.IntegerField(source="result.n")
    index = serializers.FloatField(source="result.index", allow_null=True)
    interval = IntervalSerializer(source="result.interval", allow_null=True)
    typical = serializers.FloatField(allow_null=True, help_text="of its posts, in the metric's own unit")
    others = serializers.FloatField(allow_null=True, help_text="of the posts outside of it")
    raw = RatioSerializer(source="result.raw", allow_null=True)
    adjusted = RatioSerializer(source="result.adjusted", allow_null=True)
    q = serializers.FloatField(source="result.q", allow_null=True)
    verdict = serializers.ChoiceField(source="result.verdict", choices=["better", "worse", "open", "few"])


class GroupsSerializer(serializers.Serializer[Any]):
    """All groups of a grouping, the best first."""

    groups = GroupSerializer(many=True)
    held = serializers.ListField(child=serializers.CharField())
    posts = serializers.IntegerField()
    left_out = serializers.IntegerField()
