"""What people said under the brand's own posts, by network and day, as far as comments were fetched."""

from typing import Any

import numpy as np
from dakika_core.values.period import Period
from django.db import connection

from dakika_server.figures.study import Study
from dakika_server.networks.definitions import all_networks
from dakika_server.results.brought import Brought, nothing_since, posts_as_sql, unknown_throughout
from dakika_server.results.queries import Courses

# An author is known by name on one network. First is first of all the brand's posts, whichever are studied.
_SAID = """
SELECT network, day, count(*) FILTER (WHERE is_first), count(DISTINCT author)
FROM (
    SELECT p.network, c.author, c.post_id, c.written_at, (c.written_at AT TIME ZONE %(zone)s)::date AS day,
        row_number() OVER (PARTITION BY p.network, c.author ORDER BY c.written_at, c.id) = 1 AS is_first
    FROM sources_comment c JOIN sources_post o ON o.id = c.post_id JOIN sources_profile p ON p.id = o.profile_id
    WHERE c.brand_id = %(brand)s AND c.written_at < %(end)s AND c.author <> '' AND p.kind = 'own'
) said
WHERE written_at >= %(start)s AND post_id IN ({posts})
GROUP BY 1, 2
"""
_SINCE = "SELECT (min(written_at) AT TIME ZONE %(zone)s)::date FROM sources_comment WHERE brand_id = %(brand)s"
NAMES = ("first_comments", "commenters")


def comments_brought(study: Study, period: Period, names: frozenset[str]) -> Brought:
    """first_comments and commenters; two queries. See results.brought."""
    wanted = [name for name in NAMES if name in names]
    if not wanted:
        return Brought(courses={}, nothing={})
    networks = all_networks()
    if not any(p.network in networks and networks[p.network].offer.has_comments for p in study.profiles):
        return Brought(courses={}, nothing=dict.fromkeys(wanted, unknown_throughout(period)))
    posts, parameters = posts_as_sql(study)
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(period.zone), "start": period.start, "end": period.end,
        **parameters,
    }  # fmt: skip
    courses: Courses = {}
    with connection.cursor() as cursor:
        cursor.execute(_SINCE, keys)
        (since,) = cursor.fetchone()
        cursor.execute(_SAID.format(posts=posts), keys)
        for network, day, *counts in cursor:
            course = courses.setdefault(network, {})
            for name, count in zip(NAMES, counts, strict=True):
                if name in wanted:
                    course.setdefault(name, np.zeros(period.days))[(day - period.first).days] = float(count)
    return Brought(courses=courses, nothing=dict.fromkeys(wanted, nothing_since(since, study, period)))
