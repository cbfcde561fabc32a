"""Promise: a team's metric counts wherever a metric is chosen; a spike leads to its posts; findings are kept and acted on."""

from datetime import timedelta
from typing import Any

import numpy as np
import pytest
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.measures.testing import QUERY, START, fill, make_profile
from dakika_server.results.findings import find
from dakika_server.results.jobs import find_for
from dakika_server.results.models import Finding
from dakika_server.results.morning import MORNING
from dakika_server.shared import clock
from dakika_server.sources.intake import take_profile_days
from dakika_server.sources.models import AudienceReading, Competitor, Post, Profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
FIGURES = "/api/brands/orrery-house/figures"
JSON = {"content_type": "application/json"}


@pytest.fixture
def profile(brand: Any) -> Profile:
    return fill(make_profile(brand), 30)


def own(client: Any, **changed: Any) -> Any:
    body = {"name": "Talk", "formula": "(comments + 2 * shares) / reach", "definition": "Talk for each who saw it."}
    return client.post(f"{BASE}/metrics", body | changed, **JSON)


def test_the_catalogue_says_who_supplies_what(client: Any, profile: Any) -> None:
    said = {m["key"]: m for m in client.get(f"{BASE}/metrics").json()["metrics"]}
    rate = said["er_reach"]
    assert [n in rate["own_networks"] for n in ("commons", "brevi")] == [True, False]
    assert "commons" not in rate["public_networks"]
    assert "commons" not in said["lost_followers"]["public_networks"]
    assert "commons" not in said["lost_followers_share"]["public_networks"]
    assert said["er_reach"]["formula"] == "interactions / reach"


def test_a_teams_metric_counts_everywhere(client: Any, profile: Any) -> None:
    key = own(client, formula="comments / reach").json()["key"]
    assert key == "own_talk"
    figure = client.get(f"{BASE}/summary?{QUERY}&metrics={key}").json()["metrics"][0]
    # By hand: at 72 h each post has the same share of its counts, 2 comments to 100 reached.
    assert figure["now"]["value"] == pytest.approx(0.02)
    assert figure["unit"] == "rate"
    basis = client.get(f"{FIGURES}/results.course/basis?{QUERY}&cell={key}").json()
    assert basis["figure"]["n"] == 30
    assert basis["figure"]["interval"]["low"] <= 0.02 <= basis["figure"]["interval"]["high"]
    rows = client.get(f"{BASE}/posts?{QUERY}&columns={key}&sort=-{key}").json()["posts"]
    assert rows[0]["values"][key] == pytest.approx(0.02)
    assert client.get(f"{BASE}/posts/totals?{QUERY}&columns={key}").json()["whole"]["values"][key] == pytest.approx(
        0.02
    )
    assert client.get(f"{BASE}/groups?{QUERY}&by=format&metric={key}").json()["posts"] == 30
    assert len(client.get(f"{BASE}/posts/top?{QUERY}&metric={key}").json()["posts"]) == 14


def test_a_formula_while_it_is_written(client: Any, profile: Any) -> None:
    said = client.get(f"{BASE}/metrics/tried", {"formula": "interactions / max(reach, 1)", "first": "2026-10-01",
                                               "last": "2026-10-30"}).json()  # fmt: skip
    assert said["now"]["value"] == pytest.approx(0.12)
    assert said["fault"] is None
    assert "÷ max(" in said["written"]
    wrong = client.get(f"{BASE}/metrics/tried", {"formula": "interactions / reech"}).json()
    assert wrong["fault"] == {"message": "There is no metric reech. Did you mean reach?", "start": 15, "end": 20}
    assert wrong["now"] is None


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"formula": "comments +"}, "formula"),
        ({"name": " "}, "name"),
        ({"name": "reach"}, "name"),
        ({"name": "talk" * 20}, "name"),
    ],
)
def test_what_is_wrong_with_a_metric_is_said_beside_its_field(client: Any, changed: Any, field: str) -> None:
    answer = own(client, **changed)
    assert answer.status_code == 400
    assert field in answer.json()["errors"]


def test_a_metric_is_changed_and_taken_away(client: Any, profile: Any) -> None:
    made = own(client).json()
    assert own(client).status_code == 400
    assert own(client, name="Talk!").json()["key"] == "own_talk_2"
    changed = {"name": "Chatter", "formula": "comments", "more_is_better": False}
    assert client.put(f"{BASE}/metrics/{made['id']}", changed, **JSON).json()["key"] == "own_talk"
    assert client.delete(f"{BASE}/metrics/{made['id']}").status_code == 204
    assert client.put(f"{BASE}/metrics/{made['id']}", changed, **JSON).status_code == 404
    # A view that still shows it goes on without it.
    assert client.get(f"{BASE}/summary?{QUERY}&metrics=own_talk,reach").json()["metrics"][0]["key"] == "reach"


