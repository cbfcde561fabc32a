"""Work out a profile's measures from its readings: anew for posts that were read since, and what is typical for all.

Run again, it gives the same. Memory is bounded by a batch of posts, whatever the profile's size.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
from dakika_core.metrics.at_age import Array, gains_by_day, interactions_of, values_at_ages
from dakika_core.metrics.observed import DEFAULT_AGES_HOURS, OBSERVED
from dakika_core.metrics.typical import index_of, running_typical, typical_by_format
from django.db import connection, transaction
from django.db.models import Count, Max

from dakika_server.results.models import LATEST, PostMeasure
from dakika_server.sources.models import Post, PostReading, Profile, ProfileReading

_AGES = (*DEFAULT_AGES_HOURS, LATEST)
_KEPT = OBSERVED
# Gains below this are the tail of the interpolation, not something that happened.
_LEAST_GAIN = 0.05
POSTS_AT_ONCE = 300


@dataclass(frozen=True, kw_only=True)
class _Read:
    """A post and how it was read: until when, and how often. Both change whenever a reading comes or goes."""

    pk: int
    published_at: datetime
    format: str
    taken_at: datetime | None
    readings: int


def measure_profile(profile: Profile) -> int:
    """Bring the measures and daily gains of a profile's posts up to date; returns how many posts were measured anew."""
    with transaction.atomic(), connection.cursor() as cursor:
        # One at a time per profile, so that two workers do not write over each other.
        cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [20, profile.pk])
        posts = _posts(profile)
        known = {
            post: (taken, readings)
            for post, taken, readings in PostMeasure.objects.filter(profile=profile, age_hours=LATEST).values_list(
                "post_id", "taken_at", "readings"
            )
        }
        changed = [post for post in posts if known.get(post.pk) != (post.taken_at, post.readings)]
        for start in range(0, len(changed), POSTS_AT_ONCE):
            _measure(cursor, profile, changed[start : start + POSTS_AT_ONCE])
        if posts:
            _update_typical(cursor, profile, posts)
        sum_up_days(cursor, profile)
    return len(changed)


def _posts(profile: Profile) -> list[_Read]:
    """All posts in the order of publishing."""
    read = {
        post: (taken, count)
        for post, taken, count in PostReading.objects.filter(post__profile=profile)
        .values("post").annotate(taken=Max("taken_at"), n=Count("pk")).values_list("post", "taken", "n")
    }  # fmt: skip
    rows = (
        Post.objects.filter(profile=profile).order_by("published_at", "pk").values_list("pk", "published_at", "format")
    )
    found = []
    for pk, published_at, kind in rows:
        taken_at, readings = read.get(pk, (None, 0))
        found.append(_Read(pk=pk, published_at=published_at, format=kind, taken_at=taken_at, readings=readings))
    return found


def _measure(cursor: Any, profile: Profile, posts: Sequence[_Read]) -> None:
    """Values at the ages and gains by day of some posts, from all their readings."""
    ids = [post.pk for post in posts]
    cursor.execute("DELETE FROM results_postmeasure WHERE post_id = ANY(%s)", [ids])
    cursor.execute("DELETE FROM results_postday WHERE post_id = ANY(%s)", [ids])
    readings = _readings(ids)
    values = np.full((len(posts), len(_AGES), len(OBSERVED)), np.nan)
    gains = []
    for i, post in enumerate(posts):
        times, seen = readings.get(post.pk, ([], np.empty((0, len(OBSERVED)))))
        if not times:
            continue
        ages = np.array([(at - post.published_at).total_seconds() / 3600 for at in times])
        values[i, :-1] = values_at_ages(ages, seen, DEFAULT_AGES_HOURS)
        values[i, -1] = _last_known(seen)
        days, gained = gains_by_day(post.published_at, times, seen, profile.brand.zone)
        gains.append((post.pk, days, gained))
    interactions = interactions_of(values)
    columns = ", ".join(_KEPT)
    with cursor.copy(
        "COPY results_postmeasure (brand_id, profile_id, post_id, age_hours, published_at, format, taken_at, readings, "
        f"{columns}, interactions) FROM STDIN"
    ) as copy:
        for i, post in enumerate(posts):
            for a, age in enumerate(_AGES):
                row = [values[i, a, OBSERVED.index(key)] for key in _KEPT]
                filled = map(_or_null, [*row, interactions[i, a]])
                kept = (post.published_at, post.format, post.taken_at, post.readings)
                copy.write_row((profile.brand_id, profile.pk, post.pk, age, *kept, *filled))
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


_UPDATE = """
UPDATE results_postmeasure m SET followers = s.followers, typical = s.typical, index = s.index,
    profile_index = s.profile_index
FROM stage_typical s
WHERE m.post_id = s.post_id AND m.age_hours = s.age_hours
    AND (m.followers, m.typical, m.index, m.profile_index)
        IS DISTINCT FROM (s.followers, s.typical, s.index, s.profile_index)
"""


