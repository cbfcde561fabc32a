"""The field: who is compared, and what is publicly known of each, added up by the database."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any

import numpy as np
from dakika_core.competitors.field import PARTS, ProfileSums, Sums
from dakika_core.values.period import Period, start_of_day
from django.core.exceptions import EmptyResultSet
from django.db import connection
from django.db.models import Count, F, Func, IntegerField, Q, QuerySet, Sum, Value
from numpy.typing import NDArray
from rest_framework import serializers

from dakika_server.brands.models import Brand
from dakika_server.figures.study import LARGEST_KEY, Study
from dakika_server.measures.models import ProfilePublished
from dakika_server.results.queries import measures_in
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import PeerSet, Profile

Array = NDArray[np.float64]
# A reading of followers stands for the days after it for so long; then nobody knows.
STANDS_FOR = timedelta(days=31)
# The first reading of a period is its start as long as it lies within this part of it.
AT_THE_START = 0.1


class SetSerializer(serializers.Serializer[Any]):
    """Which peer set; without one all profiles that are followed. by: competitors as a whole, or each profile."""

    set = serializers.IntegerField(required=False, min_value=1, max_value=LARGEST_KEY)
    by = serializers.ChoiceField(choices=["owner", "profile"], default="owner")


@dataclass(frozen=True, kw_only=True)
class Member:
    """Whoever stands in the table: us, a competitor, or a single profile.

    key: "own", "c" and the competitor's number, or "p" and the profile's. competitor: its number where it is one.
    """

    key: str
    name: str
    is_own: bool
    profiles: tuple[Profile, ...]
    competitor: int | None = None

    @property
    def networks(self) -> tuple[str, ...]:
        """Where it is, each once."""
        return tuple(dict.fromkeys(profile.network for profile in self.profiles))


def set_of(brand: Brand, number: int | None) -> PeerSet | None:
    """A brand's peer set by its number, None for no number. Raises a field error where it is not there."""
    if number is None:
        return None
    found = PeerSet.objects.filter(brand=brand, pk=number).first()
    if found is None:
        raise field_errors({"set": "There is no such set here, or not any more. Choose another."})
    return found


def in_set(study: Study, number: int | None) -> Study:
    """The study of a set's profiles that are followed; without a number of all of them."""
    peers = set_of(study.brand, number)
    chosen = None if peers is None else set(peers.profiles.values_list("pk", flat=True))
    return replace(
        study,
        profiles=tuple(p for p in study.profiles if p.is_followed and (chosen is None or p.pk in chosen)),
    )


def members_of(study: Study, by: str = "owner") -> list[Member]:
    """Us first, then the competitors by name, or each profile by its owner and network."""
    if by == "profile":
        every = sorted(study.profiles, key=lambda p: (p.kind != "own", owner_of(study, p), p.network, p.pk))
        return [one_of(profile) for profile in every]
    whose: dict[int | None, list[Profile]] = {}
    for profile in study.profiles:
        whose.setdefault(profile.competitor_id, []).append(profile)
    found = [
        Member(key="own" if pk is None else f"c{pk}", name=owner_of(study, profiles[0]), is_own=pk is None,
               profiles=tuple(sorted(profiles, key=lambda p: (p.network, p.pk))), competitor=pk)
        for pk, profiles in whose.items()
    ]  # fmt: skip
    return sorted(found, key=lambda m: (not m.is_own, m.name.casefold(), m.key))


def one_of(profile: Profile) -> Member:
    """A profile as a member."""
    return Member(key=f"p{profile.pk}", name=profile.name, is_own=profile.kind == "own", profiles=(profile,),
                  competitor=profile.competitor_id)  # fmt: skip


def owner_of(study: Study, profile: Profile) -> str:
    """Whose a profile is, by name."""
    return profile.competitor.name if profile.competitor else study.brand.name


# For each profile: since when its posts are known whole, and when it was collected last.
_KNOWN = """
SELECT p.id,
    CASE WHEN p.history_done_at IS NULL THEN
        (SELECT min(published_at) FROM sources_post WHERE profile_id = p.id) END,
    (SELECT max(ended_at) FROM sources_collectionrun
        WHERE profile_id = p.id AND brand_id = p.brand_id AND state IN ('complete', 'partial')),
    (SELECT max(published_at) FROM sources_post WHERE profile_id = p.id),
    (SELECT max(day) FROM sources_profilereading WHERE profile_id = p.id)
FROM sources_profile p WHERE p.id = ANY(%(profiles)s::bigint[])
"""


@dataclass(frozen=True, kw_only=True)
class Known:
    """The days of which a profile's posts are known, both included; None without an end on that side."""

    first: date | None
    last: date | None


def known_days(study: Study) -> dict[int, Known]:
    """Since when and until when each profile's posts are known; one query.

    Collecting brings what was published since it ran last, so a gap between two collections loses no post; what lies
    before the history that a network gave, and after the last collection, is not known. Profiles from files are known
    up to the last day that anything is told of.
    """
    zone, found = study.brand.zone, {}
    with connection.cursor() as cursor:
        cursor.execute(_KNOWN, {"profiles": study.profile_ids})
        for pk, since, ran, newest, read in cursor.fetchall():
            told = [at.astimezone(zone).date() for at in (ran, newest) if at is not None]
            told += [read] if read is not None else []
            found[pk] = Known(first=since.astimezone(zone).date() if since else None, last=max(told, default=None))
    return found


