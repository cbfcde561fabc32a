"""Promise: a planned week is a statement of what it will bring, and a post is moved without anybody's change lost."""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.foresight.looking import look_ahead
from dakika_server.foresight.testing import grow, half_a_year
from dakika_server.measures.testing import make_profile
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.results.models import PostTag, Tag
from dakika_server.shared import clock
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/foresight"
PLAN = "/api/brands/orrery-house/plan"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def profile(brand: Brand) -> Profile:
    found = grow(make_profile(brand), half_a_year())
    look_ahead(found)
    return found


def test_a_planned_week_is_summed_and_stands_against_the_one_before(
    client: Client, brand: Brand, profile: Profile
) -> None:
    for days in (1, 2, 3):
        planned = PlannedPost.objects.create(
            brand=brand, created_at=clock.now(), scheduled_at=clock.now() + timedelta(days=days), state="draft"
        )
        Version.objects.create(planned_post=planned, profile=profile, text="x", due_at=planned.scheduled_at)
    first, last = clock.now().date(), clock.now().date() + timedelta(days=7)
    told = client.get(f"{HOME}/planned?first={first}&last={last}").json()
    assert len(told["posts"]) == 3
    assert sum(week["posts"] for week in told["weeks"]) == 3
    assert all(week["told"] == week["posts"] for week in told["weeks"])
    assert all(week["together"]["interactions"]["low"] > 0 for week in told["weeks"])
    assert client.get(f"{HOME}/planned?first={last}&last={first}").status_code == 400


def test_tags_that_a_planned_post_is_to_have_count_before_it_is_out(client: Client, brand: Brand) -> None:
    history = half_a_year()
    profile = grow(
        make_profile(brand), [(at, final * (2 if n % 3 == 0 else 1)) for n, (at, final) in enumerate(history)]
    )
    tag = Tag.objects.create(brand=brand, name="workshop")
    tagged = {at for at, _ in history[::3]}
    PostTag.objects.bulk_create(
        PostTag(post=post, tag=tag) for post in Post.objects.filter(profile=profile) if post.published_at in tagged
    )
    look_ahead(profile)
    at = clock.now() + timedelta(days=2)
    for tags in ([], [tag.pk]):
        planned = PlannedPost.objects.create(
            brand=brand, created_at=clock.now(), scheduled_at=at, state="draft", tags=tags
        )
        Version.objects.create(planned_post=planned, profile=profile, text="x", due_at=at)
    day = at.astimezone(brand.zone).date()
    plain, with_it = client.get(f"{HOME}/planned?first={day}&last={day}").json()["posts"]
    first, second = (one["profiles"][0]["expected"]["interactions"]["value"] for one in (plain, with_it))
    assert 1.5 < second / first < 2.3


def a_draft(brand: Brand, **more: Any) -> PlannedPost:
    planned = PlannedPost.objects.create(
        brand=brand, created_at=clock.now(), scheduled_at=clock.now() + timedelta(days=1), **{"state": "draft", **more}
    )
    Version.objects.create(
        planned_post=planned, profile=make_profile(brand), text="x", state=planned.state, due_at=planned.scheduled_at
    )
    return planned


def move(client: Client, pk: int, edition: int, at: Any) -> Any:
    body = {"edition": edition, "scheduled_at": at.isoformat()}
    return client.post(f"{PLAN}/{pk}/move", body, content_type="application/json")


def test_a_draft_is_moved_and_stays_a_draft(client: Client, brand: Brand) -> None:
    planned, at = a_draft(brand), clock.now() + timedelta(days=2)
    told = move(client, planned.pk, 1, at).json()
    assert (told["state"], told["edition"]) == ("draft", 2)
    planned.refresh_from_db()
    assert planned.scheduled_at == at


def test_a_colleagues_change_in_between_is_not_written_over(client: Client, brand: Brand) -> None:
    planned = a_draft(brand)
    move(client, planned.pk, 1, clock.now() + timedelta(days=2))
    refused = move(client, planned.pk, 1, clock.now() + timedelta(days=3))
    assert refused.status_code == 409


def test_what_went_out_or_lies_in_the_past_is_not_moved(client: Client, brand: Brand) -> None:
    planned = a_draft(brand)
    assert move(client, planned.pk, 1, clock.now() - timedelta(days=1)).status_code == 400
    PlannedPost.objects.filter(pk=planned.pk).update(state="published")
    assert move(client, planned.pk, 1, clock.now() + timedelta(days=1)).status_code == 409
    assert move(client, 999_999, 1, clock.now() + timedelta(days=1)).status_code == 404


def test_only_those_who_may_publish_move_what_is_scheduled(brand: Brand, viewer: Any, client_of: Any) -> None:
    planned = a_draft(brand, state="scheduled")
    assert move(client_of(viewer), planned.pk, 1, clock.now() + timedelta(days=2)).status_code == 403


def test_strangers_profiles_get_no_drafts(client: Client, brand: Brand) -> None:
    theirs = make_profile(Brand.objects.create(name="Other", slug="other", time_zone="UTC"))
    for days, profiles in ((14, [theirs.pk]), (14, []), (0, [1]), (100, [1])):
        body = {"profiles": profiles, "days": days}
        assert client.post(f"{PLAN}/fill", body, content_type="application/json").status_code == 400
    assert not PlannedPost.objects.exists()