def _update_typical(cursor: Any, profile: Profile, posts: Sequence[_Read]) -> None:
    """What is typical around each post, and followers at publishing: a post's neighbours may have changed it."""
    place = {post.pk: i for i, post in enumerate(posts)}
    column = {age: a for a, age in enumerate(_AGES)}
    interactions = np.full((len(posts), len(_AGES)), np.nan)
    measured = PostMeasure.objects.filter(profile=profile, interactions__isnull=False)
    for pk, age, value in measured.values_list("post_id", "age_hours", "interactions").iterator(chunk_size=5000):
        if pk in place:
            interactions[place[pk], column[age]] = value
    formats = [post.format for post in posts]
    typical = np.column_stack([typical_by_format(interactions[:, a], formats) for a in range(len(_AGES))])
    index = index_of(interactions, typical)
    whatever = np.column_stack([running_typical(interactions[:, a]) for a in range(len(_AGES))])
    profile_index = index_of(interactions, whatever)
    followers = _followers_at(profile, [post.published_at for post in posts])
    cursor.execute("DROP TABLE IF EXISTS stage_typical")
    cursor.execute(
        "CREATE TEMP TABLE stage_typical (post_id bigint, age_hours smallint, followers float8, typical float8, "
        "index float8, profile_index float8) ON COMMIT DROP"
    )
    with cursor.copy("COPY stage_typical FROM STDIN") as copy:
        for i, post in enumerate(posts):
            for a, age in enumerate(_AGES):
                numbers = map(_or_null, (followers[i], typical[i, a], index[i, a], profile_index[i, a]))
                copy.write_row((post.pk, age, *numbers))
    cursor.execute(_UPDATE)
    cursor.execute("DROP TABLE stage_typical")


_PAIRS = (("interactions", "reach"), ("interactions", "impressions"), ("link_clicks", "impressions"))
_SINGLE = ("impressions", "reach", "interactions", "link_clicks")
_PAIRED = {
    f"{one}_with_{other}": f"SUM(d.{one}) FILTER (WHERE d.{other} IS NOT NULL)"
    for pair in _PAIRS
    for one, other in (pair, pair[::-1])
}
_SUM_UP = f"""
WITH gained AS (
    SELECT d.day, p.format, {", ".join(f"SUM(d.{key}) AS {key}" for key in _SINGLE)},
        {", ".join(f"{total} AS {name}" for name, total in _PAIRED.items())}
    FROM results_postday d JOIN sources_post p ON p.id = d.post_id WHERE d.profile_id = %(profile)s GROUP BY 1, 2
), published AS (
    SELECT (published_at AT TIME ZONE %(zone)s)::date AS day, format, COUNT(*) AS published
    FROM sources_post WHERE profile_id = %(profile)s GROUP BY 1, 2
), by_format AS (
    SELECT day, format, COALESCE(published, 0) AS published, {", ".join((*_SINGLE, *_PAIRED))}
    FROM gained FULL JOIN published USING (day, format)
)
INSERT INTO results_profileday (brand_id, profile_id, day, format, published, {", ".join((*_SINGLE, *_PAIRED))})
SELECT %(brand)s, %(profile)s, * FROM by_format
UNION ALL SELECT %(brand)s, %(profile)s, day, '', SUM(published), {", ".join(f"SUM({k})" for k in (*_SINGLE, *_PAIRED))}
FROM by_format GROUP BY day
"""
_PUBLISHED = """
INSERT INTO results_profilepublished (brand_id, profile_id, age_hours, day, posts, taken_at, interactions_n,
    interactions, pair_n, interactions_with_followers, followers_with_interactions, index_n, index_log)
SELECT %(brand)s, %(profile)s, age_hours, (published_at AT TIME ZONE %(zone)s)::date, COUNT(*), MAX(taken_at),
    COUNT(interactions), SUM(interactions), COUNT(*) FILTER (WHERE interactions IS NOT NULL AND followers IS NOT NULL),
    SUM(interactions) FILTER (WHERE followers IS NOT NULL), SUM(followers) FILTER (WHERE interactions IS NOT NULL),
    COUNT(*) FILTER (WHERE index > 0), SUM(LN(index)) FILTER (WHERE index > 0)
FROM results_postmeasure WHERE profile_id = %(profile)s GROUP BY age_hours, 4
"""


def sum_up_days(cursor: Any, profile: Profile) -> None:
    """Put a profile's sums by day together anew: what was received, and what was published."""
    keys = {"profile": profile.pk, "brand": profile.brand_id, "zone": profile.brand.time_zone}
    cursor.execute("DELETE FROM results_profileday WHERE profile_id = %(profile)s", keys)
    cursor.execute(_SUM_UP, keys)
    cursor.execute("DELETE FROM results_profilepublished WHERE profile_id = %(profile)s", keys)
    cursor.execute(_PUBLISHED, keys)


def _or_null(value: float) -> float | None:
    return None if value != value else float(value)


def _last_known(seen: Array) -> Array:
    last = np.full(seen.shape[1], np.nan)
    for row in seen:
        last = np.where(np.isnan(row), last, row)
    return last


def _readings(ids: Sequence[int]) -> dict[int, tuple[list[datetime], Array]]:
    rows: Iterator[Any] = (
        PostReading.objects.filter(post_id__in=ids)
        .order_by("post_id", "taken_at")
        .values_list("post_id", "taken_at", *OBSERVED)
        .iterator(chunk_size=5000)
    )
    grouped: dict[int, tuple[list[datetime], list[list[float]]]] = {}
    for post_id, taken_at, *counts in rows:
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
