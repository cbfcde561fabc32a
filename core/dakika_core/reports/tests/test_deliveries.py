"""Promise: a delivery comes when it was said, at the ends of months too; held against python-dateutil (RFC 5545)."""

from datetime import UTC, date, datetime, timedelta

import pytest
from dateutil.rrule import rrulestr
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.reports.deliveries import Every, rule_of


def days(rule: str, begins: datetime, count: int) -> list[date]:
    return [at.date() for at in rrulestr(rule, dtstart=begins).xafter(begins, count=count, inc=True)]


@given(st.integers(1, 31), st.integers(2020, 2035))
def test_every_month_has_one_and_it_is_the_day_or_the_last(day: int, year: int) -> None:
    found = days(rule_of(Every.MONTH, day=day), datetime(year, 1, 1, 8, tzinfo=UTC), 24)
    assert [(one.year, one.month) for one in found] == [(year + n // 12, n % 12 + 1) for n in range(24)]
    for one in found:
        assert one.day == day or (one.day < day and (one + timedelta(days=1)).day == 1)


@given(st.integers(0, 6))
def test_a_weekday(weekday: int) -> None:
    found = days(rule_of(Every.WEEK, weekday=weekday), datetime(2026, 11, 29, 8, tzinfo=UTC), 5)
    assert {one.weekday() for one in found} == {weekday}
    two = days(rule_of(Every.TWO_WEEKS, weekday=weekday), datetime(2026, 11, 29, 8, tzinfo=UTC), 5)
    assert {(b - a).days for a, b in zip(two, two[1:], strict=False)} == {14}


def test_daily_and_a_rule_of_ones_own() -> None:
    assert rule_of(Every.DAY) == "FREQ=DAILY"
    assert rule_of(Every.RULE, rule=" rrule:freq=monthly;byday=1mo ") == "FREQ=MONTHLY;BYDAY=1MO"
    for wrong in ("", "often", "FREQ=HOURLY", "FREQ=DAILY;BYHOUR=1,2", "FREQ=DAILY\nDTSTART:2026", "FREQ=" + "X" * 300):
        with pytest.raises(ValueError, match=r"report|RFC"):
            rule_of(Every.RULE, rule=wrong)
    with pytest.raises(ValueError, match="1 to 31"):
        rule_of(Every.MONTH, day=32)
