"""Figures as they are sent."""

from typing import Any

from dakika_core.metrics.basis import Rule
from dakika_core.metrics.catalogue import Unit
from rest_framework import serializers

from dakika_server.figures.study import StudySerializer
from dakika_server.shared.plain import PlainSerializer

UNITS = [unit.value for unit in Unit]


class IntervalSerializer(PlainSerializer):
    """An interval with its level."""

    low = serializers.FloatField()
    high = serializers.FloatField()
    level = serializers.FloatField()


class FigureSerializer(PlainSerializer):
    """A figure that knows how it was made."""

    value = serializers.FloatField(allow_null=True)
    n = serializers.IntegerField()
    missing = serializers.IntegerField()
    numerator = serializers.FloatField(allow_null=True)
    denominator = serializers.FloatField(allow_null=True)
    interval = IntervalSerializer(allow_null=True)


class PeriodSerializer(serializers.Serializer[Any]):
    """Days, both included."""

    first = serializers.DateField()
    last = serializers.DateField()
    days = serializers.IntegerField()


class KindSerializer(serializers.Serializer[Any]):
    """A kind of figure, and the names of what it asks for besides the study."""

    key = serializers.CharField()
    name = serializers.CharField()
    parameters = serializers.ListField(child=serializers.CharField())


class CellSerializer(PlainSerializer):
    """One figure of a set."""

    key = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.ChoiceField(choices=UNITS)
    row = serializers.CharField(allow_blank=True)
    column = serializers.CharField(allow_blank=True)
    now = FigureSerializer()
    before = FigureSerializer(allow_null=True)
    more_is_better = serializers.BooleanField()


class SeriesSerializer(PlainSerializer):
    """A course."""

    key = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.ChoiceField(choices=UNITS)
    places = serializers.ListField(child=serializers.CharField())
    values = serializers.ListField(child=serializers.FloatField(allow_null=True))


class RowAboutSerializer(PlainSerializer):
    """What a row is about: a post, a finding. at: a local day or minute; path leads to it within the brand."""

    row = serializers.CharField()
    text = serializers.CharField(allow_blank=True)
    detail = serializers.CharField(allow_blank=True)
    picture = serializers.CharField(allow_blank=True)
    at = serializers.CharField(allow_blank=True)
    path = serializers.CharField(allow_blank=True)


class FigureSetSerializer(serializers.Serializer[Any]):
    """What a kind makes of a study."""

    kind = serializers.CharField()
    name = serializers.CharField()
    title = serializers.CharField()
    study = serializers.CharField(help_text="what is studied, as one sentence")
    note = serializers.CharField(allow_blank=True)
    period = PeriodSerializer()
    compared = PeriodSerializer()
    cells = CellSerializer(many=True)
    series = SeriesSerializer(many=True)
    rows = RowAboutSerializer(many=True)


class FigureQuerySerializer(StudySerializer):
    """A study; besides it whatever the kind asks for, by its own names."""


class CellQuerySerializer(FigureQuerySerializer):
    """Which figure of the set."""

    cell = serializers.CharField(max_length=400)


class TableQuerySerializer(FigureQuerySerializer):
    """As what kind of file."""

    form = serializers.ChoiceField(choices=["csv", "xlsx"], default="csv")


class BasisPartSerializer(serializers.Serializer[Any]):
    """One part of a figure."""

    key = serializers.CharField(allow_blank=True)
    name = serializers.CharField(allow_blank=True)
    value = serializers.FloatField()
    weight = serializers.FloatField()


class RelatedSerializer(serializers.Serializer[Any]):
    """Another figure by a like name: what it counts, why it differs, and where it stands."""

    name = serializers.CharField()
    counted = serializers.CharField(allow_blank=True)
    value = serializers.FloatField(allow_null=True)
    why = serializers.CharField()
    path = serializers.CharField()


class BehindFigureSerializer(serializers.Serializer[Any]):
    """Where the posts, links or visits behind it are."""

    path = serializers.CharField()
    name = serializers.CharField()


class FigureBasisSerializer(serializers.Serializer[Any]):
    """How a figure is made: its parts and what is done with them give its value."""

    key = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.ChoiceField(choices=UNITS)
    definition = serializers.CharField()
    note = serializers.CharField(allow_blank=True)
    figure = FigureSerializer()
    before = FigureSerializer(allow_null=True)
    rule = serializers.ChoiceField(choices=[rule.value for rule in Rule])
    parts = BasisPartSerializer(many=True)
    parts_name = serializers.CharField(allow_blank=True, help_text="what a part is")
    formula = serializers.CharField(allow_blank=True)
    formula_before = serializers.CharField(allow_blank=True)
    what = serializers.CharField(allow_blank=True, help_text="what of its name is counted")
    counted = serializers.CharField(allow_blank=True)
    counted_before = serializers.CharField(allow_blank=True)
    missing = serializers.CharField(allow_blank=True)
    days = serializers.CharField(allow_blank=True, help_text="which days it is of, where not those of the study")
    interval_of = serializers.CharField(allow_blank=True, help_text="what is taken as the sample")
    related = RelatedSerializer(many=True)
    behind = BehindFigureSerializer(allow_null=True)
    is_counted_here = serializers.BooleanField(help_text="counted by this installation: no network's silence is in it")
    holes = serializers.CharField(allow_blank=True)
    study = serializers.CharField(help_text="what is studied, as one sentence")
    period = PeriodSerializer()
    compared = PeriodSerializer()
    time_zone = serializers.CharField()
    as_of = serializers.DateTimeField(allow_null=True)
    profiles = serializers.ListField(child=serializers.CharField())


class KeptStudySerializer(serializers.Serializer[Any]):
    """A study kept under a name: what its address asks besides the days."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    query = serializers.DictField(child=serializers.CharField())


class KeepStudySerializer(StudySerializer):
    """A study, and the name that it is kept under; its days are not."""

    name = serializers.CharField(max_length=80)
