"""Of which days do we have everything, something, nothing?"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from functools import cached_property
from itertools import groupby


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

    @cached_property
    def holes(self) -> list[tuple[date, date, DayState]]:
        """Runs of days that are missing or partial: first day, last day, state."""
        found: list[tuple[date, date, DayState]] = []
        at = 0
        for state, group in groupby(self.states):
            length = sum(1 for _ in group)
            if state is DayState.MISSING or state is DayState.PARTIAL:
                day = self.first + timedelta(days=at)
                found.append((day, day + timedelta(days=length - 1), state))
            at += length
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
    days = (last - first).days + 1
    known = days if known_since is None else max(0, (known_since - first).days)
    followed = (followed_since - first).days
    readings = {(day - first).days for day in reading_days}
    runs = {(day - first).days: is_whole for day, is_whole in run_days.items()}
    states = [DayState.BEFORE] * min(known, days)
    for i in range(len(states), days):
        if i in readings and (i < followed or runs.get(i, False)):
            states.append(DayState.COMPLETE)
        elif i in readings or i in runs:
            states.append(DayState.PARTIAL)
        else:
            states.append(DayState.MISSING)
    if states and states[-1] is DayState.MISSING:
        states[-1] = DayState.PARTIAL
    return Coverage(first=first, states=tuple(states))