# The last reading on or before each day, if it still stands; one row for each profile and day that has one.
_FOLLOWERS = """
SELECT p.id, d.place, r.followers
FROM unnest(%(profiles)s::bigint[]) AS p (id)
CROSS JOIN unnest(%(days)s::date[]) WITH ORDINALITY AS d (day, place)
CROSS JOIN LATERAL (
    SELECT followers FROM sources_profilereading
    WHERE profile_id = p.id AND day <= d.day AND day > d.day - %(stands)s::int AND followers IS NOT NULL
    ORDER BY day DESC LIMIT 1) r
"""
_EARLY = """
SELECT DISTINCT ON (profile_id) profile_id, followers FROM sources_profilereading
WHERE profile_id = ANY(%(profiles)s::bigint[]) AND day BETWEEN %(first)s AND %(until)s AND followers IS NOT NULL
ORDER BY profile_id, day
"""


def followers_on(profiles: Sequence[int], days: Sequence[date]) -> Array:
    """Followers of each profile on each day, by the last reading of the month before: (profiles, days), NaN unknown."""
    found = np.full((len(profiles), len(days)), np.nan)
    place = {pk: i for i, pk in enumerate(profiles)}
    with connection.cursor() as cursor:
        cursor.execute(_FOLLOWERS, {"profiles": list(profiles), "days": list(days), "stands": STANDS_FOR.days})
        for pk, at, count in cursor.fetchall():
            found[place[pk], at - 1] = count
    return found


def _followers_of(profiles: Sequence[int], period: Period, today: date) -> Array:
    """At the start and at the end of a period: shape (profiles, 2).

    Where nothing is known before the period, its first tenth may say what the start was: later would hold the growth
    of some days against that of many.
    """
    end = min(period.last, today)
    found = followers_on(profiles, [period.first - timedelta(days=1), end])
    missing = [pk for pk, start in zip(profiles, found[:, 0], strict=True) if np.isnan(start)]
    if missing and period.days > 1:
        early = period.first + timedelta(days=max(1, round(AT_THE_START * period.days)) - 1)
        with connection.cursor() as cursor:
            cursor.execute(_EARLY, {"profiles": missing, "first": period.first, "until": early})
            begun = dict(cursor.fetchall())
        for i, pk in enumerate(profiles):
            if pk in begun:
                found[i, 0] = begun[pk]
    return found


def _square(name: str) -> Any:
    return Sum(F(name) * F(name))


_BOTH = Q(interactions__isnull=False, followers__isnull=False, followers__gt=0)
# By what a metric needs besides the number of posts: name to the column that is kept by day, and to the sum of posts.
_SUMS: dict[str, dict[str, tuple[str, Any]]] = {
    "": {"posts": ("posts", Count("pk"))},
    "measured": {
        "measured": ("interactions_n", Count("interactions")), "interactions": ("interactions", Sum("interactions")),
        "squares": ("interactions_squares", _square("interactions")),
    },
    "paired": {
        "paired": ("audience_n", Count("pk", filter=_BOTH)),
        "paired_interactions": ("audience_interactions", Sum("interactions", filter=_BOTH)),
        "paired_squares": ("audience_interactions_squares", Sum(F("interactions") * F("interactions"), filter=_BOTH)),
        "followers_sum": ("audience_followers", Sum("followers", filter=_BOTH)),
        "followers_squares": ("audience_followers_squares", Sum(F("followers") * F("followers"), filter=_BOTH)),
        "product": ("audience_product", Sum(F("interactions") * F("followers"), filter=_BOTH)),
    },
    **{
        part: {f"{part}_n": (f"{part}_n", Count(part)), f"{part}_sum": (part, Sum(part)),
               f"{part}_squares": (f"{part}_squares", _square(part))}
        for part in PARTS
    },
}  # fmt: skip


def _rows(study: Study, bins: "Bins", needs: Iterable[str]) -> tuple[list[str], list[tuple[Any, ...]]]:
    """Sums by profile and part: their names, and rows that begin with both numbers. What was added up by day already
    answers a study that asks for no more than profiles.
    """
    asked = {name: ways for need in dict.fromkeys(("", *needs)) for name, ways in _SUMS[need].items()}
    whole = bins.whole(study.period.zone)
    rows: Any
    if study.is_narrow or study.formats:
        begins = [start_of_day(first, whole.zone) for first in bins.firsts]
        rows = measures_in(study, whole).annotate(part=_PlaceOf(F("published_at"), Value(begins), kind="timestamptz"))
        sums = {f"of_{name}": made for name, (_, made) in asked.items()}
    else:
        rows = ProfilePublished.objects.filter(
            profile__in=study.profile_ids, age_hours=study.age_hours, day__gte=whole.first, day__lte=whole.last
        ).annotate(part=_PlaceOf(F("day"), Value(list(bins.firsts)), kind="date"))
        sums = {f"of_{name}": Sum(column) for name, (column, _) in asked.items()}
    wanted: QuerySet[Any] = rows.values("profile_id", "part").annotate(**sums).values_list("profile_id", "part", *sums)
    try:
        sql, parameters = wanted.query.sql_with_params()
    except EmptyResultSet:  # no profile
        return list(asked), []
    with connection.cursor() as cursor:
        # Ten thousand rows of plain numbers: read as they come.
        cursor.execute(sql, parameters)
        return list(asked), cursor.fetchall()


