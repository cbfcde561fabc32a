"""Promise: every row stands in one part of a list, whatever comes in meanwhile; a cursor of anybody's making is no error of ours."""

import base64
import json
from datetime import timedelta
from typing import Any

import pytest
from django.db.models import F
from django.db.models.functions import NullIf
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase
from rest_framework.exceptions import ValidationError

from dakika_server.brands.models import Brand, Campaign
from dakika_server.shared import clock
from dakika_server.shared.paging import paged, paged_by_value

pytestmark = pytest.mark.django_db


def campaign(brand: Brand, name: str, colour: int = 0) -> Campaign:
    today = clock.now().date()
    return Campaign.objects.create(
        brand=brand, name=name, first_day=today, last_day=today + timedelta(days=1), colour=colour
    )


def walked(rows: Any, order: tuple[str, ...], limit: int, how: Any = paged_by_value) -> list[Campaign]:
    found, cursor = how(rows, order, None, limit)
    while cursor is not None:
        part, cursor = how(rows, order, cursor, limit)
        assert part
        found += part
    return list(found)


class AnyOrder(TestCase):
    """Over rows with many ties and many without a value."""

    @given(
        colours=st.lists(st.integers(0, 4), min_size=1, max_size=12), limit=st.integers(1, 5),
        falls=st.booleans(), name_falls=st.booleans(),
    )  # fmt: skip
    @settings(max_examples=40, deadline=None)
    def test_parts_put_together_are_the_whole(
        self, colours: list[int], limit: int, falls: bool, name_falls: bool
    ) -> None:
        brand = Brand.objects.create(name="Tidehall", slug="tidehall", time_zone="UTC")
        for i, colour in enumerate(colours):
            campaign(brand, f"c{i}", colour)
        # Nought is no value.
        rows = Campaign.objects.filter(brand=brand).annotate(sorted_by=NullIf(F("colour"), 0))
        order = ("-sorted_by" if falls else "sorted_by", "-pk" if name_falls else "pk")
        by = F("sorted_by").desc(nulls_last=True) if falls else F("sorted_by").asc(nulls_last=True)
        assert walked(rows, order, limit) == list(rows.order_by(by, order[1]))


def test_what_comes_in_meanwhile_moves_nothing(brand: Brand) -> None:
    for i in range(6):
        campaign(brand, f"c{i}")
    rows = Campaign.objects.filter(brand=brand)
    first, cursor = paged(rows, ("-pk",), None, 3)
    campaign(brand, "new")
    second, end = paged(rows, ("-pk",), cursor, 3)
    assert [one.name for one in [*first, *second]] == ["c5", "c4", "c3", "c2", "c1", "c0"]
    assert end is None


@pytest.mark.parametrize("name", ["2026-11-30", "Tide-hall", "Ωρολόγιον " * 10, '"],[', "%", "𝔻"])
def test_names_of_all_kinds_are_places(brand: Brand, name: str) -> None:
    for each in (name, "a", "z"):
        campaign(brand, each[:120])
    rows = Campaign.objects.filter(brand=brand)
    assert walked(rows, ("name", "pk"), 1, paged) == list(rows.order_by("name", "pk"))


def written(told: Any) -> str:
    return base64.urlsafe_b64encode(json.dumps(told).encode()).decode().rstrip("=")


@pytest.mark.parametrize("told", [
    [], [1], [1, 2, 3], {}, "x", None, [True, 1], [1, None], [[], 1], [["x"], 1], [["2026-11-30"], 1], [[["a"]], 1],
    [{"a": 1}, 1], [float("nan"), 1], [float("inf"), 1], [2**70, 1], ["\x00", 1], ["\ud800", 1], ["no number", 1],
    [1, "no number"], [["2026-11-30T00:00:00Z"], 1], [1, ["2026-11-30T00:00:00Z"]], [-(10**400), 1],
])  # fmt: skip
def test_a_cursor_that_is_none_is_told_so(brand: Brand, told: Any) -> None:
    campaign(brand, "c")
    rows = Campaign.objects.filter(brand=brand).annotate(sorted_by=NullIf(F("colour"), 0))
    with pytest.raises(ValidationError):
        paged_by_value(rows, ("sorted_by", "pk"), written(told), 3)


@pytest.mark.parametrize("cursor", ["!", "\x00", "é", "x" * 5000, "[" * 1990, written([["["] * 900, 1])])
def test_nor_is_what_no_cursor_looks_like(brand: Brand, cursor: str) -> None:
    with pytest.raises(ValidationError):
        paged(Campaign.objects.filter(brand=brand), ("colour", "pk"), cursor, 3)
