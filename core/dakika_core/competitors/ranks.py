"""Where does a member stand among the others, and how sure is its place?

In the trade's words: leaderboard, percentile rank.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import stdtrit

from dakika_core.values.figure import Figure, Interval

Array = NDArray[np.float64]
# A member with fewer posts has no interval of its own, so it cannot be told apart from anybody.
FEWEST = 3


@dataclass(frozen=True, kw_only=True)
class Place:
    """rank: 1 is the largest, equals share the better one. best, worst: the ranks that are not ruled out.

    percentile: how many in a hundred of the others stand below, equals by half; low and high as best and worst say.
    to_next: what is missing to the next one above, in the metric's unit, None for the first. of: members with a value.
    """

    rank: int
    best: int
    worst: int
    of: int
    percentile: float | None
    low: float | None
    high: float | None
    to_next: float | None
    next_name: str = ""

    @property
    def is_sure(self) -> bool:
        """Whether no other rank is possible."""
        return self.best == self.worst


def log_errors(figures: Sequence[Figure]) -> Array:
    """Standard error of each figure's logarithm from its interval, NaN where it has none: shape (members,).

    A figure that is counted, not sampled (followers), has none either and is taken as it is by `places`.
    """
    found = np.full(len(figures), np.nan)
    for i, figure in enumerate(figures):
        held = figure.interval
        if held is not None and held.low > 0 and figure.n >= FEWEST:
            quantile = float(stdtrit(max(1, figure.n - 1), 0.5 + held.level / 2))
            found[i] = np.log(held.high / held.low) / 2 / quantile
    return found


def places(
    figures: Sequence[Figure], names: Sequence[str], *, is_sampled: bool, level: float = 0.95
) -> list[Place | None]:
    """Each member's place by its figure, None where it has no value.

    What is not sampled is ranked as it stands. Of what is, a member counts as surely above another only where the
    difference of their logs lies beyond a bound that holds for all its comparisons at once (Sidak 1967, Welch's degrees
    of freedom); the ranks left over hold the true one with at least the level, ties and near ties included
    (M. Mogstad, J. P. Romano, A. Shaikh and D. Wilhelm 2024, "Inference for ranks with applications to mobility across
    neighbourhoods and academic achievement across countries", Review of Economic Studies 91, 476-518: from memory).
    """
    values = np.array([np.nan if f.value is None else f.value for f in figures], dtype=float)
    known: list[int] = np.flatnonzero(~np.isnan(values)).tolist()
    found: list[Place | None] = [None] * len(figures)
    if not known:
        return found
    told = values[known]
    above, below = told[None, :] > told[:, None], told[None, :] < told[:, None]
    sure_above, sure_below = above, below
    if is_sampled:
        counts = np.array([max(0, figures[i].n) for i in known], dtype=np.float64)
        apart = _apart(told, log_errors([figures[i] for i in known]), counts, level)
        sure_above, sure_below = above & apart, below & apart
    among = len(known) - 1
    many = [side.sum(axis=1).tolist() for side in (above, below, sure_above, sure_below)]
    # The lowest of those above; of equals the first.
    following = np.argmin(np.where(above, told[None, :], np.inf), axis=1)
    for i, (ups, downs, sure_ups, sure_downs) in enumerate(zip(*many, strict=True)):
        ahead = known[following[i]] if ups else None
        found[known[i]] = Place(
            rank=1 + ups, best=1 + sure_ups, worst=1 + among - sure_downs if is_sampled else 1 + ups, of=among + 1,
            percentile=100 * (downs + (among - ups - downs) / 2) / among if among else None,
            low=100 * sure_downs / among if among else None,
            high=100 * (among - sure_ups) / among if among else None,
            to_next=None if ahead is None else float(values[ahead] - told[i]),
            next_name="" if ahead is None else names[ahead],
        )  # fmt: skip
    return found


def _apart(values: Array, errors: Array, counts: Array, level: float) -> NDArray[np.bool_]:
    """Which members differ from which for sure: shape (members, members), by row whose comparisons they are."""
    many = max(1, len(values) - 1)
    is_usable = (values > 0) & ~np.isnan(errors)
    squares, free = errors**2, np.maximum(1.0, counts - 1)
    both = squares[:, None] + squares[None, :]
    with np.errstate(divide="ignore", invalid="ignore"):
        freedom = both**2 / (squares[:, None] ** 2 / free[:, None] + squares[None, :] ** 2 / free[None, :])
        logs = np.log(values)
        distance = np.abs(logs[None, :] - logs[:, None]) / np.sqrt(both)
    # Posts that are all alike on both sides have no spread: whatever differs then, differs.
    bound = stdtrit(np.where(both == 0, 1.0, freedom), 0.5 + level ** (1 / many) / 2)
    found: NDArray[np.bool_] = np.nan_to_num(distance, nan=0.0, posinf=np.inf) > bound
    return found & is_usable[:, None]


def percentile_interval(place: Place) -> Interval | None:
    """The place as a percentile's interval."""
    if place.low is None or place.high is None:
        return None
    return Interval(low=place.low, high=place.high)
