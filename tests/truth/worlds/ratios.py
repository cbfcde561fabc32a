"""Rates of a few posts whose reach is uneven, with the true rate known."""

import numpy as np
from dakika_core.metrics.rates import ratio_of_sums


def holds(seed: int, posts: int, spread: float = 1.0) -> bool:
    """Whether the 95 % interval of interactions by reach holds the true rate. Reach is lognormal, rates vary by post."""
    rng = np.random.default_rng(seed)
    reach = np.round(np.exp(rng.normal(6, spread, posts)))
    rate = 0.04 * rng.gamma(4, 1 / 4, posts)
    found = ratio_of_sums(rng.poisson(reach * rate).astype(float), reach)
    return found.interval is None or found.interval.low <= 0.04 <= found.interval.high
