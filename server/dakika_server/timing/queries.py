"""What timing needs: a profile's posts at 72 hours, its audience's presence, the planned times."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from dakika_core.timing.best_times import HourEffects, hour_effects
from dakika_core.values.period import shift_hours
from numpy.typing import NDArray

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
    """The estimate for a profile in a zone, with what it rests on."""

    effects: HourEffects | None
    presence: Array | None
    zones: dict[str, float]
    posts: list[PostTime]


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
    """Estimate a profile's hour effects from the posts of the last half-year."""
    rows = list(
        PostMeasure.objects.filter(profile=profile, age_hours=AGE_HOURS, published_at__gte=now - SPAN)
        .order_by("published_at")
        .values_list("post_id", "published_at", "post__format", "post__text", "interactions", "index")
    )
    reading = PresenceReading.objects.filter(profile=profile).order_by("-day").first()
    presence = presence_in(reading, zone, now)
    effects = hour_effects(
        published_at=[row[1] for row in rows],
        values=np.array([np.nan if row[4] is None else row[4] for row in rows], dtype=float),
        formats=[row[2] for row in rows],
        zone=zone,
        presence=presence,
        half_life_days=HALF_LIFE_DAYS,
    )
    return ProfileTiming(
        effects=effects,
        presence=presence,
        zones=dict(reading.zones) if reading else {},
        posts=[PostTime(id=r[0], at=r[1], index=r[5], text=r[3][:80]) for r in rows],
    )
