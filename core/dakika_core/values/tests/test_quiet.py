"""Promise: no letter comes in somebody's quiet hours, none is put off for longer than they last, on any night."""

from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.values.quiet import Hours, daily, is_quiet, soon

LISBON = ZoneInfo("Europe/Lisbon")
NIGHT = Hours(zone=LISBON, quiet_from=time(22), quiet_to=time(7), digest_at=time(8, 30))


def at(text: str, zone: ZoneInfo = LISBON) -> datetime:
    return datetime.fromisoformat(text).replace(tzinfo=zone)


@pytest.mark.parametrize(
    ("now", "wanted"),
    [
        ("2026-11-25T12:00", "2026-11-25T12:00"), ("2026-11-25T21:59", "2026-11-25T21:59"),
        ("2026-11-25T22:00", "2026-11-26T07:00"), ("2026-11-26T03:00", "2026-11-26T07:00"),
        ("2026-11-26T07:00", "2026-11-26T07:00"),
    ],
)  # fmt: skip
def test_what_is_wanted_at_once_waits_for_the_end_of_the_night(now: str, wanted: str) -> None:
    assert soon(NIGHT, at(now)) == at(wanted)


@pytest.mark.parametrize(
    ("now", "wanted"),
    [("2026-11-25T08:29", "2026-11-25T08:30"), ("2026-11-25T08:30", "2026-11-26T08:30")],
)
def test_the_days_letter_comes_at_its_minute(now: str, wanted: str) -> None:
    assert daily(NIGHT, at(now)) == at(wanted)


def test_the_clock_stays_when_the_clocks_change() -> None:
    """Lisbon: 25 October 2026 at 02:00 back, 28 March 2027 at 01:00 forward (European Union, Directive 2000/84/EC)."""
    assert soon(NIGHT, at("2026-10-24T23:00")).astimezone(UTC) == datetime(2026, 10, 25, 7, tzinfo=UTC)
    assert soon(NIGHT, at("2027-03-27T23:00")).astimezone(UTC) == datetime(2027, 3, 28, 6, tzinfo=UTC)
    gap = Hours(zone=LISBON, quiet_from=time(0), quiet_to=time(1, 30))
    assert not is_quiet(gap, soon(gap, at("2027-03-28T00:10")))


def test_without_hours_nothing_is_quiet() -> None:
    for none in (Hours(zone=LISBON), Hours(zone=LISBON, quiet_from=time(9), quiet_to=time(9))):
        assert soon(none, at("2026-11-26T03:00")) == at("2026-11-26T03:00")


times = st.none() | st.times()
zones = st.sampled_from(["Europe/Lisbon", "America/Sao_Paulo", "Asia/Kathmandu", "Australia/Lord_Howe", "Pacific/Apia"])


@given(
    zone=zones,
    start=times,
    end=times,
    digest=st.times(),
    now=st.integers(0, 10 * 365 * 24 * 60).map(
        lambda minutes: datetime(2020, 1, 1, tzinfo=UTC) + timedelta(minutes=minutes)
    ),
)
def test_any_hours_on_any_night(zone: str, start: time | None, end: time | None, digest: time, now: datetime) -> None:
    hours = Hours(zone=ZoneInfo(zone), quiet_from=start, quiet_to=end, digest_at=digest)
    found = soon(hours, now)
    assert found >= now
    assert not is_quiet(hours, found)
    # A day, and the hour that a night may have more.
    assert found - now <= timedelta(hours=25)
    assert timedelta(0) < daily(hours, now) - now <= timedelta(hours=25)
