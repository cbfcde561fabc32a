"""A brand of which everything is known: posts, links, clicks, visits, conversions, audience."""

import random
from collections.abc import Iterator
from datetime import date
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
