"""What timing needs: a profile's posts at 72 hours, its audience's presence, the planned times."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import numpy as np
from dakika_core.metrics.observed import LATEST_AGE
from dakika_core.timing.best_times import HourEffects, hour_effects
from dakika_core.values.period import Period, shift_hours
from django.db.models import Max
from numpy.typing import NDArray

from dakika_server.results.footing import footing_of
from dakika_server.results.models import PostMeasure
from dakika_server.sources.models import PresenceReading, Profile

Array = NDArray[np.float64]
AGE_HOURS = 72
SPAN = timedelta(days=190)
HALF_LIFE_DAYS = 182.0


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

    untimed: posts that are left out since only their day is known.
    """

    effects: HourEffects | None
    presence: Array | None
    zones: dict[str, float]
    posts: list[PostTime]
    age_hours: int = AGE_HOURS
    untimed: int = 0


def presence_in(reading: PresenceReading | None, zone: ZoneInfo, now: datetime) -> Array | None:
    """Share of the audience online by hour of week in `zone`: shape (168,), the busiest hour = 1."""
    if reading is None:
        return None
    curve = np.array(reading.hours_utc, dtype=float)
    if curve.max() <= 0:
        return None
    offset = now.astimezone(zone).utcoffset() or timedelta()
    return np.asarray(shift_hours(curve, offset.total_seconds() / 3600) / curve.max())


def timing_of(profile: Profile, zone: ZoneInfo, now: datetime) -> ProfileTiming:
    """Estimate a profile's hour effects from the posts of the half-year up to its newest one, whenever that was.

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
        every.filter(post__has_time=True).order_by("published_at")
        .values_list("post_id", "published_at", "post__format", "post__text", "interactions", "index", "typical")
    )  # fmt: skip
    reading = PresenceReading.objects.filter(profile=profile).order_by("-day").first()
    presence = presence_in(reading, zone, now)
    effects = hour_effects(
        published_at=[row[1] for row in rows], values=_comparable(rows, footing.age_hours),
        formats=[row[2] for row in rows], zone=zone, presence=presence, half_life_days=HALF_LIFE_DAYS,
    )  # fmt: skip
    return ProfileTiming(
        effects=effects,
        presence=presence,
        zones=dict(reading.zones) if reading else {},
        posts=[PostTime(id=r[0], at=r[1], index=r[5], text=r[3][:80]) for r in rows],
        age_hours=footing.age_hours,
        untimed=every.filter(post__has_time=False).count(),
    )


def _comparable(rows: Sequence[tuple[Any, ...]], age_hours: int) -> Array:
    """Values that can be held against one another: counts at one age, else index times the profile's usual count."""
    counts = np.array([np.nan if row[4] is None else row[4] for row in rows], dtype=float)
    if age_hours != LATEST_AGE:
        return counts
    index = np.array([np.nan if row[5] is None else row[5] for row in rows], dtype=float)
    typical = np.array([np.nan if row[6] is None else row[6] for row in rows], dtype=float)
    known = typical[~np.isnan(typical)]
    return np.asarray(index * (np.median(known) if len(known) else np.nan))
