"""Figures that know how they were made."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Interval:
    """An interval for a figure, at a level such as .95."""

    low: float
    high: float
    level: float = 0.95


@dataclass(frozen=True, kw_only=True)
class Figure:
    """A figure with what it was made from.

    value is None when nothing is known; it is never 0 for want of data. n counts the items
    (posts, days, profiles) that entered, missing those that should have and could not.
    """

    value: float | None
    n: int = 0
    missing: int = 0
    numerator: float | None = None
    denominator: float | None = None
    interval: Interval | None = None


@dataclass(frozen=True, kw_only=True)
class Change:
    """A figure against its comparison: difference in the figure's unit, and relative where it can be said."""

    difference: float | None
    relative: float | None


def change(now: float | None, before: float | None) -> Change:
    """How far `now` is from `before`; relative is missing when `before` is missing or zero."""
    if now is None or before is None:
        return Change(difference=None, relative=None)
    relative = (now - before) / abs(before) if before else None
    return Change(difference=now - before, relative=relative)
