"""Promise: a date is read as the one that was written, in any of seven languages, or not at all; an order is never guessed."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from babel import Locale
from babel.dates import format_datetime
from dateutil import parser as dateutil_parser
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.files.date_order import order_of
from dakika_core.sources.files.dates import (
    _ZONES,
    MONTHS,
    ORDERS,
    fold,
    has_offset,
    parse_instant,
    read_date,
)

NOW = datetime(2026, 11, 27, 12, tzinfo=UTC)
LANGUAGES = ["en", "de", "pt", "pt_PT", "el", "es", "fr", "tr"]
LOCAL = st.datetimes(datetime(1990, 1, 2), datetime(2099, 12, 30)).map(lambda d: d.replace(second=0, microsecond=0))  # noqa: DTZ001


@pytest.mark.parametrize("language", LANGUAGES)
def test_the_names_of_months_are_those_of_the_unicode_cldr(language: str) -> None:
    """Held against babel, which carries the CLDR's names: whole and short, as in a date and alone."""
    names = Locale.parse(language).months
    for context in ("format", "stand-alone"):
        for width in ("wide", "abbreviated"):
            for number, name in names[context][width].items():
                assert MONTHS[fold(name)] == number, name


@given(LOCAL, st.sampled_from(LANGUAGES), st.sampled_from(["d MMMM yyyy HH:mm", "d. MMM yyyy H:mm", "EEEE d MMMM yyyy HH:mm", "MMM d, yyyy, HH:mm"]))  # fmt: skip
def test_a_date_in_words_is_read_in_every_language(local: datetime, language: str, pattern: str) -> None:
    text = format_datetime(local, pattern, locale=language)
    read = read_date(text)
    assert read is not None, text
    assert (read.at, read.has_time) == (local, True), text


@given(LOCAL, st.sampled_from(["en", "es", "el", "tr"]))
def test_the_halves_of_the_day_are_told_apart(local: datetime, language: str) -> None:
    text = format_datetime(local, "d MMMM yyyy h:mm a", locale=language)
    read = read_date(text)
    assert read is not None, text
    assert read.at == local, text


SHAPES = [
    "%d/%m/%Y %H:%M", "%d.%m.%Y", "%d-%m-%Y %H:%M:%S", "%d %b %Y", "%d %B %Y %H:%M", "%B %d, %Y %I:%M %p", "%b %d %Y",
    "%Y/%m/%d %H:%M", "%Y-%m-%d %H:%M:%S", "%a, %d %b %Y %H:%M:%S +0200", "%Y-%m-%dT%H:%M:%S+05:30", "%d-%b-%Y %H:%M",
    "%A, %d %B %Y, %H:%M", "%Y-%m-%d %H:%M UTC", "%d/%m/%y",
]  # fmt: skip


@given(LOCAL, st.sampled_from(SHAPES))
def test_dates_are_those_that_a_general_library_reads(local: datetime, shape: str) -> None:
    """Held against python-dateutil, day first."""
    # dateutil takes two-digit years by a window around today, we by POSIX: they agree from 1990 to 2068.
    text = local.replace(year=min(local.year, 2068)).strftime(shape)
    theirs = dateutil_parser.parse(text, dayfirst=not shape.startswith("%Y"))
    ours = parse_instant(text)
    assert ours == (theirs if theirs.tzinfo else theirs.replace(tzinfo=UTC)), text


@pytest.mark.parametrize("name", _ZONES)
def test_the_names_of_zones_are_the_offsets_that_the_zone_database_has(name: str) -> None:
    """Held against tzdata; MEZ and MESZ are the German names of CET and CEST."""
    places = {"E": "America/New_York", "C": "America/Chicago", "M": "America/Denver", "P": "America/Los_Angeles"}
    zone = {
        "WET": "Europe/Lisbon", "WEST": "Europe/Lisbon", "CET": "Europe/Berlin", "CEST": "Europe/Berlin",
        "MEZ": "Europe/Berlin", "MESZ": "Europe/Berlin", "EET": "Europe/Athens", "EEST": "Europe/Athens",
        "TRT": "Europe/Istanbul", "BRT": "America/Sao_Paulo",
    }.get(name) or places[name[0]]  # fmt: skip
    is_summer = name in ("WEST", "CEST", "MESZ", "EEST") or name in ("EDT", "CDT", "MDT", "PDT")
    at = datetime(2026, 7 if is_summer else 1, 15, 12, tzinfo=ZoneInfo(zone))
    assert at.utcoffset() == timedelta(hours=_ZONES[name])
    assert parse_instant(f"15 {'Jul' if is_summer else 'Jan'} 2026 12:00 {name}") == at


