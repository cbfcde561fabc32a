"""Clicks by network and day, for the summary of results: it asks, and stands below. Those by boosts' links are not
among them: what was paid for is counted apart.

In a study that asks for posts a link's clicks belong to the post that carried it last, as in the funnel.
"""

from datetime import date
from typing import Any

import numpy as np
from dakika_core.values.period import Period
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.figures.study import Study, in_choice_sql
from dakika_server.links.uses import CLICKS_OF_USE, USES
from dakika_server.results.brought import Brought, nothing_since, posts_studied, unknown_throughout
from dakika_server.results.queries import Array, Courses

NAME = "tracked_clicks"
# What the sums by hour and day hold, by the names that results call it.
_SUMS = {NAME: "people", "bot_clicks": "bots", "late_clicks": "over"}
_CLICKS = """
SELECT l.network, d.day, {sums}
FROM links_clickday d JOIN links_trackedlink l ON l.id = d.link_id
WHERE d.brand_id = %(brand)s AND d.day BETWEEN %(first)s AND %(last)s
    AND NOT l.is_paid AND {networks} AND {campaigns}
GROUP BY 1, 2
"""
_CLICKS_OF_POSTS = f"""
SELECT pr.network, (h.hour AT TIME ZONE %(zone)s)::date, {{sums}}
FROM ({USES}) u JOIN sources_profile pr ON pr.id = u.profile_id
JOIN {CLICKS_OF_USE} AND h.hour >= %(start)s AND h.hour < %(end)s
WHERE u.post_id IN ({{posts}})
GROUP BY 1, 2
"""
# Visitors are told apart by the day (UTC) alone, and counted once it is over.
_VISITORS = """
SELECT l.network, p.day, sum(p.people)
FROM links_clickpeople p JOIN links_trackedlink l ON l.id = p.link_id
WHERE p.brand_id = %(brand)s AND p.day BETWEEN %(first)s AND %(last)s AND NOT l.is_paid AND {networks} AND {campaigns}
GROUP BY 1, 2
"""
_THROUGH_PAGES = """
SELECT l.network, (c.at AT TIME ZONE %(zone)s)::date, count(*)
FROM links_linkpage g JOIN links_click c ON c.page_id = g.id JOIN links_trackedlink l ON l.id = c.link_id
WHERE g.brand_id = %(brand)s AND c.at >= %(start)s AND c.at < %(end)s AND c.bot_reason = '' AND NOT c.is_over
    AND {networks} AND {campaigns}
GROUP BY 1, 2
"""
# A page of links stands on no network.
_PAGE_VIEWS = """
SELECT '', (at AT TIME ZONE %(zone)s)::date, sum(people)
FROM links_pageview WHERE brand_id = %(brand)s AND at >= %(start)s AND at < %(end)s GROUP BY 2
"""
# Of each the first day on which it was counted, and the last where that is not today.
_SINCE = {
    NAME: "SELECT min(day), NULL::date FROM links_clickday WHERE brand_id = %(brand)s",
    "click_visitors": "SELECT min(day), max(day) FROM links_clickpeople WHERE brand_id = %(brand)s",
    "page_views": "SELECT (min(at) AT TIME ZONE %(zone)s)::date, NULL::date FROM links_pageview "
    "WHERE brand_id = %(brand)s",
}


def clicks_brought(study: Study, period: Period, names: frozenset[str] = frozenset((NAME,))) -> Brought:
    """Clicks, clickers, and what pages of links saw; one query or two for each kind. See results.brought."""
    asking = _Asking(study, period)
    sums = [name for name in _SUMS if name in names]
    courses: Courses = {}
    nothing: dict[str, Array] = {}
    if sums:
        columns = ", ".join(f"sum({{row}}.{_SUMS[name]})" for name in sums)
        of_posts = _CLICKS_OF_POSTS.format(sums=columns.format(row="h"), posts=asking.posts)
        asking.put(courses, sums, of_posts if asking.posts else _CLICKS.format(
            sums=columns.format(row="d"), **asking.chosen))  # fmt: skip
        nothing |= dict.fromkeys(sums, asking.nothing(NAME))
    for name, sql in (("click_visitors", _VISITORS), ("page_clicks", _THROUGH_PAGES), ("page_views", _PAGE_VIEWS)):
        if name not in names:
            continue
        if asking.posts or (name == "page_views" and (study.networks or study.campaigns)):
            nothing[name] = unknown_throughout(period)
            continue
        asking.put(courses, [name], sql.format(**asking.chosen))
        nothing[name] = asking.nothing(name if name in _SINCE else NAME)
    return Brought(courses=courses, nothing=nothing)


class _Asking:
    """A study as parameters of the queries above."""

    def __init__(self, study: Study, period: Period) -> None:
        self.study, self.period = study, period
        self.posts, parameters = posts_studied(study)
        networks, of_networks = in_choice_sql("l.network", study.networks, "networks", "text")
        campaigns, of_campaigns = in_choice_sql("l.campaign_id", study.campaigns, "campaigns", "bigint")
        self.chosen = {"networks": networks, "campaigns": campaigns}
        self.keys: dict[str, Any] = {
            "brand": study.brand.pk, "zone": str(period.zone), "first": period.first, "last": period.last,
            "start": period.start, "end": period.end, **of_networks, **of_campaigns, **parameters,
        }  # fmt: skip

    def put(self, courses: Courses, names: list[str], sql: str) -> None:
        """Run a query of network, day and a sum for each name, and put its rows into the courses."""
        with connection.cursor() as cursor:
            cursor.execute(sql, self.keys)
            for network, day, *sums in cursor:
                of_network = courses.setdefault(network, {})
                for name, value in zip(names, sums, strict=True):
                    course = of_network.setdefault(name, np.zeros(self.period.days))
                    course[(day - self.period.first).days] = float(value or 0)

    def nothing(self, name: str) -> Array:
        """The course where nothing was counted: unknown outside of the days on which it would have been."""
        with connection.cursor() as cursor:
            cursor.execute(_SINCE[name], self.keys)
            first, last = cursor.fetchone()
        course = nothing_since(first, self.study, self.period)
        if last is not None:
            course[max(0, (last - self.period.first).days + 1) :] = np.nan
        return course


_CLICKS_BY_LINK = f"""
SELECT u.link_id, (h.hour AT TIME ZONE %(zone)s)::date, sum(h.people)
FROM ({USES}) u JOIN {CLICKS_OF_USE} AND (h.hour AT TIME ZONE %(zone)s)::date = ANY(%(days)s)
    AND h.hour >= %(start)s AND h.hour < %(end)s
WHERE u.post_id IN ({{posts}})
GROUP BY 1, 2
"""


def clicks_of_posts(study: Study, days: list[date]) -> dict[date, dict[int, int]] | None:
    """Clicks on single days by link, of the posts studied; None where the study asks for no posts."""
    posts, parameters = posts_studied(study)
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


# Clicks of the first seven days, of people, on links that a post carries.
_BY_POST = f"""
SELECT u.post_id, coalesce(sum(h.people), 0)
FROM ({USES}) u LEFT JOIN {CLICKS_OF_USE} AND h.hour < u.published_at + interval '7 days'
WHERE u.post_id = ANY(%(posts)s) GROUP BY 1
"""


def clicks_by_post(brand: Brand, name: str, posts: list[int]) -> dict[int, float]:
    """Clicks on tracked links by post, of those that carry one. See results.brought."""
    if name != NAME or not posts:
        return {}
    with connection.cursor() as cursor:
        cursor.execute(_BY_POST, {"brand": brand.pk, "posts": posts})
        return {post: float(many) for post, many in cursor.fetchall()}
