"""Promise: a figure or a date that anybody's tool wrote is read as the one it was, or refused; never as another one."""

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from openpyxl.utils.datetime import from_excel, to_excel

from dakika_core.sources.files.cells import CellError, is_empty, shorten
from dakika_core.sources.files.date_order import order_of
from dakika_core.sources.files.dates import from_serial, parse_instant
from dakika_core.sources.files.guard import neutralise, restore
from dakika_core.sources.files.numbers import LARGEST_COUNT, decimal_of, parse_count, parse_number, parse_share

LISBON = ZoneInfo("Europe/Lisbon")
COUNTS = st.integers(0, LARGEST_COUNT)
INSTANTS = st.datetimes(datetime(1990, 1, 2), datetime(2099, 12, 30))  # noqa: DTZ001 (their zone is drawn apart)
ZONES = st.sampled_from(["UTC", "Europe/Lisbon", "Asia/Kathmandu", "America/St_Johns", "Pacific/Kiritimati"])


def grouped(number: int, sign: str) -> str:
    """1234567 as 1.234.567 or as the sign has it."""
    return f"{number:,}".replace(",", sign)


@given(COUNTS, st.sampled_from([",", ".", " ", "\u00a0", "\u202f", "'"]))
def test_a_count_is_the_same_however_its_thousands_are_set_apart(count: int, sign: str) -> None:
    """How languages group digits is in the Unicode CLDR; these are the signs that it has for latin digits."""
    text = grouped(count, sign)
    assert parse_count(text) == count
    known = {",": ".", ".": ","}.get(sign, ".")
    assert parse_count(text, known) == count


@given(st.integers(0, 10**9), st.integers(0, 99), st.sampled_from([(",", "."), (".", ","), (" ", ","), ("'", ".")]))
def test_an_amount_is_the_same_by_the_sign_that_its_file_uses(whole: int, cents: int, signs: tuple[str, str]) -> None:
    thousands, decimal = signs
    text = f"{grouped(whole, thousands)}{decimal}{cents:02d}"
    assert parse_number(text, decimal) == pytest.approx(whole + cents / 100)
    if whole >= 1000:
        # With both signs to be seen it needs no telling which is which.
        assert parse_number(text) == pytest.approx(whole + cents / 100)


@given(st.integers(0, 10**9), st.integers(1000, 9999))
def test_a_file_shows_its_decimal_sign_where_a_number_cannot_be_read_in_two_ways(whole: int, parts: int) -> None:
    assert decimal_of(f"{whole},{parts}") == ","
    assert decimal_of(f"{whole}.{parts} %") == "."
    assert decimal_of(str(whole)) is None
    # One thousand two hundred and thirty-four, or one and a bit: the cell alone does not say.
    assert decimal_of("1,234") is None
    assert decimal_of(1.5) is None


@pytest.mark.parametrize(
    ("text", "number"),
    [("1.2k", 1200), ("3,4 M", 3_400_000), ("12K", 12_000), ("-1k", -1000), ("−5", -5), ("+7", 7), ("1e5", None),
     ("0x10", None), ("1_000", None), ("١٢", 12), ("²", None), ("", None), ("1.2.3", None), ("--1", None), (True, None),
     (float("nan"), None), (float("inf"), None), (None, None)],
)  # fmt: skip
def test_numbers_at_the_edge(text: object, number: float | None) -> None:
    assert parse_number(text) == number


@given(st.text(max_size=30))
def test_no_text_whatever_is_more_than_a_number_or_a_refusal(text: str) -> None:
    try:
        count = parse_count(text)
    except CellError as error:
        assert "\n" not in str(error)
        assert len(str(error)) < 90
    else:
        assert count is None or 0 <= count <= LARGEST_COUNT
    share = None
    try:
        share = parse_share(text)
    except CellError:
        assert not is_empty(text)
    assert share is None or share >= 0


@pytest.mark.parametrize("cell", [LARGEST_COUNT + 2, "9" * 16, "99999999999999999999"])
def test_a_count_beyond_all_counting_is_refused(cell: object) -> None:
    with pytest.raises(CellError, match="larger than any count"):
        parse_count(cell)


@pytest.mark.parametrize(("cell", "share"), [("12,5 %", 0.125), ("40%", 0.4), (0.4, 0.4), ("0.4", 0.4), ("–", None)])
def test_shares_as_tools_write_them(cell: object, share: float | None) -> None:
    assert parse_share(cell) == share


@pytest.mark.parametrize("cell", ["-1%", "many", "1e9%", -0.2])
def test_what_is_no_share_is_refused(cell: object) -> None:
    with pytest.raises(CellError):
        parse_share(cell)


