"""Which days stand out, and which posts make them stand out?

Day totals are held against a robust seasonal level: what the weekday usually adds is taken out, and
a running median around the day is the rest. What is left is measured in standard deviations. Counts
are compared on a scale on which their scatter is the same at every level (2/phi asinh(phi sqrt(x +
3/8)): Anscombe 1948, for a variance of mu + (phi mu)^2), with phi chosen so that the scatter that
is left is one; sums that can be negative are compared as they are, against 1.4826 x the median
absolute deviation.

In the trade's words: anomaly detection, outlier.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

THRESHOLD = 3.5
# Counts reach farther down than up on any scale that makes them even: what falls away must lie farther out.
DIP_THRESHOLD = 4.5
AROUND_DAYS = 10
AROUND_WEEKS = 8
FEWEST_DAYS = 21
MOST_DISPERSION, HALVINGS = 8.0, 8
FEWEST_POSTS, LEAST_SPREAD = 12, 0.2
RARE = 0.05
# Where a tail begins; the mean excess that is taken for granted beyond it, and how many values that counts for.
TAIL_FROM, TAIL_MEAN, TAIL_PRIOR = 2.5, 0.8, 2.0
# How much larger a tail may be than the few values that were seen of it say.
TAIL_DOUBT = 3.0
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
    (net followers), so they are not put on the counts' scale. Missing with fewer than three weeks of days.
    """
    known = ~np.isnan(values)
    if known.sum() < FEWEST_DAYS:
        nothing = np.full(len(values), np.nan)
        return nothing, nothing.copy()
    if is_signed:
        level = _level(values.astype(float))
        left = values - level
        scale = np.maximum(_spread(left[known]), np.sqrt(np.maximum(np.abs(level), 1.0)))
        return level, left / scale
    counts = np.maximum(values.astype(float), 0.0)
    phi = _dispersion(counts, known)
    worked = _stabilised(counts, phi)
    level = _level(worked)
    left = worked - level
    z = left / max(1.0, _spread(left[known]))
    return np.maximum(_counted(level, phi), 0.0), z


def _spread(left: Array) -> float:
    return MAD_TO_SD * float(np.median(np.abs(left - np.median(left))))


def _stabilised(counts: Array, phi: float) -> Array:
    """Counts on the scale on which they scatter by one, where their variance is mu + (phi mu)^2."""
    root = np.sqrt(counts + 0.375)
    found: Array = 2 * root if phi == 0 else 2 / phi * np.arcsinh(phi * root)
    return found


def _counted(worked: Array, phi: float) -> Array:
    """Back from the stabilised scale."""
    root = worked / 2 if phi == 0 else np.sinh(np.minimum(worked * phi / 2, 50.0)) / phi
    found: Array = root**2 - 0.375
    return found


def _dispersion(counts: Array, known: NDArray[np.bool_]) -> float:
    """The phi with which what is left scatters by one: zero where counting alone explains the scatter."""

    def scatter(phi: float) -> float:
        worked = _stabilised(counts, phi)
        return _spread((worked - _level(worked))[known])

    if scatter(0.0) <= 1:
        return 0.0
    low, high = 0.0, 0.25
    while scatter(high) > 1 and high < MOST_DISPERSION:
        low, high = high, high * 2
    for _ in range(HALVINGS):
        middle = (low + high) / 2
        low, high = (middle, high) if scatter(middle) > 1 else (low, middle)
    return high


def _level(worked: Array) -> Array:
    """What is usual around a day: the weekday's own part first, then the running median of the rest."""
    # Seven days hold each weekday once, so that the median of a whole week has no weekday in it.
    apart = worked - _running_median(worked, 3, with_itself=True)
    weekly = np.zeros(len(worked))
    for first in range(min(7, len(worked))):
        days = np.arange(first, len(worked), 7)
        # The same weekday over eight weeks either way, the day itself left out.
        weekly[days] = _running_median(apart[days], AROUND_WEEKS, fewest=2)
    return _running_median(worked - weekly, AROUND_DAYS) + weekly


