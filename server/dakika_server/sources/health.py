"""Is everything here that should be, and what is to be done where it is not?

In the trade's words: data quality, monitoring of collection.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.sources.coverage import Coverage, DayState, coverage_of
from dakika_core.values.period import Period
from django.db import connection
from django.db.models import Q

from dakika_server.brands.models import Brand
from dakika_server.networks.definitions import network_name
from dakika_server.sources.models import Feed, Import, Profile
from dakika_server.sources.queries import profiles_of

DAYS = 90
FEW_FAILURES = 3


@dataclass(frozen=True, kw_only=True)
class Trouble:
    """Something that is wrong, what to do about it, and which act does it (renew, collect, or nothing to press)."""

    kind: str
    text: str
    advice: str
    act: str = ""


@dataclass(frozen=True, kw_only=True)
class ProfileHealth:
    """One profile: its row of queries.profiles_of, its coverage, what is wrong."""

    profile: Profile
    coverage: Coverage
    troubles: list[Trouble] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class Health:
    """All of a brand's sources: profiles (those in trouble first), feeds that fail, files that failed."""

    profiles: list[ProfileHealth]
    feeds: list[Feed]
    imports: list[Import]


def health_of(brand: Brand, now: datetime) -> Health:
    """A fixed number of queries, whatever the number of profiles."""
    profiles = list(profiles_of(brand.pk))
    covered = coverages_of(brand, profiles, now, days=DAYS)
    found = [
        ProfileHealth(profile=p, coverage=covered[p.pk], troubles=troubles_of(p, covered[p.pk], now)) for p in profiles
    ]
    found.sort(key=lambda h: (not h.troubles, h.profile.kind != "own"))
    return Health(
        profiles=found,
        feeds=list(Feed.objects.filter(brand=brand, is_followed=True, failures__gt=0).order_by("title")),
        imports=list(
            Import.objects.filter(brand=brand).exclude(state="discarded").defer("sample").select_related("profile")
            .order_by("-created_at")[:8]
        ),
    )  # fmt: skip


def coverages_of(brand: Brand, profiles: list[Profile], now: datetime, *, days: int) -> dict[int, Coverage]:
    """Coverage of the last days of each profile, today included."""
    last = now.astimezone(brand.zone).date()
    return covered_days(brand, profiles, last - timedelta(days=days - 1), last)


# A strip of bits for each profile, one a day: two hundred short texts instead of twenty thousand dates.
_STRIPS = """
SELECT p.id,
    (SELECT min(day) FROM sources_profilereading WHERE profile_id = p.id),
    (SELECT bit_or(B'{first_day}' >> (day - %(first)s::date))
        FROM sources_profilereading WHERE profile_id = p.id AND day BETWEEN %(first)s AND %(last)s),
    r.ran, r.whole
FROM unnest(%(ids)s::bigint[]) p (id)
LEFT JOIN LATERAL (
    SELECT bit_or(bit) AS ran, bit_or(bit) FILTER (WHERE state = 'complete') AS whole
    FROM (
        SELECT state, B'{first_day}' >> ((ended_at AT TIME ZONE %(zone)s)::date - %(first)s::date) AS bit
        FROM sources_collectionrun
        WHERE profile_id = p.id AND asked_at >= %(since)s AND ended_at >= %(start)s AND ended_at < %(end)s
    ) runs
) r ON true
"""


def covered_days(brand: Brand, profiles: list[Profile], first: date, last: date) -> dict[int, Coverage]:
    """Coverage of each profile from first to last, in one query that returns a row for each profile."""
    period = Period(first=first, last=last, zone=brand.zone)
    keys: dict[str, Any] = {
        "ids": [p.pk for p in profiles], "first": first, "last": last, "zone": brand.time_zone,
        "since": period.start - timedelta(days=2), "start": period.start, "end": period.end,
    }  # fmt: skip
    nothing = "0" * period.days
    with connection.cursor() as cursor:
        cursor.execute(_STRIPS.format(first_day=f"1{nothing[1:]}"), keys)
        strips = {pk: (known, *[str(bits or nothing) for bits in found]) for pk, known, *found in cursor}
    found = {}
    for profile in profiles:
        known, readings, ran, whole = strips[profile.pk]
        found[profile.pk] = coverage_of(
            first=first, readings=readings, runs=ran, whole_runs=whole, known_since=known,
            # What comes from files alone needs no collection to be complete.
            followed_since=date.max if profile.is_from_file else profile.added_at.astimezone(brand.zone).date(),
        )  # fmt: skip
    return found


