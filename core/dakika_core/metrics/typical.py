"""What is usual for this profile, and how does a post stand to it?"""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

WINDOW = 60
FEWEST = 8
FEWEST_OF_FORMAT = 30


def running_typical(values: Array, *, window: int = WINDOW, fewest: int = FEWEST) -> Array:
    """Typical value around each post: the median of up to `window` posts around it, never itself.

    values: shape (n,), in order of publishing, NaN where missing. The median is taken on the
    log scale (of 1 + value, so that zeros have a place). Returns shape (n,); NaN where fewer
    than `fewest` others are known. Follows slow trends, since the window moves with the post.
    """
    logs = np.log1p(np.maximum(values, 0.0))
    typical = np.full(len(values), np.nan)
    known = np.flatnonzero(~np.isnan(logs))
    for i in range(len(values)):
        at = int(np.searchsorted(known, i))
        others = known[max(0, at - window) : at + window + 1]
        others = others[others != i]
        if len(others) > window:
            nearest = np.argsort(np.abs(np.searchsorted(known, others) - at), kind="stable")[:window]
            others = others[nearest]
        if len(others) >= fewest:
            typical[i] = np.expm1(np.median(logs[others]))
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


def index_of(values: Array, typical: Array) -> Array:
    """Value / typical, 1.00 = typical; NaN where either is missing or the typical is below one."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(typical >= 1.0, values / typical, np.nan)
