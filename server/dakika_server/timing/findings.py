"""Missed hours: times that surely do better and at which nobody posted for four weeks."""

from datetime import datetime, timedelta
from urllib.parse import urlencode

import numpy as np
from dakika_core.results.findings import Statement, times
from dakika_core.timing.best_times import Certainty
from dakika_core.values.period import hour_of_week

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


def missed_hours(brand: Brand, now: datetime) -> list[Found]:
    """For each own profile the best hour that is sure and was left empty, if there is one."""
    found = []
    profiles = list(Profile.objects.filter(brand=brand, kind="own").select_related("brand").order_by("pk"))
    for profile in profiles:
        timing = timing_of(profile, brand.zone, now)
        effects = timing.effects
        if effects is None or not effects.has_effect or effects.odds < LEAST_ODDS:
            continue
        used = {int(hour_of_week(post.at, brand.zone)) for post in timing.posts if post.at > now - RECENT}
        around = {(hour + step) % 168 for hour in used for step in (-1, 0, 1)}
        good = [
            hour
            for hour in range(168)
            if effects.certainty[hour] is Certainty.SURE and effects.index[hour] >= LEAST_INDEX and hour not in around
        ]
        if not good:
            continue
        best = max(good, key=lambda hour: effects.index[hour])
        where = f"{profile.name} on {network_name(profile.network)}"
        clock = f"{WEEKDAYS[best // 24]} {best % 24:02d}:00"
        index, low, high = (float(curve[best]) for curve in (effects.index, effects.low95, effects.high95))
        statement = Statement(
            kind="hour", subject=f"{profile.pk}", text=f"Nobody posts on {where} at {clock}",
            detail=f"Posts at that hour do {times(index)} the usual ({low:.2f} to {high:.2f}), "
            f"estimated from {effects.posts} posts{_with_others(timing)}; none was sent around it in four weeks.",
            size=float(np.log(index)), certainty=0.95,
            evidence={"index": index, "low": low, "high": high, "hour": best, "profile": profile.pk},
        )  # fmt: skip
        query = urlencode({"profile": profile.pk, "at": next_at(best, brand, now).isoformat()})
        step = {
            "words": "Write a post for that hour",
            "path": f"plan/new?{query}",
            "more": "timing",
            "more_words": "The whole week",
        }
        found.append((statement, step))
    return found


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
