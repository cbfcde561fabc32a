"""Promise: a study stands on an age that its posts have, says why, and nobody meets an empty period where there are posts."""

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from dakika_core.values.period import Period

from dakika_server.figures.footing import age_words, footing_of
from dakika_server.measures.measuring import measure_profile
from dakika_server.measures.models import FINAL, LATEST
from dakika_server.measures.testing import fill, make_profile
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Profile

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/results"
OLD = datetime(2026, 5, 1, 10, tzinfo=UTC)


def give(profile: Profile, count: int, begin: datetime, read_after: timedelta, every: timedelta) -> None:
    """Posts with one reading each, so long after their publishing."""
    rows = [
        PostIn(
            external_id=f"{begin:%j%H}-{i}", published_at=begin + every * i, format="text", text=f"Post {i}", url="",
            readings=[(begin + every * i + read_after, {"reactions": 10 + i % 7, "reach": 400}, None)],
        )
        for i in range(count)
    ]  # fmt: skip
    take_posts(profile, rows)
    measure_profile(profile)


def period(first: datetime, days: int, brand: Any) -> Period:
    return Period(first=first.date(), last=(first + timedelta(days=days - 1)).date(), zone=brand.zone)


@pytest.mark.parametrize(
    ("read_after", "age"),
    [
        (timedelta(hours=80), 72),
        (timedelta(days=200), FINAL),
        (timedelta(hours=30), LATEST),
        (timedelta(days=400), FINAL),
    ],
)
def test_the_age_is_one_that_most_posts_have(read_after: timedelta, age: int, brand: Any) -> None:
    profile = make_profile(brand)
    give(profile, 20, OLD, read_after, timedelta(days=1))
    found = footing_of([profile.pk], period(OLD, 20, brand), clock.now())
    assert (found.age_hours, found.posts) == (age, 20)
    assert bool(found.why) == (age != 72)


def test_posts_that_are_too_young_for_three_days_do_not_move_the_others(brand: Any) -> None:
    profile = make_profile(brand)
    now = clock.now()
    give(profile, 6, now - timedelta(days=9), timedelta(hours=80), timedelta(hours=12))
    give(profile, 9, now - timedelta(days=2), timedelta(hours=1), timedelta(hours=2))
    both = footing_of([profile.pk], period(now - timedelta(days=10), 11, brand), now)
    assert both.age_hours == 72
    young = footing_of([profile.pk], period(now - timedelta(days=1, hours=23), 3, brand), now)
    assert (young.age_hours, young.known[LATEST] > 0) == (LATEST, True)
    assert "none is 3 days old" in young.why


def test_without_posts_the_usual_age_stands_and_the_newest_day_is_told(brand: Any, client: Any) -> None:
    profile = make_profile(brand)
    give(profile, 20, OLD, timedelta(days=90), timedelta(days=1))
    told = client.get(f"{BASE}/footing").json()
    assert (told["posts"], told["age_hours"], told["newest_day"]) == (0, 72, "2026-05-20")
    there = client.get(f"{BASE}/footing?first=2026-05-01&last=2026-05-20").json()
    assert (there["age_hours"], there["age_words"], there["posts"]) == (FINAL, "at their final count", 20)
    assert {k["age_hours"]: k["posts"] for k in there["known"]} == {72: 0, FINAL: 20, LATEST: 20}


def test_rankings_groups_and_summary_stand_on_final_counts(brand: Any, client: Any) -> None:
    profile = make_profile(brand)
    give(profile, 40, OLD, timedelta(days=100), timedelta(hours=18))
    query = "first=2026-05-01&last=2026-05-31"
    top = client.get(f"{BASE}/posts/top?{query}&metric=index&end=top&limit=5").json()
    assert top["missing"] == 0
    assert top["posts"][0]["index"] > 1
    groups = client.get(f"{BASE}/groups?{query}&by=weekday&metric=index").json()
    assert groups["left_out"] == 0
    (index,) = client.get(f"{BASE}/summary?{query}&metrics=index").json()["metrics"]
    assert index["now"]["n"] == 40
    assert index["now"]["value"] == pytest.approx(1, abs=0.15)


def test_a_mixed_profile_says_how_many_posts_a_figure_could_not_take(brand: Any, client: Any) -> None:
    profile = make_profile(brand)
    fill(profile, 30, start=OLD)
    give(profile, 5, OLD + timedelta(days=2, hours=1), timedelta(days=120), timedelta(days=1))
    told = client.get(f"{BASE}/summary?first=2026-05-01&last=2026-05-30&metrics=index,interactions,reactions").json()
    by_key = {m["key"]: m for m in told["metrics"]}
    assert told["age_hours"] == 72
    assert by_key["reactions"]["now"]["missing"] == 5
    assert "5 posts are not in it" in by_key["reactions"]["missing_note"]
    assert "5 posts were first read too late" in by_key["interactions"]["missing_note"]
    # In the list they stand with what is known of them, marked by its age.
    rows = client.get(f"{BASE}/posts?first=2026-05-01&last=2026-05-30&limit=100").json()["posts"]
    marked = [row for row in rows if row["present_hours"] is not None]
    assert len(marked) == 5
    assert all(row["interactions"] >= 10 and row["index"] for row in marked)


def test_the_line_goes_to_days_far_back_and_tells_where_there_are_posts(brand: Any, client: Any) -> None:
    profile = make_profile(brand)
    long_ago = datetime(2017, 3, 1, 10, tzinfo=UTC)
    give(profile, 10, long_ago, timedelta(days=100), timedelta(days=5))
    assert client.get("/api/brands/orrery-house/line").json()["posts"] == []
    there = client.get("/api/brands/orrery-house/line?first=2017-02-01&last=2017-03-31").json()
    assert len(there["posts"]) == 7
    assert there["months"] == [{"month": "2017-03-01", "posts": 7}, {"month": "2017-04-01", "posts": 3}]
    assert client.get("/api/brands/orrery-house/line?first=2010-01-01&last=2020-01-01").status_code == 400


def test_ages_have_words() -> None:
    assert [age_words(a) for a in (24, 72, 168, 672, FINAL, LATEST)] == [
        "at 24 hours", "at 72 hours", "at 7 days", "at 28 days", "at their final count", "as last seen",
    ]  # fmt: skip
