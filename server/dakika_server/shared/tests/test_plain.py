"""Promise: a long list told the short way says to the letter what the framework would say."""

from datetime import UTC, date, datetime, timedelta, timezone
from types import SimpleNamespace
from typing import Any

import pytest
from rest_framework import serializers

from dakika_server.shared.plain import PlainSerializer


class _Fields(serializers.Serializer[Any]):
    name = serializers.CharField()
    of = serializers.CharField(source="other.name", default=None, allow_null=True)
    n = serializers.IntegerField(allow_null=True)
    share = serializers.FloatField()
    is_on = serializers.BooleanField()
    kind = serializers.ChoiceField(choices=["a", "b", 3])
    at = serializers.DateTimeField(allow_null=True)
    day = serializers.DateField()
    words = serializers.SerializerMethodField()
    names = serializers.ListField(child=serializers.CharField())

    def get_words(self, row: Any) -> str:
        name = row["name"] if isinstance(row, dict) else row.name
        return f"{name}!"


class Plain(PlainSerializer, _Fields):
    pass


class Ordinary(_Fields):
    pass


class Within(PlainSerializer):
    one = Plain()
    many = Plain(many=True)


class WithinOrdinary(serializers.Serializer[Any]):
    one = Ordinary()
    many = Ordinary(many=True)


ROW: dict[str, Any] = {
    "name": "Brevi", "other": SimpleNamespace(name="Halfmoon"), "n": 7, "share": 0.5, "is_on": True, "kind": "a",
    "at": datetime(2026, 11, 9, 7, 30, tzinfo=UTC), "day": date(2026, 11, 9), "names": ["x", "y"],
}  # fmt: skip
ODD = [
    {}, {"name": ""}, {"name": 12}, {"other": None}, {"n": None}, {"n": "8"}, {"n": True}, {"n": 2**70}, {"share": 3},
    {"share": "0.25"}, {"is_on": "false"}, {"is_on": 0}, {"kind": 3}, {"at": None},
    {"at": datetime(2026, 11, 9, 7, 30, 0, 5, tzinfo=timezone(timedelta(hours=5, minutes=45)))},
    {"name": lambda: "called"}, {"names": []}, {"name": "💶\x00"},
]  # fmt: skip


@pytest.mark.parametrize("odd", ODD)
def test_objects_are_told_as_the_framework_tells_them(odd: dict[str, Any]) -> None:
    row = SimpleNamespace(**(ROW | odd))
    assert Plain(row).data == Ordinary(row).data
    both = {"one": row, "many": [row, row]}
    assert Within(both).data == WithinOrdinary(both).data


@pytest.mark.parametrize("odd", ODD)
def test_dictionaries_too(odd: dict[str, Any]) -> None:
    row = ROW | odd
    assert Plain([row, row], many=True).data == Ordinary([row, row], many=True).data


def test_what_is_not_there_fails_as_it_would() -> None:
    for missing in ("name", "share", "names"):
        row = SimpleNamespace(**{k: v for k, v in ROW.items() if k != missing})
        with pytest.raises(AttributeError):
            assert Ordinary(row).data
        with pytest.raises(AttributeError):
            assert Plain(row).data