@pytest.fixture
def spiky(brand: Any) -> Profile:
    """Sixty ordinary days, then one post on the 61st that brings twenty times as much."""

    def made(i: int) -> dict[str, Any]:
        many = 20 if i == 60 else 1
        return {"counts": {"reactions": (100 + 7 * (i % 5)) * many, "reach": 2000 * many, "negative": 40 * (i == 60)}}

    return fill(make_profile(brand), 90, made, days=90, start=START - timedelta(days=60))


def test_a_spike_leads_to_the_post_that_made_it(client: Any, spiky: Profile) -> None:
    day = (START - timedelta(days=0)).date()
    query = "first=2026-09-15&last=2026-10-20"
    said = client.get(f"{BASE}/spikes?{query}&metric=interactions").json()
    assert said["is_by_day"]
    assert day.isoformat() in [s["day"] for s in said["spikes"]]
    behind = client.get(f"{BASE}/spikes/behind?{query}&metric=interactions&day={day}").json()
    assert (behind["is_spike"], behind["is_explained"]) == (True, True)
    assert [p["text"] for p in behind["posts"]] == ["Post 60"]
    assert behind["posts"][0]["share"] > 0.8
    assert behind["posts"][0]["usual"] < behind["posts"][0]["brought"] / 5
    calm = client.get(f"{BASE}/spikes/behind?{query}&metric=interactions&day=2026-09-20").json()
    assert not calm["is_spike"]
    assert client.get(f"{BASE}/spikes/behind?{query}&metric=interactions&day=2026-01-01").status_code == 400
    assert client.get(f"{BASE}/spikes/behind?{query}&metric=er_reach&day=2026-09-20").status_code == 400
    assert not client.get(f"{BASE}/spikes?{query}&metric=er_reach").json()["is_by_day"]


def test_losses_point_to_the_posts_of_the_days_before(client: Any, spiky: Profile) -> None:
    said = client.get(
        f"{BASE}/spikes/behind?first=2026-09-15&last=2026-10-20&metric=lost_followers&day=2026-10-02"
    ).json()
    assert [p["text"] for p in said["posts"]][:1] == ["Post 60"]  # the most hidden and reported first
    assert len(said["posts"]) == 3
    gains = client.get(
        f"{BASE}/spikes/behind?first=2026-09-15&last=2026-10-20&metric=gained_followers&day=2026-10-02"
    ).json()
    assert gains["posts"][0]["text"] == "Post 60"  # the most reacted to first
    assert [p["brought"] for p in gains["posts"]] == sorted((p["brought"] for p in gains["posts"]), reverse=True)


def test_losses_are_laid_to_the_network_that_lost_and_praise_carries_its_other_side(client: Any, brand: Any) -> None:
    """Brevi's posts are always hidden more; it was the one on Commons that people left over, and it did best too."""
    at, days = START + timedelta(days=30), range(61)
    for network, hides in (("commons", 1), ("brevi", 40)):
        profile = make_profile(brand, network=network)

        def made(i: int, network: str = network, hides: int = hides) -> dict[str, Any]:
            is_bad = network == "commons" and i == 30
            counts = {"reactions": 400 if is_bad else 60, "negative": 25 if is_bad else hides}
            return {"counts": counts}

        fill(profile, 61, made, days=61, followers=False)
        lost = {i: 300 if network == "commons" and i == 30 else 5 for i in days}
        take_profile_days(
            profile, [((START + timedelta(days=i)).date(), 10_000, 10, lost[i]) for i in days], taken_at=at
        )
    day = at.date()
    query = f"first={day - timedelta(days=10)}&last={day + timedelta(days=10)}"
    said = client.get(f"{BASE}/spikes/behind?{query}&metric=lost_followers&day={day}").json()
    assert (said["posts"][0]["network"], said["posts"][0]["share"]) == ("commons", pytest.approx(1.0))
    assert (said["posts"][0]["brought"], said["posts"][0]["usual"]) == (50, 2)
    assert [(p["network"], p["value"], p["usual"]) for p in said["profiles"]] == [("commons", 300, 5)]
    rows = client.get(f"{BASE}/posts?{query}").json()["posts"]
    assert [(r["network"], r["hidden"]) for r in rows if r["hidden"]] == [("commons", {"count": 50, "usual": 2})]
    (best, *_) = client.get(f"{BASE}/posts/top?{query}").json()["posts"]
    assert best["hidden"]
    assert client.get(f"{BASE}/posts/{best['id']}").json()["hidden"] == {"count": 50, "usual": 2}


