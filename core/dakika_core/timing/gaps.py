"""Hours that are missed, and hours that are crowded: where posts stand against where the audience and the index are.

In the trade's words: underused hours, content saturation.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

from dakika_core.timing.best_times import HourEffects
from dakika_core.timing.proposals import is_quiet
from dakika_core.values.figure import Interval
from dakika_core.values.period import HOURS_PER_WEEK

Array = NDArray[np.float64]

# Much presence, as a share of the busiest hour; a high index; a low one.
MUCH_PRESENCE, HIGH, LOW = 0.7, 1.05, 0.97
# Few posts: less than a third of what an even spread over the waking hours would put there; many: more than twice.
_FEW, _MANY, _WAKING_HOURS = 1 / 3, 2.0, 112
MOST = 5


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """Neighbouring hours of the week: the first, how many, the index of a post there with its 80 % interval (None
    where posts say nothing), the mean presence (None where unknown), and how many posts of the past stand there.
    """

    first: int
    hours: int
    index: float | None
    interval: Interval | None
    presence: float | None
    posts: int

    def among(self) -> list[int]:
        """Its hours of the week."""
        return [(self.first + i) % HOURS_PER_WEEK for i in range(self.hours)]


def missed(
    effects: HourEffects | None, presence: Array | None, post_hours: Sequence[float], *,
    quiet_from: int = 23, quiet_to: int = 7,
) -> list[Stretch]:  # fmt: skip
    """Waking hours with a high index, or with much presence where posts say nothing against it, and few posts.

    Ordered by what they would bring: the lower end of their interval first, then presence. An index counts as high when
    its own 80 % interval lies above 1.00; as far as an effect of hours may be claimed at all.
    """
    few = _FEW * len(post_hours) / _WAKING_HOURS
    near = _near(post_hours)
    wanted = []
    for hour in range(HOURS_PER_WEEK):
        if near[hour] > 3 * few or is_quiet(hour % 24, quiet_from, quiet_to):
            continue
        is_high = bool(effects and effects.has_effect and effects.index[hour] >= HIGH and effects.low80[hour] > 1.0)
        is_there = presence is not None and bool(presence[hour] >= MUCH_PRESENCE)
        against = bool(effects and effects.has_effect and effects.high80[hour] < 1.0)
        if is_high or (is_there and not against):
            wanted.append(hour)
    found = [_stretch(hours, effects, presence, post_hours) for hours in _runs(wanted)]
    return sorted(found, key=_promise, reverse=True)[:MOST]


def crowded(effects: HourEffects | None, presence: Array | None, post_hours: Sequence[float]) -> list[Stretch]:
    """Hours of many posts whose index is low: its 80 % interval lies below 1.00. The most crowded first."""
    if effects is None or not effects.has_effect:
        return []
    counted = _counted(post_hours)
    many = _MANY * len(post_hours) / _WAKING_HOURS
    wanted = [
        hour for hour in range(HOURS_PER_WEEK)
        if counted[hour] >= max(many, 2.0) and effects.index[hour] <= LOW and effects.high80[hour] < 1.0
    ]  # fmt: skip
    found = [_stretch(hours, effects, presence, post_hours) for hours in _runs(wanted)]
    return sorted(found, key=lambda stretch: stretch.posts, reverse=True)[:MOST]


def _promise(stretch: Stretch) -> tuple[float, float]:
    is_sure = stretch.interval is not None and stretch.interval.low > 1.0
    return (stretch.interval.low if is_sure and stretch.interval else 1.0, stretch.presence or 0.0)


def _counted(post_hours: Sequence[float]) -> Array:
    found = np.zeros(HOURS_PER_WEEK)
    np.add.at(found, np.asarray(post_hours, dtype=int) % HOURS_PER_WEEK, 1)
    return found


def _near(post_hours: Sequence[float]) -> Array:
    """Posts in an hour and those beside it."""
    counted = _counted(post_hours)
    found: Array = counted + np.roll(counted, 1) + np.roll(counted, -1)
    return found


def _runs(hours: Sequence[int]) -> list[list[int]]:
    """Runs of neighbouring hours of one day."""
    found: list[list[int]] = []
    for hour in hours:
        if found and found[-1][-1] == hour - 1 and hour % 24 != 0:
            found[-1].append(hour)
        else:
            found.append([hour])
    return found


def _stretch(
    hours: list[int], effects: HourEffects | None, presence: Array | None, post_hours: Sequence[float]
) -> Stretch:
    index, interval = None, None
    if effects is not None:
        mean, spread = effects.mean_of(hours)
        half = float(ndtri(0.9)) * spread
        index = float(np.exp(mean))
        interval = Interval(low=float(np.exp(mean - half)), high=float(np.exp(mean + half)), level=0.8)
    return Stretch(
        first=hours[0], hours=len(hours), index=index, interval=interval,
        presence=None if presence is None else float(presence[hours].mean()),
        posts=int(_counted(post_hours)[hours].sum()),
    )  # fmt: skip
