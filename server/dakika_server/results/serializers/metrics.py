"""Shapes of the catalogue and of a team's own metrics."""

from typing import Any

from dakika_core.metrics.catalogue import AddsUp, Over, Unit
from dakika_core.metrics.formula import LONGEST
from rest_framework import serializers

from dakika_server.figures.serializers import FigureSerializer
from dakika_server.figures.study import StudySerializer
from dakika_server.shared.plain import PlainSerializer

UNITS = [unit.value for unit in Unit]


class MetricSerializer(PlainSerializer):
    """One entry of the catalogue. id is set for a team's own."""

    key = serializers.CharField()
    name = serializers.CharField()
    definition = serializers.CharField()
    note = serializers.CharField(allow_blank=True)
    unit = serializers.ChoiceField(choices=UNITS)
    over = serializers.ChoiceField(choices=[over.value for over in Over])
    adds_up = serializers.ChoiceField(choices=[rule.value for rule in AddsUp])
    formula = serializers.CharField(allow_blank=True)
    is_of_posts = serializers.BooleanField(help_text="whether it can be said of a single post")
    is_team = serializers.BooleanField()
    more_is_better = serializers.BooleanField()
    id = serializers.IntegerField(allow_null=True)
    measure = serializers.CharField(allow_blank=True, help_text="the base measure; a team's own has none")
    way = serializers.CharField(allow_blank=True, help_text="the way in which it is counted")
    own_networks = serializers.ListField(child=serializers.CharField(), help_text="who tells it of one's own profiles")
    public_networks = serializers.ListField(child=serializers.CharField(), help_text="who tells it of others' too")


class BaseMeasureSerializer(serializers.Serializer[Any]):
    """What is counted, under the heading that it is found under."""

    key = serializers.CharField()
    name = serializers.CharField()
    definition = serializers.CharField()
    subject = serializers.CharField()


class CountedAsSerializer(serializers.Serializer[Any]):
    """How it is counted."""

    key = serializers.CharField()
    name = serializers.CharField()


class CatalogueSerializer(serializers.Serializer[Any]):
    """Every metric, the measures and ways that they are made of, and the names that a formula may hold."""

    metrics = MetricSerializer(many=True)
    measures = BaseMeasureSerializer(many=True)
    ways = CountedAsSerializer(many=True)
    names = serializers.ListField(child=serializers.CharField())


class OwnMetricInputSerializer(serializers.Serializer[Any]):
    """A metric to be made or changed."""

    name = serializers.CharField(max_length=60)
    definition = serializers.CharField(max_length=300, allow_blank=True, default="")
    formula = serializers.CharField(max_length=LONGEST, trim_whitespace=False)
    more_is_better = serializers.BooleanField(default=True)


class TryFormulaSerializer(StudySerializer):
    """A formula to be tried on the study's period."""

    formula = serializers.CharField(max_length=2 * LONGEST, allow_blank=True, trim_whitespace=False)


class FormulaFaultSerializer(serializers.Serializer[Any]):
    """What is wrong with a formula, and where in it."""

    message = serializers.CharField()
    start = serializers.IntegerField()
    end = serializers.IntegerField()


class TriedFormulaSerializer(serializers.Serializer[Any]):
    """What a formula gives, or what is wrong with it."""

    fault = FormulaFaultSerializer(allow_null=True)
    unit = serializers.ChoiceField(choices=UNITS, allow_null=True)
    now = FigureSerializer(allow_null=True)
    before = FigureSerializer(allow_null=True)
    written = serializers.CharField(allow_blank=True)