def test_what_is_seen_more_is_hidden_more_and_is_no_mark(client: Any, brand: Any) -> None:
    """A post of ten times the views has ten times the hides; only the one that has them for few views is marked."""

    def made(i: int) -> dict[str, Any]:
        views, hides = {20: (40_000, 40), 25: (4000, 40)}.get(i, (4000, 4))
        return {"counts": {"reactions": 60, "impressions": views, "negative": hides}}

    fill(make_profile(brand), 30, made)
    rows = client.get(f"{BASE}/posts?{QUERY}&limit=100").json()["posts"]
    marked = {row["text"]: row["hidden"] for row in rows if row["hidden"]}
    assert list(marked) == ["Post 25"]
    assert marked["Post 25"]["count"] == 80
    assert marked["Post 25"]["usual"] == pytest.approx(8, rel=0.1)


def test_findings_are_kept_with_what_people_did(client: Any, brand: Any) -> None:
    def made(i: int) -> dict[str, Any]:
        return {
            "counts": {"reactions": (200 if i % 3 == 0 else 60) + i % 7},
            "format": "image" if i % 3 == 0 else "text",
        }

    now = START + timedelta(days=31)
    fill(make_profile(brand), 90, made)
    assert find(brand, now) > 0
    said = client.get(f"{BASE}/findings").json()["findings"]
    better = next(f for f in said if f["kind"] == "group" and f["evidence"]["name"] == "image")
    assert better["text"].startswith("Image posts do ")
    assert better["step"]["path"] == "plan/new"
    url = f"{BASE}/findings/{better['id']}"
    assert client.put(url, {"state": "dismissed"}, **JSON).status_code == 204
    find(brand, now)
    again = next(f for f in client.get(f"{BASE}/findings").json()["findings"] if f["id"] == better["id"])
    assert again["state"] == "dismissed"
    assert client.put(url, {"state": "pinned"}, **JSON).status_code == 204
    assert client.get(f"{BASE}/findings").json()["findings"][0]["id"] == better["id"]
    Post.objects.all().delete()
    find(brand, now)
    kept = client.get(f"{BASE}/findings").json()["findings"]
    assert [(f["id"], f["is_current"]) for f in kept if f["kind"] == "group"] == [(better["id"], False)]


def test_finding_twice_says_everything_once(brand: Any, spiky: Profile) -> None:
    now = START + timedelta(days=3)
    first = find(brand, now)
    keys = set(Finding.objects.values_list("key", flat=True))
    assert find(brand, now) == first
    assert set(Finding.objects.values_list("key", flat=True)) == keys
    spike = Finding.objects.get(kind="spike")
    assert Post.objects.get(pk=spike.posts[0]).text == "Post 60"


def test_a_spikes_finding_leads_where_its_metric_is_shown(client: Any, brand: Any) -> None:
    profile = fill(make_profile(brand), 60, days=60, start=START - timedelta(days=40), followers=False)
    told = [((START - timedelta(days=60 - i)).date(), 5000, 60 + i % 7 + 900 * (i == 50), 20) for i in range(61)]
    take_profile_days(profile, told, taken_at=START)
    find(brand, START + timedelta(days=1))
    found = Finding.objects.get(kind="spike", text__startswith="Followers gained")
    assert found.step["path"].startswith("results/followers?")
    assert "metric=gained_followers" in found.step["path"]


@pytest.mark.django_db(transaction=True)
def test_the_morning_looks_for_every_brand(brand: Any, spiky: Profile, monkeypatch: Any) -> None:
    monkeypatch.setenv("DAKIKA_FIXED_NOW", (START + timedelta(days=3)).isoformat())
    find_for(brand.pk)
    find_for(987654)  # a brand that is gone meanwhile
    assert Finding.objects.filter(brand=brand, is_current=True).exists()


def test_a_day_that_is_not_over_has_no_level_yet(client: Any, spiky: Profile, monkeypatch: Any) -> None:
    monkeypatch.setenv("DAKIKA_FIXED_NOW", (START + timedelta(hours=2)).isoformat())
    query = f"first=2026-09-15&last=2026-10-20&metric=interactions&day={START.date()}"
    today = client.get(f"{BASE}/spikes/behind?{query}").json()
    assert (today["is_spike"], today["z"], today["level"]) == (False, None, None)
    assert today["value"] > 0


def test_a_brand_without_anything_has_no_findings(client: Any, brand: Any) -> None:
    assert find(brand, clock.now()) == 0
    assert client.get(f"{BASE}/findings").json()["findings"] == []


