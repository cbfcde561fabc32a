"""Promise: every way of counting gives what plain arithmetic on the posts, days and visits gives, and no more."""

import math
from datetime import UTC, date, datetime, timedelta
from statistics import median
from typing import Any
from uuid import uuid4

import pytest
from dakika_core.metrics.catalogue import CATALOGUE, Over, Way
from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.links.models import ClickPeople, LinkPage, PageView
from dakika_server.links.testing import a_link, click
from dakika_server.measures.testing import fill, make_profile
from dakika_server.shared import clock
from dakika_server.site.models import Conversion, Goal, Visit
from dakika_server.sources.models import Comment, Post, Profile, ProfileReading
from django.test import Client

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house"
NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)
# Twenty days, held against the twenty before them.
PERIOD = "first=2026-10-21&last=2026-11-09&age=72"
FIRST, LAST = date(2026, 10, 21), date(2026, 11, 9)
START = datetime(2026, 9, 1, 10, tzinfo=UTC)
DAYS = 80


@pytest.fixture(autouse=True)
def now(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "now", lambda: NOW)


def counts_of(i: int) -> dict[str, int]:
    """A post's counts at its first reading; the second, at 80 hours, has twice as many."""
    return {"reactions": 10 + i * i % 37, "comments": i % 5, "reach": 200 + i, "reactions_like": 4 + i % 7}


@pytest.fixture
def brand(db: Any) -> Brand:
    return Brand.objects.create(name="Orrery House", slug="orrery-house", time_zone="Europe/Lisbon")


@pytest.fixture
def client(brand: Brand) -> Client:
    person = User.objects.create(email="editor@ninthbell.example", name="Ed")
    Membership.objects.create(user=person, brand=brand, role="admin")
    client = Client()
    client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
    return client


