"""Reads for the minute line."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING, Any

from dakika_core.values.period import start_of_day
from django.db import connection
from django.db.models import FilteredRelation, Q, Sum
from django.db.models.functions import Coalesce, Left

from dakika_server.brands.models import Brand
from dakika_server.figures.footing import USUAL_AGE
from dakika_server.measures.models import LATEST, ProfileMeasured, ProfilePublished
from dakika_server.sources.models import Post, Profile

if TYPE_CHECKING:
    from django.db.models import QuerySet

# More ticks than these cannot be told apart on any screen.
MOST_TICKS = 3000
TEXT_SHOWN = 80


@dataclass(frozen=True, kw_only=True)
class Tick:
    """A post on the line, or, where posts stand too close to be told apart, all posts of a day with their mean."""

    id: int | None
    at: datetime
    network: str
    interactions: float | None
    text: str
    posts: int = 1


def ticks_of(brand: Brand, since: datetime, until: datetime, months: Mapping[date, int]) -> list[Tick]:
    """Own posts of a span, with their interactions at 72 h, else as last seen; by day where they are more than fit.

    months: how many posts there are in each.
    """
    first, last = (at.astimezone(brand.zone).date() for at in (since, until))
    if sum(count for month, count in months.items() if first.replace(day=1) <= month <= last) > MOST_TICKS:
        return _by_day(brand, first, last)
    return _by_post(brand, since, until)


def _own(brand: Brand) -> "QuerySet[Profile]":
    return Profile.objects.filter(brand=brand, kind=Profile.Kind.OWN)


def _by_post(brand: Brand, since: datetime, until: datetime) -> list[Tick]:
    rows = (
        Post.objects.filter(brand=brand, profile__kind="own", published_at__gte=since, published_at__lt=until)
        .annotate(
            m=FilteredRelation("measures", condition=Q(measures__age_hours=USUAL_AGE)),
            n=FilteredRelation("measures", condition=Q(measures__age_hours=LATEST)),
            begins=Left("text", TEXT_SHOWN),
        )
        .order_by("published_at")
        .values_list("pk", "published_at", "profile__network", Coalesce("m__interactions", "n__interactions"), "begins")
    )
    return [Tick(id=pk, at=at, network=network, interactions=count, text=text) for pk, at, network, count, text in rows]


def _by_day(brand: Brand, first: date, last: date) -> list[Tick]:
    usual = _means(brand, USUAL_AGE, day__gte=first, day__lte=last)
    # The youngest posts, and such as only files know, have no value at that age.
    latest = _means(brand, LATEST, day__in=[day for day, (_, mean) in usual.items() if mean is None])
    return [
        Tick(
            id=None, at=start_of_day(day, brand.zone) + timedelta(hours=12), network="", text="", posts=posts,
            interactions=latest[day][1] if mean is None else mean,
        )
        for day, (posts, mean) in usual.items()
    ]  # fmt: skip


def _means(brand: Brand, age: int, **days: Any) -> dict[date, tuple[int, float | None]]:
    """How many posts were published on days, in their order, and their mean interactions at an age."""
    rows = (
        ProfilePublished.objects.filter(profile__in=_own(brand), age_hours=age, **days)
        .values("day").annotate(n=Sum("posts"), known=Sum("interactions_n"), total=Sum("interactions"))
        .order_by("day").values_list("day", "n", "known", "total")
    )  # fmt: skip
    return {day: (posts, total / known if known else None) for day, posts, known, total in rows}


def languages_of(brand: Brand) -> list[str]:
    """The languages of own posts, as they are known since these were measured."""
    told = ProfileMeasured.objects.filter(profile__in=_own(brand)).values_list("languages", flat=True)
    return sorted({language for languages in told for language in languages})


def months_with_posts(brand: Brand) -> dict[date, int]:
    """Months in which own profiles published anything, in their order, with how many posts."""
    found: Counter[str] = Counter()
    for months in ProfileMeasured.objects.filter(profile__in=_own(brand)).values_list("months", flat=True):
        found.update(months)
    return {date.fromisoformat(month): count for month, count in sorted(found.items())}


# Most profiles have as many readings as days: only of the others it is asked which days they lack.
_HOLES = """
WITH begun AS (
    SELECT p.id, GREATEST(b.day, %(first)s::date) AS day FROM sources_profile p
    CROSS JOIN LATERAL (SELECT min(day) AS day FROM sources_profilereading r WHERE r.profile_id = p.id) b
    WHERE p.brand_id = %(brand)s AND p.kind = 'own' AND p.is_followed AND p.external_id NOT LIKE 'file:%%'
        AND b.day IS NOT NULL
), lacking AS (
    SELECT * FROM begun WHERE %(last)s::date - day + 1 > (
        SELECT count(*) FROM sources_profilereading r
        WHERE r.profile_id = begun.id AND r.day BETWEEN begun.day AND %(last)s::date)
)
SELECT DISTINCT d::date FROM lacking CROSS JOIN LATERAL generate_series(lacking.day, %(last)s::date, interval '1 day') d
WHERE NOT EXISTS (SELECT 1 FROM sources_profilereading r WHERE r.profile_id = lacking.id AND r.day = d::date)
ORDER BY 1
"""


def holes(brand: Brand, first: date, last: date) -> list[date]:
    """Days on which an own profile that is collected has no reading though it had one before."""
    with connection.cursor() as cursor:
        cursor.execute(_HOLES, {"brand": brand.pk, "first": first, "last": last})
        return [day for (day,) in cursor.fetchall()]
