"""What is typical around a profile's posts, for all of them or for those that a change touches, into tables of this
session.
"""

from collections.abc import Sequence
from datetime import date, datetime
from typing import Any

import numpy as np
from dakika_core.metrics.at_age import Array
from dakika_core.metrics.typical import (
    WINDOW,
    Mask,
    depends_on,
    grown,
    index_of,
    prior_count,
    running_typical,
    typical_by_format,
)

from dakika_server.measures.arrays import send_rows
from dakika_server.measures.models import LATEST
from dakika_server.measures.series import Series, Span, start_of
from dakika_server.measures.values import AGES, growth_of
from dakika_server.sources.models import Profile, ProfileReading

# By age, and by format: the seconds since 1970 of the first and the last that is known.
Extent = dict[str, dict[str, tuple[float, float]]]


def _at_age(profile: Profile, series: Series, a: int) -> tuple[Array, Array]:
    """Interactions at an age, as they can be held against one another, and the share that brings them back."""
    if AGES[a] == LATEST:
        return grown(series.interactions[:, a], series.ages_hours, growth_of(profile.network))
    return series.interactions[:, a], np.ones(len(series.posts))


def touched(profile: Profile, series: Series) -> list[Mask]:
    """Of which posts the typical may be another one now, by age: shape (n,) each."""
    found = []
    for a in range(len(AGES)):
        is_known = ~np.isnan(_at_age(profile, series, a)[0]) | series.is_changed
        found.append(depends_on(series.is_changed, is_known, series.formats))
    return found


def extent_of(profile: Profile, series: Series, before: Extent | None) -> Extent:
    """By age and format when the first and the last posts were published whose value is known; `before` widened."""
    found: Extent = {age: dict(of_formats) for age, of_formats in (before or {}).items()}
    for a, age in enumerate(AGES):
        is_known = ~np.isnan(_at_age(profile, series, a)[0])
        for name in np.unique(series.formats[is_known]).tolist():
            at = series.published[is_known & (series.formats == name)]
            first, last = found.setdefault(str(age), {}).get(name, (np.inf, -np.inf))
            found[str(age)][name] = (min(first, float(at[0])), max(last, float(at[-1])))
    return found


def holds_neighbours(profile: Profile, series: Series, asked: Sequence[Mask], span: Span, extent: Extent) -> bool:
    """Whether a span holds everything that the typical of the posts asked for follows from."""
    for a, mask in enumerate(asked):
        is_known, of_formats = ~np.isnan(_at_age(profile, series, a)[0]), extent.get(str(AGES[a]), {})
        every = np.ones(len(mask), dtype=bool)
        groups = [(every, list(of_formats.values()))]
        for name in np.unique(series.formats[mask]).tolist():
            groups.append((series.formats == name, [of_formats[name]] if name in of_formats else []))
        if not all(_holds(mask & of, is_known & of, span, known) for of, known in groups):
            return False
    return True


def _holds(asked: Mask, known: Mask, span: Span, extents: Sequence[tuple[float, float]]) -> bool:
    """Whether there are enough known ones on either side of those asked for, or none beyond the span."""
    places, (first, last) = np.flatnonzero(asked), span
    if not len(places) or not extents:
        return True
    before, after = np.count_nonzero(known[: places[0]]), np.count_nonzero(known[places[-1] + 1 :])
    lacks_before = first is not None and before <= WINDOW and min(e[0] for e in extents) < first.timestamp()
    lacks_after = last is not None and after <= WINDOW and max(e[1] for e in extents) > last.timestamp()
    return not (lacks_before or lacks_after)


def stage_typical(
    cursor: Any, profile: Profile, series: Series, asked_at: Sequence[Mask] | None, count_as: Sequence[float] | None
) -> list[float]:
    """Work out what is typical, of posts asked for by age or of all; count_as says by age how far formats count for
    themselves (typical_by_format), without it their values do. Returns count_as.
    """
    used = []
    for a, age in enumerate(AGES):
        values, share = _at_age(profile, series, a)
        asked = np.ones(len(values), dtype=bool) if asked_at is None else asked_at[a]
        k = prior_count(values, series.formats) if count_as is None else count_as[a]
        used.append(k)
        typical = (typical_by_format(values, series.formats, asked=asked, count_as=k) * share)[asked]
        of_profile = (running_typical(values, asked=asked) * share)[asked]
        seen, count = series.interactions[asked, a], np.count_nonzero(asked)
        send_rows(cursor, "stage_typical", {
            "post_id": (">i8", series.posts[asked]), "age_hours": (">i2", np.full(count, age)),
            "typical": (">f8", typical), "index": (">f8", index_of(seen, typical)),
            "profile_index": (">f8", index_of(seen, of_profile)),
        })  # fmt: skip
    return used


def stage_followers(cursor: Any, profile: Profile, series: Series, *, since: date | None, is_whole: bool) -> None:
    """Followers at publishing: of all posts, or of the changed ones and those since a day whose followers changed."""
    asked = np.ones(len(series.posts), dtype=bool) if is_whole else series.is_changed.copy()
    if begins := start_of(profile, since):
        asked |= series.published >= begins.timestamp()
    send_rows(cursor, "stage_followers", {
        "post_id": (">i8", series.posts[asked]), "followers": (">f8", _followers_at(profile, series.published[asked])),
    })  # fmt: skip


def _followers_at(profile: Profile, instants: Array) -> Array:
    """Followers on the day of each instant: the last reading up to it, missing before the first."""
    rows = list(
        ProfileReading.objects.filter(profile=profile, followers__isnull=False)
        .order_by("day")
        .values_list("day", "followers")
    )
    if not rows:
        return np.full(len(instants), np.nan)
    days = np.array([day.toordinal() for day, _ in rows])
    counts = np.array([float(count or 0) for _, count in rows])
    zone = profile.brand.zone
    wanted = np.array([datetime.fromtimestamp(at, zone).toordinal() for at in instants.tolist()], dtype=int)
    place = np.searchsorted(days, wanted, side="right") - 1
    return np.where(place >= 0, counts[np.maximum(place, 0)], np.nan)
