"""Promise: collection brings what the networks say, never twice, and says what is missing."""

from datetime import timedelta
from typing import Any

import pytest
from dakika_core.metrics.observed import OBSERVED

from dakika_server.measures.models import PostMeasure
from dakika_server.networks.definitions import network as definition_of
from dakika_server.shared import clock
from dakika_server.sources.collect import collect
from dakika_server.sources.collect.steps import COMMENTS_SINCE
from dakika_server.sources.models import (
    AudienceReading,
    CollectionRun,
    Comment,
    Post,
    PostReading,
    PresenceReading,
    Profile,
    ProfileReading,
)
from dakika_server.sources.testing import rows_of, run_to_end

pytestmark = pytest.mark.django_db
OWN = ["commons", "brevi", "pictor", "guildhall", "vignette", "corkboard", "longplay", "doorstep"]


def _said(world: Any, key: str) -> int:
    """How many comments the world knows of now, on posts that are young enough to be asked for."""
    young = [post for post in world.state.posts(key) if post.published_at > clock.now() - COMMENTS_SINCE]
    return sum(len(world.state.comments(post)) for post in young)


@pytest.mark.parametrize("network", OWN)
def test_everything_of_ones_own_comes_and_is_measured(network: str, own_profile: Any, world: Any) -> None:
    profile = own_profile(network)
    key = f"{network}-orreryhouse"
    run = run_to_end(profile)
    expected = world.state.posts(key)
    assert run.state == "complete", run.message
    assert Post.objects.count() == len(expected) == run.posts_new
    offer = definition_of(network).offer
    last = PostReading.objects.order_by("post__published_at", "taken_at").first()
    told = {name for name in OBSERVED if getattr(last, name) is not None}
    by_kind = {name for name in definition_of(network).own_metrics if name.startswith("reactions_")}
    assert told == set(world.rules[network].own) | by_kind
    if by_kind:
        assert sum(getattr(last, name) for name in by_kind) == last.reactions
    assert last.raw
    assert ProfileReading.objects.filter(gained__isnull=False).count() > 150
    today = ProfileReading.objects.order_by("-day").first()
    assert today.followers == world.state.world.followers(key, today.day)
    assert PresenceReading.objects.exists() == offer.has_presence
    assert set(AudienceReading.objects.values_list("dimension", flat=True)) == set(offer.audience)
    for reading in AudienceReading.objects.all():
        assert sum(reading.segments.values()) == pytest.approx(1, abs=0.01)
    assert Comment.objects.count() == run.comments_new
    if offer.has_comments:
        # The world goes on while it is read: as many as the counters told, and no more than there are by now.
        counters = Post.objects.values_list("comments_read", flat=True)
        assert sum(counter or 0 for counter in counters) <= run.comments_new <= _said(world, key)
        assert run.comments_new > 0
    else:
        assert run.comments_new == 0
    assert PostMeasure.objects.filter(age_hours=0).count() == len(expected)
    shown = Post.objects.exclude(picture="")
    assert set(shown.values_list("format", flat=True)) == set(Post.objects.values_list("format", flat=True)) - {
        "text",
        "link",
    }
    if network in ("commons", "brevi", "guildhall"):
        assert set(Post.objects.values_list("language", flat=True)) == {p.language for p in expected}
    if network in ("commons", "pictor", "guildhall"):
        assert Post.objects.filter(is_boosted=True).count() == sum(p.is_boosted for p in expected)


@pytest.mark.parametrize("network", ["vignette", "longplay", "doorstep"])
def test_the_last_counters_are_the_worlds(network: str, own_profile: Any, world: Any) -> None:
    profile = own_profile(network)
    run_to_end(profile)
    for reading in PostReading.objects.select_related("post").order_by("-post__published_at")[20:60]:
        post = world.state.find(reading.post.external_id.rpartition("/")[2])
        truth = world.state.counters(post, reading.taken_at)
        for name in world.rules[network].own:
            assert abs(getattr(reading, name) - truth[name]) <= max(2, 0.01 * truth[name]), (network, name)


@pytest.mark.parametrize(
    "network", ["commons", "pictor", "guildhall", "vignette", "corkboard", "longplay", "activitypub"]
)
def test_of_others_only_what_is_public(network: str, competitor_profile: Any, world: Any) -> None:
    handle = "brassandbeam" if network in ("guildhall", "corkboard") else "halfmoon"
    profile = competitor_profile(network, handle)
    run = run_to_end(profile)
    assert run.state == "complete", run.message
    assert Post.objects.count() == len(world.state.posts(f"{network}-{handle}"))
    reading = PostReading.objects.first()
    assert {name for name in OBSERVED if getattr(reading, name) is not None} == set(world.rules[network].public)
    assert not AudienceReading.objects.exists()
    assert not Comment.objects.exists()
    assert not ProfileReading.objects.filter(gained__isnull=False).exists()


@pytest.mark.parametrize("network", ["guildhall", "vignette", "corkboard", "doorstep"])
def test_collecting_again_and_pages_that_come_twice_or_late_change_nothing(
    network: str, own_profile: Any, world: Any
) -> None:
    profile = own_profile(network)
    run_to_end(profile)
    before = rows_of(profile)
    world.faults(**{f"{network}__duplicate_page": 1, f"{network}__late_page": 1})
    Profile.objects.update(history_done_at=clock.now() - timedelta(days=30))
    second = run_to_end(Profile.objects.get(pk=profile.pk))
    assert second.posts_new == 0
    assert rows_of(profile) == before


