"""Shapes of what made the difference."""

from typing import Any

from dakika_core.metrics.catalogue import Unit
from rest_framework import serializers

from dakika_server.figures.serializers import PeriodSerializer
from dakika_server.figures.study import StudySerializer


class DecompositionQuerySerializer(StudySerializer):
    """Which figure's change."""

    metric = serializers.CharField(max_length=60)


class FactorSerializer(serializers.Serializer[Any]):
    """One way in which the figure changed."""

    key = serializers.ChoiceField(choices=["number", "mix", "size", "older", "weight", "rate"])
    contribution = serializers.FloatField()
    now = serializers.FloatField(allow_null=True)
    before = serializers.FloatField(allow_null=True)


class ContributorSerializer(serializers.Serializer[Any]):
    """One network's or format's part."""

    key = serializers.CharField(allow_blank=True)
    now = serializers.FloatField(allow_null=True)
    before = serializers.FloatField(allow_null=True)
    contribution = serializers.FloatField()
    weight_now = serializers.FloatField()
    weight_before = serializers.FloatField()


class ContributingItemSerializer(serializers.Serializer[Any]):
    """One post's, profile's or network's part."""

    id = serializers.SerializerMethodField()
    name = serializers.SerializerMethodField()
    network = serializers.CharField(allow_blank=True)
    when = serializers.ChoiceField(choices=["now", "before", "older"], allow_blank=True)
    published_at = serializers.DateTimeField(source="post.published_at", default=None, allow_null=True)
    format = serializers.CharField(source="post.format", default="")
    now = serializers.FloatField(allow_null=True)
    before = serializers.FloatField(allow_null=True)
    contribution = serializers.FloatField()

    def get_id(self, item: Any) -> int:
        """Key of the post or profile; 0 for a network."""
        return int(item.key) if isinstance(item.key, int) else 0

    def get_name(self, item: Any) -> str:
        """The beginning of the post's text, or the profile's name."""
        return str(item.post.text[:200] if item.post else item.name)


class DecompositionSerializer(serializers.Serializer[Any]):
    """A change taken apart: factors, networks, formats, and items with the rest, each add up to it."""

    key = serializers.CharField(source="metric.key")
    name = serializers.CharField(source="metric.name")
    unit = serializers.ChoiceField(source="metric.unit", choices=[unit.value for unit in Unit])
    over = serializers.CharField(source="metric.over")
    more_is_better = serializers.BooleanField(source="metric.more_is_better")
    period = PeriodSerializer()
    compared = PeriodSerializer()
    what = serializers.CharField(allow_blank=True, help_text='"posts", "profiles" or "networks"')
    now = serializers.FloatField(allow_null=True)
    before = serializers.FloatField(allow_null=True)
    change = serializers.FloatField(allow_null=True)
    title = serializers.CharField()
    reason = serializers.CharField(allow_blank=True, help_text="why it cannot be taken apart")
    weight = serializers.CharField(allow_blank=True, help_text='"posts", or "share" of what stands below the rate')
    note = serializers.CharField(allow_blank=True, help_text="which posts are left out")
    factors = FactorSerializer(many=True)
    networks = ContributorSerializer(many=True)
    formats = ContributorSerializer(many=True)
    items = ContributingItemSerializer(many=True)
    rest = serializers.IntegerField(help_text="parts that are not listed")
    rest_contribution = serializers.FloatField()
