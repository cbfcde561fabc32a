"""Promise: clicks, visits and conversions stand in the summary like any other figure, and none is not the same as unknown."""

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand, Campaign
from dakika_server.links.models import Click, LinkUse, TrackedLink
from dakika_server.results.models import PostTag, Tag
from dakika_server.shared import clock
from dakika_server.site.models import Conversion, Goal, Visit
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
FIGURES = "/api/brands/orrery-house/figures"
MONDAY = datetime(2026, 10, 5, 9, tzinfo=UTC)
WEEK = "first=2026-10-05&last=2026-10-11&compare=previous"
KEYS = "tracked_clicks,visits,conversions,visit_rate,conversion_rate"


@pytest.fixture
def links(brand: Brand) -> list[TrackedLink]:
    """Links for two networks, ten and five clicks on Monday and Tuesday; six visits and two conversions."""
    made = []
    for code, network in (("a", "brevi"), ("b", "commons")):
        page = f"https://orrery.example/{code}"
        made.append(
            TrackedLink.objects.create(
                brand=brand, code=code, name=code, destination=page, target=page, created_at=MONDAY, network=network
            )
        )
    for link, days, count in ((made[0], 0, 10), (made[1], 1, 5)):
        Click.objects.bulk_create(
            Click(brand=brand, link=link, key=uuid.uuid4(), at=MONDAY + timedelta(days=days), device="phone",
                  visitor=uuid.uuid4().bytes)
            for _ in range(count)
        )  # fmt: skip
    # An empty reason is a person's; a bot's click stands nowhere here.
    Click.objects.create(
        brand=brand, link=made[0], key=uuid.uuid4(), at=MONDAY, device="phone", visitor=b"b" * 16, bot_reason="agent"
    )
    visits = [visit(brand, "brevi", 0, link=made[0]) for _ in range(4)]
    visits += [visit(brand, "commons", 1), visit(brand, "direct", 1)]
    goal = Goal.objects.create(brand=brand, name="Ticket", kind="page", pattern="*/thanks")
    for i, of in enumerate((visits[0], visits[5])):
        Conversion.objects.create(
            brand=brand, goal=goal, visit=of, key=str(i), at=of.started_at, cents=100, currency="EUR"
        )
    return made


def visit(brand: Brand, channel: str, days: float, **values: Any) -> Visit:
    at = MONDAY + timedelta(days=days)
    return Visit.objects.create(
        brand=brand, visitor=uuid.uuid4().bytes, started_at=at, ended_at=at, pages=1, channel=channel, origin="script",
        **values,
    )  # fmt: skip


def summary(client: Client, more: str = "") -> dict[str, Any]:
    told = client.get(f"{BASE}/summary?{WEEK}&metrics={KEYS}{more}").json()
    return {m["key"]: m for m in told["metrics"]}


def test_the_week_by_day_and_network(client: Client, links: list[TrackedLink]) -> None:
    found = summary(client)
    assert found["tracked_clicks"]["days"] == [10, 5, 0, 0, 0, 0, 0]
    # One came directly: no network brought it, so neither it nor what it bought is here.
    assert found["visits"]["days"] == [4, 1, 0, 0, 0, 0, 0]
    assert found["conversions"]["now"]["value"] == 1
    assert found["visit_rate"]["now"]["value"] == pytest.approx(4 / 15)
    assert found["conversion_rate"]["now"]["value"] == pytest.approx(1 / 5)
    parts = {p["network"]: p["value"] for p in found["tracked_clicks"]["networks"]}
    assert parts == {"brevi": 10, "commons": 5}


def test_before_anything_was_counted_nothing_is_said(client: Client, links: list[TrackedLink]) -> None:
    found = summary(client)
    for metric in found.values():
        assert metric["before"]["value"] is None
        assert metric["change"]["relative"] is None
    later = client.get(f"{BASE}/summary?first=2026-10-12&last=2026-10-18&metrics={KEYS}").json()["metrics"]
    assert [m["now"]["value"] for m in later] == [0, 0, 0, None, None]


def test_days_to_come_are_unknown(client: Client, links: list[TrackedLink]) -> None:
    ahead = clock.now().date() + timedelta(days=3)
    told = client.get(f"{BASE}/summary?first={ahead - timedelta(days=6)}&last={ahead}&metrics={KEYS}").json()
    assert told["metrics"][0]["days"][-2:] == [None, None]


def test_a_network_and_a_profile_narrow_it(client: Client, links: list[TrackedLink], brand: Brand) -> None:
    own_profile = Profile.objects.create(
        brand=brand,
        network="commons",
        kind="own",
        external_id="x",
        handle="orrery",
        name="Orrery House",
        added_at=MONDAY,
    )
    assert summary(client, "&network=commons")["tracked_clicks"]["now"]["value"] == 5
    # By profile it takes the posts that carry the links.
    assert summary(client, f"&profile={own_profile.pk}")["tracked_clicks"]["now"]["value"] == 0
    posts = [
        PostIn(external_id=name, published_at=MONDAY + timedelta(days=days), format=kind, text="", url="")
        for name, days, kind in (("one", -1, "image"), ("two", 1, "text"))
    ]  # fmt: skip
    take_posts(own_profile, posts)
    first, second = Post.objects.order_by("published_at")
    for post in (first, second):
        LinkUse.objects.create(link=links[1], post=post)
    Visit.objects.filter(channel="commons").update(post=second)
    found = summary(client, f"&profile={own_profile.pk}")
    assert found["tracked_clicks"]["now"]["value"] == 5
    assert found["visits"]["now"]["value"] == 1
    # The clicks of Tuesday at nine belong to the post of that hour, not to the one before it.
    assert summary(client, "&format=text")["tracked_clicks"]["now"]["value"] == 5
    assert summary(client, "&format=image")["tracked_clicks"]["now"]["value"] == 0
    tag = Tag.objects.create(brand=brand, name="night", colour=1)
    assert summary(client, f"&tag={tag.pk}")["visits"]["now"]["value"] == 0


