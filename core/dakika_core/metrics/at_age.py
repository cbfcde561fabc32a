"""What was a post's metric when it was a given number of hours old?"""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.observed import INTERACTION_PARTS, OBSERVED
from dakika_core.values.period import start_of_day

Array = NDArray[np.float64]

# The moment of publishing is a reading of zero; it may only bridge to a first reading that
# came while the asked age was not yet long past, else most of the curve would be invented.
ORIGIN_REACHES = 2.0


def interactions_of(values: Array) -> Array:
    """Sum of the parts of interactions that are reported: shape (..., len(OBSERVED)) to (...).

    Missing only where no part is reported.
    """
    parts = values[..., [OBSERVED.index(key) for key in INTERACTION_PARTS]]
    known = ~np.isnan(parts)
    return np.where(known.any(axis=-1), np.where(known, parts, 0.0).sum(axis=-1), np.nan)


def values_at_ages(ages_hours: Array, values: Array, wanted_hours: Sequence[float]) -> Array:
    """Cumulative values at the wanted ages, interpolated between the readings around.

    ages_hours: shape (n,), ascending, hours since publishing. values: shape (n, m), NaN where
    missing. Returns shape (len(wanted), m); NaN where the readings do not reach the age.
    Linear on log(1 + age): monotone between any two readings, and close to the way posts grow.
    """
    wanted = np.asarray(wanted_hours, dtype=float)
    result = np.full((len(wanted), values.shape[1]), np.nan)
    for column in range(values.shape[1]):
        known = ~np.isnan(values[:, column])
        if not known.any():
            continue
        ages, seen = ages_hours[known], values[known, column]
        ages, seen = np.append(0.0, ages), np.append(0.0, seen)
        inside = wanted <= ages[-1]
        first = ages[1]
        bridged = (wanted >= first) | (first <= ORIGIN_REACHES * wanted)
        usable = inside & bridged
        result[usable, column] = np.interp(np.log1p(wanted[usable]), np.log1p(ages), seen)
    return result


def gains_by_day(
    published_at: datetime, taken_at: Sequence[datetime], values: Array, zone: ZoneInfo
) -> tuple[list[date], Array]:
    """What a post gained on each calendar day of `zone`, from publishing to its last reading.

    values: shape (n, m) cumulative, ascending in time. Returns the days and shape (days, m). A
    counter that the network corrected downwards gives a negative gain on that day: it is said,
    not hidden. NaN where a metric is missing.
    """
    if not taken_at:
        return [], np.empty((0, values.shape[1]))
    first, last = published_at.astimezone(zone).date(), taken_at[-1].astimezone(zone).date()
    days = [first + timedelta(days=i) for i in range((last - first).days + 1)]
    marks = [(start_of_day(day + timedelta(days=1), zone) - published_at).total_seconds() / 3600 for day in days]
    ages = np.array([(at - published_at).total_seconds() / 3600 for at in taken_at])
    cumulative = np.full((len(days) + 1, values.shape[1]), np.nan)
    for column in range(values.shape[1]):
        known = ~np.isnan(values[:, column])
        if known.any():
            grid = np.append(0.0, ages[known])
            seen = np.append(0.0, values[known, column])
            ends = np.minimum(marks, grid[-1])
            cumulative[:, column] = np.append(0.0, np.interp(np.log1p(ends), np.log1p(grid), seen))
    return days, np.diff(cumulative, axis=0)
