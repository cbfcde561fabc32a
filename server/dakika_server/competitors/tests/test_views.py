"""Promise: benchmark, axes, presence, what works, the gap and the best posts say what the posts say, and no more."""

from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from dakika_server.brands.models import Brand
from dakika_server.competitors.testing import HOME, QUERY, a_set, field_of, rival
from dakika_server.measures.models import PostMeasure
from dakika_server.measures.testing import START, fill, make_profile
from dakika_server.sources.models import ProfileReading

pytestmark = pytest.mark.django_db


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def get(client: Client, path: str, more: str = "") -> Any:
    answer = client.get(f"{HOME}/{path}?{QUERY}{more}")
    assert answer.status_code == 200, answer.content[:500]
    return answer.json()


def test_the_band_is_that_of_the_others_and_ours_a_line(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30, lambda n: {"counts": {"reactions": 100 + n % 4}})
    field_of(brand, 7)
    told = get(client, "benchmark", "&metric=interactions_per_post")
    assert len(told["bins"]) == 12, "twelve weeks that end with the period"
    assert told["bins"][0]["ours"]["value"] is None, "nothing is known of the time before"
    for part in told["bins"][-4:]:
        assert part["members"] == 7
        assert part["band"] == sorted(part["band"])
        assert part["ours"]["value"] > part["band"][-1]
    assert (told["place"]["rank"], told["place"]["percentile"]) == (1, 100)
    assert "number 1 of 8" in told["title"]


