"""What is kept of a profile's posts, all of them or those around some, as arrays in the order of publishing."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

import numpy as np
from dakika_core.metrics.at_age import Array
from dakika_core.metrics.typical import Mask
from dakika_core.networks.definition import Format
from dakika_core.values.period import Period
from numpy.typing import NDArray

from dakika_server.measures.arrays import fetch_rows
from dakika_server.measures.models import LATEST
from dakika_server.measures.values import AGES, Read
from dakika_server.sources.models import Post, Profile

# So many posts before and after those that changed hold all that stands near them, but for rare formats.
AROUND = 1500
_FORMATS = np.array(["", *(kind.value for kind in Format)])
_KEPT = """
measures_postmeasure WHERE profile_id = %(profile)s AND post_id <> ALL(%(left_out)s)
    AND published_at >= coalesce(%(first)s, '-infinity'::timestamptz)
    AND published_at <= coalesce(%(last)s, 'infinity'::timestamptz)
"""
_LATEST = f"{_KEPT} AND age_hours = %(latest)s"
_OF_LATEST = {
    "post": ("int8", "post_id"), "published": ("float8", "extract(epoch FROM published_at)"),
    "format": ("int4", "coalesce(array_position(%(formats)s::text[], format::text), 1)"),
    "age": ("float8", "coalesce(extract(epoch FROM taken_at - published_at) / 3600, 'NaN')"),
    "interactions": ("float8", "coalesce(interactions, 'NaN')"),
}  # fmt: skip
_AT_AGES = f"{_KEPT} AND age_hours = ANY(%(ages)s) AND interactions IS NOT NULL"
_OF_AGES = {
    "post": ("int8", "post_id"), "column": ("int4", "array_position(%(ages)s::smallint[], age_hours) - 1"),
    "interactions": ("float8", "interactions"),
}  # fmt: skip
_NOTHING = "measures_postmeasure WHERE false"
# From one moment to another; None is without end.
Span = tuple[datetime | None, datetime | None]
EVERYTHING: Span = (None, None)


@dataclass(frozen=True, kw_only=True)
class Series:
    """A profile's posts in the order of publishing, n of them. Each shape (n,), interactions (n, ages).

    published is in seconds since 1970, ages_hours how old each was when it was last seen, NaN if it never was;
    is_changed whether it was measured just now.
    """

    posts: NDArray[np.int64]
    published: Array
    formats: NDArray[np.str_]
    ages_hours: Array
    interactions: Array
    is_changed: Mask


def start_of(profile: Profile, day: date | None) -> datetime | None:
    """When a day of the brand's begins."""
    return Period(first=day, last=day, zone=profile.brand.zone).start if day else None


def span_around(profile: Profile, changed: Sequence[Read], followers_since: date | None) -> Span:
    """From so many posts before the first that changed to as many after the last, and the posts since a day whose
    followers changed.
    """
    since = start_of(profile, followers_since)
    if not changed:
        return since, None
    posts = Post.objects.filter(profile=profile).values_list("published_at", flat=True)
    before = posts.filter(published_at__lte=changed[0].published_at).order_by("-published_at")
    after = posts.filter(published_at__gte=changed[-1].published_at).order_by("published_at")
    first, last = (found[AROUND : AROUND + 1].first() for found in (before, after))
    return (min(first, since), None) if first and since else (first, None if since else last)


def series_of(
    cursor: Any, profile: Profile, changed: Sequence[Read], measured: Mapping[int, Array], left_out: Sequence[int],
    span: Span | None,
) -> Series:  # fmt: skip
    """What is kept of a profile's posts within a span but for those left out, and what was measured of the changed.

    Without a span nothing that is kept is read.
    """
    first, last = span or EVERYTHING
    keys = {
        "profile": profile.pk, "latest": LATEST, "ages": [age if age != LATEST else None for age in AGES],
        "formats": _FORMATS.tolist(), "left_out": list(left_out), "first": first, "last": last,
    }  # fmt: skip
    kept = fetch_rows(cursor, _LATEST if span else _NOTHING, keys, _OF_LATEST)
    at_ages = fetch_rows(cursor, _AT_AGES if span else _NOTHING, keys, _OF_AGES)
    posts = np.concatenate([kept["post"], np.array([post.pk for post in changed], dtype=np.int64)])
    published = np.concatenate([kept["published"], [post.published_at.timestamp() for post in changed]])
    of_changed = np.array([measured[post.pk] for post in changed]).reshape(len(changed), len(AGES))
    order = np.lexsort((posts, published))
    return Series(
        posts=posts[order], published=published[order],
        formats=np.concatenate([_FORMATS[kept["format"] - 1], [post.format for post in changed]])[order],
        ages_hours=np.concatenate([kept["age"], [post.age_hours for post in changed]])[order],
        interactions=np.concatenate([_by_age(kept, at_ages), of_changed])[order],
        is_changed=(np.arange(len(posts)) >= len(kept))[order],
    )  # fmt: skip


def _by_age(kept: NDArray[Any], at_ages: NDArray[Any]) -> Array:
    """Interactions of the kept posts at all ages, shape (n, ages)."""
    table = np.full((len(kept), len(AGES)), np.nan)
    table[:, AGES.index(LATEST)] = kept["interactions"]
    if len(kept):
        by_key = np.argsort(kept["post"])
        place = np.searchsorted(kept["post"], at_ages["post"], sorter=by_key)
        row = by_key[np.minimum(place, len(kept) - 1)]
        is_there = kept["post"][row] == at_ages["post"]
        table[row[is_there], at_ages["column"][is_there]] = at_ages["interactions"][is_there]
    return table
