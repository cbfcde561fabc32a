"""Where does a member stand among the others, and how sure is its place?"""

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
    values = np.array([np.nan if f.value is None else f.value for f in figures])
    errors = log_errors(figures)
    counts = np.array([max(0, f.n) for f in figures], dtype=float)
    known = ~np.isnan(values)
    found: list[Place | None] = []
    for i in range(len(figures)):
        if not known[i]:
            found.append(None)
            continue
        others = known.copy()
        others[i] = False
        above, below = values[others] > values[i], values[others] < values[i]
        sure_above, sure_below = above, below
        if is_sampled:
            apart = _apart(values, errors, counts, i, others, level)
            sure_above, sure_below = above & apart, below & apart
        among = int(others.sum())
        rank = 1 + int(above.sum())
        higher = values[others][above]
        following = int(np.flatnonzero(others)[np.flatnonzero(above)[np.argmin(higher)]]) if len(higher) else None
        equal = among - int(above.sum()) - int(below.sum())
        best, worst = 1 + int(sure_above.sum()), 1 + among - int(sure_below.sum())
        if not is_sampled:
            worst = rank
        found.append(
            Place(
                rank=rank, best=best, worst=worst, of=among + 1,
                percentile=100 * (below.sum() + equal / 2) / among if among else None,
                low=100 * sure_below.sum() / among if among else None,
                high=100 * (among - sure_above.sum()) / among if among else None,
                to_next=None if following is None else float(values[following] - values[i]),
                next_name="" if following is None else names[following],
            )
        )  # fmt: skip
    return found


def _apart(
    values: Array, errors: Array, counts: Array, i: int, others: NDArray[np.bool_], level: float
) -> NDArray[np.bool_]:
    """Which others differ from a member for sure: shape (others,)."""
    many = max(1, int(others.sum()))
    if not values[i] > 0 or np.isnan(errors[i]):
        return np.zeros(int(others.sum()), dtype=bool)
    ours, theirs = errors[i] ** 2, errors[others] ** 2
    with np.errstate(divide="ignore", invalid="ignore"):
        free = (ours + theirs) ** 2 / (
            ours**2 / max(1.0, counts[i] - 1) + theirs**2 / np.maximum(1.0, counts[others] - 1)
        )
        distance = np.abs(np.log(values[others]) - np.log(values[i])) / np.sqrt(ours + theirs)
    # Posts that are all alike on both sides have no spread: whatever differs then, differs.
    bound = stdtrit(np.where(ours + theirs == 0, 1.0, free), 0.5 + level ** (1 / many) / 2)
    found: NDArray[np.bool_] = np.nan_to_num(distance, nan=0.0, posinf=np.inf) > bound
    return found


def percentile_interval(place: Place) -> Interval | None:
    """The place as a percentile's interval."""
    if place.low is None or place.high is None:
        return None
    return Interval(low=place.low, high=place.high)
