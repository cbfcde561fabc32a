"""Clicks by network and day, for the summary of results: it asks, and stands below.

In a study that asks for posts a link's clicks belong to the post that carried it last, as in the funnel.
"""

from datetime import date
from typing import Any

import numpy as np
from dakika_core.values.period import Period
from django.db import connection

from dakika_server.figures.study import Study, in_choice_sql
from dakika_server.links.uses import CLICKS_OF_USE, USES
from dakika_server.results.brought import Brought, nothing_since, posts_studied
from dakika_server.results.queries import Courses

NAME = "tracked_clicks"
_CLICKS = """
SELECT l.network, d.day, sum(d.people)
FROM links_clickday d JOIN links_trackedlink l ON l.id = d.link_id
WHERE d.brand_id = %(brand)s AND d.day BETWEEN %(first)s AND %(last)s
    AND {networks} AND {campaigns}
GROUP BY 1, 2
"""
_CLICKS_OF_POSTS = f"""
SELECT pr.network, (h.hour AT TIME ZONE %(zone)s)::date, sum(h.people)
FROM ({USES}) u JOIN sources_profile pr ON pr.id = u.profile_id
JOIN {CLICKS_OF_USE} AND h.hour >= %(start)s AND h.hour < %(end)s
WHERE u.post_id IN ({{posts}})
GROUP BY 1, 2
"""


def clicks_brought(study: Study, period: Period) -> Brought:
    """tracked_clicks; two queries. See results.brought."""
    posts, parameters = posts_studied(study)
    networks, of_networks = in_choice_sql("l.network", study.networks, "networks", "text")
    campaigns, of_campaigns = in_choice_sql("l.campaign_id", study.campaigns, "campaigns", "bigint")
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(period.zone), "first": period.first, "last": period.last,
        "start": period.start, "end": period.end, **of_networks, **of_campaigns, **parameters,
    }  # fmt: skip
    clicks = _CLICKS.format(networks=networks, campaigns=campaigns)
    courses: Courses = {}
    with connection.cursor() as cursor:
        cursor.execute("SELECT min(day) FROM links_clickday WHERE brand_id = %s", [study.brand.pk])
        (since,) = cursor.fetchone()
        cursor.execute(_CLICKS_OF_POSTS.format(posts=posts) if posts else clicks, keys)
        for network, day, people in cursor:
            course = courses.setdefault(network, {NAME: np.zeros(period.days)})
            course[NAME][(day - period.first).days] = float(people)
    return Brought(courses=courses, nothing={NAME: nothing_since(since, study, period)})


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