def troubles_of(profile: Profile, coverage: Coverage, now: datetime) -> list[Trouble]:
    """What is wrong with a profile, the gravest first, each with what to do."""
    if profile.is_from_file:
        return []
    name = network_name(profile.network)
    found = [*_authorisation_troubles(profile, name), *_hole_troubles(coverage)]
    is_told = any(trouble.act == "renew" and trouble.kind != "scope" for trouble in found)
    if getattr(profile, "last_state", None) in ("failed", "partial") and not is_told:
        missing = getattr(profile, "last_missing", "")
        text = f"{getattr(profile, 'last_message', '') or ''}{f' Not brought: {missing}.' if missing else ''}"
        when = f", next {_when(profile.next_run_at, now)}." if profile.next_run_at else "."
        found.insert(0, Trouble(kind="failed", text=text, advice=f"It is tried again by itself{when}", act="collect"))
    return found


def _authorisation_troubles(profile: Profile, name: str) -> list[Trouble]:
    credential = profile.credential
    if profile.kind != Profile.Kind.OWN:
        return []
    if credential is None:
        advice = f"Connect it at {name}; what was collected stays."
        return [Trouble(kind="not_connected", text="No authorisation.", advice=advice, act="renew")]
    if credential.is_lapsed:
        advice = f"Renew it at {name}. The days since come with the next collection, as far as {name} still tells them."
        return [Trouble(kind="lapsed", text="The authorisation has lapsed.", advice=advice, act="renew")]
    if _may_not_publish(profile):
        advice = "Connect it again and leave publishing ticked, if posts are to go out from here."
        text = "Publishing was not allowed when it was connected."
        return [Trouble(kind="scope", text=text, advice=advice, act="renew")]
    return []


def _hole_troubles(coverage: Coverage) -> list[Trouble]:
    days = coverage.count(DayState.MISSING)
    if not days:
        return []
    text = f"{days} {'day is' if days == 1 else 'days are'} missing in {DAYS}."
    advice = "Bring the days in from a file, if the network exports them."
    return [Trouble(kind="hole", text=text, advice=advice)]


def _when(at: datetime, now: datetime) -> str:
    minutes = max(0, round((at - now).total_seconds() / 60))
    return f"in {minutes} min" if minutes < 120 else f"in {round(minutes / 60)} h"


def _may_not_publish(profile: Profile) -> bool:
    from dakika_server.networks.definitions import all_networks, network_api

    if profile.network not in all_networks() or not all_networks()[profile.network].offer.has_publishing:
        return False
    wanted = network_api(profile.network).scopes.get("publish")
    credential = profile.credential
    return bool(wanted and credential and credential.scopes and wanted not in credential.scopes)


def holes_in(brand: Brand, profiles: Sequence[Profile], first: date, last: date, now: datetime) -> str:
    """Which profiles have holes in a period, in words: what the basis of a figure made from them has to say.

    Empty when there is none. Today is not over: that it is not complete is no hole.
    """
    yesterday = now.astimezone(brand.zone).date() - timedelta(days=1)
    covered = covered_days(brand, list(profiles), first, min(last, yesterday)) if first <= yesterday else {}
    parts = []
    for profile in profiles:
        if profile.pk not in covered:
            continue
        strip = covered[profile.pk]
        missing, partial = strip.count(DayState.MISSING), strip.count(DayState.PARTIAL)
        told = [f"{missing} missing" if missing else "", f"{partial} partial" if partial else ""]
        if missing or partial:
            days = " and ".join(filter(None, told))
            parts.append(f"{profile.name} on {network_name(profile.network)}: {days} of {len(strip.strip)} days")
    return "; ".join(parts)


def lapsed_count(brand_id: int) -> int:
    """Own profiles whose authorisation has lapsed or is missing."""
    own = Profile.objects.filter(brand_id=brand_id, is_followed=True, kind=Profile.Kind.OWN)
    own = own.exclude(external_id__startswith="file:")
    return own.filter(Q(credential__is_lapsed=True) | Q(credential__isnull=True)).count()
