"""Rates with their uncertainty."""

import math

import numpy as np
from numpy.typing import NDArray
from scipy.special import betaincinv, betaln, ndtri

from dakika_core.values.figure import Figure, Interval

Array = NDArray[np.float64]


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
    it stays positive; missing below three posts.
    """
    both = ~np.isnan(numerators) & ~np.isnan(denominators)
    top, bottom = numerators[both], denominators[both]
    n, missing = len(top), int(np.count_nonzero(~both))
    below, above = float(bottom.sum()), float(top.sum())
    if below <= 0:
        return Figure(value=None, n=n, missing=missing, numerator=above, denominator=below)
    ratio = above / below
    interval = None
    if n >= 3 and ratio > 0:
        residual = top - ratio * bottom
        variance = n / (n - 1) * float((residual**2).sum()) / below**2
        spread = math.exp(float(ndtri(0.5 + level / 2)) * math.sqrt(variance) / ratio)
        interval = Interval(low=ratio / spread, high=ratio * spread, level=level)
    return Figure(value=ratio, n=n, missing=missing, numerator=above, denominator=below, interval=interval)


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
