"""Promise: own and others' profiles stand side by side by the same public figures, each as one reckons it by hand."""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import QUERY, START, fill, make_profile
from dakika_server.sources.intake import take_profile_days
from dakika_server.sources.models import Competitor, Profile

pytestmark = pytest.mark.django_db
BASE = f"/api/brands/orrery-house/competitors?{QUERY}&age=72"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def rival(brand: Brand, name: str = "Halfmoon", network: str = "commons") -> Profile:
    competitor, _ = Competitor.objects.get_or_create(brand=brand, name=name)
    return Profile.objects.create(
        brand=brand, competitor=competitor, network=network, external_id=f"{name}-{network}", handle=name.lower(),
        name=name, kind="competitor", added_at=START,
    )  # fmt: skip


def rows(client: Client, more: str = "") -> dict[str, Any]:
    return {row["name"]: row for row in client.get(BASE + more).json()["profiles"]}


def test_figures_as_one_reckons_them_by_hand(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 30)
    fill(rival(brand), 15, lambda _: {"counts": {"reactions": 40, "comments": 10}})
    told = rows(client)
    us, them = told["Us"], told["Halfmoon"]
    assert us["is_own"]
    assert not them["is_own"]
    assert them["group"] == "Halfmoon"
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
    assert per_1000["value"] == pytest.approx(1000 * per_1000["numerator"] / per_1000["denominator"])
    assert per_1000["interval"]["low"] < per_1000["value"] < per_1000["interval"]["high"]


def test_what_nobody_tells_is_missing_and_no_zero(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 3)
    fill(rival(brand), 5, lambda _: {"counts": {}}, followers=False)
    them = rows(client)["Halfmoon"]
    assert them["followers"]["value"] is None
    assert them["growth"]["value"] is None
    assert them["interactions_per_post"]["value"] is None
    assert them["interactions_per_post"]["missing"] == 5
    # That it posted is known all the same.
    assert them["posts_per_week"]["value"] == pytest.approx(5 * 7 / 30)


def test_posts_too_young_for_the_age_are_counted_apart(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 10)
    old = client.get(f"/api/brands/orrery-house/competitors?{QUERY}&age=672").json()["profiles"][0]
    assert old["interactions_per_post"]["value"] is None
    assert old["interactions_per_post"]["missing"] == 10


def test_a_network_narrows_both_sides(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 3)
    fill(rival(brand, network="brevi"), 3)
    assert set(rows(client, "&network=brevi")) == {"Halfmoon"}
    assert set(rows(client)) == {"Us", "Halfmoon"}


def test_one_that_is_followed_no_more_leaves_the_table(client: Client, brand: Brand) -> None:
    fill(make_profile(brand, name="Us"), 3)
    them = fill(rival(brand), 3)
    Profile.objects.filter(pk=them.pk).update(is_followed=False)
    assert set(rows(client)) == {"Us"}


def test_other_brands_competitors_are_nobodys_here(client: Client, brand: Brand) -> None:
    other = Brand.objects.create(name="Other", slug="other", time_zone="UTC")
    fill(rival(other, "Sundial"), 3)
    fill(make_profile(brand, name="Us"), 3)
    assert set(rows(client)) == {"Us"}


def test_a_number_of_queries_that_does_not_grow(client: Client, brand: Brand, django_assert_num_queries: Any) -> None:
    fill(make_profile(brand, name="Us"), 3)
    from django.db import connection
    from django.test.utils import CaptureQueriesContext

    with CaptureQueriesContext(connection) as few:
        rows(client)
    for i in range(6):
        fill(rival(brand, f"R{i}"), 3)
    with django_assert_num_queries(len(few)):
        assert len(rows(client)) == 7


def test_growth_of_a_profile_that_was_read_once_is_missing_not_none(client: Client, brand: Brand) -> None:
    """Followed a minute ago: one reading says how many there are, and nothing of how many more."""
    them = fill(rival(brand), 2, followers=False)
    take_profile_days(them, [((START + timedelta(days=20)).date(), 500, None, None)], taken_at=START)
    told = rows(client)["Halfmoon"]
    assert (told["followers"]["value"], told["growth"]["value"]) == (500, None)
    take_profile_days(them, [((START + timedelta(days=22)).date(), 510, None, None)], taken_at=START)
    assert rows(client)["Halfmoon"]["growth"]["value"] == pytest.approx(10 / 500)
