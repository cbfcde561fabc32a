"""Of which days do we have everything, something, nothing?"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum


class DayState(StrEnum):
    """How a profile's day is covered. Before: the profile was not yet there or its history is not given."""

    COMPLETE = "complete"
    PARTIAL = "partial"
    MISSING = "missing"
    BEFORE = "before"


@dataclass(frozen=True, kw_only=True)
class Coverage:
    """A profile's days, oldest first, as one state each; and the holes in them."""

    first: date
    states: tuple[DayState, ...]

    @property
    def holes(self) -> list[tuple[date, date, DayState]]:
        """Runs of days that are missing or partial: first day, last day, state."""
        found: list[tuple[date, date, DayState]] = []
        for i, state in enumerate(self.states):
            day = self.first + timedelta(days=i)
            if state not in (DayState.MISSING, DayState.PARTIAL):
                continue
            if found and found[-1][2] is state and found[-1][1] == day - timedelta(days=1):
                found[-1] = (found[-1][0], day, state)
            else:
                found.append((day, day, state))
        return found


def coverage_of(
    *,
    first: date,
    last: date,
    reading_days: Iterable[date],
    run_days: Mapping[date, bool],
    followed_since: date,
    known_since: date | None,
) -> Coverage:
    """State of each day from first to last.

    reading_days have a reading of the profile; run_days are the days on which a collection ran,
    True where at least one was complete. A day is complete when it has a reading, and, from
    followed_since on, when a complete collection ran on it too. Days before known_since (the
    first thing we know; None when we know nothing) are not holes. The last day, which is
    today, is not yet missing.
    """
    readings = set(reading_days)
    states = []
    for i in range((last - first).days + 1):
        day = first + timedelta(days=i)
        has_reading = day in readings
        if known_since is None or day < known_since:
            state = DayState.BEFORE
        elif has_reading and (day < followed_since or run_days.get(day, False)):
            state = DayState.COMPLETE
        elif has_reading or day in run_days:
            state = DayState.PARTIAL
        else:
            state = DayState.MISSING
        if day == last and state is DayState.MISSING:
            state = DayState.PARTIAL
        states.append(state)
    return Coverage(first=first, states=tuple(states))
