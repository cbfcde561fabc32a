"""A brand of which everything is known: posts, links, clicks, visits, conversions, audience."""

import random
from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.db import transaction
from upgrades.make import NOW, fill

QUERY = {"first": "2026-09-28", "last": "2026-11-08"}


@pytest.fixture(scope="module")
def world(django_db_setup: None, django_db_blocker: Any) -> Iterator[Any]:
    """Made once for a file's tests, which only look."""
    del django_db_setup
    from dakika_server.brands.models import Brand

    with pytest.MonkeyPatch.context() as patch, django_db_blocker.unblock(), transaction.atomic():
        patch.setenv("DAKIKA_FIXED_NOW", NOW)
        fill(random.Random(5))
        brand = Brand.objects.get()
        _tell_of_the_audience(brand)
        _tell_of_what_was_tried(brand)
        yield brand
        transaction.set_rollback(True)


def _tell_of_the_audience(brand: Any) -> None:
    from dakika_server.sources.models import AudienceReading, PresenceReading, Profile

    rng = random.Random(8)
    for profile in Profile.objects.filter(brand=brand):
        for day in (date(2026, 9, 20), date(2026, 11, 1)):
            share = rng.random()
            AudienceReading.objects.create(
                brand=brand, profile=profile, day=day, dimension="gender", segments={"women": share, "men": 1 - share}
            )
        PresenceReading.objects.create(
            brand=brand, profile=profile, day=date(2026, 11, 1), hours_utc=[rng.random() for _ in range(168)],
            zones={"Europe/Lisbon": 1.0},
        )  # fmt: skip


def _tell_of_what_was_tried(brand: Any) -> None:
    """Boosts, trials of two times, and projections whose truth has come."""
    from dakika_server.foresight.models import Outlook, Projection
    from dakika_server.links.models import TrackedLink
    from dakika_server.plan.models import Boost, FollowedHashtag
    from dakika_server.sources.models import Post
    from dakika_server.timing.models import Trial, TrialProfile

    rng, posts = random.Random(11), list(Post.objects.filter(brand=brand).order_by("pk")[:40])
    at = datetime(2026, 10, 5, 9, tzinfo=UTC)
    links = [*TrackedLink.objects.filter(brand=brand).order_by("pk")[:2], None]
    for post, link in zip(posts, links, strict=False):
        Boost.objects.create(
            brand=brand, profile=post.profile, network=post.profile.network, post=post, link=link, state="ended",
            cents=5000, currency="EUR", starts_at=at, ends_at=at + timedelta(days=3), spent=rng.randint(900, 5000),
            impressions=rng.randint(0, 9000), made_at=at,
        )  # fmt: skip
    monday, hours = date(2026, 9, 28), range(0, 168, 4)
    running = Trial.objects.create(
        brand=brand, name="Mornings or evenings", first=[60 * h for h in hours], second=[60 * (h + 2) for h in hours],
        zone="Europe/Lisbon", starts=monday, pairs=2, worth=1.2, error=0.1, made_at=at,
    )  # fmt: skip
    for profile in {post.profile for post in posts}:
        TrialProfile.objects.create(trial=running, profile=profile, seed=rng.randint(1, 999))
    Trial.objects.create(
        brand=brand, name="Of last spring", first=[540], second=[1140], zone="Europe/Lisbon", starts=date(2026, 3, 2),
        pairs=6, worth=1.2, error=0.1, state="over", made_at=at - timedelta(days=200),
        outcome={"pairs": 6, "planned": 6, "ratio": 1.31, "low": 1.02, "high": 1.68, "spent": 0.1, "verdict": "second"},
    )  # fmt: skip
    FollowedHashtag.objects.create(brand=brand, tag="nightsky", followed_at=at)
    Post.objects.filter(pk__in=[post.pk for post in posts[::2]]).update(hashtags=["NightSky"])
    Outlook.objects.bulk_create(
        Outlook(
            brand=brand, profile=post.profile, post=post, published_at=post.published_at, count=count,
            taken_at=post.published_at + timedelta(hours=20), typical=count * 1.2, index=1.1, index_low=0.8,
            index_high=1.6, heading=count * 1.4, heading_low=count, heading_high=count * 2,
        )
        for post in posts[-3:]
        for count in (float(rng.randint(5, 90)),)
    )  # fmt: skip
    Projection.objects.bulk_create(
        Projection(
            brand=brand, profile=post.profile, post=post, horizon_hours=horizon, published_at=post.published_at,
            said_at=post.published_at, is_tried=is_tried, value=said, low=said * 0.7, high=said * 1.4,
            last=said * rng.lognormvariate(0, 0.5), median=said * 1.1, truth=said * rng.lognormvariate(0, 0.3),
        )
        for post in posts
        for horizon, is_tried in ((24, True), (72, True), (0, False))
        for said in (rng.lognormvariate(4, 1),)
    )  # fmt: skip