def test_looking_again_is_the_workers_and_asked_twice_is_asked_once(client: Any, brand: Any) -> None:
    for _ in range(2):
        answer = client.post(f"{BASE}/findings")
        assert (answer.status_code, answer.json()["is_looking"]) == (202, True)
    jobs = ProcrastinateJob.objects.filter(task_name="results.find")
    assert [(job.args, job.queue_name) for job in jobs] == [({"brand_id": brand.pk}, "files")]
    jobs.update(status="succeeded")
    assert client.get(f"{BASE}/findings").json()["is_looking"] is False


def test_a_morning_of_many_brands_keeps_nobody_waiting_who_looks_on(brand: Any) -> None:
    MORNING.ask(brand, clock.now())
    assert [job.queue_name for job in ProcrastinateJob.objects.filter(task_name="results.find")] == ["findings"]


def test_an_audience_is_mixed_by_followers(client: Any, brand: Any, profile: Profile) -> None:
    small = make_profile(brand, "brevi")
    rival = Profile.objects.create(
        brand=brand, network="commons", external_id="r", handle="r", name="R", kind="competitor", added_at=START,
        competitor=Competitor.objects.create(brand=brand, name="R"),
    )  # fmt: skip
    for who, day, share in ((profile, 1, 0.5), (profile, 25, 0.6), (small, 26, 0.2), (rival, 20, 0.9)):
        AudienceReading.objects.create(
            brand=brand, profile=who, day=START.date().replace(day=day), dimension="country",
            segments={"PT": share, "BR": 1 - share},
        )  # fmt: skip
    (said,) = client.get(f"{BASE}/audience?{QUERY}").json()["dimensions"]
    country = {s["name"]: s for s in said["segments"]}
    # The second profile has no followers known: it weighs nothing. The change is of the profile that was read twice.
    assert country["PT"]["share"] == pytest.approx(0.6)
    assert country["PT"]["change"] == pytest.approx(0.1)
    assert country["PT"]["others"] == pytest.approx(0.9)
    assert (said["profiles"], said["others"]) == (2, 1)
    assert sum(s["share"] for s in said["segments"]) == pytest.approx(1)


def test_what_somebody_chose_to_see_is_theirs(client: Any, brand: Any, viewer: Any, client_of: Any) -> None:
    base = "/api/brands/orrery-house/preferences"
    assert client.put(f"{base}/summary", {"value": ["reach", "posts"]}, **JSON).status_code == 204
    assert client.get(base).json() == {"values": {"summary": ["reach", "posts"]}}
    looks = client_of(viewer)
    assert looks.get(base).json() == {"values": {}}
    assert looks.put(f"{base}/summary", {"value": ["index"]}, **JSON).status_code == 204
    assert client.get(base).json()["values"]["summary"] == ["reach", "posts"]
    for wrong in ("x" * 5000, "a\x00b"):
        assert client.put(f"{base}/big", {"value": wrong}, **JSON).status_code == 400


def test_a_day_stands_out_by_a_post_though_its_total_does_not(client: Any, brand: Any) -> None:
    """Among many posts one gets eleven times its typical: the day is marked, its post named, and it is not called usual."""
    counts = np.random.default_rng(4).lognormal(4, 0.35, 120)

    def made(i: int) -> dict[str, Any]:
        return {"counts": {"reactions": int(counts[i] * (11 if i == 100 else 1)), "comments": 1, "shares": 1}}

    fill(make_profile(brand), 120, made, days=30, start=START - timedelta(days=30))
    query = "first=2026-08-01&last=2026-10-05&metric=interactions"
    day = Post.objects.get(text="Post 100").published_at.date().isoformat()
    marked = {one["day"]: one for one in client.get(f"{BASE}/spikes?{query}").json()["spikes"]}
    told = client.get(f"{BASE}/spikes/behind?{query}&day={day}").json()
    assert day in marked
    assert [post["text"] for post in told["unusual"]] == ["Post 100"]
    assert told["unusual"][0]["index"] > 6
    assert (marked[day]["by"] == "post") == (not told["is_spike"])


def test_a_brand_too_young_for_a_level_is_no_defect(client: Any, brand: Any) -> None:
    def made(i: int) -> dict[str, Any]:
        return {"counts": {"reactions": (900 if i == 7 else 20) + i % 5, "comments": 1, "shares": 1}}

    fill(make_profile(brand), 14, made, days=10, start=START - timedelta(days=12))
    client.raise_request_exception = False
    first = (START - timedelta(days=12)).date()
    answer = client.get(f"{BASE}/spikes?first={first}&last={START.date()}&metric=interactions")
    assert answer.status_code == 200, answer.content[:300]
    assert all(one["z"] is None or isinstance(one["z"], float) for one in answer.json()["spikes"])
