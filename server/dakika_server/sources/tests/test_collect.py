"""Promise: collection brings what the network says, never twice, and says what is missing."""

from typing import Any

import pytest

from dakika_server.results.models import PostMeasure
from dakika_server.shared import clock
from dakika_server.sources.collect import collect
from dakika_server.sources.models import CollectionRun, Post, PostReading, Profile, ProfileReading

pytestmark = pytest.mark.django_db


def run_of(profile: Profile) -> CollectionRun:
    run = CollectionRun.objects.create(brand=profile.brand, profile=profile, asked_at=clock.now())
    collect(CollectionRun.objects.select_related("profile__brand").get(pk=run.pk))
    run.refresh_from_db()
    return run


def rows() -> tuple[Any, ...]:
    posts = Post.objects.order_by("external_id").values_list("external_id", "text", "format", "removed_at")
    return tuple(posts), PostReading.objects.values("post_id").distinct().count()


@pytest.mark.parametrize("network", ["commons", "brevi"])
def test_everything_comes_and_is_measured(network: str, own_profile: Any, world: Any) -> None:
    profile = own_profile(network)
    run = run_of(profile)
    expected = world.state.posts(f"{network}-orreryhouse")
    assert run.state == "complete", run.message
    assert Post.objects.count() == len(expected) == run.posts_new
    reading = PostReading.objects.select_related("post").order_by("-post__published_at").last()
    assert reading is not None
    assert (reading.reach is None) == (network == "brevi")
    assert reading.raw
    assert ProfileReading.objects.filter(gained__isnull=False).count() > 150
    assert PostMeasure.objects.filter(age_hours=0, interactions__isnull=False).count() == len(expected)


@pytest.mark.parametrize("network", ["commons", "brevi"])
def test_collecting_again_and_pages_that_come_twice_change_nothing(network: str, own_profile: Any, world: Any) -> None:
    profile = own_profile(network)
    run_of(profile)
    before = rows()
    world.faults(**{f"{network}__duplicate_page": 1})
    second = run_of(profile)
    assert second.posts_new == 0
    assert rows() == before


def test_a_network_that_breaks_off_leaves_what_came_and_says_so(own_profile: Any, world: Any, monkeypatch: Any) -> None:
    monkeypatch.setattr("time.sleep", lambda _: None)
    world.faults(commons__error500=0.95)
    run = run_of(own_profile())
    assert run.state in ("failed", "partial")
    assert run.message
    world.faults(commons__error500=0)
    assert run_of(Profile.objects.get()).state == "complete"


def test_a_lapsed_authorisation_is_named(own_profile: Any, world: Any) -> None:
    world.faults(commons__revoked=1)
    run = run_of(own_profile())
    assert run.state == "failed"
    assert "Renew" in run.message
    assert Profile.objects.get().credential.is_lapsed


def test_a_removed_post_is_marked_and_kept(own_profile: Any, world: Any) -> None:
    profile = own_profile()
    run_of(profile)
    gone = Post.objects.order_by("-published_at")[3]
    world.state.data["removed"].append(gone.external_id)
    run_of(profile)
    gone.refresh_from_db()
    assert gone.removed_at is not None
    assert gone.readings.exists()
    world.state.data["removed"].clear()
    run_of(profile)
    gone.refresh_from_db()
    assert gone.removed_at is None


def test_one_open_run_per_profile(own_profile: Any) -> None:
    from dakika_server.sources.actions import request_run

    profile = own_profile()
    assert request_run(profile).pk == request_run(profile).pk


def test_tokens_are_not_readable_in_the_database(own_profile: Any) -> None:
    credential = own_profile().credential
    assert b"Bearer" not in bytes(credential.access)
    assert bytes(credential.access).startswith(b"gAAAA")
