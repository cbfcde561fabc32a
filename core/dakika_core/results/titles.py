"""What a chart may say of itself, by rule, and only when the data carry it."""

from dataclasses import dataclass
from datetime import date

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class ChartTitle:
    """A title, and whether it is a statement made from the data or plainly what is drawn."""

    text: str
    is_statement: bool


def course_title(metric: str, days: list[date], now: Array, before: Array) -> ChartTitle:
    """Title of a course by day against the comparison period.

    now, before: shape (days,), NaN where missing. A statement is made when the weeks of the
    period agree: every full week ahead or behind, or from one week on to the end, and the
    totals differ by at least a tenth. Otherwise the title says what is drawn.
    """
    plain = ChartTitle(text=f"{metric} by day", is_statement=False)
    weeks = len(days) // 7
    both = ~np.isnan(now) & ~np.isnan(before)
    if weeks < 2 or both.mean() < 0.8:
        return plain
    sums_now = [np.nansum(now[7 * i : 7 * i + 7]) for i in range(weeks)]
    sums_before = [np.nansum(before[7 * i : 7 * i + 7]) for i in range(weeks)]
    total_now, total_before = float(np.nansum(now[both])), float(np.nansum(before[both]))
    if total_before <= 0 or abs(total_now / total_before - 1) < 0.1:
        return plain
    ahead = np.array(sums_now) > np.array(sums_before)
    side = "ahead of" if total_now > total_before else "behind"
    verb = "run" if metric.endswith("s") else "runs"
    agrees = ahead if total_now > total_before else ~ahead
    if agrees.all():
        return ChartTitle(text=f"{metric} {verb} {side} the comparison in every week", is_statement=True)
    start = int(np.flatnonzero(~agrees)[-1]) + 1
    if start <= weeks // 2 and weeks - start >= 2:
        word = {1: "second", 2: "third", 3: "fourth"}.get(start, f"{start + 1}th")
        return ChartTitle(text=f"{metric} {verb} {side} the comparison from the {word} week on", is_statement=True)
    return plain
