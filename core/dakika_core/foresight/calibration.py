"""Were we right? What was projected, held against what came and against two plain rivals.

In the trade's words: forecast calibration, forecast skill, backtest.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from numpy.typing import NDArray
from scipy.special import stdtrit

from dakika_core.foresight.conformal import LEVEL
from dakika_core.metrics.rates import wilson_interval
from dakika_core.values.figure import Interval

Array = NDArray[np.float64]

# Below this many projections whose truth is known nothing is said of them.
FEWEST = 20


class Rival(StrEnum):
    """Plain ways of saying what a post will bring."""

    LAST = "last"
    MEDIAN = "median"


@dataclass(frozen=True, kw_only=True)
class Versus:
    """Against one rival: by how much our typical error is larger or smaller than its own, as a ratio, with an interval.

    ratio: exp(mean of |log error|) ours over its; below 1.00 we are nearer. is_better: whether the interval leaves out
    1.00 to our side; is_worse: to the other.
    """

    rival: Rival
    error: float
    ratio: float
    interval: Interval
    n: int

    @property
    def is_better(self) -> bool:
        """Whether we are surely nearer."""
        return self.interval.high < 1.0

    @property
    def is_worse(self) -> bool:
        """Whether the rival is."""
        return self.interval.low > 1.0


@dataclass(frozen=True, kw_only=True)
class Calibration:
    """coverage: share of truths in the 80 % interval, with its own interval (95 %); error: exp(mean |log(truth /
    said)|), as a factor; bias: exp(mean log(truth / said)). None where fewer than twenty truths are known.
    """

    n: int
    coverage: float | None
    interval: Interval | None
    error: float | None
    bias: float | None
    versus: tuple[Versus, ...]

    @property
    def is_honest(self) -> bool | None:
        """Whether what is promised can be what is kept: 80 % lies in the coverage's interval."""
        if self.interval is None:
            return None
        return self.interval.low <= LEVEL <= self.interval.high


def calibration(
    *, said: Array, low: Array, high: Array, truth: Array, rivals: dict[Rival, Array], blocks: Sequence[int]
) -> Calibration:
    """Hold projections against the truth. All of shape (n,), counts; NaN in a rival where it has nothing to say.

    blocks: a number of each projection such as its week; those of one week err together, so that intervals of
    comparisons take a week for one (cluster-robust mean, Student's t over weeks).
    """
    n = len(truth)
    if n < FEWEST:
        return Calibration(n=n, coverage=None, interval=None, error=None, bias=None, versus=())
    is_within = ((low <= np.ceil(truth)) & (np.floor(truth) <= high)).astype(float)
    off = np.log1p(truth) - np.log1p(said)
    found = []
    for rival, values in rivals.items():
        known = ~np.isnan(values)
        if known.sum() < FEWEST:
            continue
        theirs = np.abs(np.log1p(truth[known]) - np.log1p(values[known]))
        apart = np.abs(off[known]) - theirs
        middle, half = _mean_by_blocks(apart, np.asarray(blocks)[known])
        found.append(
            Versus(
                rival=rival, error=float(np.exp(theirs.mean())), ratio=float(np.exp(middle)), n=int(known.sum()),
                interval=Interval(low=float(np.exp(middle - half)), high=float(np.exp(middle + half))),
            )
        )  # fmt: skip
    return Calibration(
        n=n, coverage=float(is_within.mean()), interval=_interval_of_share(is_within, np.asarray(blocks)),
        error=float(np.exp(np.abs(off).mean())), bias=float(np.exp(off.mean())), versus=tuple(found),
    )  # fmt: skip


def _interval_of_share(is_within: Array, blocks: NDArray[np.int64]) -> Interval | None:
    """Wilson's interval of as many independent ones as the blocks' scatter makes of them (design effect, L. Kish)."""
    n, share = len(is_within), float(is_within.mean())
    sums = np.array([(is_within[blocks == block] - share).sum() for block in np.unique(blocks)])
    chance = n * share * (1 - share)
    effect = float((sums**2).sum()) / chance if chance > 0 and len(sums) > 2 else 1.0
    worth = n / max(1.0, effect)
    return wilson_interval(share * worth, worth)


def _mean_by_blocks(values: Array, blocks: NDArray[np.int64]) -> tuple[float, float]:
    """The mean and the half-width of its 95 % interval; infinite with fewer than three blocks."""
    middle = float(values.mean())
    sums = np.array([(values[blocks == block] - middle).sum() for block in np.unique(blocks)])
    many = len(sums)
    if many < 3:
        return middle, float("inf")
    error = float(np.sqrt(many / (many - 1) * (sums**2).sum())) / len(values)
    return middle, float(stdtrit(many - 1, 0.975)) * error
