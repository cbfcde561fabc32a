"""Promise: what is due by a brand's clock is due at that clock's time, once, whatever the clocks and workers do.

The rules' times are the examples of RFC 5545, 3.8.5.3, in America/New_York, copied from the standard by hand.
"""

from datetime import UTC, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from rest_framework.exceptions import ValidationError

from dakika_server.brands.actions import change_brand
from dakika_server.brands.models import Brand
from dakika_server.notices.models import Schedule
from dakika_server.notices.schedules import DUE, Due, ensure_schedules, next_of, sweep

NEW_YORK, LISBON = ZoneInfo("America/New_York"), ZoneInfo("Europe/Lisbon")
BEGINS = datetime.fromisoformat("1997-09-02T09:00")


def times(rule: str, zone: ZoneInfo, begins: datetime, count: int) -> list[str]:
    found, at = [], begins.replace(tzinfo=zone).astimezone(UTC) - timedelta(seconds=1)
    for _ in range(count):
        following = next_of(rule, begins, zone, at)
        if following is None:
            break
        at = following
        found.append(at.astimezone(zone).strftime("%Y-%m-%d %H:%M %Z"))
    return found


@pytest.mark.parametrize(
    ("rule", "begins", "wanted"),
    [
        ("FREQ=DAILY;COUNT=3", BEGINS, ["1997-09-02 09:00 EDT", "1997-09-03 09:00 EDT", "1997-09-04 09:00 EDT"]),
        ("FREQ=WEEKLY;INTERVAL=2;WKST=SU", BEGINS,
         ["1997-09-02 09:00 EDT", "1997-09-16 09:00 EDT", "1997-09-30 09:00 EDT", "1997-10-14 09:00 EDT",
          "1997-10-28 09:00 EST"]),
        ("FREQ=MONTHLY;COUNT=10;BYDAY=1FR", datetime.fromisoformat("1997-09-05T09:00"),
         ["1997-09-05 09:00 EDT", "1997-10-03 09:00 EDT", "1997-11-07 09:00 EST", "1997-12-05 09:00 EST"]),
        ("FREQ=MONTHLY;BYMONTHDAY=-3", datetime.fromisoformat("1997-09-28T09:00"),
         ["1997-09-28 09:00 EDT", "1997-10-29 09:00 EST", "1997-11-28 09:00 EST", "1997-12-29 09:00 EST",
          "1998-01-29 09:00 EST", "1998-02-26 09:00 EST"]),
    ],
)  # fmt: skip
def test_rules_give_the_times_of_the_standard(rule: str, begins: datetime, wanted: list[str]) -> None:
    assert times(rule, NEW_YORK, begins, len(wanted)) == wanted


def test_a_time_stays_itself_when_the_clocks_change_and_comes_once_a_day() -> None:
    # Lisbon went forward on 29 March 2026 at 01:00 and back on 25 October 2026 at 02:00.
    told = times("FREQ=DAILY", LISBON, datetime.fromisoformat("2026-03-27T07:00"), 4)
    assert [t[11:] for t in told] == ["07:00 WET", "07:00 WET", "07:00 WEST", "07:00 WEST"]
    # 01:30 does not exist that night: by the offset before the gap it is 02:30 (RFC 5545, 3.3.5).
    assert times("FREQ=DAILY", LISBON, datetime.fromisoformat("2026-03-28T01:30"), 3) == [
        "2026-03-28 01:30 WET", "2026-03-29 02:30 WEST", "2026-03-30 01:30 WEST",
    ]  # fmt: skip
    # 01:30 comes twice that night, and is meant once.
    assert times("FREQ=DAILY", LISBON, datetime.fromisoformat("2026-10-24T01:30"), 3) == [
        "2026-10-24 01:30 WEST", "2026-10-25 01:30 WEST", "2026-10-26 01:30 WET",
    ]  # fmt: skip


