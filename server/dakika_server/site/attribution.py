"""Conversions and the visits before them, for the core to give credit."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from dakika_core.site.attribution import DIRECT, Model, Path, all_credits
from dakika_core.values.period import Period
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.site.currencies import DEFAULT
from dakika_server.site.visiting import days_between

DEFAULT_WINDOW_DAYS = 30
MOST_PATHS = 200_000
LONGEST_PATH = 50
OF_NOTHING = ""

# Numbers of our campaigns and words of strangers' addresses never share a key: a visitor may write 12 there.
OWN, WORD = "campaign ", "utm "
# Every visit of the same visitor in the window before a conversion; without a visitor, the visit it is tied to.
_TOUCHES = """
SELECT c.id, c.at, CASE WHEN c.currency = %(currency)s THEN c.cents ELSE 0 END, v.started_at, v.channel,
    v.campaign,
    coalesce(v.post_id::text, '')
FROM site_conversion c
LEFT JOIN LATERAL (
    SELECT started_at, channel, CASE WHEN campaign_id IS NOT NULL THEN 'campaign ' || campaign_id
        WHEN utm_campaign <> '' THEN 'utm ' || utm_campaign ELSE '' END AS campaign, post_id FROM site_visit v
    WHERE v.brand_id = c.brand_id AND v.started_at <= c.at AND v.started_at >= c.at - make_interval(days => %(window)s)
        AND (v.visitor = c.visitor OR (c.visitor IS NULL AND v.id = c.visit_id))
    ORDER BY started_at DESC LIMIT %(longest)s
) v ON true
WHERE c.brand_id = %(brand)s AND c.at >= %(start)s AND c.at < %(end)s AND (%(goal)s = 0 OR c.goal_id = %(goal)s)
    AND (%(stage)s = '' OR EXISTS (
        SELECT 1 FROM site_conversionstage s WHERE s.conversion_id = c.id AND s.stage = %(stage)s))
ORDER BY c.id, v.started_at
"""
# Visitors of the period who did not convert: what leads nowhere, for the Markov model.
_LOST = """
SELECT v.visitor, v.started_at, v.channel, CASE WHEN campaign_id IS NOT NULL THEN 'campaign ' || campaign_id
        WHEN utm_campaign <> '' THEN 'utm ' || utm_campaign ELSE '' END,
    coalesce(v.post_id::text, '')
FROM site_visit v
WHERE v.brand_id = %(brand)s AND v.started_at >= %(start)s AND v.started_at < %(end)s AND NOT EXISTS (
    SELECT 1 FROM site_conversion c WHERE c.brand_id = v.brand_id AND c.visitor = v.visitor
        AND (%(goal)s = 0 OR c.goal_id = %(goal)s))
ORDER BY v.visitor, v.started_at
"""
BY = {"channel": 0, "campaign": 1, "post": 2}


@dataclass(frozen=True, kw_only=True)
class Asked:
    """Which conversions, by what, and how far one looks back. Value is that of one currency; others are not added."""

    brand: Brand
    period: Period
    by: str = "channel"
    goal_id: int = 0
    window_days: int = DEFAULT_WINDOW_DAYS
    stage: str = ""
    currency: str = DEFAULT

    @property
    def values(self) -> dict[str, Any]:
        """For the queries."""
        return {
            "brand": self.brand.pk, "start": self.period.start, "end": self.period.end, "goal": self.goal_id,
            "window": self.window_days, "longest": LONGEST_PATH, "stage": self.stage,
            "currency": self.currency,
        }  # fmt: skip


def paths_of(asked: Asked) -> list[Path]:
    """Paths to conversions, and those that led nowhere."""
    place = BY[asked.by]
    with connection.cursor() as cursor:
        cursor.execute(_TOUCHES, asked.values)
        won = _won(cursor.fetchmany(MOST_PATHS * 10), place)
        cursor.execute(_LOST, asked.values)
        return won + _lost(cursor.fetchmany(MOST_PATHS * 10), place)


def _won(rows: Sequence[Any], place: int) -> list[Path]:
    paths: list[Path] = []
    touches: list[str] = []
    ages: list[float] = []
    for i, (pk, at, cents, started, *names) in enumerate(rows):
        # A conversion without a visit came from nowhere that we know of: that is what direct means.
        touches.append(_name(names[place], place) if started is not None else (DIRECT if place == 0 else OF_NOTHING))
        ages.append(days_between(started, at) if started is not None else 0.0)
        if i + 1 == len(rows) or rows[i + 1][0] != pk:
            paths.append(Path(touches=tuple(touches), ages_days=tuple(ages), cents=cents))
            touches, ages = [], []
    return paths


def _lost(rows: Sequence[Any], place: int) -> list[Path]:
    paths: list[Path] = []
    touches: list[str] = []
    for i, (visitor, _, *names) in enumerate(rows):
        touches.append(_name(names[place], place))
        if i + 1 == len(rows) or bytes(rows[i + 1][0]) != bytes(visitor):
            paths.append(Path(touches=tuple(touches), ages_days=(0.0,) * len(touches), is_converted=False))
            touches = []
    return paths


def _name(name: str | None, place: int) -> str:
    return name or (DIRECT if place == 0 else OF_NOTHING)


@dataclass(frozen=True, kw_only=True)
class Credited:
    """What each model gives one channel, campaign or post: conversions and cents, and how far the models differ."""

    key: str
    counts: dict[str, float]
    cents: dict[str, int]

    @property
    def low(self) -> float:
        """What the least generous model gives."""
        return min(self.counts.values())

    @property
    def high(self) -> float:
        """What the most generous model gives."""
        return max(self.counts.values())


def credited(asked: Asked) -> tuple[list[Credited], int, int, int]:
    """Credits by every model, most first (linear); how many conversions, their cents, and how many had no visit."""
    paths = paths_of(asked)
    told = all_credits(paths)
    won = [path for path in paths if path.is_converted]
    keys = sorted({name for path in won for name in path.touches})
    rows = [
        Credited(
            key=key, counts={model.value: told[model][key].count for model in Model},
            cents={model.value: told[model][key].cents for model in Model},
        )
        for key in keys
    ]  # fmt: skip
    rows.sort(key=lambda row: (-row.counts[Model.LINEAR.value], row.key))
    return rows, len(won), sum(path.cents for path in won), sum(1 for p in won if p.touches == (DIRECT,))


@dataclass(frozen=True, kw_only=True)
class Step:
    """One visit on the way to a conversion."""

    at: datetime
    channel: str
    landing: str
    post_id: int | None
    link_id: int | None


def way_to(brand_id: int, conversion: Any, window_days: int) -> list[Step]:
    """The visits before a conversion, the oldest first."""
    from dakika_server.site.models import Visit

    visits = Visit.objects.filter(brand_id=brand_id, started_at__lte=conversion.at).filter(
        started_at__gte=conversion.at - timedelta(days=window_days)
    )
    same = (
        visits.filter(visitor=conversion.visitor) if conversion.visitor else visits.filter(pk=conversion.visit_id or 0)
    )
    return [
        Step(at=v.started_at, channel=v.channel, landing=(v.paths or ["/"])[0], post_id=v.post_id, link_id=v.link_id)
        for v in same.order_by("-started_at")[:LONGEST_PATH]
    ][::-1]
