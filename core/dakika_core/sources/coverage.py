"""Of which days do we have everything, something, nothing?

In the trade's words: data completeness, missing data.
"""

from dataclasses import dataclass
from datetime import date
from enum import StrEnum


class DayState(StrEnum):
    """How a profile's day is covered. Before: the profile was not yet there or its history is not given."""

    COMPLETE = "complete"
    PARTIAL = "partial"
    MISSING = "missing"
    BEFORE = "before"

    @property
    def letter(self) -> str:
        """What stands for it in a strip."""
        return self.value[0]


@dataclass(frozen=True, kw_only=True)
class Coverage:
    """A profile's days from `first` on, oldest first, a letter each (c, p, m, b)."""

    first: date
    strip: str

    def count(self, state: DayState) -> int:
        """How many days are so."""
        return self.strip.count(state.letter)


def coverage_of(
    *, first: date, readings: str, runs: str, whole_runs: str, followed_since: date, known_since: date | None
) -> Coverage:
    """State of each day from first on.

    readings, runs and whole_runs have a character a day, "1" where the profile has a reading, where
    a collection ran, and where at least one that ran was complete. A day is complete when it has a
    reading, and, from followed_since on, when a complete collection ran on it too. Days before
    known_since (the first thing we know; None when we know nothing) are not holes. The last day,
    which is today, is not yet missing.
    """
    days = len(readings)
    known = days if known_since is None else min(days, max(0, (known_since - first).days))
    followed = min(days, max(0, (followed_since - first).days))
    # Before it was followed no collection was due: a reading is all there is to have.
    due = "1" * followed + whole_runs[followed:]
    strip = "".join(
        "c" if read == done == "1" else "p" if read == "1" or ran == "1" else "m"
        for read, ran, done in zip(readings[known:], runs[known:], due[known:], strict=True)
    )
    if strip.endswith("m"):
        strip = f"{strip[:-1]}p"
    return Coverage(first=first, strip="b" * known + strip)
