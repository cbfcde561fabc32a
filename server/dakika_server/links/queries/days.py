"""A day's clicks: whether it stands out, and which links and referrers made it.

Counted as in the summary of results (links/brought.py), so that both say the same of any study.
"""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.results.spikes import explain, seasonal_level, spikes_in
from dakika_core.values.period import Period
from django.db.models import Sum

from dakika_server.figures.study import Study, in_choice
from dakika_server.links.brought import NAME, clicks_brought, clicks_of_posts
from dakika_server.links.models import ClickDay, ClickSpread, TrackedLink
from dakika_server.links.queries.figures import Scope
from dakika_server.results import queries

DAYS_BEFORE = 56
SAME_WEEKDAYS = 8
MOST_ITEMS = 300


@dataclass(frozen=True, kw_only=True)
class Part:
    """A link or a referrer with its clicks of the day, what it usually has, and its share of the excess."""

    name: str
    id: int | None
    count: int
    usual: float
    share: float


@dataclass(frozen=True, kw_only=True)
class DayBehind:
    """What made a day's clicks."""

    value: int
    level: float | None
    z: float | None
    is_spike: bool
    links: list[Part]
    referrers: list[Part]
    explained: float


def behind_day(study: Study, day: date, now: datetime) -> DayBehind:
    """The links and referrers with the largest part of a day's excess over what they usually bring on that weekday.

    Where posts are studied, referrers are those of their links.
    """
    wide = Period(first=day - timedelta(days=DAYS_BEFORE), last=day, zone=study.brand.zone)
    counts = np.nan_to_num(_clicks(study, wide))
    whole = ended(counts, wide, now)
    level, z = seasonal_level(whole)
    known = bool(z[-1] == z[-1])
    excess = float(counts[-1] - level[-1]) if known else 0.0
    is_spike = any(s.at == len(counts) - 1 for s in spikes_in(whole))
    rows = _of_links(study, day)
    links, share = _parts(rows, excess if is_spike else 0.0)
    names = dict(TrackedLink.objects.filter(pk__in=[part.id for part in links]).values_list("pk", "name"))
    # What was paid for is not in the figure: where some of it was clicked, only the other links' referrers are.
    has_paid = ClickDay.objects.filter(brand_id=study.brand.pk, day=day, link_id__in=_paid(study)).exists()
    of_links = [row[1] for row in rows if row[1]] if study.is_of_some or has_paid else None
    referrers, _ = _parts(_of_referrers(study, day, of_links), excess if is_spike else 0.0)
    return DayBehind(
        value=int(counts[-1]), level=float(level[-1]) if known else None, z=float(z[-1]) if known else None,
        is_spike=is_spike, referrers=referrers, explained=share,
        links=[Part(**{**vars(part), "name": names.get(part.id or 0, "")}) for part in links],
    )  # fmt: skip


def _clicks(study: Study, period: Period) -> Any:
    answer = clicks_brought(study, period)
    networks = {*study.named_networks, *answer.courses}
    return queries.summed([answer.of(network)[NAME] for network in networks], period.days)


def ended(counts: Any, period: Period, now: datetime) -> Any:
    """Counts by day of a period, shape (days,), NaN from today on: a day that is not over is no day yet."""
    today = (now.astimezone(period.zone).date() - period.first).days
    return np.where(np.arange(len(counts)) < today, counts, np.nan)


Row = tuple[str, int | None, int, float]


def _paid(study: Study) -> Any:
    return TrackedLink.objects.filter(brand=study.brand, is_paid=True).values("pk")


def _same_weekdays(day: date) -> list[date]:
    return [day - timedelta(days=7 * i) for i in range(1, SAME_WEEKDAYS + 1)]


def _of_links(study: Study, day: date) -> list[Row]:
    weekdays = _same_weekdays(day)
    of_posts = clicks_of_posts(study, [day, *weekdays])
    if of_posts is None:
        rows = ClickDay.objects.filter(brand_id=study.brand.pk).exclude(link_id__in=_paid(study))
        asked = {"network": study.networks, "campaign_id": study.campaigns}
        narrowed = [in_choice(column, choice) for column, choice in asked.items() if choice is not None]
        if narrowed:
            rows = rows.filter(link_id__in=TrackedLink.objects.filter(*narrowed, brand=study.brand).values("pk"))
        now = dict(rows.filter(day=day, people__gt=0).order_by("-people").values_list("link_id", "people")[:MOST_ITEMS])
        before = rows.filter(day__in=weekdays, link_id__in=now).values("link_id").annotate(n=Sum("people"))
        usual = dict(before.values_list("link_id", "n"))
    else:
        now = dict(sorted(of_posts[day].items(), key=lambda row: -row[1])[:MOST_ITEMS])
        usual = {link: sum(of_posts[one].get(link, 0) for one in weekdays) for link in now}
    return [("", link, count, usual.get(link, 0) / SAME_WEEKDAYS) for link, count in now.items()]


def _of_referrers(study: Study, day: date, of_links: list[int] | None) -> list[Row]:
    rows = ClickSpread.objects.filter(
        **Scope(brand=study.brand, links=None if of_links is None else tuple(of_links)).sums, dimension="referrer"
    )
    today = rows.filter(day=day, count__gt=0).values("value").annotate(n=Sum("count")).order_by("-n")
    now = dict(today.values_list("value", "n")[:MOST_ITEMS])
    before = rows.filter(day__in=_same_weekdays(day), value__in=now).values("value").annotate(n=Sum("count"))
    usual = dict(before.values_list("value", "n"))
    return [(name, None, count, usual.get(name, 0) / SAME_WEEKDAYS) for name, count in now.items()]


def _parts(rows: list[Row], excess: float) -> tuple[list[Part], float]:
    """Those that explain the excess, and then the largest of the rest, ten in all; no excess is nothing to explain."""
    told = explain(excess, [row[2] for row in rows], [row[3] for row in rows])
    shares = {cause.item: cause.share for cause in told.causes}
    order = sorted(range(len(rows)), key=lambda i: (-shares.get(i, 0.0), -rows[i][2]))[:10]
    parts = [
        Part(name=rows[i][0], id=rows[i][1], count=rows[i][2], usual=rows[i][3], share=shares.get(i, 0.0))
        for i in order
    ]
    return parts, told.share
