"""Which readings of an old post are still wanted: those from which its values at equal ages and by day follow."""

from collections.abc import Sequence

import numpy as np

from dakika_core.metrics.at_age import Array

# Slopes of the curve between two readings depend on one more at each side (monotone_curve).
AROUND = 2
# So long each day keeps its last reading; later each thirty days do.
DAILY_UNTIL_HOURS, HOURS_OF_MONTH = 28 * 24.0, 30 * 24.0


def wanted_readings(ages_hours: Array, values: Array, wanted_hours: Sequence[float]) -> Array:
    """Which of a post's readings must stay. Shape (n,), bool.

    ages_hours: shape (n,), ascending, hours since publishing. values: shape (n, m), NaN where missing. wanted_hours:
    ages at which values are told. For each metric by itself: the first and the last reading that know it, the two
    before and after each age, and the last of each day of its first four weeks, of each thirty days later. Values at
    these ages, the final and the latest count are the same without the others; courses by day keep their days for four
    weeks.
    """
    kept = np.zeros(len(ages_hours), dtype=bool)
    bucket = np.where(
        ages_hours < DAILY_UNTIL_HOURS, np.floor(ages_hours / 24.0), -1.0 - np.floor(ages_hours / HOURS_OF_MONTH)
    )
    is_known = ~np.isnan(values)
    for pattern in np.unique(is_known, axis=1).T if values.size else ():
        places = np.flatnonzero(pattern)
        if len(places) == 0:
            continue
        ages = ages_hours[places]
        kept[places[[0, -1]]] = True
        # The origin stands before the first reading, so that the first two always matter.
        kept[places[:AROUND]] = True
        for wanted in wanted_hours:
            at = int(np.searchsorted(ages, wanted))
            kept[places[max(0, at - AROUND) : at + AROUND + 1]] = True
        ends = np.append(np.diff(bucket[places]) != 0, True)
        kept[places[ends]] = True
    # A reading that knows nothing says that somebody looked: the last of all is until when it was read.
    if len(kept):
        kept[-1] = True
    return kept
