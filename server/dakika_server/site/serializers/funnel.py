"""Funnels as they are sent."""

from typing import Any

from dakika_core.site.funnel import Rate
from rest_framework import serializers

from dakika_server.figures.serializers import PeriodSerializer
from dakika_server.figures.study import LARGEST_KEY, StudySerializer
from dakika_server.site.serializers.conversions import InCurrencySerializer


class FunnelQuerySerializer(StudySerializer):
    """A period, and by what the funnels are."""

    by = serializers.ChoiceField(choices=["post", "campaign", "network"], default="network")
    goal = serializers.IntegerField(required=False, min_value=0, max_value=LARGEST_KEY, default=0)


class StepRateSerializer(serializers.Serializer[Any]):
    """A rate with its interval."""

    value = serializers.FloatField(allow_null=True)
    low = serializers.FloatField(allow_null=True)
    high = serializers.FloatField(allow_null=True)

    def to_representation(self, rate: Rate) -> dict[str, Any]:
        """Interval flat."""
        return {
            "value": rate.value, "low": rate.interval.low if rate.interval else None,
            "high": rate.interval.high if rate.interval else None,
        }  # fmt: skip


class FunnelSerializer(serializers.Serializer[Any]):
    """A funnel."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.SerializerMethodField()
    impressions = serializers.IntegerField(allow_null=True)
    clicks = serializers.IntegerField(allow_null=True)
    visits = serializers.IntegerField()
    conversions = serializers.IntegerField()
    cents = serializers.IntegerField()
    click_rate = StepRateSerializer()
    visit_rate = StepRateSerializer()
    conversion_rate = StepRateSerializer()
    cents_per_click = serializers.FloatField(allow_null=True)

    def get_name(self, funnel: Any) -> str:
        """What its key stands for."""
        return str(self.context.get("names", {}).get(funnel.key, ""))


class FunnelsSerializer(serializers.Serializer[Any]):
    """Funnels of a period beside the comparison."""

    period = PeriodSerializer()
    compared = PeriodSerializer()
    total = FunnelSerializer()
    total_before = FunnelSerializer()
    rows = FunnelSerializer(many=True)
    before = FunnelSerializer(many=True)
    quiet = FunnelSerializer(many=True)
    busy = FunnelSerializer(many=True)
    without_impressions = serializers.IntegerField()
    currency = serializers.CharField()
    other_currencies = InCurrencySerializer(many=True)
