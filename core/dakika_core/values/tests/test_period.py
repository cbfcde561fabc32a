"""Promise: a day is a day of the brand's zone, however the clocks behave, and comparisons line up."""

import gzip
from datetime import UTC, date, datetime, timedelta
from email.utils import parsedate_to_datetime
from importlib.resources import files
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.values.period import (
    Comparison,
    Period,
    hour_of_week,
    real_hours_by_hour_of_week,
    same_iso_day_a_year_before,
    shift_hours,
    start_of_day,
)

FIRST, LAST = datetime(2000, 1, 1), datetime(2040, 1, 1)  # noqa: DTZ001 (the strategy adds the zone)
NEW_YORK = ZoneInfo("America/New_York")


def week(zone: str, first: date) -> Period:
    return Period(first=first, last=first + timedelta(days=6), zone=ZoneInfo(zone))


@pytest.mark.parametrize(
    ("zone", "first", "hours"),
    [
        # IANA time zone database, the changes of 2026 in New York and on Lord Howe Island.
        ("America/New_York", date(2026, 3, 2), 167.0),
        ("America/New_York", date(2026, 10, 26), 169.0),
        ("Australia/Lord_Howe", date(2026, 3, 30), 168.5),
        ("Europe/Lisbon", date(2026, 6, 1), 168.0),
    ],
)
def test_weeks_have_their_real_length(zone: str, first: date, hours: float) -> None:
    assert week(zone, first).hours == hours
    assert real_hours_by_hour_of_week(week(zone, first)).sum() == hours


def test_an_hour_that_occurs_twice_counts_twice() -> None:
    counts = real_hours_by_hour_of_week(week("America/New_York", date(2026, 10, 26)))
    assert counts[6 * 24 + 1] == 2.0
    counts = real_hours_by_hour_of_week(week("America/New_York", date(2026, 3, 2)))
    assert counts[6 * 24 + 2] == 0.0


def test_a_day_that_a_zone_skipped_starts_where_the_next_one_does() -> None:
    # Apia has no 2011-12-30 (IANA time zone database).
    apia = ZoneInfo("Pacific/Apia")
    assert start_of_day(date(2011, 12, 30), apia) == start_of_day(date(2011, 12, 31), apia)


@pytest.mark.parametrize(
    ("day", "expected"),
    # ISO 8601: 2005-01-01 is 2004-W53-6, 2008-12-29 is 2009-W01-1.
    [(date(2005, 1, 1), (2004, 53, 6)), (date(2008, 12, 29), (2009, 1, 1))],
)
def test_iso_weeks(day: date, expected: tuple[int, int, int]) -> None:
    assert tuple(day.isocalendar()) == expected


def test_the_year_before_falls_on_the_same_weekday() -> None:
    for offset in range(800):
        day = date(2019, 12, 1) + timedelta(days=offset)
        assert same_iso_day_a_year_before(day).weekday() == day.weekday()
    # A day of week 53 has no counterpart where the year before has 52 weeks.
    assert same_iso_day_a_year_before(date(2021, 1, 1)).isocalendar()[1] == 52


def test_comparisons_have_the_same_length_and_do_not_overlap() -> None:
    period = Period(first=date(2026, 11, 1), last=date(2026, 11, 10), zone=NEW_YORK)
    previous = period.compared(Comparison.PREVIOUS)
    assert (previous.first, previous.last) == (date(2026, 10, 22), date(2026, 10, 31))
    aligned = period.compared(Comparison.ALIGNED)
    assert aligned.first == date(2026, 10, 18)
    assert aligned.first.weekday() == period.first.weekday()
    assert aligned.last < period.first


def test_a_period_that_ends_before_it_begins_is_refused() -> None:
    with pytest.raises(ValueError, match="ends on or after"):
        Period(first=date(2026, 2, 2), last=date(2026, 2, 1), zone=NEW_YORK)


@given(st.datetimes(min_value=FIRST, max_value=LAST, timezones=st.just(UTC)))
def test_every_instant_lies_in_its_day(instant: datetime) -> None:
    zone = ZoneInfo("Europe/Lisbon")
    day = instant.astimezone(zone).date()
    period = Period(first=day, last=day, zone=zone)
    assert period.start <= instant < period.end
    assert 0 <= hour_of_week(instant, zone) < 168


def test_a_curve_shifted_by_whole_hours_is_rolled() -> None:
    curve = np.arange(168.0)
    assert np.allclose(shift_hours(curve, 5), np.roll(curve, 5))
    assert np.allclose(shift_hours(shift_hours(curve, 3), -3), curve)


def test_local_hours_of_a_real_data_set() -> None:
    """The Commits data of bokeh-sampledata (4,916 instants): most at 15 h local time, which is 21 h UTC in Chicago."""
    packed = files("bokeh_sampledata").joinpath("_data/commits.txt.gz").read_bytes()
    instants = [parsedate_to_datetime(line) for line in gzip.decompress(packed).decode().splitlines()]
    assert len(instants) == 4916
    for zone, peak, count in (("America/Chicago", 15, 423), ("UTC", 21, 419)):
        hours = [int(hour_of_week(instant, ZoneInfo(zone)) % 24) for instant in instants]
        assert (max(set(hours), key=hours.count), hours.count(peak)) == (peak, count)
