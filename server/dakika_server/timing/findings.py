"""Missed hours: times whose index lies above the usual by its interval and at which nobody posted for four weeks. And
rhythms that the data have moved away from.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from urllib.parse import urlencode

import numpy as np
from dakika_core.metrics.observed import LATEST_AGE
from dakika_core.results.findings import Statement, times
from dakika_core.timing.best_times import Certainty
from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week

from dakika_server.brands.models import Brand
from dakika_server.measures.models import PostMeasure
from dakika_server.networks.definitions import network_name
from dakika_server.results.findings import Found
from dakika_server.sources.models import Profile
from dakika_server.timing.estimating import Answer, answers_of
from dakika_server.timing.models import Rhythm
from dakika_server.timing.rhythms import gain_over_kept

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
    profiles = list(
        Profile.objects.filter(brand=brand, kind="own", is_followed=True).select_related("brand").order_by("pk")
    )
    answers = answers_of(profiles)
    by_hour: dict[int, list[_Missed]] = {}
    for profile in profiles:
        missed = _missed(profile, answers[profile.pk], brand, now)
        if missed is not None:
            by_hour.setdefault(missed.hour, []).append(missed)
    return [_found(hour, group, brand, now) for hour, group in by_hour.items()]


def _missed(profile: Profile, answer: Answer, brand: Brand, now: datetime) -> _Missed | None:
    effects = answer.effects
    if not answer.is_by_posts or not effects.has_effect or effects.odds < LEAST_ODDS:
        return None
    recent = PostMeasure.objects.filter(
        profile=profile, age_hours=LATEST_AGE, post__has_time=True, published_at__gt=now - RECENT
    ).values_list("published_at", flat=True)
    used = {int(hour_of_week(at, brand.zone)) for at in recent}
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
    posts = f"{effects.posts} posts{_with_others(answer)}"
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


def _with_others(answer: Answer) -> str:
    """The posts of other profiles that it was estimated with, in words."""
    pooled, others = answer.facts["pooled"], answer.facts["pooled_posts"] - answer.facts["posts_used"]
    return f" of its own and {others} of {pooled - 1} more profiles" if pooled > 1 and others > 0 else ""


def moved_rhythms(brand: Brand, now: datetime) -> list[Found]:
    """Kept rhythms of which a new proposal would gain more than a change costs. Nothing changes by itself."""
    del now
    found = []
    for rhythm in Rhythm.objects.filter(brand=brand, profile__is_followed=True).select_related("profile", "brand"):
        gain = gain_over_kept(rhythm)
        if gain is None or not gain.is_worth_it:
            continue
        where = f"{rhythm.profile.name} on {network_name(rhythm.profile.network)}"
        statement = Statement(
            kind="rhythm", subject=str(rhythm.profile_id),
            text=f"Other hours would do better than the rhythm of {where}",
            detail=f"As many posts at the hours proposed now: {times(gain.ratio)} what they bring at those kept since "
            f"{rhythm.kept_at.astimezone(brand.zone):%-d %B} "
            f"({gain.interval.low:.2f} to {gain.interval.high:.2f}, 80 %).",
            size=float(np.log(gain.ratio)), certainty=gain.chance,
            evidence={"ratio": gain.ratio, "low": gain.interval.low, "high": gain.interval.high,
                      "profile": rhythm.profile_id},
        )  # fmt: skip
        step = {"words": "Compare with the proposal", "path": f"timing/rhythm?profile={rhythm.profile_id}"}
        found.append((statement, step))
    return found


def next_at(hour: int, brand: Brand, now: datetime) -> datetime:
    """The next instant of an hour of week in the brand's zone."""
    local = now.astimezone(brand.zone)
    days = (hour // 24 - local.weekday()) % 7
    at = (local + timedelta(days=days)).replace(hour=hour % 24, minute=0, second=0, microsecond=0)
    return at if at > local else at + timedelta(days=7)