@pytest.mark.parametrize("rule", ["", "FREQ=NEVER", "every morning", "FREQ=DAILY;COUNT=x", "BYDAY=MO"])
def test_what_is_no_rule_is_refused(rule: str) -> None:
    with pytest.raises(ValidationError):
        next_of(rule, BEGINS, NEW_YORK, datetime(1998, 1, 1, tzinfo=UTC))


def test_a_rule_that_ended_is_due_no_more() -> None:
    assert next_of("FREQ=DAILY;COUNT=2", BEGINS, NEW_YORK, datetime(1998, 1, 1, tzinfo=UTC)) is None


@pytest.fixture
def asked(monkeypatch: pytest.MonkeyPatch) -> list[tuple[str, datetime]]:
    found: list[tuple[str, datetime]] = []
    due = Due(ask=lambda brand, at: found.append((brand.slug, at)), hour=6)
    monkeypatch.setattr(DUE, "_values", {"morning": due})
    return found


def at(monkeypatch: pytest.MonkeyPatch, instant: str) -> None:
    monkeypatch.setenv("DAKIKA_FIXED_NOW", instant)


def test_each_brand_has_its_own_morning(db: Any, monkeypatch: pytest.MonkeyPatch, asked: Any) -> None:
    at(monkeypatch, "2026-11-09T12:00:00+00:00")
    for slug, zone in (("lisbon", "Europe/Lisbon"), ("auckland", "Pacific/Auckland"), ("katmandu", "Asia/Kathmandu")):
        ensure_schedules(Brand.objects.create(name=slug, slug=slug, time_zone=zone))
    assert sweep() == 0
    for hour in range(12, 37):
        at(monkeypatch, (datetime(2026, 11, 9, tzinfo=UTC) + timedelta(hours=hour, minutes=20)).isoformat())
        sweep()
    assert sorted((slug, when.astimezone(Brand.objects.get(slug=slug).zone).strftime("%H:%M")) for slug, when in asked) \
        == [("auckland", "06:00"), ("katmandu", "06:00"), ("lisbon", "06:00")]  # fmt: skip


def test_what_was_missed_is_due_once(db: Any, brand: Brand, monkeypatch: pytest.MonkeyPatch, asked: Any) -> None:
    at(monkeypatch, "2026-11-01T12:00:00+00:00")
    ensure_schedules(brand)
    ensure_schedules(brand)
    at(monkeypatch, "2026-11-09T12:00:00+00:00")
    assert (sweep(), sweep()) == (1, 0)
    assert len(asked) == 1
    assert Schedule.objects.get().next_at == datetime(2026, 11, 10, 6, tzinfo=UTC)


def test_a_brand_that_moves_keeps_its_morning(
    db: Any, brand: Brand, editor: Any, monkeypatch: pytest.MonkeyPatch, asked: Any
) -> None:
    at(monkeypatch, "2026-11-09T12:00:00+00:00")
    ensure_schedules(brand)
    change_brand(editor, brand, name=brand.name, time_zone="Asia/Tokyo", first_weekday=0)
    found = Schedule.objects.get()
    assert found.next_at is not None
    assert found.next_at.astimezone(ZoneInfo("Asia/Tokyo")).strftime("%H:%M") == "06:00"


def test_asking_and_moving_on_stand_or_fall_together(
    db: Any, brand: Brand, monkeypatch: pytest.MonkeyPatch, asked: Any
) -> None:
    at(monkeypatch, "2026-11-09T12:00:00+00:00")
    ensure_schedules(brand)
    before = Schedule.objects.get().next_at

    def broken(brand: Brand, when: datetime) -> None:
        raise RuntimeError("the queue is away")

    monkeypatch.setattr(DUE, "_values", {"morning": Due(ask=broken)})
    at(monkeypatch, "2026-11-10T12:00:00+00:00")
    with pytest.raises(RuntimeError):
        sweep()
    assert Schedule.objects.get().next_at == before
