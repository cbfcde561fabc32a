"""What profiles' posts usually have of a count, and the posts that people hid and reported far more than that."""

from collections.abc import Iterable
from datetime import date, timedelta

from dakika_core.results.losses import LEAST_HIDES, is_hidden_often
from django.db import connection

from dakika_server.results.models import LATEST, PostMeasure

USUAL_WITHIN = timedelta(days=90)
_MEDIANS = """
SELECT profile_id, percentile_cont(0.5) WITHIN GROUP (ORDER BY {column}) FROM results_postmeasure
WHERE profile_id = ANY(%(profiles)s::bigint[]) AND age_hours = %(age)s AND {column} IS NOT NULL
    AND published_at BETWEEN %(first)s AND %(last)s
GROUP BY 1
"""


def usual_of_profiles(profiles: Iterable[int], name: str, *, around: date) -> dict[int, float]:
    """The median of a count over each profile's posts of some months around a day, as they were last seen."""
    if name not in ("negative", "interactions"):
        raise ValueError(name)
    with connection.cursor() as cursor:
        cursor.execute(
            _MEDIANS.format(column=name),
            {"profiles": list(profiles), "age": LATEST, "first": around - USUAL_WITHIN, "last": around + USUAL_WITHIN},
        )
        return {profile: float(median) for profile, median in cursor.fetchall()}


_RATES = """
SELECT profile_id, SUM(negative), SUM(impressions) FROM results_postmeasure
WHERE profile_id = ANY(%(profiles)s::bigint[]) AND age_hours = %(age)s AND negative IS NOT NULL AND impressions > 0
    AND published_at BETWEEN %(first)s AND %(last)s
GROUP BY 1
"""


def often_hidden(posts: Iterable[int]) -> dict[int, dict[str, float]]:
    """Of some posts those that were hidden and reported far beyond their profile's usual: post to count and usual.

    The usual is that of the profile's other posts for as many impressions, for what is seen more is hidden
    more; where impressions are not told, the median of its posts.
    """
    rows = list(
        PostMeasure.objects.filter(post__in=list(posts), age_hours=LATEST, negative__gte=LEAST_HIDES).values_list(
            "post_id", "profile_id", "published_at", "negative", "impressions"
        )
    )
    if not rows:
        return {}
    profiles = {row[1] for row in rows}
    around = sorted(row[2] for row in rows)[len(rows) // 2].date()
    usual = usual_of_profiles(profiles, "negative", around=around)
    with connection.cursor() as cursor:
        cursor.execute(
            _RATES,
            {"profiles": list(profiles), "age": LATEST, "first": around - USUAL_WITHIN, "last": around + USUAL_WITHIN},
        )
        rates = {profile: (float(hides), float(seen)) for profile, hides, seen in cursor.fetchall()}
    found: dict[int, dict[str, float]] = {}
    for post, profile, _, count, seen in rows:
        expected = usual.get(profile, 0.0)
        hides, impressions = rates.get(profile, (0.0, 0.0))
        if seen and count is not None and impressions > seen:
            expected = (hides - count) / (impressions - seen) * seen
        if count is not None and is_hidden_often(count, expected):
            found[post] = {"count": count, "usual": max(0.0, expected)}
    return found
