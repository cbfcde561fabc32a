"""What tests of timing share, here and elsewhere: profiles whose hours do better by a known factor."""

from collections.abc import Iterable
from datetime import datetime, timedelta

import numpy as np

from dakika_server.measures.measuring import measure_profile
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Profile


def give_posts(profile: Profile, counted: Iterable[tuple[datetime, int]]) -> Profile:
    """A post at each instant, with so many reactions at eighty hours."""
    rows = [
        PostIn(
            external_id=f"{at:%Y%m%d%H%M}", published_at=at, format="text", text="x", url="",
            readings=[(at + timedelta(hours=80), {"reactions": many}, None)],
        )
        for at, many in counted
    ]  # fmt: skip
    take_posts(profile, rows)
    measure_profile(profile)
    return profile


def post_daily(profile: Profile, *, evening: float, days: int = 120) -> Profile:
    """Noon and evening (18 h UTC) posts up to four days ago; evenings do `evening` times as well."""
    chance = np.random.default_rng(7)
    counted = []
    for ago in range(days, 4, -1):
        for hour in (12, 18):
            at = (clock.now() - timedelta(days=ago)).replace(hour=hour, minute=5, second=0, microsecond=0)
            counted.append((at, int(60 * (evening if hour == 18 else 1) * chance.lognormal(0, 0.3)) + 1))
    return give_posts(profile, counted)
