"""Sums by day of a profile: what its posts gained, and those that it published, for all days or for some.

In the trade's words: rollup, materialised aggregates.
"""

from collections.abc import Iterable
from datetime import date
from typing import Any

from dakika_core.metrics.observed import DEFAULT_AGES_HOURS
from dakika_core.values.period import Period
from django.db.models import Sum
from django.db.models.functions import TruncMonth

from dakika_server.measures.models import FINAL, LATEST, ProfileDay
from dakika_server.measures.values import BY_DAY
from dakika_server.sources.models import Profile

# The ages of which sums are kept: those at which posts are studied.
_STUDIED = [*DEFAULT_AGES_HOURS, FINAL, LATEST]
_PAIRS = (("interactions", "reach"), ("interactions", "impressions"), ("link_clicks", "impressions"))
_PAIRED = {
    f"{one}_with_{other}": f"SUM(d.{one}) FILTER (WHERE d.{other} IS NOT NULL)"
    for pair in _PAIRS
    for one, other in (pair, pair[::-1])
}
_SUM_UP = f"""
WITH gained AS (
    SELECT d.day, p.format, COUNT(*) FILTER (WHERE d.is_placed) AS placed,
        {", ".join(f"SUM(d.{key}) AS {key}" for key in BY_DAY)},
        {", ".join(f"{total} AS {name}" for name, total in _PAIRED.items())}
    FROM measures_postday d JOIN sources_post p ON p.id = d.post_id WHERE d.profile_id = %(profile)s {{gained}}
    GROUP BY 1, 2
), published AS (
    SELECT (published_at AT TIME ZONE %(zone)s)::date AS day, format, COUNT(*) AS published
    FROM sources_post WHERE profile_id = %(profile)s {{published}} GROUP BY 1, 2
), by_format AS (
    SELECT day, format, COALESCE(published, 0) AS published, COALESCE(placed, 0) AS placed,
        {", ".join((*BY_DAY, *_PAIRED))}
    FROM gained FULL JOIN published USING (day, format)
)
INSERT INTO measures_profileday (brand_id, profile_id, day, format, published, placed,
    {", ".join((*BY_DAY, *_PAIRED))})
SELECT %(brand)s, %(profile)s, * FROM by_format
UNION ALL SELECT %(brand)s, %(profile)s, day, '', SUM(published), SUM(placed),
    {", ".join(f"SUM({k})" for k in (*BY_DAY, *_PAIRED))}
FROM by_format GROUP BY day
"""
_AUDIENCE = "interactions IS NOT NULL AND followers > 0"
# What is told of everybody, with the squares that its interval needs.
_PUBLIC = {
    "interactions_squares": "SUM(interactions * interactions)",
    "audience_n": f"COUNT(*) FILTER (WHERE {_AUDIENCE})",
    **{
        f"audience_{name}": f"SUM({value}) FILTER (WHERE {_AUDIENCE})"
        for name, value in {
            "interactions": "interactions", "interactions_squares": "interactions * interactions",
            "followers": "followers", "followers_squares": "followers * followers",
            "product": "interactions * followers",
        }.items()
    },
    **{
        name: value
        for part in ("reactions", "comments", "shares")
        for name, value in {
            f"{part}_n": f"COUNT({part})", part: f"SUM({part})", f"{part}_squares": f"SUM({part} * {part})",
        }.items()
    },
}  # fmt: skip
_PUBLISHED = f"""
INSERT INTO measures_profilepublished (brand_id, profile_id, age_hours, day, posts, taken_at, interactions_n,
    interactions, pair_n, interactions_with_followers, followers_with_interactions, index_n, index_log,
    {", ".join(_PUBLIC)})
SELECT %(brand)s, %(profile)s, age_hours, (published_at AT TIME ZONE %(zone)s)::date, COUNT(*), MAX(taken_at),
    COUNT(interactions), SUM(interactions), COUNT(*) FILTER (WHERE interactions IS NOT NULL AND followers IS NOT NULL),
    SUM(interactions) FILTER (WHERE followers IS NOT NULL), SUM(followers) FILTER (WHERE interactions IS NOT NULL),
    COUNT(*) FILTER (WHERE index > 0), SUM(LN(index)) FILTER (WHERE index > 0),
    {", ".join(_PUBLIC.values())}
FROM measures_postmeasure WHERE profile_id = %(profile)s AND age_hours = ANY(%(studied)s) {{published}}
GROUP BY age_hours, 4
"""
# The days between the first and the last by the index, and of those the ones that are asked for.
_OF_DAYS = {
    "gained": "AND d.day = ANY(%(days)s)",
    "published": "AND published_at >= %(start)s AND published_at < %(end)s "
    "AND (published_at AT TIME ZONE %(zone)s)::date = ANY(%(days)s)",
}
_OF_ALL = {"gained": "", "published": ""}


def sum_up_days(
    cursor: Any, profile: Profile, gained: Iterable[date] | None = None, published: Iterable[date] | None = None
) -> None:
    """Put a profile's sums by day together anew: of the days on which something was gained, and on which posts were
    published; without days, of all.
    """
    _sum_up(cursor, profile, "measures_profileday", _SUM_UP, gained)
    _sum_up(cursor, profile, "measures_profilepublished", _PUBLISHED, published)


def _sum_up(cursor: Any, profile: Profile, table: str, query: str, days: Iterable[date] | None) -> None:
    asked = None if days is None else sorted(days)
    if asked == []:
        return
    keys: dict[str, Any] = {
        "profile": profile.pk, "brand": profile.brand_id, "zone": profile.brand.time_zone, "studied": _STUDIED,
    }  # fmt: skip
    which = ""
    if asked is not None:
        span = Period(first=asked[0], last=asked[-1], zone=profile.brand.zone)
        keys |= {"days": asked, "start": span.start, "end": span.end}
        which = "AND day = ANY(%(days)s)"
    cursor.execute(f"DELETE FROM {table} WHERE profile_id = %(profile)s {which}", keys)
    cursor.execute(query.format(**(_OF_ALL if asked is None else _OF_DAYS)), keys)


def months_of(profile: Profile) -> dict[str, int]:
    """How many posts a profile published, by the first day of each month that has any."""
    rows = (
        ProfileDay.objects.filter(profile=profile, format="", published__gt=0)
        .values(month=TruncMonth("day")).annotate(n=Sum("published")).order_by("month").values_list("month", "n")
    )  # fmt: skip
    return {month.isoformat(): count for month, count in rows}
