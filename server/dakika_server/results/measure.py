"""Work out a profile's measures anew from its readings. Run again, it gives the same."""

from datetime import datetime

import numpy as np
from dakika_core.metrics.at_age import Array, gains_by_day, interactions_of, values_at_ages
from dakika_core.metrics.observed import DEFAULT_AGES_HOURS, OBSERVED
from dakika_core.metrics.typical import index_of, typical_by_format
from django.db import connection, transaction

from dakika_server.results.models import LATEST
from dakika_server.sources.models import Post, PostReading, Profile, ProfileReading

_AGES = (*DEFAULT_AGES_HOURS, LATEST)
_KEPT = ("impressions", "reach", "reactions", "comments", "shares", "saves", "link_clicks", "video_views", "negative")
# Gains below this are the tail of the interpolation, not something that happened.
_LEAST_GAIN = 0.05


def measure_profile(profile: Profile) -> int:
    """Replace the measures and daily gains of all posts of a profile; returns how many posts there are."""
    posts = list(
        Post.objects.filter(profile=profile).order_by("published_at", "pk").only("pk", "published_at", "format")
    )
    readings = _readings(profile.pk)
    followers = _followers_at(profile, [post.published_at for post in posts])
    values = np.full((len(posts), len(_AGES), len(OBSERVED)), np.nan)
    taken: list[datetime | None] = [None] * len(posts)
    gains = []
    for i, post in enumerate(posts):
        times, seen = readings.get(post.pk, ([], np.empty((0, len(OBSERVED)))))
        if not times:
            continue
        taken[i] = times[-1]
        ages = np.array([(at - post.published_at).total_seconds() / 3600 for at in times])
        values[i, :-1] = values_at_ages(ages, seen, DEFAULT_AGES_HOURS)
        values[i, -1] = _last_known(seen)
        days, gained = gains_by_day(post.published_at, times, seen, profile.brand.zone)
        gains.append((post.pk, days, gained))
    interactions = interactions_of(values)
    formats = [post.format for post in posts]
    typical = (
        np.column_stack([typical_by_format(interactions[:, a], formats) for a in range(len(_AGES))])
        if posts
        else values[:, :, 0]
    )
    index = index_of(interactions, typical)
    with transaction.atomic(), connection.cursor() as cursor:
        # One at a time per profile, so that two workers do not write over each other.
        cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [20, profile.pk])
        cursor.execute("DELETE FROM results_postmeasure WHERE profile_id = %s", [profile.pk])
        cursor.execute("DELETE FROM results_postday WHERE profile_id = %s", [profile.pk])
        columns = ", ".join(_KEPT)
        with cursor.copy(
            f"COPY results_postmeasure (brand_id, profile_id, post_id, age_hours, taken_at, followers, {columns}, "
            "interactions, typical, index) FROM STDIN"
        ) as copy:
            for i, post in enumerate(posts):
                for a, age in enumerate(_AGES):
                    row = [values[i, a, OBSERVED.index(key)] for key in _KEPT]
                    numbers = [followers[i], *row, interactions[i, a], typical[i, a], index[i, a]]
                    copy.write_row((profile.brand_id, profile.pk, post.pk, age, taken[i], *map(_or_null, numbers)))
        with cursor.copy(
            "COPY results_postday (brand_id, profile_id, post_id, day, impressions, reach, interactions, link_clicks) "
            "FROM STDIN"
        ) as copy:
            wanted = [OBSERVED.index(key) for key in ("impressions", "reach")]
            for pk, days, gained in gains:
                sums = interactions_of(gained)
                for day, row, total in zip(days, gained, sums, strict=True):
                    numbers = [*row[wanted], total, row[OBSERVED.index("link_clicks")]]
                    if any(abs(n) > _LEAST_GAIN for n in numbers if n == n):
                        copy.write_row((profile.brand_id, profile.pk, pk, day, *map(_or_null, numbers)))
    return len(posts)


def _or_null(value: float) -> float | None:
    return None if value != value else float(value)


def _last_known(seen: Array) -> Array:
    last = np.full(seen.shape[1], np.nan)
    for row in seen:
        last = np.where(np.isnan(row), last, row)
    return last


def _readings(profile_id: int) -> dict[int, tuple[list[datetime], Array]]:
    rows = (
        PostReading.objects.filter(post__profile_id=profile_id)
        .order_by("post_id", "taken_at")
        .values_list("post_id", "taken_at", *OBSERVED)
    )
    grouped: dict[int, tuple[list[datetime], list[list[float]]]] = {}
    for post_id, taken_at, *counts in rows.iterator(chunk_size=5000):
        times, values = grouped.setdefault(post_id, ([], []))
        times.append(taken_at)
        values.append([np.nan if c is None else float(c) for c in counts])
    return {post_id: (times, np.array(values)) for post_id, (times, values) in grouped.items()}


def _followers_at(profile: Profile, instants: list[datetime]) -> Array:
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
    wanted = np.array([at.astimezone(profile.brand.zone).date().toordinal() for at in instants], dtype=int)
    place = np.searchsorted(days, wanted, side="right") - 1
    return np.where(place >= 0, counts[np.maximum(place, 0)], np.nan)
