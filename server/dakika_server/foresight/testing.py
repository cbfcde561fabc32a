"""What tests of foresight share: profiles whose posts grow by a known law, read at known ages."""

from datetime import datetime, timedelta

import numpy as np

from dakika_server.measures.measuring import measure_profile
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Profile

READ_AT_HOURS = (1.0, 2.0, 3.0, 6.0, 12.0, 24.0, 72.0, 168.0, 300.0)


def share(age_hours: float, half_life: float = 5.0) -> float:
    """Of its final count that a post has by an age."""
    return float(1 - 2.0 ** -((age_hours / half_life) ** 0.75))


def grow(
    profile: Profile, posts: list[tuple[datetime, float]], *, now: datetime | None = None, kind: str = "text"
) -> Profile:
    """Posts at instants that grow towards so many reactions each, read at the ages that they have reached by now."""
    until = now or clock.now()
    rows = []
    for at, final in posts:
        age = (until - at).total_seconds() / 3600
        ages = [hours for hours in READ_AT_HOURS if hours <= age] or [age]
        readings = [(at + timedelta(hours=hours), _counted(final * share(hours)), None) for hours in ages]
        rows.append(
            PostIn(external_id=f"{at:%Y%m%d%H%M}", published_at=at, format=kind, text="Sky tonight", url="",
                   readings=readings)
        )  # fmt: skip
    take_posts(profile, rows)
    measure_profile(profile)
    return profile


def _counted(reactions: float) -> dict[str, int]:
    return {"reactions": round(reactions), "impressions": round(20 * reactions)}


def half_a_year(seed: int = 1, *, a_week: int = 5, level: float = 300.0) -> list[tuple[datetime, float]]:
    """Posts of half a year up to ten days ago with lognormal luck."""
    rng = np.random.default_rng(seed)
    found = []
    for n in range(26 * a_week):
        ago = 10 + n * 7 / a_week
        at = clock.now() - timedelta(days=ago, minutes=int(rng.integers(0, 300)))
        found.append((at, float(level * rng.lognormal(0, 0.4))))
    return found