@pytest.mark.parametrize(
    ("cell", "has_time"),
    [("2026-10-25", False), ("2026-10-25 00:00", True), ("25/10/2026", False), ("25 Oct 2026", False), ("45955", False),
     ("45955.5", True), ("1761388200", True), ("20261025", False), ("25.10.2026 14:30", True)],
)  # fmt: skip
def test_a_day_is_told_from_an_instant(cell: str, has_time: bool) -> None:
    read = read_date(cell)
    assert read is not None
    assert read.has_time is has_time


@pytest.mark.parametrize(
    "text",
    ["May 5 was a good day 2026", "hello", "12.5", "5,421", "10.25", "12/2026", "3 p.m.", "31/02/2026", "25 Brumaire 2026",
     "2026-13-01", "32 Oct 2026", "99:99", "1/2/3/4", "x" * 500, "10 per 2026 posts", "25/10/2026 25:00"],
)  # fmt: skip
def test_what_is_no_date_is_none(text: str) -> None:
    assert read_date(text) is None


@given(st.text(max_size=60))
def test_no_text_whatever_breaks_the_reading(text: str) -> None:
    for order in ORDERS:
        read = read_date(text, order)
        assert read is None or 1 <= read.at.year <= 9999


def test_what_says_its_own_offset_needs_no_zone() -> None:
    for text in ("2026-10-25T10:00Z", "2026-10-25 10:00:00 UTC", "Sun, 25 Oct 2026 10:00:00 +0200", "1761388200"):
        assert has_offset(text), text
    for text in ("2026-10-25 10:00", "25/10/2026", "20261025", "25 Oct 2026"):
        assert not has_offset(text), text


@given(st.lists(LOCAL, min_size=1, max_size=40), st.sampled_from(ORDERS[:2]))
def test_an_order_that_is_chosen_reads_every_date_and_is_the_true_one(dates: list[datetime], order: str) -> None:
    """Random days: whatever the sifting decides is right, or it asks. Dates of the future decide nothing here."""
    shape = "%d/%m/%Y" if order == "dmy" else "%m/%d/%Y"
    found = order_of([d.strftime(shape) for d in dates], now=datetime(2100, 1, 1, tzinfo=UTC))
    if any(d.day > 12 for d in dates):
        assert found.chosen == order
    else:
        assert found.chosen in ("", order) or len(found.fits) > 1 or all(d.day == d.month for d in dates)


@pytest.mark.parametrize(
    ("cells", "chosen"),
    [
        (["25/10/2026", "01/02/2026"], "dmy"), (["10/25/2026"], "mdy"), (["03/04/2026"], ""), (["2026-03-04"], "dmy"),
        # The other order would put them into the future.
        (["05/12/2026"], "mdy"), (["12/05/2026", "12/06/2026", "11/05/2026"], "dmy"),
        # Only so they stand in order; only so they are days of one week.
        (["01/10/2026", "02/10/2026", "03/10/2026"], "dmy"),
        (["10/05/2026", "10/06/2026", "10/07/2026", "10/08/2026"], "mdy"),
        # Two orders in one file: none reads all, and nothing goes by the majority.
        (["25/10/2026", "26/10/2026", "27/10/2026", "10/28/2026"], ""),
        # One cell that is no date at all tells nothing of the others.
        (["25/10/2026", "99/99/2026", "26/10/2026"], "dmy"), (["99/99/2026"], "dmy"),
        (["25 Oct 2026", "26 Oct 2026"], "dmy"), (["45955", "45956"], "dmy"),
    ],
)  # fmt: skip
def test_the_order_is_found_by_what_the_dates_allow(cells: list[str], chosen: str) -> None:
    assert order_of(cells, now=NOW).chosen == chosen


def test_a_date_that_does_not_fit_the_order_is_none_and_not_turned_round() -> None:
    assert read_date("10/25/2026", "dmy") is None
    assert read_date("25/10/2026", "mdy") is None
