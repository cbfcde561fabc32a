"""Totals of two periods against one another."""

import math
from dataclasses import dataclass

from scipy.special import stdtrit

from dakika_core.metrics.rates import FEWEST_EFFECTIVE
from dakika_core.values.figure import Interval


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
