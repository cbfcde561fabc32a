"""Totals of two periods against one another.

In the trade's words: period-over-period comparison.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import stdtrit

from dakika_core.metrics.rates import FEWEST_EFFECTIVE
from dakika_core.values.figure import Interval

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Total:
    """What posts brought in a period: how many posts, the sum over them and the sum of squares."""

    n: int
    total: float
    squares: float

    @property
    def effective(self) -> float:
        """In effect how many posts carry it (Kish): as many as there are where all bring the same."""
        return self.total**2 / self.squares if self.squares > 0 else 0.0


def change_interval(now: Total, before: Total, *, level: float = 0.95) -> Interval | None:
    """Interval of now / before - 1, both how many posts there are and what each brings taken as chance.

    A total of a chance number of posts has the variance of a compound Poisson sum, the sum of squares (Feller, An
    Introduction to Probability Theory and Its Applications I, 3rd ed. 1968, section XII.2; from memory). On the log
    scale, by Student's t with Welch's and Satterthwaite's degrees of freedom. None where either period has in effect
    fewer than one and a half posts, or fewer than three.
    """
    if min(now.effective, before.effective) < FEWEST_EFFECTIVE or min(now.n, before.n) < 3:
        return None
    parts = [1 / now.effective, 1 / before.effective]
    variance = sum(parts)
    freedom = variance**2 / sum(part**2 / (1 / part - 1) for part in parts)
    spread = math.exp(min(50.0, float(stdtrit(freedom, 0.5 + level / 2)) * math.sqrt(variance)))
    ratio = now.total / before.total
    return Interval(low=ratio / spread - 1, high=ratio * spread - 1, level=level)


def count_change_interval(now: Array, before: Array, *, level: float = 0.95) -> Interval | None:
    """Interval of the change of a total counted by the day, from both periods' days: shape (days,), NaN missing.

    Counts come in bursts, so that they spread more than Poisson's: the dispersion is estimated from the days (Pearson's
    chi-square over its degrees of freedom, at least one; McCullagh and Nelder, Generalized Linear Models, 2nd ed. 1989,
    section 4.5; from memory) and the interval of a ratio of totals widened by it, by Student's t on the log scale. None
    where a period has nothing, or fewer than three days are known in either.
    """
    sides = [days[~np.isnan(days)] for days in (now, before)]
    totals = [float(days.sum()) for days in sides]
    if min(map(len, sides)) < 3 or min(totals) <= 0:
        return None
    freedom = sum(len(days) - 1 for days in sides)
    spread = sum(float(((days - days.mean()) ** 2).sum() / days.mean()) for days in sides)
    dispersion = max(1.0, spread / freedom)
    half = float(stdtrit(freedom, 0.5 + level / 2)) * math.sqrt(dispersion * sum(1 / total for total in totals))
    factor = math.exp(min(50.0, half))
    # As many days are held against as many; where some are unknown, by the day.
    ratio = sides[0].mean() / sides[1].mean()
    return Interval(low=float(ratio / factor) - 1, high=float(ratio * factor) - 1, level=level)