@given(INSTANTS, ZONES)
def test_an_instant_in_iso_8601_is_that_instant(local: datetime, name: str) -> None:
    at = local.replace(microsecond=0, tzinfo=ZoneInfo(name))
    assume(at == at.astimezone(UTC).astimezone(ZoneInfo(name)))
    assert parse_instant(at.isoformat()) == at
    assert parse_instant(at.isoformat(" ")) == at
    assert parse_instant(at) == at
    naive = at.replace(tzinfo=None)
    if at.fold == 0 and at.astimezone(UTC).astimezone(ZoneInfo(name)).replace(tzinfo=None) == naive:
        assert parse_instant(naive.isoformat(), zone=ZoneInfo(name)) == at


@given(INSTANTS)
def test_seconds_and_milliseconds_since_1970(local: datetime) -> None:
    at = local.replace(microsecond=0, tzinfo=UTC)
    seconds = int(at.timestamp())
    assume(6e8 < seconds < 4.2e9)
    assert parse_instant(str(seconds)) == at
    assert parse_instant(seconds * 1000) == at


@given(INSTANTS, st.booleans(), st.sampled_from(["/", ".", "-"]))
def test_day_and_month_are_kept_apart_by_what_was_said(local: datetime, is_day_first: bool, sign: str) -> None:
    local = local.replace(second=0, microsecond=0)
    first, second = (local.day, local.month) if is_day_first else (local.month, local.day)
    text, order = f"{first:02d}{sign}{second:02d}{sign}{local.year}", "dmy" if is_day_first else "mdy"
    assert parse_instant(text, order=order) == local.replace(hour=0, minute=0, tzinfo=UTC)
    noon = f"{text} {local.strftime('%I:%M %p')}"
    assert parse_instant(noon, order=order) == local.replace(tzinfo=UTC)
    told = order_of([text], now=datetime(2100, 1, 1, tzinfo=UTC))
    assert told.chosen in ("", order) or local.day == local.month
    assert told.told == (local.day > 12 or local.day == local.month)


@pytest.mark.parametrize("text", ["31/02/2026", "2026-13-01", "29.2.2025", "25:00", "12/2026", "20261340", "7"])
def test_dates_that_never_were_are_none(text: str) -> None:
    assert parse_instant(text) is None


def test_the_nights_on_which_the_clocks_change() -> None:
    """Lisbon's clocks of 2026 go on from 1:00 to 2:00 on 29 March and back from 2:00 to 1:00 on 25 October (tzdata)."""
    skipped = parse_instant("2026-03-29 01:30", zone=LISBON)
    assert skipped == datetime(2026, 3, 29, 1, 30, tzinfo=UTC)
    twice = parse_instant("25/10/2026 01:30", zone=LISBON)
    assert twice == datetime(2026, 10, 25, 0, 30, tzinfo=UTC)
    assert parse_instant(date(2026, 10, 25), zone=LISBON) == datetime(2026, 10, 24, 23, tzinfo=UTC)


@pytest.mark.parametrize("cell", ["0001-01-01", "9999-12-31T23:59", datetime(1, 1, 1)])  # noqa: DTZ001
def test_the_ends_of_the_calendar_break_nothing(cell: object) -> None:
    found = parse_instant(cell, zone=ZoneInfo("America/St_Johns"))
    assert found is not None
    assert found.tzinfo == UTC


@given(st.integers(1, 73_000).filter(lambda serial: serial != 60), st.integers(0, 23))
def test_serials_are_those_of_a_general_library(day: int, hour: int) -> None:
    """Held against openpyxl's conversions. Serial 60 is the day that never was; there libraries differ."""
    serial = day + hour / 24
    theirs = from_excel(serial)
    assert abs(from_serial(serial) - theirs) < timedelta(seconds=1)
    assert to_excel(theirs) == pytest.approx(serial)


def test_a_serial_before_the_first_day_is_none() -> None:
    with pytest.raises(ValueError, match="no date"):
        from_serial(0.5)


@given(st.text(max_size=40))
def test_what_is_guarded_for_a_spreadsheet_comes_back_as_it_was(text: str) -> None:
    guarded = neutralise(text)
    assert isinstance(guarded, str)
    if parse_number(text) is None:
        assert guarded[:1] not in ("=", "+", "-", "@", "\t", "\r")
    assert restore(guarded) == text or text[:1] == "'"


@given(st.text(max_size=300))
def test_a_cell_in_a_message_is_one_short_line(text: str) -> None:
    shown = shorten(text)
    assert len(shown) <= 40
    assert shown.isprintable() or all(ord(c) >= 32 for c in shown)
