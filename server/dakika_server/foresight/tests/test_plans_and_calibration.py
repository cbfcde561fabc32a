"""Promise: a plan is a statement that can be wrong, kept and held against what came, and against plain rivals."""

from datetime import timedelta
from typing import Any

import numpy as np
import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.foresight.levels import as_data, from_data, levels_of
from dakika_server.foresight.looking import look_ahead
from dakika_server.foresight.models import Projection
from dakika_server.foresight.testing import grow, half_a_year, share
from dakika_server.measures.testing import make_profile
from dakika_server.results.models import PostTag, Tag
from dakika_server.shared import clock
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/foresight"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def profile(brand: Brand) -> Profile:
    found = grow(make_profile(brand), half_a_year())
    look_ahead(found)
    return found


def expect(client: Client, *posts: dict[str, Any]) -> Any:
    return client.post(f"{HOME}/expected", {"posts": list(posts)}, content_type="application/json")


def tomorrow() -> str:
    return (clock.now() + timedelta(days=1)).isoformat()


def test_a_post_that_is_thought_of_is_told_with_its_interval(client: Client, profile: Profile) -> None:
    told = expect(client, {"profile": profile.pk, "at": tomorrow()}).json()
    one = told["posts"][0]["expected"]["interactions"]
    assert one["value"] == pytest.approx(300 * share(168), rel=0.25)
    assert one["low"] < 0.8 * one["value"]
    assert one["high"] > 1.3 * one["value"]
    assert told["posts"][0]["expected"]["reach"] is None, "the network reports none"
    assert told["posts"][0]["posts"] == 130


def test_a_tag_that_did_well_is_expected_to_do_so_again(client: Client, brand: Brand) -> None:
    """Every third post has a tag and brings twice as much; a planned post with it is expected to, too."""
    plain = half_a_year()
    profile = grow(make_profile(brand), [(at, final * (2 if n % 3 == 0 else 1)) for n, (at, final) in enumerate(plain)])
    tag = Tag.objects.create(brand=brand, name="workshop")
    tagged = {at for at, _ in plain[::3]}
    PostTag.objects.bulk_create(
        PostTag(post=post, tag=tag) for post in Post.objects.filter(profile=profile) if post.published_at in tagged
    )
    look_ahead(profile)
    without, with_it, strange = (
        expect(client, {"profile": profile.pk, "at": tomorrow(), **more}).json()["posts"][0]["expected"]["interactions"]
        for more in ({}, {"tags": [tag.pk]}, {"tags": [tag.pk + 1000]})
    )
    assert 1.5 < with_it["value"] / without["value"] < 2.3
    assert strange["value"] == pytest.approx(without["value"], rel=0.001), "a tag that no post had says nothing"


def test_several_are_surer_together(client: Client, profile: Profile) -> None:
    told = expect(client, *[{"profile": profile.pk, "at": tomorrow()}] * 10).json()
    one, ten = told["posts"][0]["expected"]["interactions"], told["together"]["interactions"]
    assert ten["value"] == pytest.approx(10 * one["value"], rel=0.25)
    assert ten["high"] / ten["low"] < one["high"] / one["low"]


def test_strangers_and_competitors_profiles_bring_nothing_known(client: Client, brand: Brand) -> None:
    theirs = grow(make_profile(Brand.objects.create(name="Other", slug="other", time_zone="UTC")), half_a_year())
    look_ahead(theirs)
    told = expect(client, {"profile": theirs.pk, "at": tomorrow()}).json()
    assert told["posts"][0]["expected"]["interactions"] is None
    assert told["together"]["interactions"] is None


@pytest.mark.parametrize(
    "post", [{}, {"profile": "x", "at": "now"}, {"profile": 1, "at": "2026-12-01T10:00Z", "format": "poem"}]
)
def test_what_makes_no_post_is_refused(client: Client, brand: Brand, post: Any) -> None:
    assert expect(client, post).status_code == 400
    assert expect(client).status_code == 400


def test_a_level_that_is_kept_says_the_same_when_it_is_read_back(profile: Profile) -> None:
    kept = levels_of([profile.pk])[profile.pk, "interactions"]
    again = from_data(as_data(kept))
    assert again.posts == kept.posts
    assert np.allclose(again.singles, kept.singles)
    assert np.allclose(again.coefficients, kept.coefficients)


def test_past_posts_are_tried_with_what_was_known_then_and_held_against_what_came(
    client: Client, profile: Profile
) -> None:
    tried = Projection.objects.filter(profile=profile, is_tried=True)
    assert tried.count() > 300
    assert all(p.said_at <= p.published_at + timedelta(hours=p.horizon_hours) for p in tried)
    told = client.get(f"{HOME}/calibration?tried=true").json()
    whole = next(row for row in told["rows"] if row["profile"] is None and row["horizon_hours"] is None)
    assert 0.7 <= whole["coverage"] <= 0.95
    late = next(row for row in told["rows"] if row["profile"] is None and row["horizon_hours"] == 6)
    assert all(versus["is_better"] for versus in late["versus"])
    before = next(row for row in told["rows"] if row["profile"] is None and row["horizon_hours"] == 0)
    assert before["error"] > late["error"]


def test_what_was_said_at_the_time_is_apart_from_what_was_tried(client: Client, profile: Profile) -> None:
    told = client.get(f"{HOME}/calibration").json()
    assert told["kept"] == 0
    assert told["tried"] > 300
    assert told["rows"][0]["coverage"] is None


def test_trying_again_changes_nothing_and_a_post_that_is_erased_takes_it_along(profile: Profile) -> None:
    count = Projection.objects.count()
    look_ahead(profile)
    assert Projection.objects.count() == count
    profile.delete()
    assert not Projection.objects.exists()
