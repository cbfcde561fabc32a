"""What is taken for granted of a profile's hours until posts tell: who is there, or the network's usual hours.

Nothing is claimed of it: an effect is never said to be one, and its intervals are those of what profiles differ in
before anything is known of them.

In the trade's words: prior, cold start.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from dakika_core.timing.best_times import Certainty, HourEffects, presence_offset
from dakika_core.values.period import HOURS_PER_WEEK

Array = NDArray[np.float64]

# Standard deviations before the data, log scale: of the daily curve, of what single days and hours have of their own.
_DAILY, _REACH, _OWN = 0.2, 0.55, 0.1
_NOISE = 0.6
# How far around a usual hour of a network it is about as usual.
_HOURS_AROUND = 1.5


def presumed(presence: Array | None, default_hours: Sequence[int] = ()) -> HourEffects:
    """Effects before there are posts: by presence (168,), else by a network's usual hours of the day, else none."""
    curve = presence if presence is not None and presence.max() > 0 else _usual(default_hours)
    offset = presence_offset(curve)
    hours = np.arange(HOURS_PER_WEEK)
    apart = np.subtract.outer(hours, hours)
    daily = np.exp(-2 * np.sin(np.pi * apart / 24) ** 2 / _REACH**2)
    near = np.exp(-2 * np.sin(np.pi * apart / HOURS_PER_WEEK) ** 2 / 0.12**2)
    covariance = _DAILY**2 * daily + _OWN**2 * near + np.outer(offset, offset)
    spread = np.sqrt(np.diag(covariance))
    index = np.exp(offset)
    return HourEffects(
        index=index, low80=index * np.exp(-1.2816 * spread), high80=index * np.exp(1.2816 * spread),
        low95=index * np.exp(-1.96 * spread), high95=index * np.exp(1.96 * spread),
        nearby=np.zeros(HOURS_PER_WEEK, dtype=np.int64), from_posts=np.zeros(HOURS_PER_WEEK), posts=0,
        certainty=(Certainty.OPEN,) * HOURS_PER_WEEK, has_effect=False, odds=1.0, by_presence=index,
        covariance=covariance, noise=_NOISE,
    )  # fmt: skip


def _usual(default_hours: Sequence[int]) -> Array | None:
    if not default_hours:
        return None
    clock = np.arange(HOURS_PER_WEEK) % 24
    apart = np.abs(np.subtract.outer(clock, np.array(default_hours)))
    near = np.minimum(apart, 24 - apart).min(axis=1)
    found: Array = 0.2 + np.exp(-0.5 * (near / _HOURS_AROUND) ** 2)
    return found
