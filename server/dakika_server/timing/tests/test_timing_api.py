"""Promise: the week says how sure it is in whatever zone one asks, proposes only free hours ahead, and admits too few posts."""

from datetime import date, datetime, timedelta
from typing import Any

import numpy as np
import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.measured import measured
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.models import PostMeasure
from dakika_server.measures.testing import make_profile
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import AudienceReading, PresenceReading
from dakika_server.timing.models import Estimate
from dakika_server.timing.refitting import make_anew
from dakika_server.timing.testing import give_posts, post_daily

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/timing"


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
    first = client.get(BASE).json()["free"]
    times = [datetime.fromisoformat(slot["at"]) for slot in first]
    assert all(clock.now() < at < clock.now() + timedelta(days=8) for at in times)
    gaps = [b - a for a, b in zip(sorted(times), sorted(times)[1:], strict=False)]
    assert min(gaps) >= timedelta(hours=6)


def test_too_few_posts_leave_presence_or_the_networks_hours_to_stand_in_and_claim_nothing(
    client: Client, brand: Brand
) -> None:
    profile = post_daily(make_profile(brand), evening=2.5, days=10)
    told = client.get(f"{BASE}?zone=UTC").json()
    assert (told["stands_by"], told["has_effect"], told["posts_used"]) == ("network", False, 12)
    assert len(told["hours"]) == 168
    assert all(hour["certainty"] == "open" and hour["from_posts"] == 0 for hour in told["hours"])
    assert told["free"], "hours are proposed all the same"
    curve = [100 if hour % 24 == 21 else 5 for hour in range(168)]
    PresenceReading.objects.create(brand=brand, profile=profile, day=clock.now().date(), hours_utc=curve)
    Estimate.objects.all().delete()
    told = client.get(f"{BASE}?zone=UTC").json()
    assert told["stands_by"] == "presence"
    assert max(range(24), key=lambda h: told["hours"][h]["index"]) == 21


def test_figures_that_change_are_followed_and_the_old_answer_is_told_until_then(client: Client, brand: Brand) -> None:
    profile = post_daily(make_profile(brand), evening=2.5)
    before = client.get(BASE).json()
    assert not before["is_stale"]
    at = clock.now() - timedelta(days=4, hours=1)
    take_posts(
        profile,
        [PostIn(external_id="new", published_at=at, format="text", text="x", url="",
                readings=[(at + timedelta(hours=80), {"reactions": 9}, None)])],
    )  # fmt: skip
    measure_profile(profile)
    measured(profile)
    told = client.get(BASE).json()
    assert told["is_stale"]
    assert told["posts_used"] == before["posts_used"]
    make_anew(Estimate.objects.get().pk)
    told = client.get(BASE).json()
    assert not told["is_stale"]
    assert told["posts_used"] == before["posts_used"] + 1


def test_an_estimate_of_profiles_that_are_gone_goes(client: Client, brand: Brand) -> None:
    profile = post_daily(make_profile(brand), evening=2.5, days=30)
    client.get(BASE)
    Estimate.objects.update(is_stale=True)
    profile.is_followed = False
    profile.save()
    make_anew(Estimate.objects.get().pk)
    assert not Estimate.objects.exists()


def test_the_week_is_read_from_what_is_kept_with_a_fixed_number_of_queries(
    client: Client, brand: Brand, django_assert_max_num_queries: Any
) -> None:
    post_daily(make_profile(brand), evening=2.5)
    client.get(BASE)
    with django_assert_max_num_queries(24):
        client.get(BASE)


def test_hours_of_several_profiles_keep_a_level_each(client: Client, brand: Brand) -> None:
    small = post_daily(make_profile(brand), evening=2.0, days=60)
    large = post_daily(make_profile(brand, network="brevi"), evening=2.0, days=60)
    told = client.get(f"{BASE}?profile={small.pk},{large.pk}&zone=UTC").json()
    assert {profile["id"] for profile in told["chosen"]} == {small.pk, large.pk}
    assert told["posts_used"] == 2 * 112
    assert told["has_effect"]
    whole = client.get(f"{BASE}?whose=brand&zone=UTC").json()
    assert whole["hours"] == told["hours"]
    one = client.get(f"{BASE}?whose=brand&network=brevi&zone=UTC").json()
    assert [profile["id"] for profile in one["chosen"]] == [large.pk]


def test_which_posts_and_for_what_is_asked_and_answered(client: Client, brand: Brand) -> None:
    post_daily(make_profile(brand), evening=2.5)
    assert client.get(f"{BASE}?format=image").json()["posts_used"] == 0
    assert client.get(f"{BASE}?format=!image").json()["posts_used"] == 232
    first = (clock.now() - timedelta(days=40)).date().isoformat()
    assert 0 < client.get(f"{BASE}?first={first}").json()["posts_used"] < 90
    nothing = client.get(f"{BASE}?of=reach").json()
    assert (nothing["posts_used"], nothing["stands_by"]) == (0, "network")
    assert client.get(f"{BASE}?of=conversions").json()["counted"] == 0


