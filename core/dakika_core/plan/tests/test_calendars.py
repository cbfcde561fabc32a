"""Promise: an event of somebody's calendar stands on the days, and at the hour, that RFC 5545 gives it.

Repetitions are held against python-dateutil and against the examples that RFC 5545, 3.8.5.3, prints (from memory).
"""

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from dateutil.rrule import rrulestr
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.calendars import CalendarError, Event, calendar_name, events_between

LISBON = ZoneInfo("Europe/Lisbon")
YEAR = (date(2026, 1, 1), date(2026, 12, 31))


def calendar(*events: str, head: str = "") -> bytes:
    body = "".join(f"BEGIN:VEVENT\r\n{event.strip()}\r\nEND:VEVENT\r\n" for event in events)
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Orrery House//EN\r\n{head}{body}END:VCALENDAR\r\n".encode()


def read(*events: str, first: date = YEAR[0], last: date = YEAR[1], zone: ZoneInfo = LISBON) -> list[Event]:
    return events_between(calendar(*events), first, last, zone)


def test_whole_days_end_before_their_end() -> None:
    (found,) = read(
        "UID:a\r\nSUMMARY:Closed for the inventory\r\nDTSTART;VALUE=DATE:20260301\r\nDTEND;VALUE=DATE:20260304"
    )
    assert (found.first, found.last, found.at) == (date(2026, 3, 1), date(2026, 3, 3), None)
    (one,) = read("UID:b\r\nSUMMARY:A day\r\nDTSTART;VALUE=DATE:20260301")
    assert (one.first, one.last) == (date(2026, 3, 1), date(2026, 3, 1))


def test_an_hour_is_told_in_the_readers_zone() -> None:
    (found,) = read("UID:a\r\nSUMMARY:x\r\nDTSTART;TZID=America/New_York:20260310T190000\r\nDURATION:PT2H")
    assert found.at is not None
    # Already summer time there and not yet here: four hours between them instead of five.
    assert found.at.astimezone(LISBON).isoformat() == "2026-03-10T23:00:00+00:00"
    assert (found.first, found.last) == (date(2026, 3, 10), date(2026, 3, 11))


def test_at_eight_stays_at_eight_when_the_clocks_change() -> None:
    found = read("UID:a\r\nSUMMARY:x\r\nDTSTART;TZID=Europe/Lisbon:20260327T080000\r\nRRULE:FREQ=DAILY;COUNT=4")
    assert [one.at.astimezone(LISBON).strftime("%d %H:%M") for one in found if one.at] == [
        "27 08:00", "28 08:00", "29 08:00", "30 08:00",
    ]  # fmt: skip
    assert found[1].at is not None
    assert found[2].at is not None
    assert found[2].at - found[1].at == timedelta(hours=23)


def test_what_was_called_off_left_out_or_moved() -> None:
    found = read(
        "UID:a\r\nSUMMARY:Tour\r\nDTSTART;TZID=Europe/Lisbon:20260105T100000\r\nRRULE:FREQ=WEEKLY;COUNT=4\r\n"
        "EXDATE;TZID=Europe/Lisbon:20260112T100000",
        "UID:a\r\nSUMMARY:Tour, moved\r\nRECURRENCE-ID;TZID=Europe/Lisbon:20260119T100000\r\n"
        "DTSTART;TZID=Europe/Lisbon:20260120T150000",
        "UID:b\r\nSUMMARY:Gone\r\nSTATUS:CANCELLED\r\nDTSTART;VALUE=DATE:20260105",
    )
    assert [(one.first.day, one.text) for one in found] == [(5, "Tour"), (20, "Tour, moved"), (26, "Tour")]


def test_the_printed_examples_of_the_standard() -> None:
    """Every other week until an end in UTC; the last work day of the month; Friday the 13th."""
    start = "DTSTART;TZID=America/New_York:19970902T090000\r\nUID:a\r\nSUMMARY:x\r\n"
    span = {"first": date(1997, 1, 1), "last": date(1998, 12, 31), "zone": ZoneInfo("America/New_York")}
    until = read(start + "RRULE:FREQ=DAILY;UNTIL=19971224T000000Z", **span)  # type: ignore[arg-type]
    assert (until[0].first, until[-1].first, len(until)) == (date(1997, 9, 2), date(1997, 12, 23), 113)
    last = read(start + "RRULE:FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1;COUNT=3", **span)  # type: ignore[arg-type]
    assert [one.first for one in last] == [date(1997, 9, 30), date(1997, 10, 31), date(1997, 11, 28)]
    friday = read(
        start + "EXDATE;TZID=America/New_York:19970902T090000\r\nRRULE:FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13", **span  # type: ignore[arg-type]
    )  # fmt: skip
    assert [one.first for one in friday] == [date(1998, 2, 13), date(1998, 3, 13), date(1998, 11, 13)]


RULES = st.builds(
    "FREQ={};INTERVAL={};COUNT={}{}".format, st.sampled_from(["DAILY", "WEEKLY", "MONTHLY", "YEARLY"]),
    st.integers(1, 5), st.integers(1, 30), st.sampled_from(["", ";BYDAY=MO,TH", ";BYMONTHDAY=31", ";BYMONTH=2,10"]),
)  # fmt: skip


# Clocks without a zone, as a calendar writes them.
NAIVE = [datetime.fromisoformat(told) for told in ("2024-01-01", "2026-06-01", "2026-01-01", "2026-12-31T23:59")]


@given(RULES, st.datetimes(NAIVE[0], NAIVE[1]))
def test_repetitions_are_those_of_the_reference(rule: str, start: datetime) -> None:
    start = start.replace(second=0, microsecond=0)
    found = read(f"UID:a\r\nSUMMARY:x\r\nDTSTART:{start:%Y%m%dT%H%M%S}\r\nRRULE:{rule}")
    wanted = rrulestr(rule, dtstart=start).between(NAIVE[2], NAIVE[3], inc=True)
    assert [one.at.astimezone(LISBON).replace(tzinfo=None) for one in found if one.at] == [
        # An hour that the clocks leave out is told as the one after it.
        one.replace(tzinfo=LISBON).astimezone(ZoneInfo("UTC")).astimezone(LISBON).replace(tzinfo=None)
        for one in wanted
    ]


@pytest.mark.parametrize(
    "content", [b"", b"\x00\xff" * 50, b"BEGIN:VCALENDAR", b"<html>no</html>", b"BEGIN:VEVENT\r\nEND:VEVENT"]
)
def test_what_is_no_calendar_is_refused_or_empty(content: bytes) -> None:
    try:
        assert events_between(content, *YEAR, LISBON) == []
    except CalendarError as error:
        assert "calendar" in str(error)


def test_rules_that_repeat_within_a_day_and_events_without_a_beginning_cost_nothing() -> None:
    found = read(
        "UID:a\r\nSUMMARY:x\r\nDTSTART:20260101T000000Z\r\nRRULE:FREQ=SECONDLY", "UID:b\r\nSUMMARY:no beginning",
        "UID:c\r\nDTSTART;VALUE=DATE:20260201",
    )  # fmt: skip
    assert [one.text for one in found] == ["x", "(no title)"]


def test_what_it_calls_itself() -> None:
    assert calendar_name(calendar(head="X-WR-CALNAME:School\\, holidays\r\n")) == "School, holidays"
    assert calendar_name(calendar()) == ""
