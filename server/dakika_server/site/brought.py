"""Visits and conversions by network and day, for the summary of results: it asks, and stands below. Those by boosts'
links are not among them: what was paid for is counted apart.

In a study that asks for posts a visit belongs to the post that it is noted with.
"""

from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric
from dakika_core.values.period import Period
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.figures.kinds import Related
from dakika_server.figures.study import Study, in_choice_sql
from dakika_server.networks.definitions import all_networks
from dakika_server.results.brought import Brought, nothing_since, posts_studied
from dakika_server.results.queries import Courses
from dakika_server.site.currencies import currency_of
from dakika_server.site.models import Visit
from dakika_server.sources.models import Post

# Each name as a sum over visits v, or over conversions c with their visits v.
_OF_VISITS = {
    "visits": "count(*)",
    "click_visits": "count(*) FILTER (WHERE v.link_id IS NOT NULL)",
    "single_visits": "count(*) FILTER (WHERE v.pages = 1)",
    "site_pages": "sum(v.pages)",
    "site_seconds": "sum(extract(epoch FROM v.ended_at - v.started_at))",
}
_OF_CONVERSIONS = {
    "conversions": "count(*)",
    "converting_visits": "count(DISTINCT v.id)",
    "value": "sum(c.cents) FILTER (WHERE c.currency = %(currency)s) / 100.0",
}
_SUMMED = """
SELECT v.channel, ({at} AT TIME ZONE %(zone)s)::date, {sums}
FROM {rows}
WHERE v.brand_id = %(brand)s AND {brand_at} AND {at} >= %(start)s AND {at} < %(end)s
    AND (v.link_id IS NOT NULL OR v.channel = ANY(%(networks)s))
    AND (v.link_id IS NULL OR v.link_id NOT IN (
        SELECT id FROM links_trackedlink WHERE brand_id = %(brand)s AND is_paid))
    AND {of_networks} AND {of_campaigns} AND {of_posts}
GROUP BY 1, 2
"""
_ROWS = (
    (_OF_VISITS, "site_visit v", "v.started_at", "true"),
    (_OF_CONVERSIONS, "site_conversion c JOIN site_visit v ON v.id = c.visit_id", "c.at", "c.brand_id = %(brand)s"),
)
# Of each the first day on which it was counted.
_SINCE = """
SELECT (SELECT (min(started_at) AT TIME ZONE %(zone)s)::date FROM site_visit WHERE brand_id = %(brand)s),
    (SELECT (min(at) AT TIME ZONE %(zone)s)::date FROM site_conversion WHERE brand_id = %(brand)s)
"""


def visits_brought(study: Study, period: Period, names: frozenset[str]) -> Brought:
    """Visits, what was looked at on them, conversions and their value; a query for each of the two kinds and one more.

    See results.brought.
    """
    wanted = [
        ([name for name in sums if name in names], sums, rows, at, brand_at) for sums, rows, at, brand_at in _ROWS
    ]
    if not any(of_kind for of_kind, *_ in wanted):
        return Brought(courses={}, nothing={})
    posts, parameters = posts_studied(study)
    of_networks, chosen_networks = in_choice_sql("v.channel", study.networks, "chosen", "text")
    # Campaigns are asked of the posts themselves, where posts are asked for.
    asked = None if posts else study.campaigns
    of_campaigns, chosen_campaigns = in_choice_sql("v.campaign_id", asked, "campaigns", "bigint")
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(period.zone), "start": period.start, "end": period.end,
        "networks": list(all_networks()), **chosen_networks, **chosen_campaigns, **parameters,
    }  # fmt: skip
    if "value" in names:
        keys["currency"] = currency_of(study.brand)
    of_posts = f"v.post_id IN ({posts})" if posts else "true"
    courses: Courses = {}
    with connection.cursor() as cursor:
        cursor.execute(_SINCE, keys)
        visits, conversions = cursor.fetchone()
        for of_kind, sums, rows, at, brand_at in wanted:
            if not of_kind:
                continue
            cursor.execute(
                _SUMMED.format(
                    sums=", ".join(sums[name] for name in of_kind), rows=rows, at=at, brand_at=brand_at,
                    of_posts=of_posts, of_networks=of_networks, of_campaigns=of_campaigns,
                ),
                keys,
            )  # fmt: skip
            for channel, day, *values in cursor:
                course = courses.setdefault(channel, {})
                for name, value in zip(of_kind, values, strict=True):
                    course.setdefault(name, np.zeros(period.days))[(day - period.first).days] = float(value or 0)
    first = min(filter(None, (visits, conversions)), default=None)
    return Brought(
        courses=courses,
        nothing={
            name: nothing_since(visits if sums is _OF_VISITS else first, study, period)
            for of_kind, sums, *_ in wanted
            for name in of_kind
        },
    )  # fmt: skip


def related_visits(study: Study, metric: Metric) -> list[Related]:
    """Visits that stand on other pages: all of the site, and those of the posts published in the period."""
    if metric.key != "visits":
        return []
    period = study.period
    every = Visit.objects.filter(brand=study.brand)
    posts = Post.objects.filter(
        study.on_posts(), profile__in=study.profile_ids, published_at__gte=period.start, published_at__lt=period.end
    )
    return [
        Related(
            name="Visits of the site", counted="however they came", path="site/sites",
            value=every.filter(started_at__gte=period.start, started_at__lt=period.end).count(),
            why="those too that were typed in or came from elsewhere",
        ),
        Related(
            name="Visits of posts", counted="of the posts published in these days", path="site",
            value=every.filter(post__in=posts).count(), why="whenever they came; the funnel follows posts, not days",
        ),
    ]  # fmt: skip


# A conversion belongs to the post of the last visit before it that came from one, within thirty days.
_BY_POST = """
SELECT v.post_id, count(*) FROM site_conversion c CROSS JOIN LATERAL (
    SELECT post_id FROM site_visit v
    WHERE v.brand_id = c.brand_id AND v.started_at <= c.at AND v.started_at >= c.at - interval '30 days'
        AND (v.visitor = c.visitor OR (c.visitor IS NULL AND v.id = c.visit_id)) AND v.post_id IS NOT NULL
    ORDER BY started_at DESC LIMIT 1) v
WHERE c.brand_id = %(brand)s AND v.post_id = ANY(%(posts)s) GROUP BY 1
"""
_VISITED = """
SELECT DISTINCT post_id FROM site_visit WHERE brand_id = %(brand)s AND post_id = ANY(%(posts)s)
"""


def conversions_by_post(brand: Brand, name: str, posts: list[int]) -> dict[int, float]:
    """Conversions by post, of those that anybody came to the site from. See results.brought."""
    if name != "conversions" or not posts:
        return {}
    with connection.cursor() as cursor:
        given: dict[str, Any] = {"brand": brand.pk, "posts": posts}
        cursor.execute(_VISITED, given)
        found = {post: 0.0 for (post,) in cursor.fetchall()}
        cursor.execute(_BY_POST, given)
        found |= {post: float(many) for post, many in cursor.fetchall()}
    return found
