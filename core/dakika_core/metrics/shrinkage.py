"""Which posts are truly best by a rate, when some were seen by few?

A rate from twelve impressions must not top a ranking. Each post's rate is drawn towards what is
usual for the posts around it, as far as its own evidence is thin: beta-binomial empirical Bayes
(Efron and Morris 1975 for the idea; the prior is fitted by maximum likelihood). Rankings go by the
end of the interval that is nearer to the usual: by `low` from the top, by `high` from the bottom.

In the trade's words: empirical Bayes, small samples, ranking by a lower bound.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.rates import beta_binomial_fit

Array = NDArray[np.float64]


# Share of the median denominator below which a post does not help to say what is usual.
LEAST_SEEN = 0.05


@dataclass(frozen=True, kw_only=True)
class Shrunk:
    """Posterior means and intervals of shape (n,), NaN where missing; the prior's mean and its weight in trials."""

    value: Array
    low: Array
    high: Array
    prior_mean: float
    prior_weight: float


def shrunk_rates(
    numerators: Array, denominators: Array, *, level: float = 0.95, most_fitted: int = 4000
) -> Shrunk | None:
    """Rates drawn towards the usual, for ranking. None with fewer than three posts that have both.

    Numerators and denominators of shape (n,), NaN where missing. A numerator may exceed its
    denominator (several reactions by one person): it is then taken as the whole of it. The prior is
    fitted to the posts that were seen by more than a handful, with very many to an even pick of them.
    """
    from scipy.special import betaincinv

    both = ~np.isnan(numerators) & ~np.isnan(denominators) & (denominators > 0)
    if both.sum() < 3 or (denominators[both] >= LEAST_SEEN * np.median(denominators[both])).sum() < 3:
        return None
    below = denominators[both]
    above = np.clip(numerators[both], 0.0, below)
    # What is usual is told by the posts that were seen: a handful of views is no trial of anything,
    # since one person's three reactions to one view break the binomial there.
    solid = below >= LEAST_SEEN * np.median(below)
    step = max(1, int(solid.sum()) // most_fitted)
    a, b = beta_binomial_fit(above[solid][::step], below[solid][::step])
    value, low, high = (np.full(len(numerators), np.nan) for _ in range(3))
    value[both] = (above + a) / (below + a + b)
    tail = (1 - level) / 2
    low[both] = betaincinv(above + a, below - above + b, tail)
    high[both] = betaincinv(above + a, below - above + b, 1 - tail)
    return Shrunk(value=value, low=low, high=high, prior_mean=a / (a + b), prior_weight=a + b)
