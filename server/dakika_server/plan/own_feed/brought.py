"""How often the brand's own feed and its messages to browsers were seen by the day, for Results."""

from datetime import date
from typing import Any

import numpy as np
from dakika_core.values.period import Period
from django.db import connection
from django.db.models import Min

from dakika_server.figures.study import Study, in_choice_sql
from dakika_server.plan.models import OwnFeedItem, PushMessage
from dakika_server.results.brought import Brought, is_of_posts, nothing_since, unknown_throughout
from dakika_server.results.queries import Courses

# By name: what was seen by the hour, what it is of, and since when there is any.
SEEN = {
    "feed_views": ("plan_ownfeedseen", "plan_ownfeeditem", "item_id"),
    "push_views": ("plan_pushseen", "plan_pushmessage", "message_id"),
}
_VIEWS = """
SELECT (v.hour AT TIME ZONE %(zone)s)::date, sum(v.views)
FROM {seen} v JOIN {what} i ON i.id = v.{key}
LEFT JOIN plan_plannedpost p ON p.id = i.planned_post_id
WHERE v.brand_id = %(brand)s AND v.hour >= %(start)s AND v.hour < %(end)s AND {campaigns}
GROUP BY 1
"""


def views_brought(study: Study, period: Period, names: frozenset[str]) -> Brought:
    """Views of items and messages; they belong to no network, and are no posts of any. See results.brought."""
    asked = [name for name in SEEN if name in names]
    if not asked:
        return Brought(courses={}, nothing={})
    if study.networks is not None or is_of_posts(study):
        return Brought(courses={}, nothing=dict.fromkeys(asked, unknown_throughout(period)))
    campaigns, chosen = in_choice_sql("p.campaign_id", study.campaigns, "campaigns", "bigint")
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(period.zone), "start": period.start, "end": period.end, **chosen
    }  # fmt: skip
    courses: Courses = {}
    with connection.cursor() as cursor:
        for name in asked:
            seen, what, key = SEEN[name]
            cursor.execute(_VIEWS.format(seen=seen, what=what, key=key, campaigns=campaigns), keys)
            for day, views in cursor:
                course = courses.setdefault("", {}).setdefault(name, np.zeros(period.days))
                course[(day - period.first).days] = float(views)
    return Brought(courses=courses, nothing={name: nothing_since(_begun(study, name), study, period) for name in asked})


def _begun(study: Study, name: str) -> date | None:
    if name == "feed_views":
        at = OwnFeedItem.objects.filter(brand=study.brand).aggregate(at=Min("published_at"))["at"]
    else:
        at = PushMessage.objects.filter(brand=study.brand).aggregate(at=Min("made_at"))["at"]
    return at.astimezone(study.brand.zone).date() if at else None
