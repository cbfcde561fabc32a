"""Hours in which nobody wants a letter, and the hour at which the day's letters come together.

Clocks are local and without a date: 22:00 stays 22:00 when the clocks change. What falls into an hour that a night
does not have comes as soon as that hour would have been over (RFC 5545, 3.3.5: the offset before the gap is kept).

In the trade's words: do not disturb, quiet hours.
"""

from dataclasses import dataclass
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo


@dataclass(frozen=True, kw_only=True)
class Hours:
    """A person's hours. quiet_from, quiet_to: a span of the day, over midnight where it ends before it begins; none
    where either is None or both are the same. digest_at: when the day's letter comes.
    """

    zone: ZoneInfo
    quiet_from: time | None = None
    quiet_to: time | None = None
    digest_at: time = time(8)


def is_quiet(hours: Hours, at: datetime) -> bool:
    """Whether an instant falls into the quiet hours."""
    if hours.quiet_from is None or hours.quiet_to is None or hours.quiet_from == hours.quiet_to:
        return False
    clock = at.astimezone(hours.zone).time()
    if hours.quiet_from < hours.quiet_to:
        return hours.quiet_from <= clock < hours.quiet_to
    return clock >= hours.quiet_from or clock < hours.quiet_to


def soon(hours: Hours, now: datetime) -> datetime:
    """When a letter goes out that is wanted at once: now, or at the end of the quiet hours."""
    if not is_quiet(hours, now) or hours.quiet_to is None:
        return now
    found = _next(hours.zone, hours.quiet_to, now)
    # In the night in which an hour comes twice the end of the quiet hours may, too: it is over after the second.
    while is_quiet(hours, found):
        found += timedelta(minutes=15)
    return found


def daily(hours: Hours, now: datetime) -> datetime:
    """When the day's letter goes out that tells of what happens now. A digest within the quiet hours was asked for."""
    return _next(hours.zone, hours.digest_at, now)


def _next(zone: ZoneInfo, clock: time, now: datetime) -> datetime:
    """The first instant after now at which a clock shows a time."""
    today = now.astimezone(zone).date()
    for days in (0, 1, 2):
        found = datetime.combine(today + timedelta(days=days), clock, zone).astimezone(UTC)
        if found > now:
            return found
    raise AssertionError("a day later it is later")
