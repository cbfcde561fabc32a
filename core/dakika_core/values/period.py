"""Periods of whole days in a time zone, and the periods they are held against.

A day is a calendar day of the brand's time zone: at a change of clocks it has 23 or 25
hours and is still one day. Instants are aware datetimes; periods are half-open.
"""

from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from enum import StrEnum
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

HOURS_PER_WEEK = 168


class Comparison(StrEnum):
    """How the comparison period is chosen."""

    PREVIOUS = "previous"
    ALIGNED = "aligned"
    YEAR_BEFORE = "year_before"


@dataclass(frozen=True, kw_only=True)
class Period:
    """The days from `first` to `last`, both included, in `zone`.

    Raises ValueError when `last` is before `first`.
    """

    first: date
    last: date
    zone: ZoneInfo

    def __post_init__(self) -> None:
        if self.last < self.first:
            raise ValueError("a period ends on or after the day it starts on")

    @property
    def start(self) -> datetime:
        """First instant of the period, UTC."""
        return start_of_day(self.first, self.zone)

    @property
    def end(self) -> datetime:
        """First instant after the period, UTC."""
        return start_of_day(self.last + timedelta(days=1), self.zone)

    @property
    def days(self) -> int:
        """Number of calendar days."""
        return (self.last - self.first).days + 1

    @property
    def hours(self) -> float:
        """Real length in hours, changes of clocks included."""
        return (self.end - self.start).total_seconds() / 3600

    def dates(self) -> list[date]:
        """Every day of the period, in order."""
        return [self.first + timedelta(days=i) for i in range(self.days)]

    def compared(self, how: Comparison) -> "Period":
        """The period this one is held against.

        previous: same length, immediately before. aligned: moved back by whole weeks, so that
        weekdays match. year before: the same ISO week and weekday a year earlier (ISO 8601);
        week 53 falls back on week 52 where the earlier year has none.
        """
        if how is Comparison.PREVIOUS:
            back = timedelta(days=self.days)
        elif how is Comparison.ALIGNED:
            back = timedelta(weeks=-(-self.days // 7))
        else:
            back = self.first - same_iso_day_a_year_before(self.first)
        return Period(first=self.first - back, last=self.last - back, zone=self.zone)

    def whole_days(self, today: date) -> int:
        """How many of its days are over."""
        return min(self.days, max(0, (today - self.first).days))

    def first_days(self, days: int) -> "Period":
        """Its first `days` days, one at least."""
        return Period(
            first=self.first, last=self.first + timedelta(days=max(1, min(days, self.days)) - 1), zone=self.zone
        )


def same_iso_day_a_year_before(day: date) -> date:
    """The day of the same ISO week and weekday in the ISO year before."""
    year, week, weekday = day.isocalendar()
    try:
        return date.fromisocalendar(year - 1, week, weekday)
    except ValueError:
        return date.fromisocalendar(year - 1, 52, weekday)


def start_of_day(day: date, zone: ZoneInfo) -> datetime:
    """First instant of a calendar day, UTC. A day that the zone skipped starts where the next one does."""
    local = datetime.combine(day, time(), tzinfo=zone)
    instant = local.astimezone(UTC)
    # Midnight itself can fall into the hour that the clocks skip: then the day starts later.
    while instant.astimezone(zone).date() < day:
        instant += timedelta(minutes=15)
    return instant


def hour_of_week(instant: datetime, zone: ZoneInfo) -> float:
    """Hour of the ISO week, 0 <= h < 168, Monday 00:00 local = 0, with minutes as a fraction."""
    local = instant.astimezone(zone)
    return local.weekday() * 24 + local.hour + local.minute / 60 + local.second / 3600


def real_hours_by_hour_of_week(period: Period) -> NDArray[np.float64]:
    """How many real hours of each hour of week a period holds: shape (168,), hours.

    An hour that occurs twice at a change of clocks counts twice, a skipped one not at all.
    Counted in quarter hours, since some zones shift by half an hour.
    """
    counts = np.zeros(HOURS_PER_WEEK)
    instant = period.start
    while instant < period.end:
        counts[int(hour_of_week(instant, period.zone))] += 0.25
        instant += timedelta(minutes=15)
    return counts


def shift_hours(curve: NDArray[np.float64], hours: float) -> NDArray[np.float64]:
    """A curve over the 168 hours, moved later by `hours` on the circle (fractions interpolate)."""
    grid = np.arange(HOURS_PER_WEEK)
    return np.asarray(
        np.interp((grid - hours) % HOURS_PER_WEEK, np.arange(HOURS_PER_WEEK + 1), np.append(curve, curve[0]))
    )
