"""Credits as they are sent."""

from typing import Any

from dakika_core.site.attribution import Model
from rest_framework import serializers

from dakika_server.figures.serializers import PeriodSerializer
from dakika_server.site.serializers.conversions import InCurrencySerializer


class CreditedSerializer(serializers.Serializer[Any]):
    """What each model gives."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    counts = serializers.DictField(child=serializers.FloatField())
    cents = serializers.DictField(child=serializers.IntegerField())
    low = serializers.FloatField()
    high = serializers.FloatField()


class AttributionSerializer(serializers.Serializer[Any]):
    """Who brought the conversions, by every model."""

    period = PeriodSerializer()
    models = serializers.ListField(child=serializers.ChoiceField(choices=[m.value for m in Model]))
    rows = CreditedSerializer(many=True)
    conversions = serializers.IntegerField()
    cents = serializers.IntegerField()
    currency = serializers.CharField()
    other_currencies = InCurrencySerializer(many=True)
    direct_alone = serializers.IntegerField(help_text="conversions before which nothing but direct visits is known")
    stages = serializers.ListField(child=serializers.CharField())