def _running_median(values: Array, reach: int, fewest: int = 1, *, with_itself: bool = False) -> Array:
    """Median of the places around, the place itself left out: a spike must not lift its own level. 0 with too few."""
    padded = np.concatenate([np.full(reach, np.nan), values, np.full(reach, np.nan)])
    around = np.lib.stride_tricks.sliding_window_view(padded, 2 * reach + 1)
    if not with_itself:
        around = np.delete(around, reach, axis=1)
    # Sorted, what is missing stands last: the two in the middle of what is known. (nanmedian goes row by row.)
    around = np.sort(around, axis=1)
    many = (~np.isnan(around)).sum(axis=1)
    rows = np.arange(len(values))
    middle = (around[rows, np.maximum(many - 1, 0) // 2] + around[rows, many // 2]) / 2
    found: Array = np.where(many >= fewest, middle, 0.0 if fewest > 1 else np.nan)
    return found


def spikes_in(
    values: Array, *, is_signed: bool = False, threshold: float = THRESHOLD, published: Array | None = None
) -> list[Spike]:
    """Days beyond the threshold either way, in the order of the days.

    published: how many posts each day had. A day on which fewer were published than usual is no
    dip: that is what made it, and is told elsewhere.

    What happens on more than one day in twenty is no news, however far out: where nothing is posted
    at weekends, a quiet Sunday is no dip. On such a side a day must lie well beyond the others there.
    """
    level, z = seasonal_level(values, is_signed=is_signed)
    above, below = _threshold(z, threshold), _threshold(-z, threshold if is_signed else max(threshold, DIP_THRESHOLD))
    quiet = np.zeros(len(values), bool) if published is None else published < _usually(published)
    return [
        Spike(at=i, value=float(values[i]), level=float(level[i]), z=float(z[i]))
        for i in range(len(values))
        if not np.isnan(z[i]) and (z[i] > above or (-z[i] > below and not quiet[i]))
    ]


def far_out(
    values: Array, *, recent: int, alpha: float, floor: float, is_signed: bool = False, published: Array | None = None
) -> list[Spike]:
    """Spikes of the last `recent` days that lie beyond what the series itself reaches by chance, in the days' order.

    A brand of which a post goes viral every other week has days far out as a habit: none of them is
    news. Each day is held against the tail of all other days, so that by chance about alpha of such
    spans show one; and none is said below `floor` deviations.
    """
    _, z = seasonal_level(values, is_signed=is_signed)
    return [
        spike for spike in spikes_in(values, is_signed=is_signed, published=published)
        if spike.at >= len(values) - recent and abs(spike.z) >= max(
            floor, tail_limit(_others(np.sign(spike.z) * z, spike.at), many=recent, alpha=alpha)
        )
    ]  # fmt: skip


def _others(z: Array, at: int) -> Array:
    """All other days; what goes on over days belongs to the day in question."""
    keep = ~np.isnan(z)
    for step in (-1, 1):
        place = at
        while 0 <= place < len(z) and (place == at or z[place] > TAIL_FROM):
            keep[place] = False
            place += step
    found: Array = z[keep]
    return found


def tail_limit(others: Array, *, many: int, alpha: float) -> float:
    """How far out a value must lie so that the largest of `many` gets there by chance with probability alpha.

    others: values of the same kind, in standard deviations. Beyond 2.5 the tail is taken as
    exponential, its rate and mean excess by what lies there, as if two more values had been seen
    with a mean excess of 0.8. Where nothing lies there the limit is that of a quiet brand; where
    something does (a viral post now and then), it may reach farther than the few values say.
    """
    excess = others[others > TAIL_FROM] - TAIL_FROM
    mean = (float(excess.sum()) + TAIL_PRIOR * TAIL_MEAN) / (len(excess) + TAIL_PRIOR)
    mean *= 1 + TAIL_DOUBT / np.sqrt(len(excess) + 3) if len(excess) else 1.0
    rate = (len(excess) + 0.5) / max(1, len(others))
    return TAIL_FROM + mean * max(0.0, float(np.log(rate * many / alpha)))


def _usually(published: Array) -> Array:
    """How many posts a day has around, weekdays and others alike."""
    found: Array = np.nan_to_num(_running_median(published.astype(float), AROUND_DAYS))
    return found


def _threshold(z: Array, threshold: float) -> float:
    known = z[~np.isnan(z)]
    if len(known) == 0 or (known > threshold).mean() <= RARE:
        return threshold
    return BEYOND_THE_USUAL * float(np.quantile(known, 1 - RARE))


def far_above(index: Array) -> list[int]:
    """Places of posts far above their typical: beyond 3.5 robust deviations of their profile's logs, and twice typical.

    index: shape (n,), > 0. Fewer than twelve posts say nothing.
    """
    if len(index) < FEWEST_POSTS:
        return []
    logs = np.log(index)
    middle, spread = float(np.median(logs)), _spread(logs)
    z = (logs - middle) / max(spread, LEAST_SPREAD)
    return [int(i) for i in np.flatnonzero((z > THRESHOLD) & (index >= 2.0))]


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
