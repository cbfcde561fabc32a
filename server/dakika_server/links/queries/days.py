"""Traffic by day: clicks, visits and conversions; which days stand out, and which links and referrers made them."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.results.spikes import explain, seasonal_level, spikes_in
from dakika_core.values.period import Period
from django.db.models import Count, Sum
from django.db.models.functions import TruncDate

from dakika_server.links.models import ClickDay, ClickSpread, Conversion, TrackedLink, Visit
from dakika_server.links.queries.figures import Scope

DAYS_BEFORE = 56
SAME_WEEKDAYS = 8
MOST_ITEMS = 300


@dataclass(frozen=True, kw_only=True)
class Traffic:
    """By day of the period: people's clicks, visits, conversions; and (day, robust z) of clicks that stand out."""

    clicks: list[int]
    visits: list[int]
    conversions: list[int]
    has_visits: bool
    spikes: list[tuple[date, float]]


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


def traffic_of(scope: Scope, period: Period, now: datetime) -> Traffic:
    """Everything about the traffic of a period, in a fixed number of queries."""
    wide = Period(first=period.first - timedelta(days=DAYS_BEFORE), last=period.last, zone=period.zone)
    counts = _clicks(scope, wide)
    found = spikes_in(_ended(counts, wide, now))
    days = wide.dates()
    visits = Visit.objects.filter(brand=scope.brand, started_at__gte=period.start, started_at__lt=period.end)
    conversions = Conversion.objects.filter(brand=scope.brand, at__gte=period.start, at__lt=period.end)
    if scope.links is not None:
        visits = visits.filter(link_id__in=scope.links)
        conversions = conversions.filter(visit__link_id__in=scope.links)
    return Traffic(
        clicks=[int(n) for n in counts[DAYS_BEFORE:]], visits=_by_day(visits, "started_at", period),
        conversions=_by_day(conversions, "at", period), has_visits=Visit.objects.filter(brand=scope.brand).exists(),
        spikes=[(days[s.at], s.z) for s in found if days[s.at] >= period.first],
    )  # fmt: skip


def behind_day(scope: Scope, day: date, now: datetime) -> DayBehind:
    """The links and referrers with the largest part of a day's excess over what they usually bring on that weekday."""
    zone = scope.brand.zone
    wide = Period(first=day - timedelta(days=DAYS_BEFORE), last=day, zone=zone)
    counts = _clicks(scope, wide)
    ended = _ended(counts, wide, now)
    level, z = seasonal_level(ended)
    known = bool(z[-1] == z[-1])
    excess = float(counts[-1] - level[-1]) if known else 0.0
    is_spike = any(s.at == len(counts) - 1 for s in spikes_in(ended))
    links, share = _parts(_of_links(scope, day), excess if is_spike else 0.0)
    names = dict(TrackedLink.objects.filter(pk__in=[part.id for part in links]).values_list("pk", "name"))
    referrers, _ = _parts(_of_referrers(scope, day), excess if is_spike else 0.0)
    return DayBehind(
        value=int(counts[-1]), level=float(level[-1]) if known else None, z=float(z[-1]) if known else None,
        is_spike=is_spike, referrers=referrers, explained=share,
        links=[Part(**{**vars(part), "name": names.get(part.id or 0, "")}) for part in links],
    )  # fmt: skip


def _clicks(scope: Scope, period: Period) -> Any:
    rows = ClickDay.objects.filter(**scope.days, day__gte=period.first, day__lte=period.last)
    counts = np.zeros(period.days)
    for day, people in rows.values("day").annotate(p=Sum("people")).values_list("day", "p"):
        counts[(day - period.first).days] = people
    return counts


def _ended(counts: Any, period: Period, now: datetime) -> Any:
    """A day that is not over is no day yet."""
    today = (now.astimezone(period.zone).date() - period.first).days
    return np.where(np.arange(len(counts)) < today, counts, np.nan)


def _by_day(found: Any, column: str, period: Period) -> list[int]:
    counts = [0] * period.days
    rows = found.annotate(on=TruncDate(column, tzinfo=period.zone)).values("on").annotate(n=Count("pk"))
    for on, n in rows.values_list("on", "n"):
        counts[(on - period.first).days] = n
    return counts


Row = tuple[str, int | None, int, float]


def _same_weekdays(day: date) -> list[date]:
    return [day - timedelta(days=7 * i) for i in range(1, SAME_WEEKDAYS + 1)]


def _of_links(scope: Scope, day: date) -> list[Row]:
    rows = ClickDay.objects.filter(**scope.days)
    now = dict(rows.filter(day=day, people__gt=0).order_by("-people").values_list("link_id", "people")[:MOST_ITEMS])
    before = rows.filter(day__in=_same_weekdays(day), link_id__in=now).values("link_id").annotate(n=Sum("people"))
    usual = dict(before.values_list("link_id", "n"))
    return [("", link, count, usual.get(link, 0) / SAME_WEEKDAYS) for link, count in now.items()]


def _of_referrers(scope: Scope, day: date) -> list[Row]:
    rows = ClickSpread.objects.filter(**scope.sums, dimension="referrer")
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
