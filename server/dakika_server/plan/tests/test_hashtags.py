"""Promise: a hashtag is proposed with why, and with what is known of it here, in the field and at the networks."""

from datetime import timedelta
from typing import Any

import pytest
from django.core.cache import cache
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.competitors.testing import rival
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.hashtags.seen import FRESH, look_at, look_at_followed, networks_that_tell
from dakika_server.plan.models import FollowedHashtag, HashtagReading
from dakika_server.shared import clock
from dakika_server.sources.models import Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/plan/hashtags"


@pytest.fixture(autouse=True)
def _asked_by_nobody() -> None:
    cache.clear()


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def send(client: Client, method: str, path: str, body: Any = None) -> Any:
    return getattr(client, method)(path, body, content_type="application/json")


def made(i: int) -> dict[str, Any]:
    """Every third post is of the sky and does three times as well; the last ones of the gears do badly."""
    if i % 3 == 0:
        return {"text": f"The moon tonight {i} #skytonight #moon", "counts": {"reactions": 60 + i % 5}}
    worn = 5 if i >= 60 else 20
    return {"text": f"A gear is cut by hand {i} #gears", "counts": {"reactions": worn + i % 4}}


@pytest.fixture
def own(brand: Brand) -> Profile:
    return fill(make_profile(brand), 90, made, days=90, start=clock.now() - timedelta(days=100))


def proposed(client: Client, **asked: Any) -> Any:
    answer = send(client, "post", f"{HOME}/proposals", asked)
    assert answer.status_code == 200, answer.json()
    return answer.json()


def of(told: Any, tag: str) -> Any:
    return next(one for one in told["tags"] if one["tag"] == tag)


def test_proposals_say_why_and_how_sure(client: Client, brand: Brand, own: Profile) -> None:
    fill(rival(brand), 40, lambda i: {"text": f"Stars {i} #comet" if i % 2 else f"Old {i} #tower",
                                      "counts": {"reactions": (80 if i % 2 else 20) + i % 3}},
         start=clock.now() - timedelta(days=60))  # fmt: skip
    told = proposed(client, text="What is the moon doing?", profiles=[own.pk], chosen=["#SkyTonight"])
    assert told["by_why"]["text"][0] == "moon"
    assert "moon" in told["by_why"]["own"]
    assert told["by_why"]["field"][0] == "comet"
    assert told["by_why"]["similar"] == ["moon"]
    assert not any("skytonight" in tags for tags in told["by_why"].values())
    moon = of(told, "moon")["own"]
    assert (moon["verdict"], moon["posts"]) == ("better", 30)
    assert 1 < moon["low"] < moon["times"] < moon["high"]
    assert of(told, "comet")["field"]["verdict"] == "better"
    assert of(told, "comet")["own"] is None
    assert (told["posts"], told["posts_of_field"]) == (90, 40)


def test_figures_are_those_of_results(client: Client, own: Profile) -> None:
    """The same question asked in Results has the same answer: nobody has to believe one of two figures."""
    moon = of(proposed(client, profiles=[own.pk]), "moon")["own"]
    today = clock.now().date()
    query = f"by=hashtag&metric=index&first={today - timedelta(days=365)}&last={today}"
    groups = client.get(f"/api/brands/orrery-house/results/groups?{query}").json()["groups"]
    same = next(one for one in groups if one["name"] == "#moon")
    held = same["adjusted"] or same["raw"]
    assert (moon["posts"], moon["times"]) == (same["n"], pytest.approx(held["value"]))


def test_what_has_worn_out_says_so_and_what_does_worse_is_not_proposed(client: Client, own: Profile) -> None:
    told = proposed(client, chosen=["gears", "moon"])
    gears = of(told, "gears")
    assert gears["wear"]["is_worn"]
    assert gears["wear"]["high"] < 1
    assert gears["own"]["verdict"] == "worse"
    assert not of(told, "moon")["wear"]["is_worn"]
    assert "gears" not in proposed(client)["by_why"]["own"]


def test_a_brand_without_posts_gets_an_empty_answer(client: Client) -> None:
    told = proposed(client, text="The moon", chosen=["moon"])
    assert told["by_why"] == {"text": [], "own": [], "field": [], "similar": []}
    assert of(told, "moon") == {"tag": "moon", "likeness": None, "own": None, "field": None, "wear": None, "seen": []}


