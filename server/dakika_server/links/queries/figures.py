"""Click figures of a period: by day, hour of week and dimension, for all links of a brand or some of them."""

from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.links.counts import CountRatio, dispersion_of, ratio_of_counts
from dakika_core.values.period import Period
from django.db import connection
from django.db.models import Sum

from dakika_server.brands.models import Brand
from dakika_server.links.models import Click, ClickDay, ClickHour, ClickPeople, ClickSpread, TrackedLink
from dakika_server.measures.models import PostMeasure

ROWS_SHOWN = 12
FIRST_HOURS = (1, 3, 24, 72, 168, 720)


@dataclass(frozen=True, kw_only=True)
class Scope:
    """Whose clicks: all of the brand, or those on some links. link_id 0 in the sums stands for all."""

    brand: Brand
    links: tuple[int, ...] | None = None

    @property
    def sums(self) -> dict[str, Any]:
        """As a filter on sums that know of all links together."""
        return {"brand_id": self.brand.pk, "link_id__in": (0,) if self.links is None else self.links}

    @property
    def days(self) -> dict[str, Any]:
        """As a filter on sums by link and day."""
        return {"brand_id": self.brand.pk} | ({} if self.links is None else {"link_id__in": self.links})


@dataclass(frozen=True, kw_only=True)
class Share:
    """A value of a dimension with its clicks now and in the comparison period."""

    name: str
    count: int
    before: int = 0
    id: int | None = None


@dataclass(frozen=True, kw_only=True)
class Figures:
    """Clicks of a period beside those of the comparison period.

    The courses are of all days, the ratio of the `whole_days` that are over, the rest of those that have begun.
    """

    whole_days: int
    people: list[int]
    bots: list[int]
    over: list[int]
    before: list[int]
    visitors: int
    visitors_before: int
    ratio: CountRatio
    hours: list[list[int]] = field(default_factory=list)
    spreads: dict[str, list[Share]] = field(default_factory=dict)


def figures_of(scope: Scope, period: Period, compared: Period, today: date) -> Figures:
    """Everything that the page of links, or of one link, shows of a period."""
    people, bots, over = _courses(scope, period)
    before, _, _ = _courses(scope, compared)
    weekdays = [(period.first + timedelta(days=i)).weekday() for i in range(period.days)]
    days = period.whole_days(today)
    begun, held = begun_days(period, compared, today)
    return Figures(
        whole_days=days, people=people, bots=bots, over=over, before=before, visitors=visitors_in(scope, begun),
        visitors_before=visitors_in(scope, held),
        # Before the first day is over nothing can be held against it.
        ratio=ratio_of_counts(
            sum(people[:days]), sum(before[:days]), dispersion=dispersion_of(people[:days], weekdays[:days])
        ),
        hours=hours_of_week(scope, period), spreads=spreads_of(scope, begun, held),
    )  # fmt: skip


def begun_days(period: Period, compared: Period, today: date) -> tuple[Period, Period]:
    """The days that have begun, and as many of the comparison: what is listed now beside before.

    Today is in it, so that a click is there at once; whether there are more than before is told from whole days alone.
    """
    days = period.whole_days(today) + 1
    return period.first_days(days), compared.first_days(days)


def _courses(scope: Scope, period: Period) -> tuple[list[int], list[int], list[int]]:
    rows = (
        ClickDay.objects.filter(**scope.days, day__gte=period.first, day__lte=period.last)
        .values("day").annotate(p=Sum("people"), b=Sum("bots"), o=Sum("over")).values_list("day", "p", "b", "o")
    )  # fmt: skip
    people, bots, over = ([0] * period.days for _ in range(3))
    for day, p, b, o in rows:
        i = (day - period.first).days
        people[i], bots[i], over[i] = p, b, o
    return people, bots, over


def hours_of_week(scope: Scope, period: Period) -> list[list[int]]:
    """Clicks by weekday (Monday first) and hour of the brand's clocks."""
    found = [[0] * 24 for _ in range(7)]
    links = [0] if scope.links is None else list(scope.links)
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT extract(isodow FROM hour AT TIME ZONE %(zone)s)::int, "
            "extract(hour FROM hour AT TIME ZONE %(zone)s)::int, sum(people) "
            "FROM links_clickhour WHERE brand_id = %(brand)s AND link_id = ANY(%(links)s) "
            "AND hour >= %(start)s AND hour < %(end)s GROUP BY 1, 2",
            {
                "zone": str(period.zone),
                "brand": scope.brand.pk,
                "links": links,
                "start": period.start,
                "end": period.end,
            },
        )
        for weekday, hour, count in cursor.fetchall():
            found[weekday - 1][hour] = int(count)
    return found


def spreads_of(scope: Scope, period: Period, compared: Period) -> dict[str, list[Share]]:
    """Clicks by each dimension, most first."""
    now, before = _spread(scope, period), _spread(scope, compared)
    found = {
        dimension: [
            Share(name=name, count=count, before=before.get(dimension, {}).get(name, 0))
            for name, count in sorted(counts.items(), key=lambda row: (-row[1], row[0]))[:ROWS_SHOWN]
        ]
        for dimension, counts in now.items()
    }
    return found | _by_what_links_are_for(scope, period, compared)


def _spread(scope: Scope, period: Period) -> dict[str, dict[str, int]]:
    rows = (
        ClickSpread.objects.filter(**scope.sums, dimension__in=DIMENSIONS, day__gte=period.first, day__lte=period.last)
        .values("dimension", "value").annotate(n=Sum("count")).values_list("dimension", "value", "n")
    )  # fmt: skip
    found: dict[str, dict[str, int]] = {name: {} for name in DIMENSIONS}
    for dimension, value, count in rows:
        if count > 0:
            found[dimension][value] = count
    return found