def test_a_part_of_what_a_profile_does_not_tell_leaves_it_to_the_others(client: Client, brand: Brand) -> None:
    """Interactions are known and reach is not: there is no part, though there is a value."""
    profile = post_daily(make_profile(brand), evening=2.5)
    told = client.get(f"{BASE}?of=er_reach")
    assert told.status_code == 200
    assert (told.json()["posts_used"], told.json()["stands_by"]) == (0, "network")
    other = post_daily(make_profile(brand, network="brevi"), evening=2.5)
    PostMeasure.objects.filter(profile=other).update(reach=1000.0)
    told = client.get(f"{BASE}?of=er_reach&profile={profile.pk}").json()
    assert (told["posts_used"], told["stands_by"]) == (0, "others")


def test_what_was_said_is_tried_on_newer_weeks_in_front_of_everybody(client: Client, brand: Brand) -> None:
    post_daily(make_profile(brand), evening=2.5)
    held = client.get(f"{BASE}?zone=UTC").json()["held"]
    assert held["older"] + held["newer"] == 232
    assert held["is_shown"]
    assert held["low"] > 1
    assert held["thirds"][-1]["came"] > held["thirds"][0]["came"]


def test_evenings_that_nobody_uses_any_more_are_missed(client: Client, brand: Brand) -> None:
    rng = np.random.default_rng(2)
    posts = []
    for ago in range(170, 4, -1):
        for hour in (12, 20) if ago > 90 else (12,):
            at = (clock.now() - timedelta(days=ago)).replace(hour=hour, minute=10)
            posts.append((at, int(60 * (2.5 if hour == 20 else 1) * rng.lognormal(0, 0.3)) + 1))
    give_posts(make_profile(brand), posts)
    told = client.get(f"{BASE}?zone=UTC").json()
    assert told["missed"]
    assert {hour % 24 for stretch in told["missed"] for hour in range(stretch["first"], stretch["first"] +
                                                                     stretch["hours"])} & {19, 20, 21}  # fmt: skip
    assert all(stretch["low"] > 1 for stretch in told["missed"])
    assert round(told["posts_at"]) in range(12, 16)


def test_the_audience_is_told_by_the_clocks_it_lives_by(client: Client, brand: Brand) -> None:
    profile = make_profile(brand)
    evening = np.exp(-0.5 * ((np.arange(168) % 24 - 20.5) / 2) ** 2)
    curve = (700 * evening + 300 * np.roll(evening, 3)).astype(int).tolist()
    PresenceReading.objects.create(
        brand=brand, profile=profile, day=date(2026, 1, 14), hours_utc=curve,
        zones={"Europe/Lisbon": 0.7, "America/Sao_Paulo": 0.3},
    )  # fmt: skip
    told = client.get(BASE).json()
    assert [(group["zone"], round(group["share"], 2)) for group in told["groups"]] == [
        ("Europe/Lisbon", 0.7), ("America/Sao_Paulo", 0.3)]  # fmt: skip
    together = np.sum([group["presence"] for group in told["groups"]], axis=0)
    assert np.allclose(together, told["presence"], atol=1e-3)
    assert told["groups_by"] == "the network's own zones"
    PresenceReading.objects.update(zones={})
    AudienceReading.objects.create(
        brand=brand, profile=profile, day=date(2026, 1, 14), dimension="country", segments={"PT": 0.6, "BR": 0.4}
    )
    told = client.get(BASE).json()
    assert "GeoNames" in told["groups_by"]
    assert {group["zone"] for group in told["groups"]} == {"Europe/Lisbon", "America/Sao_Paulo"}


@pytest.mark.parametrize(
    "asked",
    ["zone=Atlantis/Ys", "profile=x", "of=luck", "whose=mine", "first=2026-09-01&last=2026-08-01", "format=poem"],
)
def test_what_makes_no_sense_is_refused(client: Client, brand: Brand, asked: str) -> None:
    make_profile(brand)
    assert client.get(f"{BASE}?{asked}").status_code == 400


def test_nothing_of_anothers_profile_is_told(client: Client, brand: Brand) -> None:
    make_profile(brand)
    theirs = make_profile(Brand.objects.create(name="Other", slug="other", time_zone="UTC"))
    refused = client.get(f"{BASE}?profile={theirs.pk}")
    assert refused.status_code == 400
    assert "no such profile" in refused.json()["detail"]


def test_a_brand_without_profiles_says_so(client: Client, brand: Brand) -> None:
    assert client.get(BASE).status_code == 404
