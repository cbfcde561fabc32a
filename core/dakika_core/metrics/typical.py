"""What is usual for this profile, and how does a post stand to it?

In the trade's words: baseline, performance index, rolling median.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.growth import Growth

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]
Names = NDArray[np.str_]

WINDOW = 60
FEWEST = 8
# How far formats lie apart on the log scale until a profile's own tell, and how many formats that counts as.
FORMATS_APART, APART_COUNTS_AS = 0.3, 3.0
# A median of n posts scatters by so many times their variance over n.
OF_MEDIANS = np.pi / 2
LEAST_SCATTER = 0.05
# Below this share of its final count a post is too young to say anything about others.
LEAST_SHARE = 0.02


def running_typical(values: Array, *, window: int = WINDOW, fewest: int = FEWEST, asked: Mask | None = None) -> Array:
    """Typical value around each post: the median of up to `window` posts around it, never itself.

    values: shape (n,), in order of publishing, NaN where missing. The median is taken on the
    log scale (of 1 + value, so that zeros have a place). Returns shape (n,); NaN where fewer
    than `fewest` others are known, and where it is not asked for. Follows slow trends, since
    the window moves with the post.
    """
    logs = np.log1p(np.maximum(values, 0.0))
    typical = np.full(len(values), np.nan)
    is_known = ~np.isnan(logs)
    known = logs[is_known]
    wanted = np.ones(len(values), dtype=bool) if asked is None else asked
    # Where each post stands among those that are known: its neighbours are a run of places around that one.
    place = np.cumsum(is_known) - is_known
    for of_known in (True, False):
        at_once = np.flatnonzero((is_known == of_known) & wanted)
        others = len(known) - of_known
        size = min(window, others)
        if size < fewest or not len(at_once):
            continue
        at = place[at_once][:, np.newaxis]
        first = np.clip(at - (window + of_known) // 2, 0, others - size)
        run = first + np.arange(size)
        if of_known:
            run += run >= at
        typical[at_once] = np.expm1(np.median(known[run], axis=1))
    return typical


def depends_on(changed: Mask, is_known: Mask, formats: Names, *, window: int = WINDOW) -> Mask:
    """Which posts' typical may be another one when the values of some changed, came or went. All of shape (n,).

    is_known: whether a post has a value, before or after. They are those with at most `window` known
    posts between, of all or of their format.
    """
    found = _near(changed, is_known, window)
    for name in np.unique(formats[changed]):
        own = np.flatnonzero(formats == name)
        found[own] |= _near(changed[own], is_known[own], window)
    return found


def _near(changed: Mask, is_known: Mask, window: int) -> Mask:
    rank: NDArray[np.int64] = np.cumsum(is_known)
    ranks: NDArray[np.int64] = np.unique(rank[changed])
    if not len(ranks):
        return np.zeros(len(changed), dtype=bool)
    after = np.searchsorted(ranks, rank)
    ahead, behind = ranks[np.minimum(after, len(ranks) - 1)], ranks[np.maximum(after - 1, 0)]
    return np.asarray((np.abs(ahead - rank) <= window + 1) | (np.abs(rank - behind) <= window + 1))


def typical_by_format(
    values: Array, formats: Sequence[str] | Names, *, asked: Mask | None = None, count_as: float | None = None
) -> Array:
    """Typical of a post's own format, drawn towards the profile's as far as there are few of it.

    On the log scale, with weight n / (n + k) on the format, n being its known others around the
    post: the profile counts as k posts of the format do (empirical Bayes), so that no post of it makes
    a jump. k is count_as, else what the values say of it (prior_count). NaN where the profile's own is,
    and where it is not asked for.
    """
    names, is_known = np.asarray(formats), ~np.isnan(values)
    wanted = np.ones(len(values), dtype=bool) if asked is None else asked
    whole = running_typical(values, asked=wanted)
    k = prior_count(values, names) if count_as is None else count_as
    result = whole.copy()
    for name in np.unique(names[wanted]):
        own = np.flatnonzero(names == name)
        of_format = running_typical(values[own], fewest=1, asked=wanted[own])
        others = np.minimum(WINDOW, np.count_nonzero(is_known[own]) - is_known[own])
        weight = np.where(np.isnan(of_format), 0.0, others / (others + k))
        logs = np.where(weight > 0, np.log1p(np.maximum(np.nan_to_num(of_format), 0.0)), 0.0)
        result[own] = np.expm1(weight * logs + (1 - weight) * np.log1p(whole[own]))
    return result


def prior_count(values: Array, names: Names) -> float:
    """As how many posts of a format the profile counts: how posts scatter, over how far its formats lie apart."""
    known = ~np.isnan(values)
    logs, of = np.log1p(np.maximum(values[known], 0.0)), names[known]
    if not len(logs):
        return 1.0
    middles = {name: float(np.median(logs[of == name])) for name in set(of.tolist())}
    left = logs - np.array([middles[name] for name in of.tolist()])
    scatter = max(LEAST_SCATTER, 1.4826 * float(np.median(np.abs(left)))) ** 2
    usual = float(np.median(logs))
    apart = [
        max(0.0, (middle - usual) ** 2 - OF_MEDIANS * scatter / np.count_nonzero(of == name))
        for name, middle in middles.items()
    ]
    between = (APART_COUNTS_AS * FORMATS_APART**2 + sum(apart)) / (APART_COUNTS_AS + len(apart))
    return float(OF_MEDIANS * scatter / between)


def grown(values: Array, ages_hours: Array, growth: Growth) -> tuple[Array, Array]:
    """Counts as last seen at ages_hours, brought to their final count, and the share that is reached by then.

    Both of shape (n,); NaN for posts too young to say anything about others.
    """
    shares = growth.share(np.where(np.isnan(ages_hours), np.inf, ages_hours))
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(shares > LEAST_SHARE, values / shares, np.nan), shares


def typical_at_present(values: Array, ages_hours: Array, formats: Sequence[str], growth: Growth) -> Array:
    """Typical value of each post at the age that it has now, though the posts around it are of other ages.

    values: shape (n,), counts as last seen, at ages_hours. Each is brought to its final count by
    the share that posts of the network have reached at its age; the typical of those is brought
    back to the post's own age. A post of three hours is so held against posts of three hours.
    """
    final, shares = grown(values, ages_hours, growth)
    return np.asarray(typical_by_format(final, formats) * shares)


def index_of(values: Array, typical: Array) -> Array:
    """Value / typical, 1.00 = typical; NaN where either is missing or the typical is below one."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(typical >= 1.0, values / typical, np.nan)