def test_what_is_usual_of_a_size_takes_six_others(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    field_of(brand, 5)
    told = get(client, "benchmark")
    assert told["size"] is None
    assert "takes 6 others" in told["size_words"]


def test_each_of_several_of_ours_is_held_against_what_is_usual_of_its_size(client: Client, brand: Brand) -> None:
    """Three of ours among six others whose audiences differ: one of them gets ten times what is usual."""
    for i, level in enumerate((12, 12, 120)):
        fill(
            make_profile(brand, name=f"Us {i}", network=f"n{i}"),
            30,
            lambda n, m=level: {"counts": {"reactions": m + n % 3}},
        )  # type: ignore[misc]
    for i, profile in enumerate(field_of(brand, 6)):
        PostMeasure.objects.filter(profile=profile).update(followers=500 * 2**i)
        ProfileReading.objects.filter(profile=profile).update(followers=500 * 2**i)
    told = get(client, "benchmark", "&by=profile")
    assert told["has_several"]
    assert "choose one network" in told["title"]
    assert told["size_words"].startswith("1 of our 3 profiles")
    assert "Us 2" in told["size_words"]
    assert [point["followers"] for point in told["usual"]] == sorted(point["followers"] for point in told["usual"])


def test_words_of_the_language_alone_are_no_topic(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 3)
    for i in range(2):
        fill(
            rival(brand, f"Rival {i}"), 30, lambda n: {"text": f"what you think about {'comets' if n % 4 == 0 else n}"}
        )
    keys = {group["key"] for group in get(client, "works", "&of=topic")["groups"]}
    assert "comets" in keys
    assert not keys & {"what", "you", "about"}


def test_an_empty_field_says_what_is_missing(client: Client, brand: Brand) -> None:
    for path in ("", "/benchmark", "/axes", "/posts", "/presence", "/works", "/gap"):
        assert client.get(f"{HOME}{path}?{QUERY}").status_code == 200, path
    assert "add competitors" in get(client, "benchmark")["title"]
    assert "None of our own profiles" in get(client, "gap")["problem"]
    fill(make_profile(brand, name="Us"), 3)
    assert get(client, "gap")["problem"]
    assert get(client, "works")["groups"] == []


def test_axes_hold_medians_and_where_each_came_from(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    for profile in field_of(brand, 3):
        fill(profile, 30, start=START - timedelta(days=30))
    told = get(client, "axes", "&x=posts_per_week&y=interactions_per_post")
    assert [dot["name"] for dot in told["dots"]] == ["Orrery House", "Rival 0", "Rival 1", "Rival 2"]
    ys = sorted(dot["y"]["value"] for dot in told["dots"])
    assert told["middle_y"] == pytest.approx((ys[1] + ys[2]) / 2)
    assert len(told["dots"][1]["trail"]) == 1
    assert told["dots"][0]["trail"] == []


def test_presence_tells_of_networks_from_the_others_alone(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    fill(rival(brand, network="commons"), 30)
    fill(rival(brand, network="brevi"), 15)
    told = {network["key"]: network for network in get(client, "presence")["networks"]}
    assert told["brevi"]["ours"] is None
    assert told["commons"]["ours"]["followers"]["value"] == 1290
    assert told["commons"]["others"] == 1
    assert sum(member["share"] for member in told["commons"]["members"]) == pytest.approx(1)
    assert told["brevi"]["members"][0]["share"] == 1


def test_what_works_is_found_where_it_does_and_our_own_use_stands_beside_it(client: Client, brand: Brand) -> None:
    def made(n: int) -> dict[str, Any]:
        return {"format": "album" if n % 3 == 0 else "text", "counts": {"reactions": (60 if n % 3 == 0 else 20) + n % 5},
                "text": f"{'pendulum escapement' if n % 3 == 0 else 'opening hours'} number {n}"}  # fmt: skip

    fill(make_profile(brand, name="Us"), 12, lambda n: made(n) | {"format": "album" if n < 2 else "text"})
    for i in range(4):
        fill(rival(brand, f"Rival {i}"), 30, made)
    told = get(client, "works", "&of=format")
    best = told["groups"][0]
    assert (best["name"], best["verdict"]) == ("album", "better")
    assert best["adjusted"]["value"] == pytest.approx(3, rel=0.25)
    assert (best["ours"], told["ours_of"], told["posts"]) == (2, 12, 120)
    topics = {group["key"]: group for group in get(client, "works", "&of=topic")["groups"]}
    assert topics["escapement"]["verdict"] in ("better", "open")
    assert set(topics["escapement"]["terms"]) == {"escapement", "pendulum"}
    assert topics["escapement"]["ours"] == 4


def test_the_gap_adds_up_and_is_by_the_factor_that_differs(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 15, lambda n: {"counts": {"reactions": 20 + n % 3}})
    them = fill(rival(brand), 30, lambda n: {"counts": {"reactions": 20 + n % 3}})
    told = get(client, "gap", f"&against=c{them.competitor_id}")
    assert told["theirs"] - told["ours"] == pytest.approx(sum(lever["part"] for lever in told["levers"]))
    levers = {lever["factor"]: lever for lever in told["levers"]}
    assert levers["posts"]["part"] > 5 * abs(levers["reaction"]["part"])
    assert levers["posts"]["needed"] == pytest.approx(levers["posts"]["ours"] * told["theirs"] / told["ours"])
    assert "posts a week" in told["title"]
    assert client.get(f"{HOME}/gap?{QUERY}&against=c99999").status_code == 400


def test_best_posts_rise_above_their_own_usual_and_new_ones_are_marked(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 5)
    fill(rival(brand, "Large"), 30, lambda n: {"counts": {"reactions": 1000 + n % 7}})
    fill(rival(brand, "Small"), 30, lambda n: {"counts": {"reactions": 90 if n == 20 else 30 + n % 3},
                                               "text": "A find #Clocks" if n == 20 else "Post"})  # fmt: skip
    told = get(client, "posts")
    assert told["posts"][0]["owner"] == "Small"
    assert told["posts"][0]["index"] == pytest.approx(3, rel=0.1)
    assert (told["total"], told["new"]) == (60, 60)
    assert get(client, "posts", "&text=a+find")["total"] == 1
    assert client.post(f"{HOME}/posts/looked", {}, content_type="application/json").status_code == 204
    assert get(client, "posts")["new"] == 0
    assert get(client, "posts", "&new=true")["posts"] == []


@pytest.mark.parametrize("odd", ["%27", "%5B%22", "%7B%7D%2C", "%5C", "%00", "%E2%80%AE", ".*", "a" * 101])
def test_odd_words_find_nothing_and_break_nothing(client: Client, brand: Brand, odd: str) -> None:
    fill(rival(brand), 3)
    assert client.get(f"{HOME}/posts?{QUERY}&hashtag={odd}").status_code in (200, 400)
    assert client.get(f"{HOME}/posts?{QUERY}&text={odd}").status_code in (200, 400)


@pytest.mark.parametrize(
    "path", ["", "/benchmark", "/axes", "/posts", "/presence", "/works", "/works?of=topic", "/gap"]
)
def test_more_members_take_no_more_queries(client: Client, brand: Brand, path: str) -> None:
    fill(make_profile(brand, name="Us"), 6)
    field_of(brand, 2)
    address = f"{HOME}{path}{'&' if '?' in path else '?'}{QUERY}"
    with CaptureQueriesContext(connection) as few:
        client.get(address)
    for i in range(5):
        fill(rival(brand, f"More {i}"), 6)
    with CaptureQueriesContext(connection) as many:
        client.get(address)
    assert len(many) <= len(few)


def test_hours_of_a_sets_competitors(client: Client, brand: Brand) -> None:
    peers = a_set(brand, make_profile(brand), *field_of(brand, 2))
    told = client.get(f"/api/brands/orrery-house/timing?set={peers.pk}")
    assert told.status_code == 200
    assert {one["name"] for one in told.json()["chosen"]} == {"Rival 0", "Rival 1"}
    assert client.get("/api/brands/orrery-house/timing?set=999999").status_code == 400
