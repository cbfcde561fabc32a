"""How is a young post doing, and what is it heading for?

On the log scale: what is expected of a post before anything is seen (its profile's typical, as a prior), and the count
so far raised by what posts of its kind still gain from that age on, which is the surer the older the post is. The two
are weighed by their precision (conjugate normal). The interval comes from how far off such projections were on the
profile's earlier posts at that age (conformal.py).

In the trade's words: forecast, nowcast, viral detection, prediction interval.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dakika_core.foresight.conformal import LEVEL, Errors, bounds, pooled
from dakika_core.foresight.curves import AGES_HOURS, FINAL_HOURS, GrowthCurve, counting_variance
from dakika_core.metrics.typical import OF_MEDIANS, WINDOW

Array = NDArray[np.float64]

# Ages at which projections are kept and held against what came: from the first hour to three days.
HORIZONS_HOURS = (1.0, 3.0, 6.0, 12.0, 24.0, 72.0)
BAND = 0.95
# So many posts of the profile must be known at an age for a band of it, and so much must have happened.
FEWEST_FOR_BAND = 30
_Z80 = 1.2815515655446004


@dataclass(frozen=True, kw_only=True)
class Projections:
    """Of n posts: what they are heading for at seven days with an 80 % interval, counts, shape (n,) each.

    log_mean and unit: the same on the log scale, and how unsure the model itself is.
    """

    value: Array
    low: Array
    high: Array
    log_mean: Array
    unit: Array


def project(
    *, ages_hours: Array, counts: Array, rise: Array, spread: Array, prior_log: Array, prior_spread: Array,
    errors: Sequence[Errors],
) -> Projections:  # fmt: skip
    """Project posts to seven days. All of shape (n,).

    rise and spread: of the growth curve at their ages (GrowthCurve.at). prior_log: log(1 + count at 7 d) that is
    expected of them, NaN where nothing is; prior_spread its standard deviation. errors: by horizon (HORIZONS_HOURS),
    bounds of past errors in units of `unit`. Never below what is counted already.
    """
    seen = np.log1p(np.maximum(counts, 0.0))
    of_growth = spread**2 + counting_variance(counts)
    has_prior = ~np.isnan(prior_log)
    of_prior = np.where(has_prior, np.maximum(prior_spread, 1e-3) ** 2, 1e6)
    weight = of_prior / (of_prior + of_growth)
    log_mean = weight * (seen + rise) + (1 - weight) * np.where(has_prior, prior_log, 0.0)
    unit = np.sqrt(of_prior * of_growth / (of_prior + of_growth))
    place = np.clip(np.searchsorted(HORIZONS_HOURS, ages_hours, side="right") - 1, 0, len(errors) - 1)
    low = log_mean + np.array([e.low for e in errors])[place] * unit
    high = log_mean + np.array([e.high for e in errors])[place] * unit
    is_final = ages_hours >= FINAL_HOURS
    log_mean, low, high = (np.where(is_final, seen, np.maximum(logs, seen)) for logs in (log_mean, low, high))
    # Counts are whole: the ends are told by the nearest. Told outwards, narrow ones of grown posts held too often.
    least, most = np.expm1(np.minimum(low, log_mean)), np.expm1(np.maximum(high, log_mean))
    return Projections(
        value=np.expm1(log_mean), low=np.rint(least), high=np.rint(most),
        log_mean=log_mean, unit=unit,
    )  # fmt: skip


def past_errors(
    values: Array, curve: GrowthCurve, prior_log: Array, prior_spread: Array, *, fewest: int = 20
) -> tuple[Errors, ...]:
    """How far off projections of earlier posts would have been at each horizon, in units of their own unsureness.

    values: shape (n, len(AGES_HOURS)), oldest first. Where a horizon has fewer than `fewest` posts, those of all
    horizons speak for it; where these are few too, the normal law. Each post's own growth is part of the curve, which
    of many is little; the server asks with the curve of the posts before.
    """
    final = np.log1p(np.maximum(values[:, AGES_HOURS.index(FINAL_HOURS)], 0.0))
    by_horizon = []
    for age in HORIZONS_HOURS:
        counts = values[:, AGES_HOURS.index(age)]
        ages = np.full(len(counts), age)
        rise, spread = curve.at(ages)
        said = project(
            ages_hours=ages, counts=counts, rise=rise, spread=spread, prior_log=prior_log, prior_spread=prior_spread,
            errors=(Errors(low=-_Z80, high=_Z80, count=0),),
        )  # fmt: skip
        off = (final - said.log_mean) / said.unit
        by_horizon.append(off[~np.isnan(off)])
    every = pooled(by_horizon)
    return tuple(bounds(own if len(own) >= fewest else every, level=LEVEL) for own in by_horizon)


@dataclass(frozen=True, kw_only=True)
class Present:
    """Of n posts at the age they have: what is typical at that age, the index with an 80 % interval. (n,) each."""

    typical: Array
    index: Array
    low: Array
    high: Array


def at_present(*, counts: Array, rise: Array, spread: Array, typical_log: Array, scatter: float, posts: int) -> Present:
    """Hold young posts against what is typical at their age.

    typical_log: log(1 + typical count at 7 d) of each, NaN where unknown; it comes from the median of up to 60 of
    `posts` posts that differ by `scatter` (log scale). The interval is of the index that the post may have when grown:
    chance in counting, how posts differ in growth, and how well the typical itself is known. So it is wide at first.
    """
    seen = np.log1p(np.maximum(counts, 0.0))
    usual = typical_log - rise
    typical = np.maximum(np.expm1(usual), 0.0)
    of_typical = OF_MEDIANS * scatter**2 / max(1, min(posts, WINDOW))
    off = _Z80 * np.sqrt(spread**2 + counting_variance(counts) + of_typical)
    with np.errstate(divide="ignore", invalid="ignore"):
        index = np.where(typical >= 0.5, counts / typical, np.nan)
        known = ~np.isnan(index)
        logs = np.where(known, seen - usual, np.nan)
        # Around the index itself; log1p and log part ways only where counts are small.
        low, high = np.where(known, index, np.nan) * np.exp(-off), np.where(known, index, np.nan) * np.exp(off)
        low = np.where(counts == 0, 0.0, low)
        high = np.where(counts == 0, np.exp(logs + off), high)
    return Present(typical=typical, index=index, low=low, high=np.where(known, high, np.nan))


@dataclass(frozen=True, kw_only=True)
class Band:
    """Between which counts 95 % of a profile's posts were at an age: by the posts themselves."""

    low: float
    high: float
    posts: int


def usual_band(values: Array, age_hours: float) -> Band | None:
    """The band at any age from one hour to seven days; None where fewer than thirty posts tell it.

    values: shape (n, len(AGES_HOURS)). Between two ages linear in log1p over the log of the age. Conformal quantiles,
    so that a further post lies outside at most one time in twenty.
    """
    if not AGES_HOURS[0] <= age_hours <= FINAL_HOURS:
        return None
    x = np.log(np.array(AGES_HOURS))
    after = int(np.clip(np.searchsorted(AGES_HOURS, age_hours), 1, len(AGES_HOURS) - 1))
    part = (np.log(age_hours) - x[after - 1]) / (x[after] - x[after - 1])
    logs = np.log1p(np.maximum(values[:, [after - 1, after]], 0.0))
    at_age = (1 - part) * logs[:, 0] + part * logs[:, 1]
    known = at_age[~np.isnan(at_age)]
    if len(known) < FEWEST_FOR_BAND:
        return None
    found = bounds(known, level=BAND, otherwise=np.inf)
    return Band(low=float(np.expm1(max(found.low, 0.0))), high=float(np.expm1(found.high)), posts=len(known))
