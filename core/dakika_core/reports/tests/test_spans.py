"""Promise: a report that moves with today is of whole days that are over, month ends and leap years included."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.reports.spans import LAST_DAYS, SPANS, span_days


@pytest.mark.parametrize(
    ("span", "today", "first", "last"),
    [
        ("last_7", "2026-11-29", "2026-11-22", "2026-11-28"),
        ("last_week", "2026-11-29", "2026-11-16", "2026-11-22"),
        ("last_week", "2026-11-30", "2026-11-23", "2026-11-29"),
        ("last_month", "2026-03-31", "2026-02-01", "2026-02-28"),
        ("last_month", "2028-03-01", "2028-02-01", "2028-02-29"),
        ("last_month", "2027-01-31", "2026-12-01", "2026-12-31"),
        ("this_month", "2026-11-01", "2026-11-01", "2026-11-01"),
        ("this_month", "2026-11-29", "2026-11-01", "2026-11-28"),
        ("last_quarter", "2026-01-15", "2025-10-01", "2025-12-31"),
        ("this_year", "2026-01-01", "2026-01-01", "2026-01-01"),
    ],
)
def test_each_span(span: str, today: str, first: str, last: str) -> None:
    found = span_days(span, date.fromisoformat(today))
    assert [day.isoformat() for day in found] == [first, last]


def test_a_week_that_begins_on_sunday() -> None:
    assert span_days("last_week", date(2026, 11, 29), 6) == (date(2026, 11, 22), date(2026, 11, 28))


@given(st.dates(date(2000, 1, 1), date(2099, 12, 31)), st.sampled_from(SPANS), st.integers(0, 6))
def test_days_are_over_and_as_many_as_said(today: date, span: str, weekday: int) -> None:
    first, last = span_days(span, today, weekday)
    assert first <= last
    assert last < today or (first, last) == (today, today)
    if span in LAST_DAYS:
        assert (last - first).days + 1 == LAST_DAYS[span]
    if span == "last_week":
        assert first.weekday() == weekday
        assert last - first == timedelta(days=6)


def test_what_is_no_span() -> None:
    with pytest.raises(ValueError, match="no span"):
        span_days("tomorrow", date(2026, 11, 29))
