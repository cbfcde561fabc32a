"""How does a metric of the set's members spread, period by period, and where is usual for an audience of our size?

In the trade's words: benchmark, quantiles, log-linear regression.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import stdtrit

from dakika_core.values.figure import Interval

Array = NDArray[np.float64]
QUANTILES = (0.0, 0.25, 0.5, 0.75, 1.0)
# Quartiles of fewer members are the members themselves.
FEWEST_FOR_QUARTILES = 4
FEWEST_PEERS = 6
# A line through audiences that are all of one size says nothing of size.
LEAST_SPAN = float(np.log(2.0))


def spread_over(values: Array) -> Array:
    """Quantiles of the others in each bin: values of shape (members, bins), NaN unknown; result (5, bins).

    Least, quarter, middle, three quarters, most. Quarters and middle are NaN where fewer than four are known. Quantiles
    are median-unbiased whatever the distribution (R. J. Hyndman and Y. Fan 1996, "Sample quantiles in statistical
    packages", definition 8).
    """
    found = np.full((len(QUANTILES), values.shape[1]), np.nan)
    for b in range(values.shape[1]):
        known = values[~np.isnan(values[:, b]), b]
        if len(known):
            found[[0, -1], b] = known.min(), known.max()
        if len(known) >= FEWEST_FOR_QUARTILES:
            found[1:-1, b] = np.quantile(known, QUANTILES[1:-1], method="median_unbiased")
    return found


@dataclass(frozen=True, kw_only=True)
class SizeLine:
    """log(rate) = level + slope * log(followers) over the peers, by least squares; logs are natural.

    expected: the rate usual for our audience, at followers. usual: where a further member of that audience lies with
    the interval's level. above: ours divided by expected; above_interval: the same against both ends of usual.
    slope_interval at .95. smallest, largest: the audiences of the peers. middle, squares: mean of their logs, and the
    sum of squares around it.
    """

    level: float
    slope: float
    slope_interval: Interval
    spread: float
    peers: int
    smallest: float
    largest: float
    at: float
    expected: float
    usual: Interval
    middle: float
    squares: float
    above: float | None
    above_interval: Interval | None

    def usual_at(self, followers: Array) -> tuple[Array, Array, Array]:
        """Where a further member of some audiences lies: least, expected, most, of the shape of followers."""
        x = np.log(followers)
        expected = self.level + self.slope * x
        quantile = float(stdtrit(self.peers - 2, 0.5 + self.usual.level / 2))
        reach = quantile * self.spread * np.sqrt(1 + 1 / self.peers + (x - self.middle) ** 2 / self.squares)
        return np.exp(expected - reach), np.exp(expected), np.exp(expected + reach)

    @property
    def is_out_of_the_usual(self) -> bool:
        """Whether we stand beyond what single members of our audience do."""
        held = self.above_interval
        return held is not None and (held.low > 1 or held.high < 1)

    @property
    def is_inside(self) -> bool:
        """Whether our audience lies among the peers', or the line is drawn on."""
        return self.smallest <= self.at <= self.largest


def size_line(
    followers: Sequence[float] | Array, rates: Sequence[float] | Array, *, our_followers: float,
    our_rate: float | None, level: float = 0.95,
) -> SizeLine | str:  # fmt: skip
    """What is usual for an audience of our size, from the peers alone; a sentence where it cannot be said.

    followers, rates: the peers', shape (peers,), above zero; others are left out. We are never part of the line that we
    are held against. The interval is the prediction interval of least squares on logs, with n - 2 degrees of freedom.
    """
    x, y = np.asarray(followers, dtype=float), np.asarray(rates, dtype=float)
    usable = (x > 0) & (y > 0)
    x, y = np.log(x[usable]), np.log(y[usable])
    n = len(x)
    if n < FEWEST_PEERS:
        return (
            f"What is usual for an audience of our size takes {FEWEST_PEERS} others with followers and reactions; "
            f"here are {n}."
        )
    if not our_followers > 0:
        return "Our own followers are not known, so there is no size to compare by."
    if np.ptp(x) < LEAST_SPAN:
        return "All audiences here are of about one size, so nothing can be said of size."
    middle = x.mean()
    squares = float(((x - middle) ** 2).sum())
    slope = float((x - middle) @ y) / squares
    start = float(y.mean() - slope * middle)
    left = y - start - slope * x
    spread = float(np.sqrt(left @ left / (n - 2)))
    at = float(np.log(our_followers))
    quantile = float(stdtrit(n - 2, 0.5 + level / 2))
    reach = quantile * spread * float(np.sqrt(1 + 1 / n + (at - middle) ** 2 / squares))
    expected = start + slope * at
    of_slope = float(stdtrit(n - 2, 0.975)) * spread / np.sqrt(squares)
    above = above_interval = None
    if our_rate is not None and our_rate > 0:
        distance = float(np.log(our_rate)) - expected
        above = float(np.exp(distance))
        above_interval = Interval(low=float(np.exp(distance - reach)), high=float(np.exp(distance + reach)),
                                  level=level)  # fmt: skip
    return SizeLine(
        level=start, slope=slope, spread=spread, peers=n, at=our_followers, middle=float(middle), squares=squares,
        slope_interval=Interval(low=slope - of_slope, high=slope + of_slope), smallest=float(np.exp(x.min())),
        largest=float(np.exp(x.max())), expected=float(np.exp(expected)), above=above, above_interval=above_interval,
        usual=Interval(low=float(np.exp(expected - reach)), high=float(np.exp(expected + reach)), level=level),
    )  # fmt: skip
