"""Promise: click figures are what one counts by hand, by day, hour, dimension and over a link's whole life."""

from datetime import timedelta

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from dakika_server.brands.models import Brand
from dakika_server.links.models import LinkUse
from dakika_server.links.testing import START, a_link, click
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/links"
WEEK = "first=2026-10-05&last=2026-10-11&compare=previous"


def test_figures_of_a_week_against_the_one_before(client: Client, brand: Brand) -> None:
    campaign = brand.campaigns.create(name="Night Openings", first_day="2026-01-01", last_day="2026-12-31")
    first, second = a_link(brand, "a", network="brevi", campaign=campaign), a_link(brand, "b", network="commons")
    click(first, 0, 20)
    click(first, 24, 10, country="BR", device="computer")
    click(first, 25, 4, bot_reason="agent")
    click(second, 30, 5, referrer="")
    click(second, 31, 2, is_over=True)
    click(first, -24 * 6, 8)
    told = client.get(f"{BASE}?{WEEK}").json()
    figures = told["figures"]
    assert figures["people"] == [20, 15, 0, 0, 0, 0, 0]
    assert figures["bots"] == [0, 4, 0, 0, 0, 0, 0]
    assert figures["over"] == [0, 2, 0, 0, 0, 0, 0]
    assert sum(figures["before"]) == 8
    assert figures["visitors"] == 35
    assert figures["hours"][0][10] == 20  # Monday at ten, by Lisbon's clocks
    assert figures["hours"][1][16] == 5
    assert figures["ratio"]["value"] == pytest.approx(35 / 8)
    assert figures["ratio"]["low"] < 35 / 8 < figures["ratio"]["high"]
    spreads = {k: [(row["name"], row["count"], row["before"]) for row in v] for k, v in figures["spreads"].items()}
    assert spreads["country"] == [("PT", 25, 8), ("BR", 10, 0)]
    assert spreads["referrer"] == [("brevi.example", 30, 8), ("", 5, 0)]
    assert spreads["network"] == [("brevi", 30, 8), ("commons", 5, 0)]
    assert spreads["campaign"] == [("Night Openings", 30, 8), ("", 5, 0)]
    assert spreads["reason"] == [("agent", 4, 0)]
    rows = [
        (
            r["code"],
            r["clicks_in_period"],
            r["clicks_before"],
            r["bots_in_period"],
            r["over_in_period"],
            r["clicks_ever"],
        )
        for r in told["links"]
    ]
    assert rows == [("a", 30, 8, 4, 0, 38), ("b", 5, 0, 0, 2, 5)]
    narrowed = client.get(f"{BASE}?{WEEK}&campaign={campaign.pk}").json()
    assert [r["code"] for r in narrowed["links"]] == ["a"]
    assert sum(narrowed["figures"]["people"]) == 30
    assert sum(client.get(f"{BASE}?{WEEK}&text=nothing").json()["figures"]["people"]) == 0


def test_one_links_life_with_the_posts_that_carried_it(client: Client, brand: Brand) -> None:
    link = a_link(brand, "a", network="brevi")
    own = Profile.objects.create(
        brand=brand, network="brevi", external_id="1", handle="o", name="O", kind="own", added_at=START
    )
    take_posts(
        own,
        [
            PostIn(
                external_id=str(i),
                published_at=START + timedelta(days=20 * i),
                format="link",
                text=f"Post {i}",
                url="",
                readings=[],
            )
            for i in range(2)
        ],
    )
    for post in Post.objects.all():
        LinkUse.objects.create(link=link, post=post)
    for hours, count in ((0.5, 3), (2, 4), (20, 5), (60, 6), (24 * 21, 9)):
        click(link, hours, count)
    told = client.get(f"{BASE}/{link.pk}?{WEEK}").json()
    life = told["life"]
    ages = {age["hours"]: age["count"] for age in life["ages"]}
    assert (ages[1], ages[3], ages[24], ages[72], ages[168], ages[720]) == (3, 7, 12, 18, 18, 27)
    assert life["later"] == 0
    assert (life["first"], sum(life["people"])) == ("2026-10-05", 27)
    assert [use["text"] for use in life["uses"]] == ["Post 0", "Post 1"]
    assert [use["reported"] for use in life["uses"]] == [None, None]
    assert told["link"]["clicks_ever"] == 27
    of_post = client.get(f"{BASE}?post={Post.objects.first().pk}").json()["links"]  # type: ignore[union-attr]
    assert [r["code"] for r in of_post] == ["a"]


def test_the_number_of_queries_does_not_grow_with_links_and_clicks(client: Client, brand: Brand) -> None:
    counts = []
    for round_ in range(2):
        for i in range(1 + round_ * 30):
            click(a_link(brand, f"l{round_}{i}"), i, 3)
        client.get(f"{BASE}?{WEEK}")
        with CaptureQueriesContext(connection) as queries:
            client.get(f"{BASE}?{WEEK}")
        counts.append(len(queries))
    assert counts[0] == counts[1]
    assert counts[1] <= 22


def test_nothing_is_missing_where_nobody_clicked(client: Client, brand: Brand) -> None:
    link = a_link(brand, "a")
    told = client.get(f"{BASE}/{link.pk}?first=2020-01-01&last=2020-01-02").json()
    assert told["figures"]["ratio"] == {"value": None, "low": None, "high": None, "is_sure": False}
    assert told["life"]["uses"] == []


def test_whole_days_are_compared_and_a_click_of_today_is_there_at_once(
    client: Client, brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Wednesday noon: Monday and Tuesday are held against theirs; what Wednesday had is told apart, and listed."""
    link = a_link(brand, "one", network="brevi")
    for day, count in ((-7, 10), (-6, 10), (-5, 50), (-3, 80), (0, 20), (1, 20), (2, 3)):
        click(link, 24 * day, count, referrer="commons.example")
    monkeypatch.setattr(clock, "now", lambda: START + timedelta(days=2, hours=3))
    told = client.get(f"{BASE}?{WEEK}").json()
    figures = told["figures"]
    assert (figures["whole_days"], sum(figures["people"])) == (2, 43)
    assert figures["ratio"]["value"] == pytest.approx(40 / 20)
    assert (told["links"][0]["clicks_in_period"], told["links"][0]["clicks_before"]) == (43, 70)
    (referrer,) = figures["spreads"]["referrer"]
    assert (referrer["count"], referrer["before"]) == (43, 70)
