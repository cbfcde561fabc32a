"""Missed hours: times that surely do better and at which nobody posted for four weeks."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from urllib.parse import urlencode

import numpy as np
from dakika_core.results.findings import Statement, times
from dakika_core.timing.best_times import Certainty
from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week

from dakika_server.brands.models import Brand
from dakika_server.networks.definitions import network_name
from dakika_server.results.findings import Found
from dakika_server.sources.models import Profile
from dakika_server.timing.queries import ProfileTiming, timing_of

RECENT = timedelta(days=28)
LEAST_INDEX = 1.15
# The data are so many times likelier with an hour effect than without: by chance that comes once in as many profiles.
LEAST_ODDS = 300.0
WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")


@dataclass(frozen=True, kw_only=True)
class _Missed:
    """A profile's best hour that is sure and was left empty."""

    profile: Profile
    hour: int
    index: float
    low: float
    high: float
    posts: str

    @property
    def where(self) -> str:
        return f"{self.profile.name} on {network_name(self.profile.network)}"

    @property
    def words(self) -> str:
        return f"{times(self.index)} the usual ({self.low:.2f} to {self.high:.2f}), estimated from {self.posts}"


def missed_hours(brand: Brand, now: datetime) -> list[Found]:
    """The best hour of each own profile that is sure and was left empty; profiles of the same hour are said as one."""
    profiles = Profile.objects.filter(brand=brand, kind="own").select_related("brand").order_by("pk")
    by_hour: dict[int, list[_Missed]] = {}
    for profile in profiles:
        missed = _missed(profile, brand, now)
        if missed is not None:
            by_hour.setdefault(missed.hour, []).append(missed)
    return [_found(hour, group, brand, now) for hour, group in by_hour.items()]


def _missed(profile: Profile, brand: Brand, now: datetime) -> _Missed | None:
    timing = timing_of(profile, brand.zone, now)
    effects = timing.effects
    if effects is None or not effects.has_effect or effects.odds < LEAST_ODDS:
        return None
    used = {int(hour_of_week(post.at, brand.zone)) for post in timing.posts if post.at > now - RECENT}
    around = {(hour + step) % HOURS_PER_WEEK for hour in used for step in (-1, 0, 1)}
    good = [
        hour
        for hour in range(HOURS_PER_WEEK)
        if effects.certainty[hour] is Certainty.SURE and effects.index[hour] >= LEAST_INDEX and hour not in around
    ]
    if not good:
        return None
    best = max(good, key=lambda hour: effects.index[hour])
    index, low, high = (float(curve[best]) for curve in (effects.index, effects.low95, effects.high95))
    posts = f"{effects.posts} posts{_with_others(timing)}"
    return _Missed(profile=profile, hour=best, index=index, low=low, high=high, posts=posts)


def _found(hour: int, group: list[_Missed], brand: Brand, now: datetime) -> Found:
    best = max(group, key=lambda missed: missed.index)
    clock = f"{WEEKDAYS[hour // 24]} {hour % 24:02d}:00"
    where = best.where if len(group) == 1 else f"{len(group)} profiles"
    detail = f"Posts at that hour do {best.words}" if len(group) == 1 else (
        "Posts at that hour do: " + "; ".join(f"on {missed.where} {missed.words}" for missed in group)
    )  # fmt: skip
    statement = Statement(
        kind="hour", subject=",".join(str(missed.profile.pk) for missed in group),
        text=f"Nobody posts on {where} at {clock}", detail=f"{detail}; none was sent around it in four weeks.",
        size=float(np.log(best.index)), certainty=0.95,
        evidence={"index": best.index, "low": best.low, "high": best.high, "hour": hour, "profile": best.profile.pk},
    )  # fmt: skip
    query = urlencode({"profile": best.profile.pk, "at": next_at(hour, brand, now).isoformat()})
    step = {
        "words": "Write a post for that hour",
        "path": f"plan/new?{query}",
        "more": "timing",
        "more_words": "The whole week",
    }
    return statement, step


def _with_others(timing: ProfileTiming) -> str:
    """The posts of other profiles that it was estimated with, in words."""
    others = timing.pooled_posts - len(timing.posts)
    return f" of its own and {others} of {timing.pooled - 1} more profiles" if timing.pooled > 1 and others > 0 else ""


def next_at(hour: int, brand: Brand, now: datetime) -> datetime:
    """The next instant of an hour of week in the brand's zone."""
    local = now.astimezone(brand.zone)
    days = (hour // 24 - local.weekday()) % 7
    at = (local + timedelta(days=days)).replace(hour=hour % 24, minute=0, second=0, microsecond=0)
    return at if at > local else at + timedelta(days=7)