DIMENSIONS = ("referrer", "device", "browser", "language", "country", "reason")


def _by_what_links_are_for(scope: Scope, period: Period, compared: Period) -> dict[str, list[Share]]:
    """By network, campaign and destination of the links."""
    clicks: list[dict[int, int]] = []
    for each in (period, compared):
        rows = (
            ClickDay.objects.filter(**scope.days, day__gte=each.first, day__lte=each.last)
            .values("link_id").annotate(p=Sum("people")).filter(p__gt=0).values_list("link_id", "p")
        )  # fmt: skip
        clicks.append(dict(rows))
    ids = clicks[0].keys() | clicks[1].keys()
    told = TrackedLink.objects.filter(pk__in=ids).values_list(
        "pk", "network", "campaign_id", "campaign__name", "destination"
    )
    sums: dict[str, dict[tuple[str, int | None], list[int]]] = {"network": {}, "campaign": {}, "destination": {}}
    for pk, network, campaign_id, campaign, destination in told:
        keys = {
            "network": (network, None),
            "campaign": (campaign or "", campaign_id),
            "destination": (destination, None),
        }
        for dimension, key in keys.items():
            pair = sums[dimension].setdefault(key, [0, 0])
            for i in (0, 1):
                pair[i] += clicks[i].get(pk, 0)
    return {
        dimension: [
            Share(name=name, id=pk, count=now, before=before)
            for (name, pk), (now, before) in sorted(pairs.items(), key=lambda row: (-row[1][0], row[0][0]))[:ROWS_SHOWN]
        ]
        for dimension, pairs in sums.items()
    }


def visitors_in(scope: Scope, period: Period) -> int:
    """People, estimated: different visitors of each day (UTC, as long as a hash lives), added over the days."""
    first, last = period.first, period.last
    links = [0] if scope.links is None else list(scope.links)
    kept = ClickPeople.objects.filter(brand_id=scope.brand.pk, link_id__in=links, day__gte=first, day__lte=last)
    total = int(kept.aggregate(n=Sum("people"))["n"] or 0)
    upto = ClickPeople.objects.filter(brand_id=scope.brand.pk).order_by("-day").values_list("day", flat=True).first()
    since = max(first, upto + timedelta(days=1)) if upto else first
    if since > last:
        return total
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(DISTINCT (visitor, (at AT TIME ZONE 'UTC')::date)) FROM links_click WHERE brand_id = %s "
            "AND bot_reason = '' AND NOT is_over AND at >= %s::date::timestamp AT TIME ZONE 'UTC' "
            "AND at < (%s::date + 1)::timestamp AT TIME ZONE 'UTC' AND (%s OR link_id = ANY(%s))",
            [scope.brand.pk, since, last, scope.links is None, links],
        )
        return total + int(cursor.fetchone()[0])


@dataclass(frozen=True, kw_only=True)
class Life:
    """A link from its first click to now: by day, by age, and the posts that carried it."""

    first: date
    people: list[int]
    ages: list["WithinHours"]
    later: int
    uses: list["Use"]


@dataclass(frozen=True, kw_only=True)
class WithinHours:
    """Clicks within so many hours after the link was first published, else made."""

    hours: int
    count: int


@dataclass(frozen=True, kw_only=True)
class Use:
    """A post that carries the link; `reported` are the clicks that its network tells of, on whatever it links to."""

    post_id: int
    published_at: datetime
    network: str
    text: str
    reported: int | None


def life_of(link: TrackedLink, now: datetime) -> Life:
    """How a link lived. `ages`: clicks within so many hours after it was first published, else made."""
    zone = link.brand.zone
    carried = list(link.uses.select_related("post__profile").order_by("post__published_at"))
    told = PostMeasure.objects.filter(post_id__in=[use.post_id for use in carried], age_hours=0)
    reported = dict(told.values_list("post_id", "link_clicks"))
    uses = [
        Use(
            post_id=use.post_id, published_at=use.post.published_at, network=use.post.profile.network,
            text=use.post.text,
            reported=None if reported.get(use.post_id) is None else round(reported[use.post_id] or 0.0),
        )
        for use in carried
    ]  # fmt: skip
    begun = min([use.published_at for use in uses] or [link.created_at])
    first, last = link.created_at.astimezone(zone).date(), now.astimezone(zone).date()
    days = [0] * max(1, (last - first).days + 1)
    for day, count in ClickDay.objects.filter(brand_id=link.brand_id, link_id=link.pk).values_list("day", "people"):
        if 0 <= (day - first).days < len(days):
            days[(day - first).days] = count
    human = Click.objects.filter(link=link, bot_reason="", is_over=False)
    ages = [
        WithinHours(
            hours=hours,
            # The sums know whole hours; the first ones are counted click by click.
            count=human.filter(at__lt=begun + timedelta(hours=hours)).count()
            if hours < 24
            else _within_hours(link, begun, hours),
        )
        for hours in FIRST_HOURS
        if begun + timedelta(hours=hours) <= now
    ]
    total = sum(days)
    return Life(first=first, people=days, ages=ages, later=total - (ages[-1].count if ages else 0), uses=uses)


def _within_hours(link: TrackedLink, begun: datetime, hours: int) -> int:
    rows = ClickHour.objects.filter(brand_id=link.brand_id, link_id=link.pk, hour__lt=begun + timedelta(hours=hours))
    return int(rows.aggregate(n=Sum("people"))["n"] or 0)
