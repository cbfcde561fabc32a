"""Calendars of others (RFC 5545): the days and hours that their events take within some days.

Read with the icalendar package; repetitions are worked out by python-dateutil in the event's own clock, so that an
event at eight stays at eight when the clocks change. Pure, and run in a child with bounds: strangers wrote it.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from dateutil.rrule import rruleset, rrulestr
from icalendar import Calendar

LONGEST_TEXT = 200
MOST_EVENTS = 5_000
# What the package raises on what is broken, and what taking it apart does: CalendarError is a ValueError itself.
_BROKEN = (ValueError, KeyError, IndexError, TypeError, AttributeError, OverflowError)
# Rules that repeat within a day are no dates to plan by: of those the first alone is kept.
_EVERY_DAY_AT_MOST = ("DAILY", "WEEKLY", "MONTHLY", "YEARLY")


class CalendarError(ValueError):
    """What was given is no calendar; the text says so, for people."""


@dataclass(frozen=True, kw_only=True)
class Event:
    """An event's days, both counted in, in the reader's zone; at is its instant where it has an hour."""

    uid: str
    first: date
    last: date
    at: datetime | None
    text: str


def calendar_name(content: bytes) -> str:
    """What a calendar calls itself (RFC 7986 NAME, else the older X-WR-CALNAME), or nothing. Raises CalendarError."""
    calendar = _read(content)
    # The older one is nobody's standard, so that the package leaves its escapes (3.3.11) as they are.
    older = str(calendar.get("X-WR-CALNAME") or "").replace("\\,", ",").replace("\\;", ";")
    return _words(calendar.get("NAME") or older)


def events_between(content: bytes, first: date, last: date, zone: ZoneInfo) -> list[Event]:
    """Events that touch the days first to last, in order; at most some thousands.

    Events that were called off are left out; those moved alone (RECURRENCE-ID) stand where they were moved to. A time
    without a zone is taken as one of the reader's. Raises CalendarError.
    """
    try:
        return _events(content, first, last, zone)
    except _BROKEN as error:
        raise CalendarError("An event of this calendar is not written as iCalendar has it.") from error


def _events(content: bytes, first: date, last: date, zone: ZoneInfo) -> list[Event]:
    entries: list[Any] = [entry for entry in _read(content).walk("VEVENT") if entry.get("DTSTART") is not None]
    moved = {(_uid(entry), _naive(entry["RECURRENCE-ID"].dt)) for entry in entries if "RECURRENCE-ID" in entry}
    found: list[Event] = []
    for entry in entries:
        if str(entry.get("STATUS", "")).upper() == "CANCELLED":
            continue
        for begin in _begins(entry, first, last, moved):
            event = _event(entry, begin, zone)
            if event.last >= first and event.first <= last:
                found.append(event)
            if len(found) >= MOST_EVENTS:
                break
    return sorted(found, key=lambda one: (one.first, one.at or datetime.min.replace(tzinfo=UTC), one.text))[
        :MOST_EVENTS
    ]


def _read(content: bytes) -> Calendar:
    try:
        return Calendar.from_ical(content)
    except _BROKEN as error:
        raise CalendarError("What is there is no calendar in the iCalendar format.") from error


def _uid(entry: Any) -> str:
    return str(entry.get("UID", ""))[:300]


def _words(text: object) -> str:
    return " ".join(str(text).replace("\x00", "").split())[:LONGEST_TEXT]


def _naive(when: date | datetime) -> datetime:
    """A day's midnight, or a time as its own clock shows it."""
    return when.replace(tzinfo=None) if isinstance(when, datetime) else datetime.combine(when, time())


def _length(entry: Any) -> timedelta:
    """How long it takes: to its end, or its duration, else a whole day or an instant (RFC 5545, 3.6.1)."""
    start, end, none = entry["DTSTART"].dt, entry.get("DTEND"), timedelta()
    if end is not None:
        return max(none, _naive(end.dt) - _naive(start))
    if entry.get("DURATION") is not None:
        told: timedelta = entry["DURATION"].dt
        return max(none, told)
    return none if isinstance(start, datetime) else timedelta(days=1)


def _begins(entry: Any, first: date, last: date, moved: set[tuple[str, datetime]]) -> Iterator[datetime]:
    """When it begins, by its own clock, as far as it may touch the days."""
    start, rule = entry["DTSTART"].dt, entry.get("RRULE")
    naive = _naive(start)
    if "RECURRENCE-ID" in entry or (rule is None and entry.get("RDATE") is None):
        yield naive
        return
    every: Any = rruleset()
    if isinstance(rule, list):
        rule = rule[0]
    if rule is not None and str(rule.get("FREQ", [""])[0]).upper() in _EVERY_DAY_AT_MOST:
        every.rrule(rrulestr(_rule_text(rule, start), dtstart=naive))
    else:
        every.rdate(naive)
    for name, put in (("RDATE", every.rdate), ("EXDATE", every.exdate)):
        for one in _dates(entry.get(name)):
            put(_naive(one))
    # A day to each side: the event's clock is not the reader's.
    low = datetime.combine(first, time()) - _length(entry) - timedelta(days=1)
    for begin in every.xafter(low, inc=True):
        if begin > datetime.combine(last, time()) + timedelta(days=2):
            return
        if (_uid(entry), begin) not in moved:
            yield begin


def _rule_text(rule: Any, start: date | datetime) -> str:
    """The rule as text, its end in the clock of its beginning: an end in UTC may be another day there."""
    parts = dict(rule)
    for told in parts.pop("UNTIL", []):
        clock = start.tzinfo if isinstance(start, datetime) else None
        until = told.astimezone(clock) if clock and isinstance(told, datetime) and told.tzinfo else told
        end = _naive(until) if isinstance(until, datetime) else datetime.combine(until, time(23, 59, 59))
        parts["UNTIL"] = [end]
    texts = {key: ",".join(_said(value) for value in _as_list(values)) for key, values in parts.items()}
    return ";".join(f"{key}={value}" for key, value in texts.items() if not key.startswith("X-"))


def _said(value: Any) -> str:
    return value.strftime("%Y%m%dT%H%M%S") if isinstance(value, datetime) else str(value)


def _as_list(values: Any) -> list[Any]:
    return values if isinstance(values, list) else [values]


def _dates(told: Any) -> Iterator[date | datetime]:
    for several in _as_list(told) if told is not None else []:
        for one in several.dts:
            # A period (RDATE;VALUE=PERIOD) begins with its first half.
            yield one.dt[0] if isinstance(one.dt, tuple) else one.dt


def _event(entry: Any, begin: datetime, zone: ZoneInfo) -> Event:
    start, length, text = entry["DTSTART"].dt, _length(entry), _words(entry.get("SUMMARY", "")) or "(no title)"
    if not isinstance(start, datetime):
        days = max(1, length.days)
        return Event(
            uid=_uid(entry), first=begin.date(), last=begin.date() + timedelta(days=days - 1), at=None, text=text
        )
    if "RECURRENCE-ID" in entry or start.tzinfo is None:
        at = begin.replace(tzinfo=start.tzinfo or zone)
    else:
        at = begin.replace(tzinfo=start.tzinfo)
    local, end = at.astimezone(zone), (at.astimezone(UTC) + length).astimezone(zone)
    # What ends at midnight is over before that day.
    last = (end - timedelta(microseconds=1)).date() if length else local.date()
    return Event(uid=_uid(entry), first=local.date(), last=max(local.date(), last), at=at.astimezone(UTC), text=text)
