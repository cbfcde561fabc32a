"""Promise: the minute line shows each post while they can be told apart, and days where they are too many for it."""

from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import START, fill, make_profile
from dakika_server.results.queries import line
from dakika_server.shared import clock
from dakika_server.sources.models import Competitor, Post, ProfileReading

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/line"


@pytest.fixture(autouse=True)
def today(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(clock, "now", lambda: datetime(2026, 11, 20, 11, tzinfo=UTC))


def test_posts_that_are_too_many_stand_as_days_with_their_mean(
    client: Any, brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    profile = make_profile(brand)
    fill(profile, 90, lambda i: {"counts": {"reactions": 10 * (1 + i // 30), "reach": 100}, "language": "pt"})
    theirs = make_profile(brand, network="brevi")
    theirs.kind, theirs.competitor = "competitor", Competitor.objects.create(brand=brand, name="Half Moon")
    theirs.save()
    fill(theirs, 20, lambda _: {"language": "es"})
    told = client.get(PATH).json()
    assert (len(told["posts"]), {tick["posts"] for tick in told["posts"]}) == (90, {1})
    assert told["languages"] == ["pt"]
    # Read at 20 and 80 hours: at 72 they had nearly what they had in the end.
    by_post = [tick["interactions"] for tick in told["posts"] if tick["at"].startswith("2026-10-05")]
    monkeypatch.setattr(line, "MOST_TICKS", 60)
    days = client.get(PATH).json()["posts"]
    assert [(tick["posts"], tick["id"], tick["text"]) for tick in days] == [(3, None, "")] * 30
    fifth = next(tick for tick in days if tick["at"].startswith("2026-10-05"))
    assert fifth["interactions"] == pytest.approx(sum(by_post) / 3)
    assert fifth["height"] == pytest.approx(fifth["interactions"] ** 0.5)


def test_a_line_asks_as_often_however_much_is_there(
    client: Any, brand: Brand, django_assert_max_num_queries: Any
) -> None:
    for name in "abcd":
        fill(make_profile(brand, name=name), 60)
    with django_assert_max_num_queries(13):
        assert len(client.get(PATH).json()["posts"]) == 240


def test_days_that_one_of_many_profiles_lacks_are_holes(client: Any, brand: Brand) -> None:
    for name in "abc":
        fill(make_profile(brand, name=name), 3)
    ProfileReading.objects.filter(day=(START + timedelta(days=9)).date(), profile__external_id="x-commons-b").delete()
    told = client.get(PATH).json()["holes"]
    assert told[0] == "2026-10-10"
    # Nobody has been told anything since the thirty days that were filled.
    assert told[1:] == [f"2026-{day:%m-%d}" for i in range(20) if (day := date(2026, 10, 31) + timedelta(days=i))]


def test_a_long_text_comes_as_its_beginning(client: Any, brand: Brand) -> None:
    fill(make_profile(brand), 1, lambda _: {"text": "words " * 200})
    assert len(client.get(PATH).json()["posts"][0]["text"]) == 80
    assert len(Post.objects.get().text) > 1000
