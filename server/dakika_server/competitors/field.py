"""The field: who is compared, and what is publicly known of each, added up by the database."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any

import numpy as np
from dakika_core.competitors.field import PARTS, Sums, together
from dakika_core.values.period import Period, start_of_day
from django.db import connection
from django.db.models import Count, F, Func, IntegerField, Q, Sum, Value
from numpy.typing import NDArray
from rest_framework import serializers

from dakika_server.brands.models import Brand
from dakika_server.figures.study import LARGEST_KEY, Study
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

    def days_in(self, period: Period, today: date) -> int:
        """How many of a period's days are known: those to come are not."""
        first = max(period.first, self.first) if self.first else period.first
        last = min(period.last, today, self.last) if self.last else min(period.last, today)
        return max(0, (last - first).days + 1)


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
# By what a metric needs besides the number of posts.
_SUMS: dict[str, dict[str, Any]] = {
    "": {"posts": Count("pk")},
    "measured": {"measured": Count("interactions"), "total": Sum("interactions"), "squares": _square("interactions")},
    "paired": {
        "paired": Count("pk", filter=_BOTH), "paired_interactions": Sum("interactions", filter=_BOTH),
        "paired_squares": Sum(F("interactions") * F("interactions"), filter=_BOTH),
        "followers_sum": Sum("followers", filter=_BOTH),
        "followers_squares": Sum(F("followers") * F("followers"), filter=_BOTH),
        "product": Sum(F("interactions") * F("followers"), filter=_BOTH),
    },
    **{
        part: {f"{part}_n": Count(part), f"{part}_sum": Sum(part), f"{part}_squares": _square(part)} for part in PARTS
    },
}  # fmt: skip


def _asked(needs: Iterable[str]) -> dict[str, Any]:
    return {name: made for need in {"", *needs} for name, made in _SUMS[need].items()}


_PLAIN = ("measured", "squares", "paired", "paired_interactions", "paired_squares", "followers_sum",
          "followers_squares", "product")  # fmt: skip


def _as_sums(row: Mapping[str, Any], days: float, followers: Array) -> Sums:
    values: dict[str, Any] = {name: float(row[name] or 0) for name in _PLAIN if name in row}
    for part in PARTS:
        if f"{part}_n" in row:
            values[part] = tuple(float(row[f"{part}_{what}"] or 0) for what in ("n", "sum", "squares"))
    start, end = (None if np.isnan(count) else float(count) for count in followers)
    is_grown = start is not None and end is not None
    return Sums(
        posts=float(row.get("posts") or 0), days=days, interactions=float(row.get("total") or 0), **values,
        followers=end, untold=int(end is None), grown_from=start if is_grown else None,
        grown_to=end if is_grown else None, ungrown=int(not is_grown),
    )  # fmt: skip


def sums_in(
    study: Study, period: Period, known: Mapping[int, Known], needs: Iterable[str] = tuple(_SUMS)
) -> dict[int, Sums]:
    """What is known of each profile's posts and followers over a period; three queries, whatever the number.

    needs: what is added up, as metrics say; all of it without.
    """
    rows = {row["profile_id"]: row for row in measures_in(study, period).values("profile_id").annotate(**_asked(needs))}
    followers = _followers_of(study.profile_ids, period, study.today)
    return {
        pk: _as_sums(rows.get(pk, {}), known[pk].days_in(period, study.today), followers[i])
        for i, pk in enumerate(study.profile_ids)
    }


@dataclass(frozen=True, kw_only=True)
class Bins:
    """A period in equal parts: the first day of each, and how many days each has."""

    firsts: tuple[date, ...]
    days: int

    def period(self, i: int, zone: Any) -> Period:
        """One of them."""
        return Period(first=self.firsts[i], last=self.firsts[i] + timedelta(days=self.days - 1), zone=zone)


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
    """The number of the part that an instant lies in: the instant, and the first instants of all parts."""

    function = "width_bucket"
    template = "(%(function)s(%(expressions)s::timestamptz[]) - 1)"
    output_field = IntegerField()


def sums_by_bin(
    study: Study, bins: Bins, known: Mapping[int, Known], needs: Iterable[str] = tuple(_SUMS)
) -> dict[int, list[Sums]]:
    """The same for each part of a period: profile to its parts in order; two queries."""
    whole = Period(first=bins.firsts[0], last=bins.firsts[-1] + timedelta(days=bins.days - 1), zone=study.period.zone)
    begins = [start_of_day(first, whole.zone) for first in bins.firsts]
    found = (
        measures_in(study, whole).annotate(bin=_PlaceOf(F("published_at"), Value(begins)))
        .values("profile_id", "bin").annotate(**_asked(needs))
    )  # fmt: skip
    rows = {(row["profile_id"], row["bin"]): row for row in found}
    starts = [first - timedelta(days=1) for first in bins.firsts]
    ends = [min(first + timedelta(days=bins.days - 1), study.today) for first in bins.firsts]
    followers = followers_on(study.profile_ids, [*starts, ends[-1]])
    parts = [bins.period(b, whole.zone) for b in range(len(starts))]
    none: dict[str, Any] = {}
    return {
        pk: [
            _as_sums(rows.get((pk, b), none), known[pk].days_in(part, study.today), followers[i, b : b + 2])
            for b, part in enumerate(parts)
        ]
        for i, pk in enumerate(study.profile_ids)
    }


def of_members(members: Iterable[Member], by_profile: Mapping[int, Sums]) -> list[Sums]:
    """The sums of each member."""
    return [
        together([by_profile[profile.pk] for profile in member.profiles])
        if len(member.profiles) > 1
        else by_profile[member.profiles[0].pk]
        for member in members
    ]
