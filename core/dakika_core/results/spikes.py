"""Which days stand out, and which posts make them stand out?

Day totals are held against a robust seasonal level: a running median around the day, and the
weekday's usual distance from it. What is left is measured in robust standard deviations
(1.4826 x the median absolute deviation). Counts are compared on the log scale, because what people
do under posts varies in proportion; sums that can be negative are compared as they are.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

THRESHOLD = 3.5
AROUND_DAYS = 10
AROUND_WEEKS = 8
FEWEST_DAYS = 21
RARE = 0.05
BEYOND_THE_USUAL = 1.5
# A median absolute deviation estimates a normal standard deviation after this factor.
MAD_TO_SD = 1.4826
EXPLAINED_ENOUGH = 0.8
EXPLAINED_LEAST = 0.5
MOST_CAUSES = 12


@dataclass(frozen=True, kw_only=True)
class Spike:
    """A day that stands out. value, level and excess in the metric's unit; z in robust standard deviations."""

    at: int
    value: float
    level: float
    z: float

    @property
    def excess(self) -> float:
        """How far the day lies from its level; negative for a dip."""
        return self.value - self.level


@dataclass(frozen=True, kw_only=True)
class Cause:
    """One item's part of an excess: its own, and as a share of the whole."""

    item: int
    excess: float
    share: float


@dataclass(frozen=True, kw_only=True)
class Explanation:
    """The items behind a spike, largest first; `share` is what they explain together, 0 to 1."""

    causes: tuple[Cause, ...]
    share: float

    @property
    def is_explained(self) -> bool:
        """Whether the items make up most of it."""
        return self.share >= EXPLAINED_LEAST


def seasonal_level(values: Array, *, is_signed: bool = False) -> tuple[Array, Array]:
    """Level and robust z of each day: two arrays of shape (days,), NaN where missing or not to be said.

    values: shape (days,), consecutive days, NaN where missing. is_signed: the sums may be negative
    (net followers), so no logarithm is taken. Missing with fewer than three weeks of days.
    """
    worked = values.astype(float) if is_signed else np.log1p(np.maximum(values, 0.0))
    known = ~np.isnan(worked)
    nothing = np.full(len(values), np.nan)
    if known.sum() < FEWEST_DAYS:
        return nothing, nothing.copy()
    slow = _running_median(worked, AROUND_DAYS)
    apart = worked - slow
    weekly = np.full(len(values), np.nan)
    for i in range(len(values)):
        first = i - 7 * min(AROUND_WEEKS, i // 7)
        same = apart[first : i + 7 * AROUND_WEEKS + 1 : 7]
        others = np.delete(same, (i - first) // 7)
        others = others[~np.isnan(others)]
        weekly[i] = np.median(others) if len(others) >= 2 else 0.0
    level = slow + weekly
    left = worked - level
    scale = MAD_TO_SD * float(np.median(np.abs(left[known] - np.median(left[known]))))
    floor = _least_scale(level, is_signed=is_signed)
    z = left / np.maximum(scale, floor)
    return (level if is_signed else np.expm1(level)), z


def _least_scale(level: Array, *, is_signed: bool) -> Array:
    """Counting alone scatters by the root of the count: below that nothing stands out."""
    if is_signed:
        return np.sqrt(np.maximum(np.abs(level), 1.0))
    return 1 / np.sqrt(np.maximum(np.expm1(level), 1.0))


def _running_median(values: Array, reach: int) -> Array:
    """Median of the days around, the day itself left out: a spike must not lift its own level."""
    result = np.full(len(values), np.nan)
    for i in range(len(values)):
        around = np.concatenate([values[max(0, i - reach) : i], values[i + 1 : i + reach + 1]])
        around = around[~np.isnan(around)]
        if len(around):
            result[i] = np.median(around)
    return result


def spikes_in(values: Array, *, is_signed: bool = False, threshold: float = THRESHOLD) -> list[Spike]:
    """Days beyond the threshold either way, in the order of the days.

    What happens on more than one day in twenty is no news, however far out: where nothing is posted
    at weekends, a quiet Sunday is no dip. On such a side a day must lie well beyond the others there.
    """
    level, z = seasonal_level(values, is_signed=is_signed)
    above, below = _threshold(z, threshold), _threshold(-z, threshold)
    return [
        Spike(at=i, value=float(values[i]), level=float(level[i]), z=float(z[i]))
        for i in range(len(values))
        if not np.isnan(z[i]) and (z[i] > above or -z[i] > below)
    ]


def _threshold(z: Array, threshold: float) -> float:
    known = z[~np.isnan(z)]
    if len(known) == 0 or (known > threshold).mean() <= RARE:
        return threshold
    return BEYOND_THE_USUAL * float(np.quantile(known, 1 - RARE))


def explain(excess: float, brought: Sequence[float], usual: Sequence[float]) -> Explanation:
    """Which items make up an excess: the largest, down to 80 % of it.

    brought: what each item brought on the day. usual: what such an item usually brings on such a
    day of its life, zero where that is not known. Only items that brought more than usual count
    towards a spike, only those that brought less towards a dip. Shares are of the whole excess; an
    item is never credited with more than what is left to explain.
    """
    sign = 1.0 if excess >= 0 else -1.0
    whole = abs(excess)
    if whole == 0:
        return Explanation(causes=(), share=0.0)
    over = sign * (np.nan_to_num(np.asarray(brought, float)) - np.nan_to_num(np.asarray(usual, float)))
    causes: list[Cause] = []
    share = 0.0
    for item in np.argsort(-over, kind="stable"):
        if over[item] <= 0 or share >= EXPLAINED_ENOUGH or len(causes) == MOST_CAUSES:
            break
        part = min(float(over[item]) / whole, 1.0 - share)
        causes.append(Cause(item=int(item), excess=sign * float(over[item]), share=part))
        share += part
    return Explanation(causes=tuple(causes), share=min(share, 1.0))
