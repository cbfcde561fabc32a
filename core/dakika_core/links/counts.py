"""Counts held against counts: how many times as many clicks, and how sure that is."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import betaincinv

from dakika_core.values.figure import Interval


@dataclass(frozen=True, kw_only=True)
class CountRatio:
    """`value` times as many per day now as before, with its interval; None where nothing stands against it."""

    value: float | None
    interval: Interval | None
    dispersion: float

    @property
    def is_sure(self) -> bool:
        """Whether the interval leaves out 1."""
        return self.interval is not None and not self.interval.low <= 1.0 <= self.interval.high


def ratio_of_counts(
    now: float, before: float, *, days_now: float = 1.0, days_before: float = 1.0, dispersion: float = 1.0,
    level: float = 0.95,
) -> CountRatio:  # fmt: skip
    """The ratio of two rates of counting, conditional on their total (exact binomial, Clopper and Pearson 1934).

    Clicks come in bursts, so they vary more than a Poisson process would: `dispersion` (variance
    over mean, at least 1) divides both counts before the interval is taken (quasi-likelihood).
    Raises ValueError for negative counts.
    """
    if now < 0 or before < 0:
        raise ValueError("counts are not negative")
    if before == 0 or now + before == 0:
        return CountRatio(value=None, interval=None, dispersion=dispersion)
    phi = max(1.0, dispersion)
    x, y = now / phi, before / phi
    tail = (1 - level) / 2
    low = float(betaincinv(x, y + 1, tail)) if x > 0 else 0.0
    high = float(betaincinv(x + 1, y, 1 - tail))
    scale = days_before / days_now
    interval = Interval(low=low / (1 - low) * scale, high=high / (1 - high) * scale, level=level)
    return CountRatio(value=now / before * scale, interval=interval, dispersion=phi)


def dispersion_of(days: Sequence[float], weekdays: Sequence[int]) -> float:
    """Variance over mean of daily counts around their weekday's mean (Pearson), at least 1.

    With fewer than ten days nothing is known of it, and 1 is returned.
    """
    counts, kinds = np.asarray(days, float), np.asarray(weekdays)
    if len(counts) < 10 or counts.sum() <= 0:
        return 1.0
    squared, kinds_seen = 0.0, 0
    for kind in np.unique(kinds):
        group = counts[kinds == kind]
        mean = group.mean()
        kinds_seen += 1
        if mean > 0:
            squared += float(((group - mean) ** 2 / mean).sum())
    freedom = len(counts) - kinds_seen
    return max(1.0, squared / freedom) if freedom > 0 else 1.0
