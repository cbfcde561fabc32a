"""Promise: the week says how sure it is in whatever zone one asks, proposes only free hours ahead, and admits too few posts."""

from datetime import datetime, timedelta
from typing import Any

import pytest
from django.core.cache import cache
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.testing import make_profile
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.timing.testing import post_daily

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/timing"


@pytest.fixture(autouse=True)
def _forget() -> None:
    cache.clear()


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def test_evenings_that_do_better_are_seen_with_their_uncertainty(client: Client, brand: Brand) -> None:
    post_daily(make_profile(brand), evening=2.5)
    told = client.get(f"{BASE}?zone=UTC").json()
    assert told["has_effect"]
    assert told["posts_used"] == 232
    assert len(told["hours"]) == 168
    evening = [told["hours"][24 * day + 18] for day in range(7)]
    noon = [told["hours"][24 * day + 12] for day in range(7)]
    assert min(h["index"] for h in evening) > max(h["index"] for h in noon)
    for hour in told["hours"]:
        assert hour["low95"] <= hour["low80"] <= hour["index"] <= hour["high80"] <= hour["high95"]
    # At four in the morning nobody ever posted: the interval is wider than where posts are.
    night, day = told["hours"][4], told["hours"][18]
    assert night["high80"] / night["low80"] > day["high80"] / day["low80"]


def test_without_an_effect_none_is_claimed(client: Client, brand: Brand) -> None:
    post_daily(make_profile(brand), evening=1.0)
    assert not client.get(BASE).json()["has_effect"]


def test_another_zone_moves_the_same_hour(client: Client, brand: Brand) -> None:
    post_daily(make_profile(brand), evening=2.5)
    here, there = (client.get(f"{BASE}?zone={zone}").json() for zone in ("UTC", "Asia/Kolkata"))
    best = [max(range(24), key=lambda h, t=told: t["hours"][h]["index"]) for told in (here, there)]
    assert (best[1] - best[0]) % 24 in (5, 6)


def test_proposals_lie_ahead_and_apart(client: Client, brand: Brand) -> None:
    post_daily(make_profile(brand), evening=2.5)
    first = client.get(BASE).json()["proposals"]
    times = [datetime.fromisoformat(slot["at"]) for slot in first]
    assert all(clock.now() < at < clock.now() + timedelta(days=8) for at in times)
    gaps = [b - a for a, b in zip(sorted(times), sorted(times)[1:], strict=False)]
    assert min(gaps) >= timedelta(hours=6)


def test_too_few_posts_give_no_curve_and_no_proposal(client: Client, brand: Brand) -> None:
    post_daily(make_profile(brand), evening=2.5, days=10)
    told = client.get(BASE).json()
    assert (told["hours"], told["proposals"], told["has_effect"]) == ([], [], False)
    assert told["posts_used"] == 12


def test_new_figures_are_not_hidden_by_what_was_worked_out_before(client: Client, brand: Brand) -> None:
    profile = post_daily(make_profile(brand), evening=2.5)
    before = client.get(BASE).json()["posts_used"]
    at = clock.now() - timedelta(days=4, hours=1)
    take_posts(
        profile,
        [PostIn(external_id="new", published_at=at, format="text", text="x", url="",
                readings=[(at + timedelta(hours=80), {"reactions": 9}, None)])],
    )  # fmt: skip
    measure_profile(profile)
    assert client.get(BASE).json()["posts_used"] == before + 1


@pytest.mark.parametrize("asked", ["zone=Atlantis/Ys", "profile=x"])
def test_what_makes_no_sense_is_refused(client: Client, brand: Brand, asked: str) -> None:
    make_profile(brand)
    assert client.get(f"{BASE}?{asked}").status_code == 400


def test_nothing_of_anothers_profile_is_told(client: Client, brand: Brand) -> None:
    make_profile(brand)
    theirs = make_profile(Brand.objects.create(name="Other", slug="other", time_zone="UTC"))
    assert client.get(f"{BASE}?profile={theirs.pk}").status_code == 404


def test_a_brand_without_profiles_says_so(client: Client, brand: Brand) -> None:
    assert client.get(BASE).status_code == 404