def test_posts_are_read_again_when_their_age_says_so(own_profile: Any, world: Any) -> None:
    profile = own_profile("commons")
    run_to_end(profile)
    now = clock.now()
    waiting = Post.objects.filter(next_reading_at__isnull=False).order_by("-published_at")
    young = waiting.first()
    assert young.next_reading_at > now
    # The steps between readings grow with age.
    gaps = [p.next_reading_at - now for p in waiting.filter(published_at__lt=now - timedelta(days=3))[:40]]
    assert max(gaps) > timedelta(days=2)
    Post.objects.filter(pk=young.pk).update(next_reading_at=now - timedelta(minutes=1))
    before = PostReading.objects.filter(post=young).count()
    told_before = dict(Post.objects.values_list("pk", "comments_read"))
    run = run_to_end(Profile.objects.get(pk=profile.pk))
    assert PostReading.objects.filter(post=young).count() >= before
    assert Post.objects.get(pk=young.pk).next_reading_at > now
    # The world goes on: one call more for each post that was written under since.
    written_under = sum(told_before.get(pk) != told for pk, told in Post.objects.values_list("pk", "comments_read"))
    assert run.requests - written_under < 8


def test_a_network_that_breaks_off_leaves_what_came_and_the_next_run_completes_it(
    own_profile: Any, world: Any, monkeypatch: Any
) -> None:
    monkeypatch.setattr("time.sleep", lambda _: None)
    profile = own_profile()
    world.faults(commons__error500=0.97)
    run = run_to_end(profile)
    assert run.state in ("failed", "partial")
    assert run.message
    assert run.missing
    assert run.refused >= 3
    assert Profile.objects.get().next_run_at > clock.now() + timedelta(minutes=4)
    world.faults(commons__error500=0)
    assert run_to_end(Profile.objects.get()).state == "complete"
    assert Post.objects.count() == len(world.state.posts("commons-orreryhouse"))


def test_a_limit_makes_the_run_lie_down_and_go_on_where_it_stopped(own_profile: Any, world: Any) -> None:
    profile = own_profile("pictor")
    world.faults(pictor__calls_per_minute=3)
    run = CollectionRun.objects.create(brand=profile.brand, profile=profile, asked_at=clock.now())
    run = CollectionRun.objects.select_related("profile__brand", "profile__credential").get(pk=run.pk)
    seconds = collect(run)
    assert seconds is not None
    assert 0 < seconds < 70
    assert run.state == "waiting"
    assert run.resume_at > clock.now()
    assert run.message
    world.faults(pictor__calls_per_minute=0)
    for _ in range(20):
        fresh = CollectionRun.objects.select_related("profile__brand", "profile__credential").get(pk=run.pk)
        if collect(fresh) is None:
            break
    fresh.refresh_from_db()
    assert fresh.state == "complete"
    assert Post.objects.count() == len(world.state.posts("pictor-orreryhouse"))


def test_a_lapsed_authorisation_is_named_and_not_tried_again(own_profile: Any, world: Any) -> None:
    world.faults(commons__revoked=1)
    run = run_to_end(own_profile())
    assert run.state == "failed"
    assert "Renew" in run.message
    profile = Profile.objects.get()
    assert profile.credential.is_lapsed
    assert profile.next_run_at is None


def test_removed_posts_and_comments_are_marked_and_kept(own_profile: Any, world: Any) -> None:
    profile = own_profile()
    run_to_end(profile)
    gone = Comment.objects.order_by("-post__published_at").first().post
    other = Post.objects.exclude(pk=gone.pk).order_by("-published_at")[5]
    comment = Comment.objects.exclude(post=gone).exclude(post=other).order_by("-post__published_at").first()
    world.state.data["removed"] += [gone.external_id, other.external_id, comment.external_id]
    Post.objects.update(next_reading_at=clock.now(), comments_read=None)
    run_to_end(Profile.objects.get())
    for one in (gone, other, comment):
        one.refresh_from_db()
        assert one.removed_at is not None
    assert gone.readings.exists()
    world.state.data["removed"].clear()
    Profile.objects.update(history_done_at=clock.now() - timedelta(days=30))
    Post.objects.update(comments_read=None)
    run_to_end(Profile.objects.get())
    for one in (gone, other, comment):
        one.refresh_from_db()
        assert one.removed_at is None


def test_counters_that_are_corrected_are_taken_as_they_are(own_profile: Any, world: Any) -> None:
    profile = own_profile("brevi")
    run_to_end(profile)
    # One that has long stopped growing: other tests may just have published in the same world.
    post = Post.objects.filter(published_at__lt=clock.now() - timedelta(days=9)).order_by("-published_at")[10]
    before = post.readings.order_by("-taken_at").first().impressions
    world.state.data["corrected"][post.external_id] = 0.5
    Post.objects.filter(pk=post.pk).update(next_reading_at=clock.now())
    run_to_end(Profile.objects.get())
    assert post.readings.order_by("-taken_at").first().impressions == pytest.approx(before / 2, abs=2)


def test_one_open_run_per_profile(own_profile: Any) -> None:
    from dakika_server.sources.actions import request_run

    profile = own_profile()
    assert request_run(profile).pk == request_run(profile).pk


def test_tokens_are_not_readable_in_the_database(own_profile: Any) -> None:
    credential = own_profile().credential
    assert b"Bearer" not in bytes(credential.access)
    assert bytes(credential.access).startswith(b"gAAAA")
