"""Reads of links and clicks."""

from dataclasses import dataclass
from typing import Any

from dakika_core.values.period import Period
from django.db.models import Count, Max, Q, QuerySet
from django.db.models.functions import TruncDate

from dakika_server.links.models import Click, TrackedLink

PEOPLE = Q(clicks__bot_reason="")


def links_of(brand_id: int, period: Period) -> QuerySet[TrackedLink]:
    """Links with people's and bots' clicks in the period and over their life, most clicked first."""
    within = Q(clicks__at__gte=period.start, clicks__at__lt=period.end)
    return (
        TrackedLink.objects.filter(brand_id=brand_id)
        .select_related("campaign")
        .annotate(
            clicks_in_period=Count("clicks", filter=within & PEOPLE),
            bots_in_period=Count("clicks", filter=within & ~PEOPLE),
            clicks_ever=Count("clicks", filter=PEOPLE),
            last_click_at=Max("clicks__at", filter=PEOPLE),
        )
        .order_by("-clicks_in_period", "-created_at")
    )


@dataclass(frozen=True, kw_only=True)
class Breakdown:
    """Clicks of a period by day (people, bots), and people's by referrer, device and link."""

    people: list[int]
    bots: list[int]
    referrers: list[tuple[str, int]]
    devices: list[tuple[str, int]]
    visitors: int
    bot_reasons: list[tuple[str, int]]


def breakdown_of(brand_id: int, period: Period, link_id: int | None = None) -> Breakdown:
    """How the clicks of a period spread, for one link or all of a brand."""
    clicks = Click.objects.filter(brand_id=brand_id, at__gte=period.start, at__lt=period.end)
    if link_id is not None:
        clicks = clicks.filter(link_id=link_id)
    by_day = (
        clicks.annotate(day=TruncDate("at", tzinfo=period.zone))
        .values("day")
        .annotate(people=Count("pk", filter=Q(bot_reason="")), bots=Count("pk", filter=~Q(bot_reason="")))
        .values_list("day", "people", "bots")
    )
    people, bots = [0] * period.days, [0] * period.days
    for day, humans, machines in by_day:
        people[(day - period.first).days] = humans
        bots[(day - period.first).days] = machines
    humans_only = clicks.filter(bot_reason="")
    return Breakdown(
        people=people,
        bots=bots,
        referrers=_counts(humans_only, "referrer"),
        devices=_counts(humans_only, "device"),
        visitors=humans_only.aggregate(n=Count("visitor", distinct=True))["n"],
        bot_reasons=_counts(clicks.exclude(bot_reason=""), "bot_reason"),
    )


def _counts(clicks: QuerySet[Click], field: str) -> list[tuple[str, int]]:
    rows: list[Any] = list(clicks.values_list(field).annotate(n=Count("pk")).order_by("-n", field)[:20])
    return [(str(value), n) for value, n in rows]
