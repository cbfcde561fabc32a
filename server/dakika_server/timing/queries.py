"""What timing needs: a profile's posts at 72 hours, its audience's presence, the planned times."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import lru_cache
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from dakika_core.metrics.observed import LATEST_AGE
from dakika_core.timing.best_times import HourEffects, fit_hours
from dakika_core.values.period import Period, shift_hours
from django.core.cache import cache
from django.db.models import Max, Sum
from numpy.typing import NDArray

from dakika_server.figures.footing import footing_of
from dakika_server.measures.models import PostMeasure, ProfilePublished
from dakika_server.shared import clock
from dakika_server.sources.models import PresenceReading, Profile

Array = NDArray[np.float64]
AGE_HOURS = 72
SPAN = timedelta(days=190)
# What one estimate takes in at most.
MOST_POOLED, MOST_POSTS = 12, 2000


@dataclass(frozen=True, kw_only=True)
class PostTime:
    """A post as a tick: when it was, and how it stood to typical."""

    id: int
    at: datetime
    index: float | None
    text: str


@dataclass(frozen=True, kw_only=True)
class ProfileTiming:
    """The estimate for a profile in a zone, with what it rests on.

    untimed: posts that are left out since only their day is known. pooled: with how many profiles
    it was estimated together, itself among them, and from how many posts of all.
    """

    effects: HourEffects | None
    presence: Array | None
    zones: dict[str, float]
    posts: list[PostTime]
    age_hours: int = AGE_HOURS
    untimed: int = 0
    pooled: int = 1
    pooled_posts: int = 0


def presence_in(reading: PresenceReading | None, zone: ZoneInfo, now: datetime) -> Array | None:
    """Share of the audience online by hour of week in `zone`: shape (168,), the busiest hour = 1."""
    if reading is None:
        return None
    curve = np.array(reading.hours_utc, dtype=float)
    if curve.max() <= 0:
        return None
    offset = now.astimezone(zone).utcoffset() or timedelta()
    return np.asarray(shift_hours(curve, offset.total_seconds() / 3600) / curve.max())


class Timings:
    """The estimates of profiles that share an audience's habits: fitted together once, told one by one."""

    def __init__(self, profiles: Sequence[Profile], zone: ZoneInfo, now: datetime) -> None:
        self._told: dict[int, ProfileTiming] = {}
        self._asked = {profile.pk: _asked_of(profile, zone, now) for profile in profiles}
        usable = {pk: asked for pk, asked in self._asked.items() if asked.rows}
        self._model = fit_hours(
            published_at=[row[1] for asked in usable.values() for row in asked.rows],
            values=np.concatenate([asked.values for asked in usable.values()] or [np.empty(0)]),
            formats=[row[2] for asked in usable.values() for row in asked.rows],
            profiles=[str(pk) for pk, asked in usable.items() for _ in asked.rows],
            presence={str(pk): asked.presence for pk, asked in usable.items() if asked.presence is not None},
            zone=zone,
        )  # fmt: skip

    def of(self, profile: Profile) -> ProfileTiming:
        """The estimate for one of the profiles. Without posts of its own it is the others' alone."""
        if profile.pk not in self._told:
            self._told[profile.pk] = self._of(profile)
        return self._told[profile.pk]

    def _of(self, profile: Profile) -> ProfileTiming:
        asked = self._asked[profile.pk]
        usable = int((~np.isnan(asked.values)).sum())
        effects = None
        if self._model is not None:
            effects = self._model.of(str(profile.pk) if usable else None)
        return ProfileTiming(
            effects=effects, presence=asked.presence, zones=dict(asked.reading.zones) if asked.reading else {},
            posts=[PostTime(id=r[0], at=r[1], index=r[5], text=r[3][:80]) for r in asked.rows],
            age_hours=asked.age_hours, untimed=asked.untimed, pooled=len(self._asked), pooled_posts=self.posts,
        )  # fmt: skip

    @property
    def posts(self) -> int:
        """How many posts all estimates rest on."""
        return sum(int((~np.isnan(asked.values)).sum()) for asked in self._asked.values())


@dataclass(frozen=True, kw_only=True)
class _Asked:
    """A profile's posts as they go into the estimate."""

    rows: list[tuple[Any, ...]]
    values: Array
    reading: PresenceReading | None
    presence: Array | None
    age_hours: int
    untimed: int


