"""What was paid for, by network and day and by post, for Results: kept apart from what came by itself."""

from typing import Any

import numpy as np
from dakika_core.values.period import Period
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.figures.study import Study, in_choice_sql
from dakika_server.plan.models import Boost
from dakika_server.results.brought import Brought, currency_told, nothing_since, posts_studied
from dakika_server.results.queries import Courses

# What networks told: each reading less the one before it.
_TOLD = {
    "spend": "sum(spent) FILTER (WHERE currency = %(currency)s) / 100.0", "paid_impressions": "sum(impressions)",
    "paid_interactions": "sum(interactions)", "paid_link_clicks": "sum(link_clicks)",
}  # fmt: skip
_READINGS = """
SELECT network, (at AT TIME ZONE %(zone)s)::date, {sums} FROM (
    SELECT b.network, b.currency, r.at, {steps}
    FROM plan_boost b JOIN plan_boostreading r ON r.boost_id = b.id
    LEFT JOIN sources_post o ON o.id = b.post_id
    WHERE b.brand_id = %(brand)s AND {networks} AND {campaigns} AND {posts}
    WINDOW w AS (PARTITION BY b.id ORDER BY r.at)) readings
WHERE at >= %(start)s AND at < %(end)s GROUP BY 1, 2
"""
_COLUMNS = ("spent", "impressions", "interactions", "link_clicks")
_STEPS = ", ".join(f"r.{name} - lag(r.{name}, 1, 0::bigint) OVER w AS {name}" for name in _COLUMNS)
# What came by the links of boosts.
_FROM = """
FROM plan_boost b LEFT JOIN sources_post o ON o.id = b.post_id
JOIN {rows}
WHERE b.brand_id = %(brand)s AND {networks} AND {campaigns} AND {posts} AND {at} GROUP BY 1, 2
"""
_WITHIN = "{at} >= %(start)s AND {at} < %(end)s"
_CAME = {
    "paid_clicks": (
        "h.hour", "sum(h.people)", "links_clickhour h ON h.brand_id = b.brand_id AND h.link_id = b.link_id",
    ),
    "paid_visits": ("v.started_at", "count(*)", "site_visit v ON v.link_id = b.link_id"),
    "paid_conversions": (
        "c.at", "count(*)", "site_visit v ON v.link_id = b.link_id JOIN site_conversion c ON c.visit_id = v.id",
    ),
    "paid_value": (
        "c.at", "sum(c.cents) FILTER (WHERE c.currency = %(currency)s) / 100.0",
        "site_visit v ON v.link_id = b.link_id JOIN site_conversion c ON c.visit_id = v.id",
    ),
}  # fmt: skip
NAMES = (*_TOLD, *_CAME)


def paid_brought(study: Study, period: Period, names: frozenset[str]) -> Brought:
    """What boosts cost and brought. A boost is of the network, the campaign and the tags of its post.

    See results.brought. Unknown before the brand's first boost.
    """
    told, came = [name for name in _TOLD if name in names], [name for name in _CAME if name in names]
    if not told and not came:
        return Brought(courses={}, nothing={})
    posts, parameters = posts_studied(study)
    networks, of_networks = in_choice_sql("b.network", study.networks, "networks", "text")
    campaigns, of_campaigns = in_choice_sql("o.campaign_id", study.campaigns, "campaigns", "bigint")
    chosen = {
        "networks": networks, "campaigns": "true" if posts else campaigns,
        "posts": f"b.post_id IN ({posts})" if posts else "true",
    }  # fmt: skip
    keys: dict[str, Any] = {
        "brand": study.brand.pk, "zone": str(period.zone), "start": period.start, "end": period.end,
        "currency": money_of(study.brand), **of_networks, **({} if posts else of_campaigns), **parameters,
    }  # fmt: skip
    courses: Courses = {}
    with connection.cursor() as cursor:

        def put(of_kind: list[str], sql: str) -> None:
            cursor.execute(sql, keys)
            for network, day, *values in cursor:
                course = courses.setdefault(network, {})
                for name, value in zip(of_kind, values, strict=True):
                    course.setdefault(name, np.zeros(period.days))[(day - period.first).days] = float(value or 0)

        if told:
            put(told, _READINGS.format(sums=", ".join(_TOLD[name] for name in told), steps=_STEPS, **chosen))
        for name in came:
            at, summed, rows = _CAME[name]
            within = _FROM.format(rows=rows, at=_WITHIN.format(at=at), **chosen)
            put([name], f"SELECT b.network, ({at} AT TIME ZONE %(zone)s)::date, {summed} {within}")
    begun = Boost.objects.filter(brand=study.brand, seen_at__isnull=False).order_by("starts_at").first()
    first = begun.starts_at.astimezone(period.zone).date() if begun else None
    return Brought(courses=courses, nothing=dict.fromkeys((*told, *came), nothing_since(first, study, period)))


def paid_by_post(brand: Brand, name: str, posts: list[int]) -> dict[int, float]:
    """What boosts of single posts cost and brought, as their networks told last. See results.brought."""
    columns = {"spend": "spent", "paid_impressions": "impressions", "paid_interactions": "interactions",
               "paid_link_clicks": "link_clicks"}  # fmt: skip
    column = columns.get(name)
    if column is None or not posts:
        return {}
    rows = Boost.objects.filter(brand=brand, post__in=posts, seen_at__isnull=False)
    if name == "spend":
        rows = rows.filter(currency=money_of(brand))
    found: dict[int, float] = {}
    for post, value in rows.values_list("post", column):
        found[post] = found.get(post, 0.0) + value / (100 if name == "spend" else 1)
    return found


def money_of(brand: Brand) -> str:
    """The currency that a brand's money is told in."""
    return next(iter(currency_told(brand)), "EUR")
