"""From being seen to being bought: each step's rate with its interval, and where attention and visits part.

In the trade's words: conversion funnel, drop-off.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from dakika_core.metrics.rates import wilson_interval
from dakika_core.values.figure import Interval

FEWEST_SEEN = 200
APART = 2.0


@dataclass(frozen=True, kw_only=True)
class Rate:
    """A part of a whole with its interval (Wilson); none where the part is larger than what it is held against."""

    value: float | None
    interval: Interval | None
    part: int
    whole: int


@dataclass(frozen=True, kw_only=True)
class Funnel:
    """Counts of a post or a group of posts. None where nobody tells: missing is never zero."""

    key: str
    impressions: int | None
    clicks: int | None
    visits: int
    conversions: int
    cents: int

    @property
    def click_rate(self) -> Rate:
        """Our clicks by impressions."""
        return rate_of(self.clicks, self.impressions)

    @property
    def visit_rate(self) -> Rate:
        """Visits by clicks: how many arrive and wait for the page."""
        return rate_of(self.visits, self.clicks)

    @property
    def conversion_rate(self) -> Rate:
        """Conversions by visits."""
        return rate_of(self.conversions, self.visits)

    @property
    def cents_per_click(self) -> float | None:
        """Value by click."""
        return self.cents / self.clicks if self.clicks else None


def rate_of(part: int | None, whole: int | None) -> Rate:
    """A rate; missing where one of the two is, or nothing stands below."""
    if part is None or not whole:
        return Rate(value=None, interval=None, part=part or 0, whole=whole or 0)
    interval = wilson_interval(part, whole) if part <= whole else None
    return Rate(value=part / whole, interval=interval, part=part, whole=whole)


def summed(key: str, rows: Sequence[Funnel]) -> Funnel:
    """Counts added up over the rows alone that have impressions and clicks, so that rates are of one thing."""
    both = [row for row in rows if row.impressions is not None and row.clicks is not None]
    return Funnel(
        key=key, impressions=sum(row.impressions or 0 for row in both) if both else None,
        clicks=sum(row.clicks or 0 for row in both) if both else None, visits=sum(row.visits for row in both or rows),
        conversions=sum(row.conversions for row in both or rows), cents=sum(row.cents for row in both or rows),
    )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Apart:
    """Posts whose visits do not go with their attention, the clearest first."""

    quiet: list[Funnel]
    busy: list[Funnel]


def attention_apart(rows: Sequence[Funnel]) -> Apart:
    """Much attention and hardly a visit; little attention and many.

    A post is named only where its interval is clear: its rate of visits by impressions is surely
    less than half, or surely more than twice, that of all posts together; the first among the
    half of posts seen most, the second among the other half. Posts seen fewer than 200 times say
    nothing of attention, and are named on neither side.
    """
    told = [row for row in rows if (row.impressions or 0) >= FEWEST_SEEN and row.clicks is not None]
    seen, visits = sum(row.impressions or 0 for row in told), sum(row.visits for row in told)
    if len(told) < 4 or not visits:
        return Apart(quiet=[], busy=[])
    usual = visits / seen
    middle = sorted(row.impressions or 0 for row in told)[len(told) // 2]
    quiet, busy = [], []
    for row in told:
        rate = rate_of(row.visits, row.impressions)
        if rate.interval is None:
            continue
        if (row.impressions or 0) >= middle and rate.interval.high < usual / APART:
            quiet.append(row)
        if (row.impressions or 0) < middle and rate.interval.low > usual * APART:
            busy.append(row)
    return Apart(
        quiet=sorted(quiet, key=lambda row: -(row.impressions or 0)),
        busy=sorted(busy, key=lambda row: -row.visits / max(1, row.impressions or 0)),
    )