@pytest.fixture
def profiles(brand: Brand) -> list[Profile]:
    """Commons with a post a day, Brevi with one every day for half as long that tells no kinds of reactions."""
    commons = fill(
        make_profile(brand), DAYS, lambda i: {"counts": counts_of(i), "format": "image" if i % 3 else "link"},
        days=DAYS, start=START,
    )  # fmt: skip
    brevi = make_profile(brand, "brevi")
    fill(brevi, DAYS // 2, lambda i: {"counts": {"reactions": 3 + i % 4}}, days=DAYS // 2, start=START)
    return [commons, brevi]


def asked(client: Any, metrics: str, study: str = "") -> dict[str, Any]:
    found = client.get(f"{BASE}/results/summary?{PERIOD}{study}&metrics={metrics}")
    assert found.status_code == 200, found.content
    return {one["key"]: one for one in found.json()["metrics"]}


def values_in(profile: Profile, name: str, first: date, last: date, **of: Any) -> list[float]:
    """What the posts of some days have at 72 hours, reckoned from their two readings: at 20 h once, at 80 h twice."""
    found = []
    posts = Post.objects.filter(profile=profile, published_at__date__gte=first, published_at__date__lte=last, **of)
    for post in posts.prefetch_related("readings"):
        at_20, at_80 = sorted(post.readings.all(), key=lambda reading: reading.taken_at)
        low, high = getattr(at_20, name), getattr(at_80, name)
        # The grown share between the readings is the application's business; here it only must be the same for all.
        found.append(low + (high - low) * SHARE)
    return found


# How far a count has come from 20 to 80 hours at 72: told by one post below, the same for all of them.
SHARE = math.nan


@pytest.fixture(autouse=True)
def _share(profiles: list[Profile]) -> None:
    global SHARE
    post = Post.objects.filter(profile=profiles[0]).earliest("published_at")
    low, high = (r.reach for r in post.readings.order_by("taken_at"))
    SHARE = (post.measures.get(age_hours=72).reach - low) / (high - low)
    assert 0.5 < SHARE < 1


def test_the_median_and_the_best_post(client: Any, profiles: list[Profile]) -> None:
    found = asked(client, "reactions_median,reactions_best,applause", "&network=commons")
    now, before = (values_in(profiles[0], "reactions", a, b) for a, b in (
        (FIRST, LAST), (FIRST - timedelta(days=20), FIRST - timedelta(days=1))))  # fmt: skip
    assert found["reactions_median"]["now"]["value"] == pytest.approx(median(now))
    assert found["reactions_median"]["before"]["value"] == pytest.approx(median(before))
    assert found["reactions_best"]["now"]["value"] == pytest.approx(max(now))
    assert found["applause"]["now"]["value"] == pytest.approx(sum(now) / len(now))
    assert found["reactions_median"]["now"]["n"] == 20
    assert found["reactions_best"]["days"] == [pytest.approx(v, abs=1e-4) for v in now]


def test_the_median_opens_the_posts_in_the_middle_and_an_interval_of_ranks(
    client: Any, profiles: list[Profile]
) -> None:
    basis = client.get(f"{BASE}/figures/results.course/basis?{PERIOD}&network=commons&cell=reactions_median").json()
    values = sorted(values_in(profiles[0], "reactions", FIRST, LAST))
    assert [part["value"] for part in basis["parts"]] == [pytest.approx(values[9]), pytest.approx(values[10])]
    # Of twenty the sixth and the fifteenth (Conover; see core test_median_and_totals).
    interval = basis["figure"]["interval"]
    assert (interval["low"], interval["high"]) == (pytest.approx(values[5]), pytest.approx(values[14]))
    assert basis["rule"] == "median"


def test_by_the_day_as_part_of_all_and_as_a_change(client: Any, profiles: list[Profile]) -> None:
    keys = "comments_per_day,comments_share,comments_change,reactions_share"
    found = asked(client, keys, "&format=link")
    links, every = (sum(values_in(profiles[0], "comments", FIRST, LAST, **of)) for of in ({"format": "link"}, {}))
    before = sum(
        values_in(profiles[0], "comments", FIRST - timedelta(days=20), FIRST - timedelta(days=1), format="link")
    )
    assert found["comments_per_day"]["now"]["value"] == pytest.approx(links / 20)
    assert found["comments_share"]["now"]["value"] == pytest.approx(links / every)
    assert found["comments_change"]["now"]["value"] == pytest.approx(links / before - 1)
    assert found["comments_change"]["before"]["value"] is not None  # the comparison's own, against what came before it
    assert found["comments_change"]["change"]["relative"] is None
    # The course tells how the change came about: on the last day it is the change.
    assert found["comments_change"]["days"][-1] == pytest.approx(links / before - 1, abs=1e-4)
    whole = asked(client, keys)
    assert whole["comments_share"]["now"]["value"] == 1


def test_a_share_has_an_interval_and_all_of_it_none(client: Any, profiles: list[Profile]) -> None:
    def interval(study: str) -> Any:
        path = f"{BASE}/figures/results.course/basis?{PERIOD}{study}&cell=comments_share"
        return client.get(path).json()["figure"]["interval"]

    of_links = interval("&format=link")
    assert 0 < of_links["low"] < of_links["high"] <= 1
    assert interval("") is None


def test_a_change_says_between_what_it_lies(client: Any, profiles: list[Profile]) -> None:
    for cell in ("reactions_change", "interactions_change", "comments_change"):
        path = f"{BASE}/figures/results.course/basis?{PERIOD}&network=commons&cell={cell}"
        figure = client.get(path).json()["figure"]
        assert figure["interval"]["low"] < figure["value"] < figure["interval"]["high"], cell
        # The same world in both periods: the interval holds no change.
        assert figure["interval"]["low"] < 0 < figure["interval"]["high"], cell


def test_what_a_network_does_not_tell_is_missing_never_zero(client: Any, profiles: list[Profile]) -> None:
    found = asked(client, "reactions_like,reactions_like_per_post,bookings,calls_median", "&network=brevi")
    assert [found[key]["now"]["value"] for key in found] == [None] * 4
    of_all = asked(client, "reactions_like")["reactions_like"]
    assert of_all["now"]["value"] == pytest.approx(sum(values_in(profiles[0], "reactions_like", FIRST, LAST)))
    assert "Brevi reports no" in of_all["missing_note"]


def test_levels_of_profiles_are_carried_forward(client: Any, profiles: list[Profile]) -> None:
    ProfileReading.objects.filter(profile=profiles[0], day=FIRST - timedelta(days=3)).update(
        following=40, posts_total=7
    )
    ProfileReading.objects.filter(profile=profiles[0], day=LAST - timedelta(days=3)).update(following=44)
    found = asked(client, "following,posts_total,following_change")
    assert (found["following"]["before"]["value"], found["following"]["now"]["value"]) == (40, 44)
    assert found["posts_total"]["now"]["value"] == 7
    assert found["following_change"]["now"]["value"] == pytest.approx(0.1)
    assert found["following"]["days"][0] == 40


def said(post: Post, author: str, at: datetime) -> None:
    Comment.objects.create(
        brand_id=post.brand_id,
        post=post,
        external_id=uuid4().hex,
        author=author,
        text="Lovely",
        written_at=at,
        seen_at=at,
    )


def test_first_comments_are_first_of_all_the_brands_posts(client: Any, profiles: list[Profile]) -> None:
    posts = list(Post.objects.filter(profile=profiles[0]).order_by("published_at"))
    before, within = datetime(2026, 10, 1, tzinfo=UTC), datetime(2026, 10, 25, 12, tzinfo=UTC)
    said(posts[0], "Ada", before)
    said(posts[50], "Ada", within)
    said(posts[50], "Ben", within)
    said(posts[51], "Ben", within + timedelta(hours=1))
    said(posts[51], "Cem", within + timedelta(days=1))
    found = asked(client, "first_comments,commenters")
    assert found["first_comments"]["now"]["value"] == 2  # Ben and Cem
    assert found["commenters"]["now"]["value"] == 3  # Ada and Ben on one day, Cem on the next
    assert found["first_comments"]["before"]["value"] == 1
    of_image = asked(client, "first_comments", f"&format={posts[51].format}")["first_comments"]["now"]["value"]
    assert of_image == sum(posts[i].format == posts[51].format for i in (50, 51))
    assert asked(client, "commenters", "&campaign=999999")["commenters"]["now"]["value"] == 0


def test_clicks_of_bots_after_the_end_by_people_and_through_pages(
    client: Any, brand: Brand, profiles: list[Profile]
) -> None:
    link = a_link(brand, "open", network="commons")
    page = LinkPage.objects.create(brand=brand, slug="orrery", title="Orrery House", created_at=START)
    at = datetime(2026, 10, 28, 9, tzinfo=UTC)
    hours = 23 * 24.0  # after the start of the tests' links
    click(link, hours, 6)
    click(link, hours, 2, page=page)
    click(link, hours, 3, bot_reason="agent")
    click(link, hours, 4, is_over=True)
    for day, people in ((28, 5), (29, 1)):
        ClickPeople.objects.create(brand_id=brand.pk, link_id=link.pk, day=date(2026, 10, day), people=people)
    PageView.objects.create(brand_id=brand.pk, page=page, at=at, people=11, bots=2)
    keys = "tracked_clicks,bot_clicks,late_clicks,page_clicks,page_views,click_visitors"
    found = {key: one["now"]["value"] for key, one in asked(client, keys).items()}
    assert found == {
        "tracked_clicks": 8, "bot_clicks": 3, "late_clicks": 4, "page_clicks": 2, "page_views": 11, "click_visitors": 6
    }  # fmt: skip
    of_network = {key: one["now"]["value"] for key, one in asked(client, keys, "&network=commons").items()}
    assert of_network == found | {"page_views": None}
    of_posts = asked(client, keys, "&format=image")
    assert [of_posts[key]["now"]["value"] for key in ("page_views", "page_clicks", "click_visitors")] == [None] * 3
    assert "not for single posts" in of_posts["page_views"]["missing_note"]
    # Per day: of the days on which any could have been counted, from the first click on.
    assert asked(client, "tracked_clicks_per_day")["tracked_clicks_per_day"]["now"]["value"] == pytest.approx(8 / 13)


def test_what_visits_looked_at_and_what_they_brought(client: Any, brand: Brand, profiles: list[Profile]) -> None:
    at = datetime(2026, 10, 22, 9, tzinfo=UTC)
    campaign = Campaign.objects.create(brand=brand, name="Night Openings", first_day=FIRST, last_day=LAST)
    visits = [
        Visit.objects.create(
            brand=brand, visitor=bytes([i]) * 16, started_at=at, ended_at=at + timedelta(seconds=seconds), pages=pages,
            channel="commons", origin="script", campaign=campaign if i else None,
        )
        for i, (pages, seconds) in enumerate(((1, 0), (3, 90), (5, 30)))
    ]  # fmt: skip
    goal = Goal.objects.create(brand=brand, name="Ticket", kind="event", pattern="ticket", cents=1250, currency="EUR")
    for i, (visit, cents, currency) in enumerate(
        ((visits[1], 1250, "EUR"), (visits[1], 900, "EUR"), (visits[2], 7000, "USD"))
    ):
        Conversion.objects.create(
            brand=brand, goal=goal, visit=visit, key=str(i), at=at, cents=cents, currency=currency
        )
    keys = "visits,single_visits,site_pages,site_seconds,converting_visits,value,site_pages_per_visit,value_per_visit"
    found = asked(client, keys)
    assert {key: one["now"]["value"] for key, one in found.items()} == {
        "visits": 3, "single_visits": 1, "site_pages": 9, "site_seconds": 120, "converting_visits": 2, "value": 21.5,
        "site_pages_per_visit": 3, "value_per_visit": pytest.approx(21.5 / 3),
    }  # fmt: skip
    assert found["value"]["missing_note"].startswith("In EUR; amounts in other currencies are not in it.")
    assert found["value"]["unit"] == "money"
    of_campaign = asked(client, "visits,visits_share", f"&campaign={campaign.pk}")
    assert of_campaign["visits"]["now"]["value"] == 2
    assert of_campaign["visits_share"]["now"]["value"] == pytest.approx(2 / 3)


def test_every_metric_answers_in_every_kind_of_study(client: Any, brand: Brand, profiles: list[Profile]) -> None:
    """Several hundred, a dozen at a time: each answers, and its basis with it, with its value worked out again."""
    keys = list(CATALOGUE)
    for study in ("", "&format=link&network=commons"):
        for at in range(0, len(keys), 12):
            found = asked(client, ",".join(keys[at : at + 12]), study)
            assert list(found) == keys[at : at + 12]
    for way in Way:
        for over in Over:
            of_way = [m.key for m in CATALOGUE.values() if m.way is way and m.over is over]
            for key in of_way[:2]:
                basis = client.get(f"{BASE}/figures/results.course/basis?{PERIOD}&format=link&cell={key}")
                assert basis.status_code == 200, (key, basis.content)


def test_what_is_told_by_one_post_or_of_a_total_is_not_asked_of_single_posts(
    client: Any, profiles: list[Profile]
) -> None:
    for key in ("comments_median", "comments_share", "comments_per_day", "comments_change"):
        rows = client.get(f"{BASE}/results/posts?{PERIOD}&columns=comments,{key}&sort=-{key}").json()
        assert set(rows["posts"][0]["values"]) == {"comments"}
        assert client.get(f"{BASE}/results/groups?{PERIOD}&by=format&metric={key}").status_code == 400
        assert client.get(f"{BASE}/results/posts/top?{PERIOD}&metric={key}").status_code == 400
        told = client.get(f"{BASE}/results/decomposition?{PERIOD}&metric={key}").json()
        assert told["reason"].startswith("It is ")
