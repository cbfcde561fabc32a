"""How do posts of a profile grow, as their readings tell it?

A curve says by age how far the log of a count still rises until the post is seven days old, and how much posts differ
in that. It is learnt from posts whose counts are known at both ages: their median, drawn towards what was known before
as far as they are few (empirical Bayes; what was known before counts as so many posts). What is known before of a
profile is its network's assumed growth, of a format the curve of its profile.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.growth import Growth

Array = NDArray[np.float64]

# Until when a projection looks, and the ages at which growth is told.
FINAL_HOURS = 168.0
AGES_HOURS = (1.0, 2.0, 3.0, 6.0, 12.0, 24.0, 72.0, 168.0, 672.0)
# As how many posts the assumed growth of a network counts, and a profile's for one of its formats.
ASSUMED_COUNTS_AS, PROFILE_COUNTS_AS = 6.0, 10.0
# Of a count that is due to grow by a factor e, posts of an unknown profile differ by so much (log scale).
_ASSUMED_SPREAD, _LEAST_SPREAD = 0.4, 0.03
_MAD_TO_SIGMA = 1.4826


@dataclass(frozen=True, kw_only=True)
class GrowthCurve:
    """rise: log1p(count at 7 d) - log1p(count at an age), as is typical; negative beyond 7 d. spread: its standard
    deviation between posts, chance in counting left out. posts: how many told it. All of shape (len(AGES_HOURS),).
    """

    rise: Array
    spread: Array
    posts: NDArray[np.int64]

    def at(self, ages_hours: Array) -> tuple[Array, Array]:
        """Rise and spread at any ages, interpolated on the log of the age: two arrays of their shape.

        Below the first age the rise goes on as it did from the first to the second; beyond the last it stands.
        """
        x, wanted = np.log(np.array(AGES_HOURS)), np.log(np.maximum(ages_hours, 1e-3))
        rise, spread = np.interp(wanted, x, self.rise), np.interp(wanted, x, self.spread)
        early = np.maximum(x[0] - wanted, 0.0)
        rise = rise + early * max(0.0, (self.rise[0] - self.rise[1]) / (x[1] - x[0]))
        return rise, spread * (1 + early)

    def share(self, ages_hours: Array) -> Array:
        """Share of the count at seven days that is typical at some ages."""
        found: Array = np.exp(-self.at(ages_hours)[0])
        return found


def assumed_curve(growth: Growth) -> GrowthCurve:
    """What is taken for granted of a network until readings tell: its half-life's curve."""
    ages = np.array(AGES_HOURS)
    grown = np.maximum(growth.share(np.append(ages, FINAL_HOURS)), 1e-4)
    rise = np.log(grown[-1] / grown[:-1])
    return GrowthCurve(
        rise=rise, spread=np.maximum(_ASSUMED_SPREAD * np.sqrt(np.abs(rise)), _LEAST_SPREAD),
        posts=np.zeros(len(ages), dtype=np.int64),
    )  # fmt: skip


def learnt_curve(values: Array, before: GrowthCurve, *, count_as: float = ASSUMED_COUNTS_AS) -> GrowthCurve:
    """The curve of some posts, drawn towards `before`, which counts as `count_as` posts.

    values: shape (n, len(AGES_HOURS)), counts at the ages, NaN where missing; posts without a count at 7 d say nothing.
    """
    logs = np.log1p(np.maximum(values, 0.0))
    final = AGES_HOURS.index(FINAL_HOURS)
    rises = logs[:, [final]] - logs
    known = ~np.isnan(rises)
    many = known.sum(axis=0)
    rise, spread = before.rise.copy(), before.spread.copy()
    for a in np.flatnonzero((many > 0) & (np.arange(len(AGES_HOURS)) != final)):
        own = rises[known[:, a], a]
        weight = many[a] / (many[a] + count_as)
        middle = float(np.median(own))
        rise[a] = weight * middle + (1 - weight) * before.rise[a]
        off = (_MAD_TO_SIGMA * float(np.median(np.abs(own - middle)))) ** 2 if many[a] > 2 else before.spread[a] ** 2
        chance = float(np.mean(counting_variance(values[known[:, a], a])))
        own_variance = max(off - chance, _LEAST_SPREAD**2)
        spread[a] = np.sqrt(weight * own_variance + (1 - weight) * before.spread[a] ** 2)
    return GrowthCurve(rise=rise, spread=spread, posts=many.astype(np.int64))


def counting_variance(counts: Array) -> Array:
    """Variance of log1p of a count that comes by chance (Poisson), by the delta method: c / (1 + c)^2, at least c =
    1.
    """
    at_least = np.maximum(counts, 1.0)
    found: Array = at_least / (1.0 + at_least) ** 2
    return found


def at_wanted_ages(ages_hours: Array, values: Array) -> Array:
    """Counts at AGES_HOURS from counts at the ages that are kept: (n, m) at ages (m,) to (n, len(AGES_HOURS)).

    Linear in log1p over the log of the age between the two around; NaN where either is missing.
    """
    x, logs = np.log(ages_hours), np.log1p(np.maximum(values, 0.0))
    found = np.full((len(values), len(AGES_HOURS)), np.nan)
    for a, age in enumerate(AGES_HOURS):
        after = int(np.searchsorted(ages_hours, age))
        if after < len(ages_hours) and ages_hours[after] == age:
            found[:, a] = logs[:, after]
        elif 0 < after < len(ages_hours):
            part = (np.log(age) - x[after - 1]) / (x[after] - x[after - 1])
            found[:, a] = (1 - part) * logs[:, after - 1] + part * logs[:, after]
    return np.asarray(np.expm1(found))
