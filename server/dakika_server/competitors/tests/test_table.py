"""Promise: own and others' profiles stand side by side by the same public figures, each as one reckons it by hand."""

import random
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.competitors.testing import HOME, QUERY, a_set, field_of, other_brand, rival
from dakika_server.measures.days import sum_up_days
from dakika_server.measures.models import PostMeasure
from dakika_server.measures.testing import START, fill, make_profile
from dakika_server.sources.intake import take_profile_days
from dakika_server.sources.models import Profile

pytestmark = pytest.mark.django_db
BASE = f"{HOME}?{QUERY}&by=profile"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def figures(client: Client, more: str = "", base: str = BASE) -> dict[str, Any]:
    """By name, each figure as it is now."""
    return {
        row["name"]: {key: figure["now"] for key, figure in row["figures"].items()} | {"is_own": row["is_own"]}
        for row in client.get(base + more).json()["rows"]
    }


def test_figures_as_one_reckons_them_by_hand(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    fill(rival(brand), 15, lambda _: {"counts": {"reactions": 40, "comments": 10}})
    told = figures(client)
    us, them = told["Us"], told["Halfmoon"]
    assert us["is_own"]
    assert not them["is_own"]
    # Thirty posts in thirty days are seven a week; days without posts count.
    assert us["posts_per_week"]["value"] == pytest.approx(7.0)
    assert them["posts_per_week"]["value"] == pytest.approx(3.5)
    # Between 20 hours (12 and 50) and 80 hours (24 and 100) the counts at 72 hours lie nearer to the later ones.
    assert 12 < us["interactions_per_post"]["value"] < 24
    assert 50 < them["interactions_per_post"]["value"] < 100
    assert them["interactions_per_post"]["value"] / us["interactions_per_post"]["value"] == pytest.approx(50 / 12)
    # Followers grow from 1,000 by ten a day.
    assert us["followers"]["value"] == 1290
    assert us["growth"]["value"] == pytest.approx(290 / 1000)
    per_1000 = us["interactions_per_1000"]
    assert per_1000["value"] == pytest.approx(per_1000["numerator"] / per_1000["denominator"])
    assert per_1000["interval"]["low"] < per_1000["value"] < per_1000["interval"]["high"]


def test_what_nobody_tells_is_missing_and_no_zero(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 3)
    fill(rival(brand), 5, lambda _: {"counts": {}}, followers=False)
    them = figures(client)["Halfmoon"]
    assert them["followers"]["value"] is None
    assert them["growth"]["value"] is None
    assert them["interactions_per_post"]["value"] is None
    assert them["interactions_per_post"]["missing"] == 5
    # That it posted is known all the same.
    assert them["posts_per_week"]["numerator"] == 5


def test_posts_too_young_for_the_age_are_counted_apart(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 10)
    old = figures(client, base=BASE.replace("age=72", "age=672"))["Us"]
    assert old["interactions_per_post"]["value"] is None
    assert old["interactions_per_post"]["missing"] == 10


def test_a_network_narrows_both_sides(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 3)
    fill(rival(brand, network="brevi"), 3)
    assert set(figures(client, "&network=brevi")) == {"Halfmoon"}
    assert set(figures(client)) == {"Us", "Halfmoon"}


def test_one_that_is_followed_no_more_leaves_the_table(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 3)
    them = fill(rival(brand), 3)
    Profile.objects.filter(pk=them.pk).update(is_followed=False)
    assert set(figures(client)) == {"Us"}


def test_other_brands_competitors_are_nobodys_here(client: Client, brand: Brand) -> None:
    other = Brand.objects.create(name="Other", slug="other", time_zone="UTC")
    fill(rival(other, "Sundial"), 3)
    fill(make_profile(brand, name="Us"), 3)
    assert set(figures(client)) == {"Us"}


def test_a_number_of_queries_that_does_not_grow(client: Client, brand: Brand, django_assert_num_queries: Any) -> None:
    fill(make_profile(brand, name="Us"), 3)
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    with CaptureQueriesContext(connection) as few:
        figures(client)
    for i in range(6):
        fill(rival(brand, f"R{i}"), 3)
    with django_assert_num_queries(len(few)):
        assert len(figures(client)) == 7


def test_growth_of_a_few_days_is_not_held_against_that_of_a_month(client: Client, brand: Brand) -> None:
    """Followed in the middle of the period: how many there are is known, and not how many more."""
    them = fill(rival(brand), 2, followers=False)
    for day, many in ((20, 500), (22, 510)):
        take_profile_days(them, [((START + timedelta(days=day)).date(), many, None, None)], taken_at=START)
    told = figures(client)["Halfmoon"]
    assert (told["followers"]["value"], told["growth"]["value"]) == (510, None)
    take_profile_days(them, [((START + timedelta(days=1)).date(), 400, None, None)], taken_at=START)
    assert figures(client)["Halfmoon"]["growth"]["value"] == pytest.approx(110 / 400)


def test_a_competitor_is_one_row_that_opens_to_its_profiles(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 10)
    for network in ("commons", "brevi"):
        fill(rival(brand, network=network), 10)
    told = {row["name"]: row for row in client.get(f"{HOME}?{QUERY}").json()["rows"]}
    them = told["Halfmoon"]
    assert sorted(them["networks"]) == ["brevi", "commons"]
    inner = [profile["figures"] for profile in them["profiles"]]
    assert len(inner) == 2
    for column in ("followers", "posts_per_week", "interactions_per_week"):
        parts = sum(figures[column]["now"]["value"] for figures in inner)
        assert them["figures"][column]["now"]["value"] == pytest.approx(parts), column
    assert told["Orrery House"]["is_own"]
    shares = [row["figures"]["share"]["now"]["value"] for row in told.values()]
    assert sum(shares) == pytest.approx(1)


def test_places_are_told_with_those_that_are_not_ruled_out(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30, lambda n: {"counts": {"reactions": 22 + n % 4}})
    field_of(brand, 5)
    (us,) = [row for row in client.get(f"{HOME}?{QUERY}").json()["rows"] if row["is_own"]]
    place = us["figures"]["interactions_per_post"]["place"]
    assert place["of"] == 6
    assert place["best"] <= place["rank"] <= place["worst"]
    assert place["next_name"] == f"Rival {3 if place['rank'] == 3 else 2}"


def test_a_set_narrows_and_one_of_another_brand_is_not_there(client: Client, brand: Brand) -> None:
    us, one, _ = make_profile(brand, name="Us"), *field_of(brand, 2)
    peers = a_set(brand, us, one)
    assert set(figures(client, f"&set={peers.pk}")) == {"Us", "Rival 0"}
    theirs = a_set(other_brand(), one, name="Theirs")
    assert client.get(f"{BASE}&set={theirs.pk}").status_code == 400
    assert client.get(f"{BASE}&set=99999999999999999999").status_code == 400


def test_a_hole_in_what_was_read_makes_nobody_better_or_worse(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    them = fill(rival(brand), 30)
    before = figures(client)["Halfmoon"]
    PostMeasure.objects.filter(profile=them, published_at__lt=START + timedelta(days=10)).update(
        interactions=None, reactions=None
    )
    with connection.cursor() as cursor:
        sum_up_days(cursor, them)
    after = figures(client)["Halfmoon"]
    for column in ("posts_per_week", "interactions_per_week", "interactions_per_post"):
        assert after[column]["value"] == pytest.approx(before[column]["value"]), column
    assert after["interactions_per_post"]["missing"] == 10


def test_sums_that_are_kept_say_what_the_posts_themselves_say(client: Client, brand: Brand) -> None:
    """A study of all formats by name adds up posts; one of none reads what was added up by day."""
    us, them = fill(make_profile(brand, name="Us"), 30), fill(rival(brand), 30)
    draw = random.Random(7)
    for measure in PostMeasure.objects.all():
        measure.interactions = draw.choice([None, draw.uniform(0, 900)])
        measure.followers = draw.choice([None, 0.0, draw.uniform(10, 9000)])
        measure.reactions, measure.comments, measure.shares = (draw.choice([None, draw.uniform(0, 90)]) for _ in "rcs")
        measure.save()
    with connection.cursor() as cursor:
        for profile in (us, them):
            sum_up_days(cursor, profile)
    formats = PostMeasure.objects.values_list("format", flat=True).distinct()
    named = "&format=" + ",".join(sorted(formats))
    for path in ("", "/benchmark", "/axes", "/presence", "/gap"):
        asked = f"{HOME}{path}?{QUERY}"
        kept, whole = client.get(asked).json(), client.get(asked + named).json()
        assert differing(kept, whole) == [], path


def differing(one: Any, other: Any, at: str = "") -> list[str]:
    """Where two answers differ by more than the order of adding up."""
    if isinstance(one, dict) and isinstance(other, dict) and one.keys() == other.keys():
        return [found for key in one for found in differing(one[key], other[key], f"{at}.{key}")]
    if isinstance(one, list) and isinstance(other, list) and len(one) == len(other):
        return [
            found for i, pair in enumerate(zip(one, other, strict=True)) for found in differing(*pair, f"{at}[{i}]")
        ]
    is_close = isinstance(one, float) and isinstance(other, float) and one == pytest.approx(other, rel=1e-6, abs=1e-6)
    return [] if one == other or is_close else [f"{at}: {one} and {other}"]


def test_what_is_not_known_of_the_last_days_slows_nobody_down(client: Client, brand: Brand) -> None:
    """Collected until the fifteenth: what was published after that is not none."""
    fill(make_profile(brand, name="Us"), 30)
    fill(rival(brand), 15, days=15)
    assert figures(client)["Halfmoon"]["posts_per_week"]["value"] == pytest.approx(7.0)
