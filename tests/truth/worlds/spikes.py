"""Counts by day that scatter as counts do, with the week's pattern, in which one day may stand out."""

import numpy as np
from dakika_core.results.spikes import spikes_in
from numpy.typing import NDArray

Array = NDArray[np.float64]
DAYS = 91
PLACE = 45
WEEK = np.array([1.1, 1.2, 1.2, 1.1, 1.0, 0.7, 0.7])


def counts(seed: int, *, a_day: float, dispersion: float = 0.0, times: float = 1.0, weekly: bool = True) -> Array:
    """Counts of 91 days: mean a_day, variance mean + (dispersion x mean)^2; day 45 has `times` as much in the mean."""
    rng = np.random.default_rng(seed)
    mean = np.full(DAYS, a_day) * (WEEK[np.arange(DAYS) % 7] if weekly else 1.0)
    mean = mean * np.exp(0.15 * np.sin(np.arange(DAYS) / 18 + rng.uniform(0, 6)))
    mean[PLACE] *= times
    if dispersion:
        mean = mean * rng.gamma(1 / dispersion**2, dispersion**2, DAYS)
    return rng.poisson(mean).astype(float)


def flagged(values: Array) -> tuple[bool, int]:
    """Whether the day that was made to stand out does, and how many others do."""
    found = [spike.at for spike in spikes_in(values)]
    return PLACE in found, len([at for at in found if at != PLACE])
