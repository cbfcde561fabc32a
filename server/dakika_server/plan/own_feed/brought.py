"""How often the brand's own feed was seen by the day, for Results."""

from typing import Any

import numpy as np
from dakika_core.values.period import Period
from django.db import connection
from django.db.models import Min

from dakika_server.figures.study import Study, in_choice_sql
from dakika_server.plan.models import OwnFeedItem
from dakika_server.results.brought import Brought, is_of_posts, nothing_since, unknown_throughout
from dakika_server.results.queries import Courses

NAME = "feed_views"
_VIEWS = """
SELECT (v.hour AT TIME ZONE %(zone)s)::date, sum(v.views)
FROM plan_ownfeedseen v JOIN plan_ownfeeditem i ON i.id = v.item_id
LEFT JOIN plan_plannedpost p ON p.id = i.planned_post_id
WHERE v.brand_id = %(brand)s AND v.hour >= %(start)s AND v.hour < %(end)s AND {campaigns}
GROUP BY 1
"""


def feed_views_brought(study: Study, period: Period, names: frozenset[str]) -> Brought:
    """Views of items; a feed belongs to no network, and its items are no posts of any. See results.brought."""
    if NAME not in names:
        return Brought(courses={}, nothing={})
    if study.networks is not None or is_of_posts(study):
        return Brought(courses={}, nothing={NAME: unknown_throughout(period)})
    campaigns, chosen = in_choice_sql("p.campaign_id", study.campaigns, "campaigns", "bigint")
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(period.zone), "start": period.start, "end": period.end, **chosen
    }  # fmt: skip
    courses: Courses = {}
    with connection.cursor() as cursor:
        cursor.execute(_VIEWS.format(campaigns=campaigns), keys)
        for day, views in cursor:
            course = courses.setdefault("", {}).setdefault(NAME, np.zeros(period.days))
            course[(day - period.first).days] = float(views)
    begun = OwnFeedItem.objects.filter(brand=study.brand).aggregate(at=Min("published_at"))["at"]
    first = begun.astimezone(period.zone).date() if begun else None
    return Brought(courses=courses, nothing={NAME: nothing_since(first, study, period)})