def _sums(
    study: Study, bins: "Bins", known: Mapping[int, Known], needs: Iterable[str], followers: tuple[Array, Array]
) -> ProfileSums:
    names, rows = _rows(study, bins, needs)
    shape = (len(study.profile_ids), len(bins.firsts))
    found = {name: np.zeros(shape) for name in names}
    if rows:
        place = {pk: i for i, pk in enumerate(study.profile_ids)}
        at = [place[row[0]] for row in rows], [row[1] for row in rows]
        values = np.nan_to_num(np.array([row[2:] for row in rows], dtype=float))
        for name, column in zip(names, values.T, strict=True):
            found[name][at] = column
    added = {name: values for name, values in found.items() if name != "posts" and name.split("_")[0] not in PARTS}
    for part in PARTS:
        if f"{part}_n" in found:
            added[part] = np.array([found[f"{part}_{what}"] for what in ("n", "sum", "squares")])
    start, end = followers
    return ProfileSums(posts=found["posts"], days=_days_in(study, bins, known), start=start, end=end, added=added)


def _days_in(study: Study, bins: "Bins", known: Mapping[int, Known]) -> Array:
    """How many days of each part are known of each profile: those to come are not. Shape (profiles, parts)."""
    each = [known[pk] for pk in study.profile_ids]
    since = np.array([one.first.toordinal() if one.first else 0 for one in each])
    until = np.array([(one.last or date.max).toordinal() for one in each])
    firsts = np.array([first.toordinal() for first in bins.firsts])
    lasts = np.minimum(firsts + bins.days - 1, study.today.toordinal())
    days = np.minimum(lasts, until[:, None]) - np.maximum(firsts, since[:, None]) + 1
    found: Array = np.maximum(days, 0).astype(np.float64)
    return found


def sums_in(
    study: Study, period: Period, known: Mapping[int, Known], needs: Iterable[str] = tuple(_SUMS)
) -> ProfileSums:
    """What is known of each profile's posts and followers over a period; three queries, whatever the number.

    needs: what is added up, as metrics say; all of it without.
    """
    followers = _followers_of(study.profile_ids, period, study.today)
    whole = Bins(firsts=(period.first,), days=period.days)
    return _sums(study, whole, known, needs, (followers[:, :1], followers[:, 1:]))


@dataclass(frozen=True, kw_only=True)
class Bins:
    """A period in equal parts: the first day of each, and how many days each has."""

    firsts: tuple[date, ...]
    days: int

    def whole(self, zone: Any) -> Period:
        """All of them."""
        return Period(first=self.firsts[0], last=self.firsts[-1] + timedelta(days=self.days - 1), zone=zone)


MOST_BINS, FEWEST_BINS = 60, 12


def bins_of(period: Period) -> Bins:
    """Weeks that end with the period, twelve at least, so that one sees from where it came; longer parts where there
    would be too many.
    """
    days = 7
    while period.days // days > MOST_BINS:
        days *= 2
    many = max(FEWEST_BINS, period.days // days)
    last = period.last + timedelta(days=1)
    return Bins(firsts=tuple(last - timedelta(days=days * (many - i)) for i in range(many)), days=days)


class _PlaceOf(Func):
    """The number of the part that a day or an instant lies in: itself, and the first of all parts."""

    function = "width_bucket"
    template = "(%(function)s(%(expressions)s::%(kind)s[]) - 1)"
    output_field = IntegerField()


def sums_by_bin(
    study: Study, bins: Bins, known: Mapping[int, Known], needs: Iterable[str] = tuple(_SUMS)
) -> ProfileSums:
    """The same for each part of a period, in order; two queries."""
    starts = [first - timedelta(days=1) for first in bins.firsts]
    last = min(bins.firsts[-1] + timedelta(days=bins.days - 1), study.today)
    followers = followers_on(study.profile_ids, [*starts, last])
    return _sums(study, bins, known, needs, (followers[:, :-1], followers[:, 1:]))


def of_members(study: Study, members: Iterable[Member], sums: ProfileSums) -> list[list[Sums]]:
    """Each member's sums in each part."""
    place = {pk: i for i, pk in enumerate(study.profile_ids)}
    return sums.of([[place[profile.pk] for profile in member.profiles] for member in members])


def of_whole(study: Study, members: Iterable[Member], sums: ProfileSums) -> list[Sums]:
    """The same where the period is one part."""
    return [one for (one,) in of_members(study, members, sums)]
