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


def often_hidden(posts: Iterable[int]) -> dict[int, dict[str, float]]:
    """Of some posts those that were hidden and reported far beyond their profile's usual: post to count and usual."""
    rows = list(
        PostMeasure.objects.filter(post__in=list(posts), age_hours=LATEST, negative__gte=LEAST_HIDES).values_list(
            "post_id", "profile_id", "published_at", "negative"
        )
    )
    found: dict[int, dict[str, float]] = {}
    if rows:
        middle = sorted(row[2] for row in rows)[len(rows) // 2].date()
        usual = usual_of_profiles({row[1] for row in rows}, "negative", around=middle)
        for post, profile, _, count in rows:
            if count is not None and is_hidden_often(count, usual.get(profile, 0.0)):
                found[post] = {"count": count, "usual": usual.get(profile, 0.0)}
    return found
