"""Shapes of many posts from one table."""

from typing import Any

from dakika_core.plan.bulk import FIELDS
from rest_framework import serializers

from dakika_server.plan.bulk import TIMES
from dakika_server.plan.models import Batch
from dakika_server.plan.serializers.posts import NUMBER


class BatchFileSerializer(serializers.Serializer[Any]):
    """A table: CSV, TSV, XLSX, ODS or JSON."""

    file = serializers.FileField(max_length=200)


class BatchChoicesSerializer(serializers.Serializer[Any]):
    """What becomes of the rows. order: of day, month and year, empty where it is in doubt."""

    order = serializers.ChoiceField(choices=["dmy", "mdy", "ymd"], allow_blank=True)
    times = serializers.ChoiceField(choices=TIMES, help_text="as given, so far apart, or the free standing slots")
    first = serializers.DateTimeField(allow_null=True)
    minutes = serializers.IntegerField(min_value=1, max_value=20_160)
    profiles = serializers.ListField(
        child=serializers.IntegerField(**NUMBER), max_length=50, help_text="where none is named"
    )
    links = serializers.BooleanField(help_text="whether links are tracked")
    becomes = serializers.ChoiceField(choices=["draft", "scheduled"])


class PicturesLeftSerializer(serializers.Serializer[Any]):
    """A file of an archive that was not taken."""

    name = serializers.CharField()
    why = serializers.CharField()


class BatchPicturesSerializer(serializers.Serializer[Any]):
    """How many files were brought; left: the first of those that were not, left_out: how many."""

    brought = serializers.IntegerField()
    left = PicturesLeftSerializer(many=True)
    left_out = serializers.IntegerField()


class BatchInputSerializer(serializers.Serializer[Any]):
    """Which column holds what, and what becomes of the rows."""

    columns = serializers.DictField(child=serializers.IntegerField(min_value=0, max_value=2000))
    choices = BatchChoicesSerializer()


class MendSerializer(serializers.Serializer[Any]):
    """Other values of a row, by field."""

    values = serializers.DictField(
        child=serializers.CharField(max_length=20_000, allow_blank=True, trim_whitespace=False)
    )


class MakeSerializer(serializers.Serializer[Any]):
    """Whether to make the good rows alone."""

    only_good = serializers.BooleanField(default=False)


class BulkProblemSerializer(serializers.Serializer[Any]):
    """What is wrong with a field of a row. network: whose rule it is, where it is one's."""

    field = serializers.ChoiceField(choices=FIELDS)
    message = serializers.CharField()
    is_blocking = serializers.BooleanField()
    network = serializers.CharField(allow_blank=True)


class CheckedRowSerializer(serializers.Serializer[Any]):
    """A row as it would be made. made_problem: why none was made of it when the others were."""

    number = serializers.IntegerField()
    values = serializers.DictField(child=serializers.CharField(allow_blank=True))
    written_at = serializers.CharField(allow_blank=True)
    at = serializers.DateTimeField(allow_null=True)
    profiles = serializers.ListField(child=serializers.IntegerField())
    media = serializers.ListField(child=serializers.IntegerField())
    addresses = serializers.ListField(child=serializers.CharField())
    campaign = serializers.IntegerField(allow_null=True)
    problems = BulkProblemSerializer(many=True)
    is_good = serializers.BooleanField()
    planned = serializers.IntegerField(allow_null=True)
    made_problem = serializers.CharField(allow_blank=True)


class BatchSerializer(serializers.Serializer[Any]):
    """A table of posts. rows: all, good: those a post can be made of, made: those that have one."""

    id = serializers.IntegerField(source="pk")
    name = serializers.CharField()
    state = serializers.ChoiceField(choices=Batch.State.values)
    made_at = serializers.DateTimeField()
    rows = serializers.IntegerField()
    made = serializers.IntegerField()


class BatchDetailSerializer(serializers.Serializer[Any]):
    """A table with its rows, checked."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    state = serializers.ChoiceField(choices=Batch.State.values)
    header = serializers.ListField(child=serializers.CharField(allow_blank=True))
    columns = serializers.DictField(child=serializers.IntegerField())
    choices = BatchChoicesSerializer()
    left_out = serializers.IntegerField()
    good = serializers.IntegerField()
    made = serializers.IntegerField()
    rows = CheckedRowSerializer(many=True)


class TakenBackSerializer(serializers.Serializer[Any]):
    """How many posts were thrown away."""

    posts = serializers.IntegerField()