def test_the_basis_gives_the_sums_and_the_interval(client: Client, links: list[TrackedLink]) -> None:
    told = client.get(f"{FIGURES}/results.course/basis?{WEEK}&cell=visit_rate").json()
    assert told["formula"] == "4 ÷ 15 = 26.7 %"
    assert told["counted"] == "15 clicks"
    # Wilson, as scipy says it: binomtest of 4 in 15.
    assert told["figure"]["interval"]["low"] == pytest.approx(0.1090, abs=5e-5)
    assert told["figure"]["interval"]["high"] == pytest.approx(0.5195, abs=5e-5)
    assert told["holes"] == ""


def test_days_open_to_links_and_posts_have_no_such_column(client: Client, links: list[TrackedLink]) -> None:
    told = client.get(f"{BASE}/spikes?{WEEK}&metric=visits").json()
    assert (told["is_by_day"], told["behind"]) == (True, "links")
    assert client.get(f"{BASE}/spikes/behind?{WEEK}&metric=visits&day=2026-10-05").status_code == 400
    listed = {m["key"]: m for m in client.get(f"{BASE}/metrics").json()["metrics"]}
    assert listed["visits"]["over"] == "brought"
    assert not listed["visits"]["is_of_posts"]
    tried = client.get(f"{BASE}/metrics/tried?{WEEK}&formula=visits / reach").json()
    assert "visits" in tried["fault"]["message"]


def test_another_brand_sees_nothing_of_it(client_of: Any, stranger: Any, links: list[TrackedLink]) -> None:
    assert client_of(stranger).get(f"{BASE}/summary?{WEEK}&metrics={KEYS}").status_code in (403, 404)


@pytest.mark.parametrize("part", ["profile", "format", "tag", "language", "boosted", "network", "campaign"])
def test_the_page_of_traffic_says_what_the_summary_says_of_every_study(
    part: str, client: Client, links: list[TrackedLink], brand: Brand
) -> None:
    profile = Profile.objects.create(
        brand=brand, network="brevi", kind="own", external_id="y", handle="y", name="Y", added_at=MONDAY
    )
    take_posts(
        profile,
        [
            PostIn(external_id="one", published_at=MONDAY - timedelta(days=1), format="image", text="", url="",
                   language="pt", is_boosted=True)
        ],
    )  # fmt: skip
    post = Post.objects.get()
    LinkUse.objects.create(link=links[0], post=post)
    tag = Tag.objects.create(brand=brand, name="gears", colour=1)
    PostTag.objects.create(post=post, tag=tag)
    campaign = Campaign.objects.create(brand=brand, name="Night", first_day=MONDAY.date(), last_day=MONDAY.date())
    TrackedLink.objects.filter(pk=links[0].pk).update(campaign=campaign)
    given = {"profile": profile.pk, "format": "image", "tag": tag.pk, "language": "pt", "boosted": "yes",
             "network": "brevi", "campaign": campaign.pk}  # fmt: skip
    other = {"profile": None, "format": "album", "tag": 0, "language": "de", "boosted": None, "network": "pictor",
             "campaign": 0}  # fmt: skip
    told = client.get(f"/api/brands/orrery-house/site/traffic?{WEEK}&{part}={given[part]}").json()
    assert told["clicks"] == summary(client, f"&{part}={given[part]}")["tracked_clicks"]["days"] == [10, *[0] * 6]
    assert told["site_visits"] is None
    monday = f"/api/brands/orrery-house/links/behind?{WEEK}&day=2026-10-05"
    behind = client.get(f"{monday}&{part}={given[part]}").json()
    assert (behind["value"], [(p["name"], p["count"]) for p in behind["links"]]) == (10, [("a", 10)])
    if other[part] is not None:
        nothing = client.get(f"/api/brands/orrery-house/site/traffic?{WEEK}&{part}={other[part]}").json()
        assert sum(nothing["clicks"]) == 0
        assert client.get(f"{monday}&{part}={other[part]}").json()["links"] == []


def test_the_basis_of_visits_and_clicks_names_those_that_stand_elsewhere(
    client: Client, links: list[TrackedLink], brand: Brand
) -> None:
    basis = client.get(f"{FIGURES}/results.course/basis?{WEEK}&cell=visits").json()
    assert basis["figure"]["value"] == 5
    assert {one["name"]: one["value"] for one in basis["related"]} == {"Visits of the site": 6, "Visits of posts": 0}
    profile = Profile.objects.create(
        brand=brand, network="brevi", kind="own", external_id="z", handle="z", name="Z", added_at=MONDAY
    )
    of_network = client.get(f"{FIGURES}/results.course/basis?{WEEK}&cell=tracked_clicks&network=brevi").json()
    related = {one["counted"]: (one["value"], one["path"]) for one in of_network["related"]}
    assert of_network["figure"]["value"] == 10
    assert related["in posts of Z"] == (0, f"results/traffic?profile={profile.pk}")
    of_profile = client.get(f"{FIGURES}/results.course/basis?{WEEK}&cell=tracked_clicks&profile={profile.pk}").json()
    assert {one["counted"]: one["value"] for one in of_profile["related"]}["on links made for Brevi"] == 10
