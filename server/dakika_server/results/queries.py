"""Reads for results: everything is added up in SQL, a fixed number of queries whatever the size."""

from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

import numpy as np
from dakika_core.values.period import Period
from django.db.models import Count, F, FilteredRelation, FloatField, Max, Q, QuerySet, Sum, Value
from django.db.models.functions import NullIf, TruncDate
from numpy.typing import NDArray

from dakika_server.results.models import PostDay, PostMeasure
from dakika_server.results.study import Study
from dakika_server.sources.models import Post, ProfileReading

Array = NDArray[np.float64]
GAINS = ("impressions", "reach", "interactions", "link_clicks")
SORTS = (
    "published_at", "format", "profile", "interactions", "impressions", "reach", "reactions", "comments", "shares",
    "link_clicks", "er_reach", "er_impressions", "er_followers", "index",
)  # fmt: skip


SHOWN = (
    "interactions", "impressions", "reach", "reactions", "comments", "shares", "link_clicks", "typical", "index",
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class DaySeries:
    """One network's sums by day over a period: gains by name, each of shape (days,), NaN where nothing is known."""

    network: str
    values: dict[str, Array]


def gains_by_network(study: Study, period: Period) -> list[DaySeries]:
    """Daily gains of the studied posts by network."""
    rows = (
        _days_in(study, period)
        .values("profile__network", "day")
        .annotate(**{f"sum_{key}": Sum(key) for key in GAINS})
        .values_list("profile__network", "day", *[f"sum_{key}" for key in GAINS])
    )
    tables: dict[str, Array] = {}
    for network, day, *sums in rows:
        if network not in tables:
            tables[network] = np.full((period.days, len(GAINS)), np.nan)
        tables[network][(day - period.first).days] = sums  # None becomes NaN
    return [
        DaySeries(network=network, values={key: tables[network][:, i] for i, key in enumerate(GAINS)})
        for network in sorted(tables)
    ]


def gains_by_post(study: Study, period: Period) -> dict[str, Array]:
    """What each post gained in the period: arrays of shape (posts,) by name, NaN where missing."""
    rows = list(
        _days_in(study, period)
        .values("post")
        .annotate(**{f"sum_{key}": Sum(key) for key in GAINS})
        .values_list(*[f"sum_{key}" for key in GAINS])
    )
    table = np.array(rows, dtype=float).reshape(-1, len(GAINS))  # None becomes NaN
    return {key: table[:, i] for i, key in enumerate(GAINS)}


def _days_in(study: Study, period: Period) -> QuerySet[PostDay]:
    found = PostDay.objects.filter(profile__in=study.profile_ids, day__gte=period.first, day__lte=period.last)
    return found.filter(post__format=study.format) if study.format else found


def posts_in(study: Study, period: Period) -> QuerySet[Post]:
    """Posts published in the period."""
    found = Post.objects.filter(
        profile__in=study.profile_ids, published_at__gte=period.start, published_at__lt=period.end
    )
    return found.filter(format=study.format) if study.format else found


def posts_by_network(study: Study, period: Period) -> dict[str, Array]:
    """Posts published by network on each day: shape (days,) each."""
    rows = (
        posts_in(study, period)
        .annotate(day=TruncDate("published_at", tzinfo=period.zone))
        .values("profile__network", "day")
        .annotate(count=Count("pk"))
        .values_list("profile__network", "day", "count")
    )
    counts: dict[str, Array] = {}
    for network, day, count in rows:
        counts.setdefault(network, np.zeros(period.days))[(day - period.first).days] = count
    return counts


@dataclass(frozen=True, kw_only=True)
class Followers:
    """Followers by profile and day: total shape (profiles, days) carried forward; gained and lost shape (days,)."""

    networks: list[str]
    total: Array
    start: Array
    gained: Array
    lost: Array
    days_missing: int


def followers_in(study: Study, period: Period) -> Followers:
    """Followers on each day of the period and just before it."""
    rows = ProfileReading.objects.filter(profile__in=study.profile_ids, day__lte=period.last, day__gte=period.first)
    place = {profile.pk: i for i, profile in enumerate(study.profiles)}
    total = np.full((len(place), period.days), np.nan)
    gained, lost = np.full(period.days, np.nan), np.full(period.days, np.nan)
    for profile, day, count, new, gone in rows.values_list("profile_id", "day", "followers", "gained", "lost"):
        i = (day - period.first).days
        if count is not None:
            total[place[profile], i] = count
        if new is not None and gone is not None:
            is_first = np.isnan(gained[i])
            gained[i], lost[i] = (new, gone) if is_first else (gained[i] + new, lost[i] + gone)
    before = (
        ProfileReading.objects.filter(profile__in=study.profile_ids, day__lt=period.first, followers__isnull=False)
        .order_by("profile_id", "-day")
        .distinct("profile_id")
        .values_list("profile_id", "followers")
    )
    start = np.full(len(place), np.nan)
    for profile, count in before:
        start[place[profile]] = count
    missing = int(np.isnan(total).sum())
    carried = start.copy()
    for i in range(period.days):
        carried = np.where(np.isnan(total[:, i]), carried, total[:, i])
        total[:, i] = carried
    return Followers(
        networks=[p.network for p in study.profiles], total=total, start=start, gained=gained, lost=lost,
        days_missing=missing,
    )  # fmt: skip


def at_age(study: Study, period: Period) -> tuple[Array, Array]:
    """Interactions at the study's age and followers at publishing, of the period's posts: (posts,) each."""
    found = PostMeasure.objects.filter(
        profile__in=study.profile_ids, age_hours=study.age_hours, post__published_at__gte=period.start,
        post__published_at__lt=period.end,
    )  # fmt: skip
    if study.format:
        found = found.filter(post__format=study.format)
    table = np.array(list(found.values_list("interactions", "followers")), dtype=float).reshape(-1, 2)
    return table[:, 0], table[:, 1]


def freshest(study: Study) -> datetime | None:
    """When the last reading of the studied posts was taken."""
    at: datetime | None = PostMeasure.objects.filter(profile__in=study.profile_ids, age_hours=0).aggregate(
        at=Max("taken_at")
    )["at"]
    return at


def _ratio(below: str) -> Any:
    return F("m__interactions") / NullIf(F(f"m__{below}"), Value(0.0), output_field=FloatField())


def posts_table(study: Study, *, sort: str, text: str = "") -> QuerySet[Post]:
    """Posts of the period with their measures at the study's age, sorted; missing values come last either way."""
    posts = (
        posts_in(study, study.period)
        .annotate(m=FilteredRelation("measures", condition=Q(measures__age_hours=study.age_hours)))
        .annotate(
            **{key: F(f"m__{key}") for key in SHOWN},
            er_reach=_ratio("reach"), er_impressions=_ratio("impressions"), er_followers=_ratio("followers"),
        )
        .select_related("profile", "campaign")
    )  # fmt: skip
    if text:
        posts = posts.filter(text__icontains=text)
    descending, key = sort.startswith("-"), sort.lstrip("-")
    if key not in SORTS:
        key = "published_at"
    order = F("profile__name" if key == "profile" else key)
    return posts.order_by(order.desc(nulls_last=True) if descending else order.asc(nulls_last=True), "-pk")


def too_young(posts: QuerySet[Post]) -> int:
    """How many posts of a table have no interactions at its age."""
    return posts.filter(Q(interactions__isnull=True)).count()


def line_posts(brand_id: int, since: datetime) -> list[tuple[Any, ...]]:
    """Own posts for the minute line: id, instant, network, format, interactions at 72 h or as last seen, text."""
    return list(
        Post.objects.filter(brand_id=brand_id, profile__kind="own", published_at__gte=since)
        .annotate(
            m=FilteredRelation("measures", condition=Q(measures__age_hours=72)),
            n=FilteredRelation("measures", condition=Q(measures__age_hours=0)),
        )
        .order_by("published_at")
        .values_list("pk", "published_at", "profile__network", "format", "m__interactions", "n__interactions", "text")
    )


def holes(brand_id: int, first: date, last: date) -> list[date]:
    """Days on which an own profile that is collected has no reading though it had one before."""
    from django.db import connection

    with connection.cursor() as cursor:
        cursor.execute(
            """
            SELECT DISTINCT d::date FROM sources_profile p
            CROSS JOIN LATERAL (SELECT min(day) AS begun FROM sources_profilereading r WHERE r.profile_id = p.id) b
            CROSS JOIN LATERAL generate_series(GREATEST(b.begun, %s::date), %s::date, interval '1 day') d
            WHERE p.brand_id = %s AND p.kind = 'own' AND p.is_followed AND b.begun IS NOT NULL
                AND p.external_id NOT LIKE 'file:%%' AND NOT EXISTS (
                SELECT 1 FROM sources_profilereading r WHERE r.profile_id = p.id AND r.day = d::date)
            ORDER BY 1
            """,
            [first, last, brand_id],
        )
        return [row[0] for row in cursor.fetchall()]
