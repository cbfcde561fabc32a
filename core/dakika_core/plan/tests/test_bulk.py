"""Promise: a table of posts is read as its writer meant it, and what is in doubt is said, never guessed."""

from datetime import UTC, date, datetime, time
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.bulk import FIELDS, order_in, propose_columns, read_row, spaced

NOW = datetime(2026, 11, 29, 10, tzinfo=UTC)


@pytest.mark.parametrize(("header", "wanted"), [
    (["Date", "Time", "Network", "Text", "Link", "Image", "Campaign"],
     {"at": 0, "time": 1, "profiles": 2, "text": 3, "link": 4, "media": 5, "campaign": 6}),
    (["Datum", "Uhrzeit", "Kanal", "Text", "Bild", "Notiz"], {"at": 0, "time": 1, "profiles": 2, "text": 3, "media": 4, "note": 5}),
    (["Data de publicação", "Hora", "Rede", "Texto", "Imagem"], {"at": 0, "time": 1, "profiles": 2, "text": 3, "media": 4}),
    (["scheduled_at", "headline", "first comment", "ALT TEXT"], {"at": 0, "headline": 1, "first_comment": 2, "words": 3}),
    (["Ημερομηνία", "Ώρα", "Κείμενο"], {"at": 0, "time": 1, "text": 2}),
    (["a", "b"], {}),
])  # fmt: skip
def test_columns_are_found_by_their_names_in_several_languages(header: list[str], wanted: dict[str, int]) -> None:
    assert propose_columns(header) == wanted


@given(st.lists(st.text(max_size=12), max_size=20))
def test_no_column_is_two_fields(header: list[str]) -> None:
    found = propose_columns(header)
    assert len(set(found.values())) == len(found)
    assert set(found) <= set(FIELDS)


AT = {"at": 0, "time": 1}


@pytest.mark.parametrize(("cells", "wanted"), [
    (["2026-12-01 19:30"], "2026-12-01T19:30:00"),
    (["2026-12-01T19:30+02:00"], "2026-12-01T19:30:00+02:00"),
    (["1.12.2026", "19:30"], "2026-12-01T19:30:00"),
    (["1 Dec 2026", "7:30 pm"], "2026-12-01T19:30:00"),
    ([date(2026, 12, 1), time(19, 30)], "2026-12-01T19:30:00"),
    ([datetime(2026, 12, 1, 0, 0), "9:05"], "2026-12-01T09:05:00"),  # noqa: DTZ001 (a workbook's clock)
])  # fmt: skip
def test_times_are_read_however_they_are_written(cells: list[Any], wanted: str) -> None:
    row = read_row(2, cells, AT, "dmy")
    assert row.at is not None
    assert (row.at.isoformat(), dict(row.problems)) == (wanted, {})


@pytest.mark.parametrize(
    "cells", [["next week"], ["2026-12-01"], ["2026-12-01", "25:99"], ["", "19:30"], ["2026-02-30", "9:00"]]
)
def test_a_time_that_is_none_is_said_and_not_guessed(cells: list[Any]) -> None:
    row = read_row(2, cells, AT, "dmy")
    assert (row.at, list(row.problems)) == (None, ["at"])


def test_dates_to_come_that_can_be_read_in_two_orders_are_asked_about() -> None:
    rows = [["03.04.2027"], ["05.06.2027"]]
    assert order_in(rows, {"at": 0}, now=NOW).chosen == ""
    assert order_in([*rows, ["25.06.2027"]], {"at": 0}, now=NOW).chosen == "dmy"
    assert order_in([["2027-04-03"]], {"at": 0}, now=NOW).chosen == "dmy"


def test_several_in_a_cell_are_taken_apart_and_each_once() -> None:
    columns = {"profiles": 0, "media": 1, "text": 2}
    row = read_row(2, ["Commons, Brevi; commons ;Brevi", "a, b.jpg; c.jpg\nc.jpg", "'=2+2"], columns, "dmy")
    assert row.profiles == ("Commons", "Brevi", "commons")
    assert row.media == ("a, b.jpg", "c.jpg")
    assert row.values["text"] == "=2+2"


@given(
    st.lists(st.one_of(st.none(), st.text(), st.integers(), st.floats(), st.booleans(), st.datetimes()), max_size=12)
)
def test_any_row_can_be_read(cells: list[Any]) -> None:
    row = read_row(2, cells, {key: i for i, key in enumerate(FIELDS)}, "dmy")
    assert "\x00" not in "".join(row.values.values())


def test_minutes_apart_are_real_ones_over_a_change_of_clocks() -> None:
    first = datetime(2027, 3, 28, 0, 30, tzinfo=ZoneInfo("Europe/Lisbon"))
    found = spaced(first, 60, 3)
    assert [one.astimezone(ZoneInfo("Europe/Lisbon")).strftime("%H:%M") for one in found] == ["00:30", "02:30", "03:30"]
