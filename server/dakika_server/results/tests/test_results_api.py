"""Promise: figures are added up rightly, lists ask a fixed number of questions, and every figure has its basis."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from dakika_server.measures.measuring import measure_profile
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts, take_profile_days
from dakika_server.sources.models import Profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
FIGURES = "/api/brands/orrery-house/figures"
START = datetime(2026, 10, 1, 10, tzinfo=UTC)
QUERY = "first=2026-10-01&last=2026-10-30"


def fill(brand: Any, posts: int, network: str = "commons", reach: int | None = 100) -> Profile:
    profile = Profile.objects.create(
        brand=brand, network=network, external_id=f"x-{network}", handle="x", name="X", kind="own", added_at=START
    )
    rows = []
    for i in range(posts):
        at = START + timedelta(days=i % 30, minutes=i)
        counts = {"reactions": 10, "comments": 2} | ({"reach": reach} if reach else {})
        readings = [
            (at + timedelta(hours=h), {k: v * s for k, v in counts.items()}, None) for h, s in ((20, 1), (80, 2))
        ]
        rows.append(
            PostIn(external_id=str(i), published_at=at, format="text", text=f"Post {i}", url="", readings=readings)
        )
    take_posts(profile, rows)
    days = [((START + timedelta(days=i)).date(), 1000 + 10 * i, 12, 2) for i in range(30)]
    take_profile_days(profile, days, taken_at=START)
    measure_profile(profile)
    return profile


def metrics(client: Any, query: str = QUERY) -> dict[str, Any]:
    return {m["key"]: m for m in client.get(f"{BASE}/summary?{query}").json()["metrics"]}


def test_the_summary_of_a_hand_worked_example(client: Any, brand: Any) -> None:
    # Ten posts, each read twice: 24 interactions and a reach of 200 at last; 30 days of ten followers more.
    fill(brand, 10)
    found = metrics(client, f"{QUERY}&metrics=interactions,reach,er_reach,followers,net_followers,posts")
    assert found["interactions"]["now"]["value"] == pytest.approx(240)
    assert found["reach"]["now"]["value"] == pytest.approx(2000)
    assert found["er_reach"]["now"]["value"] == pytest.approx(0.12)
    assert found["followers"]["now"]["value"] == 1290
    assert found["net_followers"]["now"]["value"] == 300
    assert found["posts"]["now"]["value"] == 10
    assert sum(v or 0 for v in found["interactions"]["days"]) == pytest.approx(240, abs=0.01)


def test_whole_days_are_held_against_whole_days(client: Any, brand: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    """With the tenth day half over, nine are held against nine; the tenth is told apart, and days to come are none."""
    fill(brand, 30)
    monkeypatch.setattr(clock, "now", lambda: datetime(2026, 10, 20, 11, tzinfo=UTC))
    query = (
        "first=2026-10-11&last=2026-10-24&metrics=interactions,posts,er_reach,followers,net_followers,posts_per_week"
    )
    answer = client.get(f"{BASE}/summary?{query}").json()
    assert answer["whole_days"] == 9
    found = {m["key"]: m for m in answer["metrics"]}
    for key, by_day in (("interactions", "days"), ("posts", "days"), ("net_followers", "days")):
        metric = found[key]
        assert metric["now"]["value"] == pytest.approx(sum(v or 0 for v in metric[by_day][:9]), abs=0.01)
        assert metric["before"]["value"] == pytest.approx(sum(v or 0 for v in metric["days_before"][:9]), abs=0.01)
        assert metric["today"] == metric["days"][9]
    assert (found["posts"]["now"]["value"], found["posts"]["before"]["value"]) == (9, 5)
    assert found["posts_per_week"]["now"]["value"] == pytest.approx(7)
    # Ten followers more a day: the ends of the ninth day and of the ninth day before.
    assert found["followers"]["now"]["value"] - found["followers"]["before"]["value"] == 140
    basis = client.get(f"{FIGURES}/results.course/basis?{query}&cell=interactions").json()
    assert basis["period"]["last"] == "2026-10-19"
    assert basis["figure"]["value"] == pytest.approx(found["interactions"]["now"]["value"])


def test_before_the_first_day_is_over_nothing_is_compared(
    client: Any, brand: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    fill(brand, 30)
    monkeypatch.setattr(clock, "now", lambda: datetime(2026, 10, 20, 11, tzinfo=UTC))
    (metric,) = client.get(f"{BASE}/summary?first=2026-10-20&last=2026-10-20&metrics=posts").json()["metrics"]
    assert (metric["now"]["value"], metric["before"]["value"], metric["change"]["difference"]) == (1, None, None)
    found = client.get(f"{BASE}/decomposition?first=2026-10-20&last=2026-10-20&metric=posts").json()
    assert "No day of this period is over" in found["reason"]


def test_a_network_that_reports_no_reach_is_left_out_and_said(client: Any, brand: Any) -> None:
    fill(brand, 6)
    fill(brand, 6, network="brevi", reach=None)
    assert metrics(client)["er_reach"]["now"]["value"] == pytest.approx(0.12)
    basis = client.get(f"{FIGURES}/results.course/basis?cell=er_reach&{QUERY}").json()
    assert "Brevi reports no reach" in basis["missing"]
    assert basis["formula"] == "144 ÷ 1,200 = 12 %"
    assert basis["counted"] == "6 posts that have both"


def test_figures_of_like_names_stand_beside_one_another(client: Any, brand: Any) -> None:
    """Ten posts of October brought 240 in it; at 20 hours they had 120, and a post of September still brought more."""
    fill(brand, 10)
    basis = client.get(f"{FIGURES}/results.course/basis?{QUERY}&cell=interactions&age=24").json()
    assert (basis["what"], basis["counted"], basis["counted_before"]) == ("received", "10 posts", "")
    found = {one["counted"]: one for one in basis["related"]}
    assert list(found) == ["at 24 hours", "as last seen"]
    assert found["as last seen"]["value"] == 240
    rows = client.get(f"{BASE}/posts/totals?{QUERY}&columns=reactions,comments&age=24").json()["whole"]["values"]
    assert found["at 24 hours"]["value"] == pytest.approx(rows["reactions"] + rows["comments"])
    assert found["at 24 hours"]["path"] == "results/posts?age=24"
    later = client.get(f"{FIGURES}/results.course/basis?first=2026-10-16&last=2026-10-30&cell=interactions").json()
    assert later["counted_before"] == "10 posts"
    (clicks,) = client.get(f"{BASE}/summary?{QUERY}&metrics=clicks").json()["metrics"]
    assert clicks["counted"] == "told by networks"
    names = [one["name"] for one in client.get(f"{FIGURES}/results.course/basis?{QUERY}&cell=clicks").json()["related"]]
    assert "Clicks on tracked links" in names


def test_nothing_is_said_to_be_missing_only_where_nothing_is(client: Any, brand: Any) -> None:
    fill(brand, 6)
    profile = fill(brand, 0, network="brevi")
    take_posts(profile, [PostIn(external_id="n", published_at=START, format="text", text="", url="",
                                readings=[(START + timedelta(hours=80), {"reach": 4}, None)])])  # fmt: skip
    measure_profile(profile)
    basis = client.get(f"{FIGURES}/results.course/basis?cell=interactions&{QUERY}").json()
    assert (basis["figure"]["missing"], basis["missing"]) == (1, "1 post tells nothing of it.")


def test_nothing_known_is_missing_not_zero(client: Any, brand: Any) -> None:
    fill(brand, 3)
    found = metrics(client, "first=2020-01-01&last=2020-01-28")
    assert found["reach"]["now"]["value"] is None
    assert found["followers"]["now"]["value"] is None
    assert found["posts"]["now"]["value"] is None
    assert metrics(client, f"{QUERY}&format=album")["posts"]["now"]["value"] == 0  # posts are known, none is an album


def test_posts_are_sorted_and_the_unknown_comes_last(client: Any, brand: Any) -> None:
    fill(brand, 40)
    for sort in ("-index", "index", "-reach", "published_at", "nonsense"):
        page = client.get(f"{BASE}/posts?{QUERY}&sort={sort}&limit=15").json()
        assert (page["total"], len(page["posts"])) == (40, 15)
    rows = client.get(f"{BASE}/posts?{QUERY}&sort=-published_at&text=post 3").json()["posts"]
    assert all("post 3" in row["text"].lower() for row in rows)


@pytest.mark.parametrize("path", ["posts?limit=100&", "summary?", "basis?metric=reach&"])
def test_the_number_of_queries_does_not_grow_with_the_posts(path: str, client: Any, brand: Any) -> None:
    counts = []
    fill(brand, 5)
    client.get(f"{BASE}/{path}{QUERY}")
    with CaptureQueriesContext(connection) as few:
        client.get(f"{BASE}/{path}{QUERY}")
    fill(brand, 60, network="brevi")
    with CaptureQueriesContext(connection) as many:
        client.get(f"{BASE}/{path}{QUERY}")
    counts = [len(few), len(many)]
    assert counts[0] == counts[1]
    assert counts[1] <= 25


@pytest.mark.parametrize(
    "query",
    ["first=x", "first=2026-02-02&last=2026-02-01", "compare=nonsense", "age=5", "first=0001-01-01&last=0001-01-02",
     "format=<script>", "profile=abc", "first=1990-01-01&last=2020-01-01"],
)  # fmt: skip
def test_bad_questions_get_problem_documents(query: str, client: Any) -> None:
    answer = client.get(f"{BASE}/summary?{query}")
    assert answer.status_code == 400
    assert answer["Content-Type"] == "application/problem+json"
    assert answer.json()["errors"]


def test_another_brands_post_is_not_found(client: Any, stranger: Any) -> None:
    from dakika_server.brands.models import Brand
    from dakika_server.sources.models import Post

    fill(Brand.objects.get(slug="lantern-line"), 1)
    assert client.get(f"{BASE}/posts/{Post.objects.get().pk}").status_code == 404


def test_measuring_twice_gives_the_same(client: Any, brand: Any) -> None:
    profile = fill(brand, 12)
    first = metrics(client)
    measure_profile(profile)
    assert metrics(client) == first


def test_competitors_and_timing_answer_for_a_fresh_brand(client: Any, brand: Any) -> None:
    base = "/api/brands/orrery-house"
    assert client.get(f"{base}/competitors").json()["rows"] == []
    assert client.get(f"{base}/timing").status_code == 404
    fill(brand, 3)
    week = client.get(f"{base}/timing").json()
    assert (week["stands_by"], week["has_effect"]) == ("network", False)
    assert client.get(f"{base}/timing?zone=Nowhere/Land").status_code == 400


def test_the_line_shows_a_hole_only_where_something_was_to_be_collected(client: Any, brand: Any) -> None:
    from dakika_server.sources.models import ProfileReading

    profile = fill(brand, 1)
    ProfileReading.objects.filter(profile=profile).delete()
    today = clock.now().astimezone(brand.zone).date()
    days = [today - timedelta(days=n) for n in (5, 4, 2, 1)]
    ProfileReading.objects.bulk_create(
        ProfileReading(brand=brand, profile=profile, day=day, taken_at=clock.now(), followers=9) for day in days
    )
    # One that was connected a minute ago, and one that only a file knows: neither has a reading, neither is a hole.
    for external_id in ("new", "file:old-page"):
        Profile.objects.create(
            brand=brand, network="brevi", external_id=external_id, handle=external_id, name=external_id, kind="own",
            added_at=clock.now(),
        )  # fmt: skip
    assert client.get("/api/brands/orrery-house/line").json()["holes"] == [str(today - timedelta(days=3))]
