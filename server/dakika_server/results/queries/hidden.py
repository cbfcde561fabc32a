"""What profiles' posts usually have of a count, and the posts that people hid and reported far more than that."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from dakika_core.results.losses import LEAST_HIDES, is_hidden_often
from django.db import connection

from dakika_server.measures.models import LATEST, PostMeasure

USUAL_WITHIN = timedelta(days=90)
_MEDIANS = """
SELECT profile_id, percentile_cont(0.5) WITHIN GROUP (ORDER BY interactions) FROM measures_postmeasure
WHERE profile_id = ANY(%(profiles)s::bigint[]) AND age_hours = %(age)s AND interactions IS NOT NULL
    AND published_at BETWEEN %(first)s AND %(last)s
GROUP BY 1
"""
# By profile: the sums of its rate of hides, their median, and how far its posts lie from what is expected of them
# (the median size, on the scale on which counts scatter by one).
_HIDES = """
WITH p AS (
    SELECT profile_id, negative AS n, impressions AS i FROM measures_postmeasure
    WHERE profile_id = ANY(%(profiles)s::bigint[]) AND age_hours = %(age)s AND negative IS NOT NULL
        AND published_at BETWEEN %(first)s AND %(last)s
), r AS (
    SELECT profile_id, coalesce(sum(n) FILTER (WHERE i > 0), 0) AS hides,
        coalesce(sum(i) FILTER (WHERE i > 0), 0) AS seen,
        percentile_cont(0.5) WITHIN GROUP (ORDER BY n) AS median FROM p GROUP BY 1
)
SELECT profile_id, hides, seen, median, percentile_cont(0.5) WITHIN GROUP (ORDER BY abs(2 * (
    sqrt(n + 0.375) - sqrt(CASE WHEN i > 0 AND seen > 0 THEN hides / seen * i ELSE median END + 0.375))))
FROM p JOIN r USING (profile_id) GROUP BY 1, 2, 3, 4
"""


@dataclass(frozen=True, kw_only=True)
class Hides:
    """A post's hides and reports, what its profile's other posts would have, and how far those lie from theirs."""

    count: float
    usual: float
    median_distance: float


def usual_interactions(profiles: Iterable[int], *, around: date) -> dict[int, float]:
    """The median of interactions over each profile's posts of some months around a day, as they were last seen."""
    with connection.cursor() as cursor:
        cursor.execute(_MEDIANS, _asked(profiles, around))
        return {profile: float(median) for profile, median in cursor.fetchall()}


def _asked(profiles: Iterable[int], around: date) -> dict[str, Any]:
    first, last = around - USUAL_WITHIN, around + USUAL_WITHIN
    return {"profiles": list(profiles), "age": LATEST, "first": first, "last": last}


def hides_of(posts: Iterable[int], *, least: int = 0) -> dict[int, Hides]:
    """Of some posts those that networks tell hides of, at least so many.

    The usual is what the profile's other posts have for as many impressions, for what is seen more is
    hidden more; where impressions are not told, the median of its posts.
    """
    rows = list(
        PostMeasure.objects.filter(post__in=list(posts), age_hours=LATEST, negative__gte=least).values_list(
            "post_id", "profile_id", "published_at", "negative", "impressions"
        )
    )
    if not rows:
        return {}
    around = sorted(row[2] for row in rows)[len(rows) // 2].date()
    with connection.cursor() as cursor:
        cursor.execute(_HIDES, _asked({row[1] for row in rows}, around))
        told = {profile: tuple(map(float, values)) for profile, *values in cursor.fetchall()}
    found: dict[int, Hides] = {}
    for post, profile, _, count, seen in rows:
        hides, impressions, usual, distance = told.get(profile, (0.0, 0.0, 0.0, 0.0))
        if count is None:
            continue
        if seen and impressions > seen:
            usual = max(0.0, (hides - count) / (impressions - seen) * seen)
        found[post] = Hides(count=count, usual=usual, median_distance=distance)
    return found


def often_hidden(posts: Iterable[int]) -> dict[int, dict[str, float]]:
    """Of some posts those that were hidden and reported far beyond their profile's usual: post to count and usual."""
    return {
        post: {"count": told.count, "usual": told.usual}
        for post, told in hides_of(posts, least=LEAST_HIDES).items()
        if is_hidden_often(told.count, told.usual, told.median_distance)
    }
