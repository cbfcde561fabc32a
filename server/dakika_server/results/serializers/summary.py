"""Shapes of figures and their basis."""

from typing import Any

from dakika_core.metrics.catalogue import AddsUp, Unit
from rest_framework import serializers

from dakika_server.figures.serializers import FigureSerializer, PeriodSerializer
from dakika_server.figures.study import StudySerializer


class ChangeSerializer(serializers.Serializer[Any]):
    """A change in the unit of the figure, and relative."""

    difference = serializers.FloatField(allow_null=True)
    relative = serializers.FloatField(allow_null=True)


class PartSerializer(serializers.Serializer[Any]):
    """One network's share."""

    network = serializers.CharField()
    value = serializers.FloatField(allow_null=True)
    before = serializers.FloatField(allow_null=True)


class TitleSerializer(serializers.Serializer[Any]):
    """A chart's title."""

    text = serializers.CharField()
    is_statement = serializers.BooleanField()


class MeasuredSerializer(serializers.Serializer[Any]):
    """A metric over the study."""

    key = serializers.CharField(source="metric.key")
    name = serializers.CharField(source="metric.name")
    more_is_better = serializers.BooleanField(source="metric.more_is_better")
    over = serializers.CharField(source="metric.over")
    adds_up = serializers.ChoiceField(source="metric.adds_up", choices=[rule.value for rule in AddsUp])
    unit = serializers.ChoiceField(source="metric.unit", choices=[unit.value for unit in Unit])
    now = FigureSerializer()
    before = FigureSerializer()
    change = ChangeSerializer()
    days = serializers.ListField(child=serializers.FloatField(allow_null=True))
    days_before = serializers.ListField(child=serializers.FloatField(allow_null=True))
    today = serializers.FloatField(allow_null=True, help_text="of today so far, where the period holds it")
    networks = PartSerializer(many=True)
    title = TitleSerializer()
    missing_note = serializers.CharField(allow_blank=True)
    counted = serializers.SerializerMethodField(help_text="what of its name is counted")

    def get_counted(self, measured: Any) -> str:
        """A few words beside the name."""
        return str(measured.metric.counted(self.context["at"]))


class KnownAtSerializer(serializers.Serializer[Any]):
    """How many posts have interactions at an age."""

    age_hours = serializers.IntegerField()
    posts = serializers.IntegerField()


class FootingSerializer(serializers.Serializer[Any]):
    """The age that a study stands on unless another is chosen, and where there are posts."""

    age_hours = serializers.IntegerField()
    age_words = serializers.CharField()
    why = serializers.CharField(allow_blank=True)
    posts = serializers.IntegerField()
    newest_day = serializers.DateField(allow_null=True)
    known = KnownAtSerializer(many=True)


class SummaryQuerySerializer(StudySerializer):
    """Which figures of a study."""

    metrics = serializers.CharField(default="", allow_blank=True, max_length=600, help_text="keys, separated by commas")


class SummarySerializer(serializers.Serializer[Any]):
    """All figures of a study."""

    period = PeriodSerializer()
    compared = PeriodSerializer()
    whole_days = serializers.IntegerField(help_text="days of the period that are over: figures are of these")
    age_hours = serializers.IntegerField()
    age_why = serializers.CharField(allow_blank=True, help_text="why it is not the usual age, where nobody chose it")
    as_of = serializers.DateTimeField(allow_null=True)
    metrics = MeasuredSerializer(many=True)
