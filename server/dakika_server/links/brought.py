"""What links and sites brought, by network and day, for the summary of results: it asks, and stands below.

A study of all posts, of a network or a campaign is answered by what links and visits say of
themselves. One of a profile, a format, a tag, a language or boosting asks for posts: then a link's
clicks belong to the post that carried it last, as in the funnel, and a visit to the post it is noted with.
"""

from datetime import date
from typing import Any

import numpy as np
from dakika_core.metrics.catalogue import Metric
from dakika_core.values.period import Period
from django.core.exceptions import EmptyResultSet
from django.db import connection

from dakika_server.links.models import Visit
from dakika_server.links.uses import CLICKS_OF_USE, USES
from dakika_server.networks.definitions import all_networks
from dakika_server.results.queries import Array, Courses
from dakika_server.results.related import Related
from dakika_server.results.study import Study
from dakika_server.sources.models import Post

_CLICKS = """
SELECT 'clicks', l.network, d.day, sum(d.people), 0
FROM links_clickday d JOIN links_trackedlink l ON l.id = d.link_id
WHERE d.brand_id = %(brand)s AND d.day BETWEEN %(first)s AND %(last)s
    AND (%(network)s::text IS NULL OR l.network = %(network)s)
    AND (%(campaign)s::bigint IS NULL OR l.campaign_id = %(campaign)s)
GROUP BY 2, 3
"""
_CLICKS_OF_POSTS = f"""
SELECT 'clicks', pr.network, (h.hour AT TIME ZONE %(zone)s)::date, sum(h.people), 0
FROM ({USES}) u JOIN sources_profile pr ON pr.id = u.profile_id
JOIN {CLICKS_OF_USE} AND h.hour >= %(start)s AND h.hour < %(end)s
WHERE u.post_id IN ({{posts}})
GROUP BY 2, 3
"""
_VISITS = """
SELECT '{kind}', v.channel, ({at} AT TIME ZONE %(zone)s)::date, count(*), count(*) FILTER (WHERE v.link_id IS NOT NULL)
FROM {rows}
WHERE v.brand_id = %(brand)s AND {brand_at} AND {at} >= %(start)s AND {at} < %(end)s
    AND (v.link_id IS NOT NULL OR v.channel = ANY(%(networks)s))
    AND (%(network)s::text IS NULL OR v.channel = %(network)s)
    AND (%(campaign)s::bigint IS NULL OR v.campaign_id = %(campaign)s)
    AND {of_posts}
GROUP BY 2, 3
"""
_ROWS = {
    "visits": ("links_visit v", "v.started_at", "true"),
    "conversions": ("links_conversion c JOIN links_visit v ON v.id = c.visit_id", "c.at", "c.brand_id = %(brand)s"),
}
_NAMES = {"clicks": ("tracked_clicks",), "visits": ("visits", "click_visits"), "conversions": ("conversions",)}
# Of each the first day on which it was counted.
_SINCE = """
SELECT (SELECT min(day) FROM links_clickday WHERE brand_id = %(brand)s),
    (SELECT (min(started_at) AT TIME ZONE %(zone)s)::date FROM links_visit WHERE brand_id = %(brand)s),
    (SELECT (min(at) AT TIME ZONE %(zone)s)::date FROM links_conversion WHERE brand_id = %(brand)s)
"""


def brought(study: Study, period: Period) -> Courses:
    """Names tracked_clicks, visits, click_visits, conversions; see results.brought. Two queries."""
    posts, parameters = _posts(study)
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(period.zone), "first": period.first, "last": period.last,
        "start": period.start, "end": period.end, "networks": list(all_networks()), "network": study.network,
        # A campaign is asked of the posts themselves, where posts are asked for.
        "campaign": None if posts else study.campaign, **parameters,
    }  # fmt: skip
    of_posts = f"v.post_id IN ({posts})" if posts else "true"
    parts = [_CLICKS_OF_POSTS.format(posts=posts) if posts else _CLICKS] + [
        _VISITS.format(kind=kind, rows=rows, at=at, brand_at=brand_at, of_posts=of_posts)
        for kind, (rows, at, brand_at) in _ROWS.items()
    ]
    # All together have a line even where nothing happened, so that none is zero.
    found: Courses = {study.network or "": {}}
    with connection.cursor() as cursor:
        cursor.execute(_SINCE, keys)
        clicks, visits, conversions = cursor.fetchone()
        cursor.execute(" UNION ALL ".join(parts), keys)
        for kind, network, day, *counts in cursor:
            course = found.setdefault(network, {})
            for name, count in zip(_NAMES[kind], counts, strict=False):
                course.setdefault(name, np.zeros(period.days))[(day - period.first).days] = float(count)
    since = {
        "tracked_clicks": clicks, "visits": visits, "click_visits": visits,
        "conversions": min(filter(None, (visits, conversions)), default=None),
    }  # fmt: skip
    for course in found.values():
        for name, first in since.items():
            _leave_unknown(course.setdefault(name, np.zeros(period.days)), first, study, period)
    return found


def _leave_unknown(course: Array, first: date | None, study: Study, period: Period) -> None:
    """Before the first was counted, nothing is not zero; nor is it on days to come."""
    begins = (first - period.first).days if first else period.days
    course[: max(0, begins)] = np.nan
    course[max(0, (study.today - period.first).days + 1) :] = np.nan


def _posts(study: Study) -> tuple[str, dict[str, Any]]:
    """The studied posts as a query of their keys, with its parameters by name; empty where none are asked for."""
    if study.profile is None and all(v is None for v in (study.format, study.tag, study.language, study.is_boosted)):
        return "", {}
    asked = Post.objects.filter(study.on_posts(), profile__in=study.profile_ids).values("pk")
    try:
        sql, given = asked.query.sql_with_params()
    except EmptyResultSet:  # a profile of another network, say: nothing is studied
        return "SELECT 0 WHERE false", {}
    names = [f"post{i}" for i in range(len(given))]
    return sql % tuple(f"%({name})s" for name in names), dict(zip(names, given, strict=True))


_CLICKS_BY_LINK = f"""
SELECT u.link_id, (h.hour AT TIME ZONE %(zone)s)::date, sum(h.people)
FROM ({USES}) u JOIN {CLICKS_OF_USE} AND (h.hour AT TIME ZONE %(zone)s)::date = ANY(%(days)s)
    AND h.hour >= %(start)s AND h.hour < %(end)s
WHERE u.post_id IN ({{posts}})
GROUP BY 1, 2
"""


def clicks_of_posts(study: Study, days: list[date]) -> dict[date, dict[int, int]] | None:
    """Clicks on single days by link, of the posts studied; None where the study asks for no posts."""
    posts, parameters = _posts(study)
    if not posts:
        return None
    span = Period(first=min(days), last=max(days), zone=study.period.zone)
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(span.zone), "days": days, "start": span.start, "end": span.end
    }  # fmt: skip
    found: dict[date, dict[int, int]] = {day: {} for day in days}
    with connection.cursor() as cursor:
        cursor.execute(_CLICKS_BY_LINK.format(posts=posts), {**keys, **parameters})
        for link, day, people in cursor.fetchall():
            if people:
                found[day][link] = int(people)
    return found


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
            name="Visits of the site", counted="however they came", path="links/sites",
            value=every.filter(started_at__gte=period.start, started_at__lt=period.end).count(),
            why="those too that were typed in or came from elsewhere",
        ),
        Related(
            name="Visits of posts", counted="of the posts published in these days", path="links/funnel",
            value=every.filter(post__in=posts).count(), why="whenever they came; the funnel follows posts, not days",
        ),
    ]  # fmt: skip
