"""What tests of results share: profiles with posts whose figures can be worked out by hand."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.measures.measuring import measure_profile
from dakika_server.sources.intake import PostIn, take_posts, take_profile_days
from dakika_server.sources.models import Profile

START = datetime(2026, 10, 1, 10, tzinfo=UTC)
QUERY = "first=2026-10-01&last=2026-10-30"
Made = Callable[[int], dict[str, Any]]


def as_it_is(_: int) -> dict[str, Any]:
    """Nothing special about any post."""
    return {}


def make_profile(brand: Brand, network: str = "commons", name: str = "X") -> Profile:
    """An own profile without anything."""
    return Profile.objects.create(
        brand=brand, network=network, external_id=f"x-{network}-{name}", handle="x", name=name, kind="own",
        added_at=START,
    )  # fmt: skip


def fill(
    profile: Profile, count: int, made: Made = as_it_is, *, days: int = 30, start: datetime = START,
    followers: bool = True,
) -> Profile:  # fmt: skip
    """Posts spread over days, read at 20 and at 80 hours (then with twice the counts), and followers by day.

    made(i) may give text, format, counts, language, is_boosted, campaign_id of the i-th post.
    """
    rows = []
    for i in range(count):
        given: dict[str, Any] = {
            "text": f"Post {i}",
            "format": "text",
            "counts": {"reactions": 10, "comments": 2, "reach": 100},
        } | made(i)
        at = start + timedelta(days=i % days, minutes=i)
        counts = given.pop("counts")
        readings = [
            (at + timedelta(hours=h), {k: v * s for k, v in counts.items()}, None) for h, s in ((20, 1), (80, 2))
        ]
        rows.append(PostIn(external_id=f"{start:%j}-{i}", published_at=at, url="", readings=readings, **given))
    take_posts(profile, rows)
    if followers:
        told = [((start + timedelta(days=i)).date(), 1000 + 10 * i, 12, 2) for i in range(days)]
        take_profile_days(profile, told, taken_at=start)
    measure_profile(profile)
    return profile
