"""What is usual for this profile, and how does a post stand to it?"""

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.growth import Growth

Array = NDArray[np.float64]

WINDOW = 60
FEWEST = 8
FEWEST_OF_FORMAT = 30
# Below this share of its final count a post is too young to say anything about others.
LEAST_SHARE = 0.02


def running_typical(values: Array, *, window: int = WINDOW, fewest: int = FEWEST) -> Array:
    """Typical value around each post: the median of up to `window` posts around it, never itself.

    values: shape (n,), in order of publishing, NaN where missing. The median is taken on the
    log scale (of 1 + value, so that zeros have a place). Returns shape (n,); NaN where fewer
    than `fewest` others are known. Follows slow trends, since the window moves with the post.
    """
    logs = np.log1p(np.maximum(values, 0.0))
    typical = np.full(len(values), np.nan)
    is_known = ~np.isnan(logs)
    known = logs[is_known]
    # Where each post stands among those that are known: its neighbours are a run of places around that one.
    place = np.cumsum(is_known) - is_known
    for of_known in (True, False):
        asked = np.flatnonzero(is_known == of_known)
        others = len(known) - of_known
        size = min(window, others)
        if size < fewest or not len(asked):
            continue
        at = place[asked][:, np.newaxis]
        first = np.clip(at - (window + of_known) // 2, 0, others - size)
        run = first + np.arange(size)
        if of_known:
            run += run >= at
        typical[asked] = np.expm1(np.median(known[run], axis=1))
    return typical


def typical_by_format(values: Array, formats: list[str]) -> Array:
    """Typical within a post's own format where there are enough of it, else within the profile."""
    result = running_typical(values)
    names = np.array(formats)
    for name in set(formats):
        own = np.flatnonzero(names == name)
        if np.count_nonzero(~np.isnan(values[own])) >= FEWEST_OF_FORMAT:
            result[own] = running_typical(values[own])
    return result


def typical_at_present(values: Array, ages_hours: Array, formats: list[str], growth: Growth) -> Array:
    """Typical value of each post at the age that it has now, though the posts around it are of other ages.

    values: shape (n,), counts as last seen, at ages_hours. Each is brought to its final count by
    the share that posts of the network have reached at its age; the typical of those is brought
    back to the post's own age. A post of three hours is so held against posts of three hours.
    """
    shares = growth.share(np.where(np.isnan(ages_hours), np.inf, ages_hours))
    with np.errstate(divide="ignore", invalid="ignore"):
        grown = np.where(shares > LEAST_SHARE, values / shares, np.nan)
    return np.asarray(typical_by_format(grown, formats) * shares)


def index_of(values: Array, typical: Array) -> Array:
    """Value / typical, 1.00 = typical; NaN where either is missing or the typical is below one."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(typical >= 1.0, values / typical, np.nan)