def pooled_with(profile: Profile) -> list[Profile]:
    """The profiles that a profile's hours are estimated with: the brand's own, or those of the same competitor.

    At most the twelve that published most, and the profile itself.
    """
    alike = Profile.objects.filter(brand=profile.brand_id, kind=profile.kind, competitor=profile.competitor_id)
    counted = (
        ProfilePublished.objects.filter(profile__in=alike, age_hours=LATEST_AGE)
        .values_list("profile").annotate(many=Sum("posts")).order_by("-many", "profile")[:MOST_POOLED]
    )  # fmt: skip
    found = alike.in_bulk([pk for pk, _ in counted])
    busiest = [found[pk] for pk, _ in counted]
    return busiest if profile.pk in found else [profile, *busiest[: MOST_POOLED - 1]]


def timing_of(profile: Profile, zone: ZoneInfo, now: datetime) -> ProfileTiming:
    """Estimate a profile's hour effects together with those of the profiles alike.

    What is estimated together is kept in this process until a measure changes or the day is over.
    """
    group = tuple(one.pk for one in pooled_with(profile))
    stamp = PostMeasure.objects.filter(profile__in=group).aggregate(last=Max("pk"))["last"]
    return _kept(tuple(sorted(group)), str(zone), now.date().isoformat(), stamp).of(profile)


@lru_cache(maxsize=4)
def _kept(group: tuple[int, ...], zone: str, day: str, stamp: int | None) -> Timings:
    del day, stamp  # whatever changes them changes the estimate
    return Timings(list(Profile.objects.filter(pk__in=group).order_by("pk")), ZoneInfo(zone), clock.now())


def _asked_of(profile: Profile, zone: ZoneInfo, now: datetime) -> _Asked:
    """The posts of the half-year up to the newest one, whenever that was.

    Posts of which only the day is known say nothing of hours. The age is the one that the posts
    allow: 72 hours, else their final counts, else each as last seen against what is typical then.
    """
    newest = PostMeasure.objects.filter(profile=profile, published_at__lte=now).aggregate(at=Max("published_at"))["at"]
    last = newest or now
    period = Period(first=(last - SPAN).astimezone(zone).date(), last=last.astimezone(zone).date(), zone=zone)
    footing = footing_of([profile.pk], period, now)
    every = PostMeasure.objects.filter(
        profile=profile, age_hours=footing.age_hours, published_at__gte=last - SPAN, published_at__lte=last
    )
    rows = list(
        every.filter(post__has_time=True).order_by("-published_at")
        .values_list("post_id", "published_at", "post__format", "post__text", "interactions", "index", "typical")
        [:MOST_POSTS]
    )[::-1]  # fmt: skip
    reading = PresenceReading.objects.filter(profile=profile).order_by("-day").first()
    return _Asked(
        rows=rows, values=_comparable(rows, footing.age_hours), reading=reading,
        presence=presence_in(reading, zone, now), age_hours=footing.age_hours,
        untimed=every.filter(post__has_time=False).count(),
    )  # fmt: skip


def _comparable(rows: Sequence[tuple[Any, ...]], age_hours: int) -> Array:
    """Values that can be held against one another: counts at one age, else index times the profile's usual count."""
    counts = np.array([np.nan if row[4] is None else row[4] for row in rows], dtype=float)
    if age_hours != LATEST_AGE:
        return counts
    index = np.array([np.nan if row[5] is None else row[5] for row in rows], dtype=float)
    typical = np.array([np.nan if row[6] is None else row[6] for row in rows], dtype=float)
    known = typical[~np.isnan(typical)]
    return np.asarray(index * (np.median(known) if len(known) else np.nan))


def busiest(profiles: Sequence[Profile], now: datetime) -> int:
    """The own profile that published most in the last half-year: what is asked about first. Else the first there is."""
    own = [profile.pk for profile in profiles if profile.kind == "own"]
    counted = (
        ProfilePublished.objects.filter(profile__in=own, age_hours=LATEST_AGE, day__gte=(now - SPAN).date())
        .values_list("profile").annotate(many=Sum("posts")).order_by("-many", "profile")
    )  # fmt: skip
    return next((pk for pk, _ in counted), profiles[0].pk)


def kept_timing(profile: Profile, zone: ZoneInfo, now: datetime) -> ProfileTiming:
    """The estimate is worked out once per state of the measures: it changes only when they do."""
    stamp = PostMeasure.objects.filter(profile=profile).order_by("-pk").values_list("pk", flat=True).first()
    key = f"timing:{profile.pk}:{str(zone).replace('/', '.')}:{stamp}:{now.date()}"
    found: ProfileTiming | None = cache.get(key)
    if found is None:
        found = timing_of(profile, zone, now)
        cache.set(key, found, timeout=6 * 3600)
    return found
