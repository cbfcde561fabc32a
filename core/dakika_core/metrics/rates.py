"""Rates with their uncertainty.

In the trade's words: engagement rate, click-through rate, confidence interval.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import betaincinv, betaln, ndtri, stdtrit

from dakika_core.values.figure import Figure, Interval

Array = NDArray[np.float64]
# Posts in effect from which an interval can be told.
FEWEST_EFFECTIVE = 1.5


def wilson_interval(successes: float, trials: float, *, level: float = 0.95) -> Interval | None:
    """Score interval for a proportion (Wilson 1927; Newcombe 1998, method 3). None without trials.

    Raises ValueError unless 0 <= successes <= trials.
    """
    if trials == 0:
        return None
    if not 0 <= successes <= trials:
        raise ValueError("successes lie between 0 and the number of trials")
    z = float(ndtri(0.5 + level / 2))
    share = successes / trials
    middle = (share + z * z / (2 * trials)) / (1 + z * z / trials)
    half = z / (1 + z * z / trials) * math.sqrt(share * (1 - share) / trials + z * z / (4 * trials**2))
    return Interval(low=max(0.0, middle - half), high=min(1.0, middle + half), level=level)


def ratio_of_sums(numerators: Array, denominators: Array, *, level: float = 0.95) -> Figure:
    """Sum of numerators over sum of denominators, over the posts that have both.

    Both of shape (n,), NaN where missing. The interval is the linearised one for a ratio
    estimator, treating the posts as the sample (Cochran, Sampling Techniques, 3rd ed. 1977,
    eq. 6.13 without the finite population correction; from memory), on the log scale so that
    it stays positive. Where few posts carry most of the denominator, there are in effect fewer:
    n_eff = (sum d)^2 / sum d^2 (Kish, Survey Sampling, 1965, section 11.7; from memory), so the
    variance is taken for so many and the quantile is Student's with n_eff - 1 degrees of freedom.
    Missing below three posts, or below one and a half in effect.
    """
    both = ~np.isnan(numerators) & ~np.isnan(denominators)
    top, bottom = numerators[both], denominators[both]
    moments = Moments(
        n=len(top), missing=int(np.count_nonzero(~both)), above=float(top.sum()), below=float(bottom.sum()),
        above_squared=float(top @ top), product=float(top @ bottom), below_squared=float(bottom @ bottom),
    )  # fmt: skip
    return ratio_from_moments(moments, level=level)


@dataclass(frozen=True, kw_only=True)
class Moments:
    """What a ratio of sums and its interval are made of: counts and sums over the posts that have both parts."""

    n: int
    missing: int
    above: float
    below: float
    above_squared: float
    product: float
    below_squared: float


def ratio_from_moments(m: Moments, *, level: float = 0.95) -> Figure:
    """ratio_of_sums from sums that somebody else added up, a database for example."""
    if m.below <= 0:
        return Figure(value=None, n=m.n, missing=m.missing, numerator=m.above, denominator=m.below)
    ratio = m.above / m.below
    interval = None
    effective = m.below**2 / m.below_squared if m.below_squared > 0 else 0.0
    if m.n >= 3 and ratio > 0 and effective >= FEWEST_EFFECTIVE:
        residual = max(0.0, m.above_squared - 2 * ratio * m.product + ratio**2 * m.below_squared)
        variance = effective / (effective - 1) * residual / m.below**2
        quantile = float(stdtrit(effective - 1, 0.5 + level / 2))
        spread = math.exp(min(50.0, quantile * math.sqrt(variance) / ratio))
        interval = Interval(low=ratio / spread, high=ratio * spread, level=level)
    return Figure(value=ratio, n=m.n, missing=m.missing, numerator=m.above, denominator=m.below, interval=interval)


def rate_ratio_interval(
    count: float, exposure: float, other: float, other_exposure: float, *, level: float = 0.95
) -> Interval | None:
    """Interval for the ratio of two Poisson rates, conditional on the total (exact binomial).

    Clopper-Pearson on count out of count + other, carried over to the ratio. None when both
    counts are zero or an exposure is.
    """
    total = count + other
    if total == 0 or exposure <= 0 or other_exposure <= 0:
        return None
    tail = (1 - level) / 2
    low = float(betaincinv(count, other + 1, tail)) if count > 0 else 0.0
    high = float(betaincinv(count + 1, other, 1 - tail)) if other > 0 else 1.0
    scale = other_exposure / exposure
    return Interval(low=low / (1 - low) * scale, high=high / (1 - high) * scale if high < 1 else math.inf, level=level)


def beta_binomial_fit(successes: Array, trials: Array) -> tuple[float, float]:
    """Maximum likelihood a, b of a beta-binomial: how rates spread among a profile's posts.

    Both of shape (n,), trials > 0. Raises ValueError with fewer than three.
    """
    from scipy.optimize import minimize

    if len(trials) < 3:
        raise ValueError("too few posts to say how their rates spread")
    mean = float(np.clip(successes.sum() / trials.sum(), 1e-6, 1 - 1e-6))

    def loss(theta: Array) -> float:
        centre = 1 / (1 + math.exp(-theta[0]))
        weight = math.exp(theta[1])
        a, b = centre * weight, (1 - centre) * weight
        return -float((betaln(successes + a, trials - successes + b) - betaln(a, b)).sum())

    start = np.array([math.log(mean / (1 - mean)), math.log(50.0)])
    found = minimize(loss, start, method="Nelder-Mead", options={"xatol": 1e-6, "fatol": 1e-8, "maxiter": 2000})
    centre = 1 / (1 + math.exp(-found.x[0]))
    weight = math.exp(min(found.x[1], 25.0))
    return centre * weight, (1 - centre) * weight
