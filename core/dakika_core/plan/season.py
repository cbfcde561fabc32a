"""When a link had its busiest weeks: a description of one year, which says nothing of the next by itself.

In the trade's words: seasonality.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
# A link is clicked most when it is new: its first weeks are no season.
NEW_DAYS, WEEKS = 28, 6
FEWEST_DAYS, FEWEST_CLICKS = 300, 50
# Fewer times the clicks of the other days than this is no season worth naming.
LEAST_TIMES = 2.0


@dataclass(frozen=True, kw_only=True)
class Busiest:
    """Six weeks of the last year, both days counted in. times: its clicks a day by those of the other days."""

    first: date
    last: date
    clicks: int
    times: float


def busiest_weeks(made: date, today: date, days: Sequence[date], clicks: Sequence[int]) -> Busiest | None:
    """The six weeks of the last year with most clicks; None where nothing stands out, or where too little is known.

    made: the day on which the link was made; days, clicks: those with any. The first four weeks of a link are left out.
    """
    first = max(made + timedelta(days=NEW_DAYS), today - timedelta(days=365))
    span = (today - first).days
    if span < FEWEST_DAYS:
        return None
    counts: Array = np.zeros(span)
    for day, number in zip(days, clicks, strict=True):
        if first <= day < today:
            counts[(day - first).days] += number
    length = 7 * WEEKS
    sums = np.convolve(counts, np.ones(length), mode="valid")
    begin = int(np.argmax(sums))
    inside, outside = float(sums[begin]), float(counts.sum() - sums[begin])
    if inside < FEWEST_CLICKS:
        return None
    times = (inside / length) / max(outside / (span - length), 1e-9)
    if times < LEAST_TIMES:
        return None
    start = first + timedelta(days=begin)
    return Busiest(first=start, last=start + timedelta(days=length - 1), clicks=int(inside), times=times)


def next_time(month: int, day: int, today: date) -> date:
    """The next day of the year, today counted in; the 29th of February is the 28th where there is none."""
    for year in (today.year, today.year + 1):
        try:
            found = date(year, month, day)
        except ValueError:
            found = date(year, month, 28)
        if found >= today:
            return found
    raise AssertionError("a day of the year comes within two years")
