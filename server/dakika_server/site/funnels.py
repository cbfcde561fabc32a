"""Funnels of the posts that were published in a period: seen, clicked, visited, converted."""

from dataclasses import dataclass
from typing import Any

from dakika_core.site.funnel import Apart, Funnel, attention_apart, summed
from dakika_core.values.period import Period
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.links.uses import CLICKS_OF_USE, USES
from dakika_server.site.currencies import DEFAULT

_POSTS = f"""
WITH uses AS ({USES}), posts AS (
    SELECT p.id, pr.network, p.campaign_id FROM sources_post p JOIN sources_profile pr ON pr.id = p.profile_id
    WHERE pr.brand_id = %(brand)s AND pr.kind = 'own' AND p.published_at >= %(start)s AND p.published_at < %(end)s
        AND EXISTS (SELECT 1 FROM uses u WHERE u.post_id = p.id)
)
SELECT p.id, p.network, p.campaign_id, m.impressions, c.clicks, v.visits, k.conversions, k.cents
FROM posts p
LEFT JOIN measures_postmeasure m ON m.post_id = p.id AND m.age_hours = 0
LEFT JOIN LATERAL (
    SELECT sum(h.people)::bigint AS clicks
    FROM uses u JOIN {CLICKS_OF_USE} WHERE u.post_id = p.id
) c ON true
LEFT JOIN LATERAL (SELECT count(*) AS visits FROM site_visit v WHERE v.post_id = p.id) v ON true
LEFT JOIN LATERAL (
    SELECT count(*) AS conversions,
        coalesce(sum(k.cents) FILTER (WHERE k.currency = %(currency)s), 0)::bigint AS cents FROM site_conversion k
    JOIN site_visit v ON v.id = k.visit_id WHERE v.post_id = p.id AND (%(goal)s = 0 OR k.goal_id = %(goal)s)
) k ON true
ORDER BY v.visits DESC, p.id
"""
BY = ("post", "campaign", "network")


@dataclass(frozen=True, kw_only=True)
class Funnels:
    """All posts together, each group, and the posts that stand apart."""

    total: Funnel
    total_before: Funnel
    rows: list[Funnel]
    before: dict[str, Funnel]
    apart: Apart
    without_impressions: int


def funnels_of(
    brand: Brand, period: Period, compared: Period, by: str, goal_id: int = 0, currency: str = DEFAULT
) -> Funnels:
    """Funnels by post, campaign or network, of posts that carry a tracked link, beside those of the comparison."""
    posts, before = (posts_of(brand, days, goal_id, currency) for days in (period, compared))
    every = [funnel for funnel, _ in posts]
    return Funnels(
        total=summed("", every), total_before=summed("", [funnel for funnel, _ in before]),
        rows=every if by == "post" else _grouped(posts, by), apart=attention_apart(every),
        before={} if by == "post" else {row.key: row for row in _grouped(before, by)},
        without_impressions=sum(1 for funnel in every if funnel.impressions is None),
    )  # fmt: skip


def posts_of(brand: Brand, period: Period, goal_id: int, currency: str) -> list[tuple[Funnel, dict[str, str]]]:
    """The posts of a period that carry a tracked link, each with its network and campaign; most visits first."""
    with connection.cursor() as cursor:
        keys: dict[str, Any] = {
            "brand": brand.pk,
            "start": period.start,
            "end": period.end,
            "goal": goal_id,
            "currency": currency,
        }
        cursor.execute(_POSTS, keys)
        rows: list[Any] = cursor.fetchall()
    return [
        (
            Funnel(
                key=str(pk), impressions=None if impressions is None else round(impressions), clicks=int(clicks or 0),
                visits=visits, conversions=conversions, cents=int(cents),
            ), {"network": network, "campaign": str(campaign or "")},
        )
        for pk, network, campaign, impressions, clicks, visits, conversions, cents in rows
    ]  # fmt: skip


def _grouped(posts: list[tuple[Funnel, dict[str, str]]], by: str) -> list[Funnel]:
    groups: dict[str, list[Funnel]] = {}
    for funnel, told in posts:
        groups.setdefault(told[by], []).append(funnel)
    return sorted((summed(key, rows) for key, rows in groups.items()), key=lambda row: (-row.visits, row.key))