@pytest.mark.usefixtures("world")
def test_networks_are_asked_by_the_worker_and_once_a_day(client: Client, brand: Brand) -> None:
    for network in ("commons", "brevi", "pictor", "longplay"):
        make_profile(brand, network)
    assert networks_that_tell(brand) == ["brevi", "commons", "pictor"]
    assert proposed(client, chosen=["skytonight"])["is_asked"]
    assert not proposed(client, chosen=["skytonight"])["is_asked"]
    assert look_at(brand.pk, ["skytonight", "nobodyever", "luckydraw"]) == 9
    assert look_at(brand.pk, ["skytonight", "nobodyever", "luckydraw"]) == 0
    seen = {one["network"]: one for one in of(proposed(client, chosen=["skytonight"]), "skytonight")["seen"]}
    assert seen["commons"]["uses"] > seen["commons"]["week"] > 0
    assert 0 <= seen["brevi"]["cold"] < seen["brevi"]["warm"] <= 1
    assert (seen["pictor"]["week"], seen["pictor"]["warm"]) == (None, None)
    told = proposed(client, chosen=["nobodyever", "luckydraw", "skytonight"])
    assert [one["uses"] for one in of(told, "nobodyever")["seen"]] == [None, None, None]
    assert all(one["is_restricted"] for one in of(told, "luckydraw")["seen"])
    assert "clocks" in told["by_why"]["similar"] or "restoration" in told["by_why"]["similar"]


def test_a_network_that_is_away_loses_nothing_of_the_others(world: Any, brand: Brand) -> None:
    for network in ("commons", "brevi"):
        make_profile(brand, network)
    world.faults(commons__error500=1)
    kept = look_at(brand.pk, ["skytonight"])
    assert kept == HashtagReading.objects.count()
    assert set(HashtagReading.objects.values_list("network", flat=True)) == {"brevi"}


def test_followed_ones_are_read_every_day_and_shown_over_time(client: Client, brand: Brand, own: Profile) -> None:
    assert send(client, "post", f"{HOME}/followed", {"tag": " #Moon "}).json() == {"tag": "moon"}
    send(client, "post", f"{HOME}/followed", {"tag": "moon"})
    assert FollowedHashtag.objects.count() == 1
    assert send(client, "post", f"{HOME}/followed", {"tag": "#!"}).status_code == 400
    told = client.get(f"{HOME}/followed").json()
    assert [one["tag"] for one in told["tags"]] == ["moon"]
    for days, uses in ((2, 100), (1, 120), (0, 150)):
        HashtagReading.objects.create(
            brand=brand, network="commons", tag="moon", taken_at=clock.now() - timedelta(days=days), uses=uses
        )
    course = client.get(f"{HOME}/course?tag=%23MOON").json()
    assert [one["uses"] for one in course["readings"]] == [100, 120, 150]
    assert sum(one["posts"] for one in course["own"]) == 30
    for month in course["own"]:
        assert month["index"] is not None
        assert month["low"] is None or month["low"] < month["index"] < month["high"]
    assert course["field"] == []
    assert look_at_followed() == 1
    assert client.delete(f"{HOME}/followed?tag=moon").status_code == 204
    assert client.delete(f"{HOME}/followed?tag=moon").status_code == 404
    assert HashtagReading.objects.count() == 3


def test_an_old_reading_is_asked_for_anew(client: Client, brand: Brand) -> None:
    make_profile(brand, "commons")
    old = clock.now() - FRESH - timedelta(minutes=1)
    HashtagReading.objects.create(brand=brand, network="commons", tag="moon", taken_at=old, uses=5)
    assert proposed(client, chosen=["moon"])["is_asked"]
    HashtagReading.objects.create(brand=brand, network="commons", tag="star", taken_at=clock.now(), uses=5)
    assert not proposed(client, chosen=["star"])["is_asked"]


def test_sets_are_of_a_network_or_of_any(client: Client) -> None:
    body = {"name": "Sky", "tags": ["moon"], "network": "pictor"}
    assert send(client, "post", HOME, body).json()["network"] == "pictor"
    assert send(client, "post", HOME, {**body, "network": ""}).status_code == 201
    assert send(client, "post", HOME, body).status_code == 400
    assert send(client, "post", HOME, {**body, "network": "nowhere"}).status_code == 400


def test_another_brands_hashtags_are_nobodys(client: Client, brand: Brand, stranger: Any, client_of: Any) -> None:
    send(client, "post", f"{HOME}/followed", {"tag": "moon"})
    theirs = client_of(stranger)
    assert theirs.get(f"{HOME}/followed").status_code == 404
    elsewhere = "/api/brands/lantern-line/plan/hashtags"
    assert theirs.get(f"{elsewhere}/followed").json()["tags"] == []
    assert theirs.get(f"{elsewhere}/course?tag=moon").json() == {"tag": "moon", "own": [], "field": [], "readings": []}


@pytest.mark.parametrize("tag", ["<script>", "'; DROP TABLE", "🌙🌙", "%00", "a" * 100, "{braces}", "#", "ночь"])
def test_odd_hashtags_break_nothing(client: Client, own: Profile, tag: str) -> None:
    assert client.get(f"{HOME}/course", {"tag": tag}).status_code == 200
    proposed(client, text=f"#{tag} {tag}", chosen=[tag])
