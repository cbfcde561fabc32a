"""Boosts as they are shown: what each cost and brought, beside what its post got by itself."""

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Any

from dakika_core.metrics.observed import LATEST_AGE
from dakika_core.plan.boosts import Given, cost_each, cost_interval
from django.db import connection
from django.db.models import QuerySet

from dakika_server.brands.models import Brand, Campaign
from dakika_server.measures.models import PostMeasure
from dakika_server.plan.boosts.asking import OPEN, left_of_months, page_of, rule_for, why_not
from dakika_server.plan.boosts.brought import money_of
from dakika_server.plan.models import Boost, BoostLimit
from dakika_server.shared import clock
from dakika_server.sources.models import Post

# People's clicks on some links, and the goals reached on visits by them, with their worth by currency.
_CLICKS = "SELECT link_id, sum(people) FROM links_clickhour WHERE brand_id = %s AND link_id = ANY(%s) GROUP BY 1"
_REACHED = """
SELECT v.link_id, c.currency, count(*), sum(c.cents) FROM site_visit v JOIN site_conversion c ON c.visit_id = v.id
WHERE v.brand_id = %s AND v.link_id = ANY(%s) GROUP BY 1, 2
"""
_VISITS = "SELECT link_id, count(*) FROM site_visit WHERE brand_id = %s AND link_id = ANY(%s) GROUP BY 1"


def boosts_of(brand: Brand, *, post: int | None = None) -> QuerySet[Boost]:
    """A brand's boosts, or those of a post."""
    rows = Boost.objects.filter(brand=brand).select_related("profile", "post__campaign", "link", "made_by")
    return rows if post is None else rows.filter(post=post)


def told(brand: Brand, boosts: Sequence[Boost]) -> list[dict[str, Any]]:
    """Boosts with what came by their links and what a click and a conversion cost; five queries, however many."""
    links = [boost.link_id for boost in boosts if boost.link_id]
    clicks, visits = _counts(_CLICKS, brand, links), _counts(_VISITS, brand, links)
    reached: dict[int, tuple[int, dict[str, int]]] = {}
    for link, currency, count, cents in _rows(_REACHED, brand, links):
        many, worth = reached.get(link, (0, {}))
        reached[link] = (many + int(count), {**worth, currency: int(cents or 0)})
    organic = {
        row.post_id: row for row in PostMeasure.objects.filter(
            post__in=[boost.post_id for boost in boosts if boost.post_id], age_hours=LATEST_AGE)
    }  # fmt: skip
    return [
        _told(boost, clicks.get(boost.link_id or 0, 0), visits.get(boost.link_id or 0, 0),
              reached.get(boost.link_id or 0, (0, {})), organic.get(boost.post_id or 0))
        for boost in boosts
    ]  # fmt: skip


def _told(
    boost: Boost, clicks: int, visits: int, reached: tuple[int, dict[str, int]], organic: PostMeasure | None
) -> dict[str, Any]:
    conversions, worth = reached
    has_link = boost.link_id is not None
    return {
        "boost": boost, "clicks": clicks if has_link else None, "visits": visits if has_link else None,
        "conversions": conversions if has_link else None, "value": worth.get(boost.currency, 0) if has_link else None,
        "per_thousand": cost_each(1000 * boost.spent, boost.impressions),
        "per_click": cost_each(boost.spent, clicks) if has_link else None,
        "per_click_interval": cost_interval(boost.spent, clicks),
        "per_conversion": cost_each(boost.spent, conversions) if has_link else None,
        "per_conversion_interval": cost_interval(boost.spent, conversions),
        "organic": {
            "impressions": organic.impressions, "interactions": organic.interactions,
            "link_clicks": organic.link_clicks,
        } if organic else None,
    }  # fmt: skip


def months(brand: Brand) -> dict[str, Any]:
    """The limit and what of it is given, spent and left in this month."""
    now = clock.now()
    limit = BoostLimit.objects.filter(brand=brand).first()
    month = now.astimezone(brand.zone).date().replace(day=1)
    left = left_of_months(brand, Given(starts_at=now, ends_at=now, cents=0))[month]
    return {
        "cents": limit.cents if limit else None, "currency": limit.currency if limit else money_of(brand),
        "told_in": money_of(brand), "edition": limit.edition if limit else 0, "month": month, "left": max(0, left),
    }  # fmt: skip


def terms_for(brand: Brand, post: Post) -> dict[str, Any]:
    """What a boost of a post may be: its network's rules, what is left of the month, and the page it leads to."""
    rule = rule_for(post.profile) if post.removed_at is None else None
    is_open = Boost.objects.filter(post=post, state__in=OPEN).exists()
    reason = "It is being boosted." if is_open else "" if rule else why_not(post)
    return {
        "reason": reason, "page": page_of(post), "limit": months(brand),
        **({name: getattr(rule, name) for name in (
            "currency", "least_cents", "most_cents", "most_days", "countries", "ages")} if rule else {}),
    }  # fmt: skip


def of_campaign(brand: Brand, campaign: Campaign) -> dict[str, Any] | None:
    """What boosts of a campaign's posts cost and brought together; None where none was boosted."""
    rows = list(boosts_of(brand).filter(post__campaign=campaign, seen_at__isnull=False))
    if not rows:
        return None
    # Amounts of several currencies are never added up: that of most of them is told.
    currency, _ = Counter(one.currency for one in rows).most_common(1)[0]
    same = told(brand, [one for one in rows if one.currency == currency])
    spent = sum(one["boost"].spent for one in same)
    clicks, conversions = (sum(one[name] or 0 for one in same) for name in ("clicks", "conversions"))
    return {
        "boosts": len(same), "currency": currency, "spent": spent, "clicks": clicks, "conversions": conversions,
        "impressions": sum(one["boost"].impressions for one in same),
        "per_click": cost_each(spent, clicks), "per_click_interval": cost_interval(spent, clicks),
        "per_conversion": cost_each(spent, conversions),
        "per_conversion_interval": cost_interval(spent, conversions),
    }  # fmt: skip


def _counts(sql: str, brand: Brand, links: Iterable[int]) -> dict[int, int]:
    return {int(link): int(count or 0) for link, count in _rows(sql, brand, links)}


def _rows(sql: str, brand: Brand, links: Iterable[int]) -> list[Any]:
    found = list(links)
    if not found:
        return []
    with connection.cursor() as cursor:
        cursor.execute(sql, [brand.pk, found])
        return list(cursor.fetchall())
