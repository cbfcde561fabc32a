"""Promise: many posts are changed together as each would be alone, what cannot be is told, and one undo puts all back."""

from datetime import datetime, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.actions import save_planned_post, schedule_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost, Remark, ReviewRules, ReviewVerdict, SeveralChange, Task, Version
from dakika_server.plan.publish import _put_on_tags
from dakika_server.plan.remarks import remark, vote
from dakika_server.plan.reviewing import teller_of
from dakika_server.plan.saying import submit
from dakika_server.plan.several import KEPT, forget_changes
from dakika_server.results.models import PostTag, Tag
from dakika_server.shared import clock
from dakika_server.sources.models import Post, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/plan"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def posts(editor: Any, brand: Brand) -> list[PlannedPost]:
    """Three drafts at nine, ten and eleven two days ahead."""
    profile = make_profile(brand)
    at = (clock.now() + timedelta(days=2)).replace(hour=9, minute=0, second=0, microsecond=0)
    return [
        save_planned_post(editor, brand, title=f"Post {n}", scheduled_at=at + timedelta(hours=n),
                          common=Common(text=f"Words {n}"), versions=[VersionInput(profile_id=profile.pk)])
        for n in range(3)
    ]  # fmt: skip


def change(client: Client, posts: list[PlannedPost], what: str, **more: Any) -> Any:
    for one in posts:
        one.refresh_from_db(fields=["edition"])
    chosen = [{"id": one.pk, "edition": one.edition} for one in posts]
    answer = client.post(f"{HOME}/several", {"posts": chosen, "what": what, **more}, content_type="application/json")
    assert answer.status_code == 201, answer.json()
    return answer.json()


def undo(client: Client, told: Any) -> Any:
    return client.post(f"{HOME}/several/{told['id']}/undo").json()


def times(posts: list[PlannedPost]) -> list[datetime | None]:
    return [PlannedPost.objects.get(pk=one.pk).scheduled_at for one in posts]


def test_moved_together_and_back_again(client: Client, posts: list[PlannedPost], editor: Any) -> None:
    before = times(posts)
    schedule_post(editor, posts[1], at=posts[1].scheduled_at)
    told = change(client, posts, "move", days=3, minutes=30)
    assert told["changed"] == 3
    zone = posts[0].brand.zone
    for was, now in zip(before, times(posts), strict=True):
        assert was is not None
        assert now is not None
        local = was.astimezone(zone).replace(tzinfo=None) + timedelta(days=3, minutes=30)
        assert now.astimezone(zone).replace(tzinfo=None) == local
    assert PlannedPost.objects.get(pk=posts[1].pk).state == "scheduled"
    assert list(Version.objects.order_by("pk").values_list("due_at", flat=True)) == times(posts)
    assert undo(client, told) == {"undone": 3, "left": 0}
    assert times(posts) == before


def test_what_cannot_be_moved_is_told_and_the_others_are(client: Client, posts: list[PlannedPost]) -> None:
    PlannedPost.objects.filter(pk=posts[0].pk).update(state="published")
    PlannedPost.objects.filter(pk=posts[1].pk).update(scheduled_at=None)
    told = change(client, posts, "move", days=1)
    assert (told["changed"], [(one["title"], one["why"]) for one in told["refused"]]) == (1, [
        ("Post 0", "The post is published and cannot be moved."), ("Post 1", "It has no time that could be moved."),
    ])  # fmt: skip


def test_a_colleagues_edition_is_not_written_over(client: Client, posts: list[PlannedPost]) -> None:
    chosen = [{"id": posts[0].pk, "edition": posts[0].edition}]
    PlannedPost.objects.filter(pk=posts[0].pk).update(edition=7)
    answer = client.post(f"{HOME}/several", {"posts": chosen, "what": "delete"}, content_type="application/json").json()
    assert (answer["id"], answer["changed"], len(answer["refused"])) == (None, 0, 1)
    assert PlannedPost.objects.count() == 3


def test_what_somebody_changed_since_stays_as_it_is(client: Client, posts: list[PlannedPost]) -> None:
    told = change(client, posts, "move", days=1)
    moved = times(posts)
    PlannedPost.objects.filter(pk=posts[2].pk).update(edition=40)
    assert undo(client, told) == {"undone": 2, "left": 1}
    assert times(posts)[2] == moved[2]


def test_thrown_away_and_brought_back_with_all_that_was_said(
    client: Client, posts: list[PlannedPost], editor: Any, viewer: Any, brand: Brand
) -> None:
    remark(teller_of(viewer, brand), posts[0], text="Lovely")
    vote(teller_of(viewer, brand), posts[0], 1)
    Task.objects.create(brand=brand, planned_post=posts[0], text="Ask", person=editor, made_at=clock.now())
    schedule_post(editor, posts[1], at=posts[1].scheduled_at)
    keys = set(Version.objects.values_list("idempotency_key", flat=True))
    told = change(client, posts, "delete")
    assert (PlannedPost.objects.count(), Version.objects.count(), Remark.objects.count()) == (0, 0, 0)
    assert undo(client, told) == {"undone": 3, "left": 0}
    assert set(Version.objects.values_list("idempotency_key", flat=True)) == keys
    assert {one.title: one.state for one in PlannedPost.objects.all()} == {
        "Post 0": "draft", "Post 1": "scheduled", "Post 2": "draft",
    }  # fmt: skip
    assert (Remark.objects.get().text, Task.objects.get().text) == ("Lovely", "Ask")
    assert client.get(f"{HOME}/{posts[0].pk}/review").json()["votes"]["for_it"] == 1
    # Its numbers go on where they were: nothing new takes the place of what came back.
    again = client.post(HOME, {"title": "New", "versions": []}, content_type="application/json").json()
    assert again["id"] > max(one.pk for one in posts)


def test_what_is_gone_meanwhile_is_no_longer_named(client: Client, posts: list[PlannedPost], brand: Brand) -> None:
    """A campaign that was removed, and a profile: the post comes back without them."""
    campaign = Campaign.objects.create(
        brand=brand, name="Night", colour=1, first_day="2026-11-01", last_day="2026-12-30"
    )
    PlannedPost.objects.filter(pk=posts[0].pk).update(campaign=campaign)
    told = change(client, posts, "delete")
    campaign.delete()
    Profile.objects.filter(brand=brand).delete()
    assert undo(client, told) == {"undone": 3, "left": 0}
    assert PlannedPost.objects.get(pk=posts[0].pk).campaign is None
    assert not Version.objects.exists()


def test_put_into_a_campaign_and_out_again(client: Client, posts: list[PlannedPost], brand: Brand) -> None:
    campaign = Campaign.objects.create(
        brand=brand, name="Night", colour=1, first_day="2026-11-01", last_day="2026-12-30"
    )
    told = change(client, posts, "campaign", campaign=campaign.pk)
    assert PlannedPost.objects.filter(campaign=campaign).count() == 3
    PlannedPost.objects.filter(pk=posts[0].pk).update(campaign=None)
    assert undo(client, told) == {"undone": 2, "left": 1}
    assert not PlannedPost.objects.filter(campaign=campaign).exists()


def test_tags_wait_for_the_post_to_be_out(client: Client, posts: list[PlannedPost], brand: Brand) -> None:
    tag = Tag.objects.create(brand=brand, name="clocks", colour=1)
    told = change(client, posts, "tags", tags=[tag.pk])
    change(client, posts[:1], "tags", tags=[tag.pk])
    fill(make_profile(brand, "brevi"), 1)
    post = Post.objects.get()
    _put_on_tags(PlannedPost.objects.get(pk=posts[0].pk), post)
    _put_on_tags(PlannedPost.objects.get(pk=posts[0].pk), post)
    assert PostTag.objects.get().tag == tag
    assert undo(client, told) == {"undone": 3, "left": 0}
    assert all(one.tags == [] for one in PlannedPost.objects.all())


def test_tags_are_seen_and_changed_where_a_post_is_written(
    client: Client, posts: list[PlannedPost], brand: Brand
) -> None:
    tag = Tag.objects.create(brand=brand, name="clocks", colour=1)
    body = {"title": "x", "edition": 1, "versions": [], "tags": [tag.pk]}
    assert client.put(f"{HOME}/{posts[0].pk}", body, content_type="application/json").json()["tags"] == [tag.pk]
    kept = client.put(
        f"{HOME}/{posts[0].pk}", {"title": "y", "edition": 2, "versions": []}, content_type="application/json"
    )
    assert kept.json()["tags"] == [tag.pk]
    elsewhere = {**body, "edition": 3, "tags": [tag.pk + 99]}
    assert client.put(f"{HOME}/{posts[0].pk}", elsewhere, content_type="application/json").status_code == 400


def test_said_yes_to_together_and_taken_back(
    client: Client, client_of: Any, posts: list[PlannedPost], viewer: Any, brand: Brand, editor: Any
) -> None:
    ReviewRules.objects.create(brand=brand, steps=["approver"], may_approve_own=False)
    for one in posts[:2]:
        submit(viewer_as_author(viewer), one)
    told = change(client, posts, "say_yes")
    assert told["changed"] == 2
    assert "nobody is asked" in told["refused"][0]["why"]
    assert list(PlannedPost.objects.order_by("pk").values_list("state", flat=True)) == [
        "scheduled",
        "scheduled",
        "draft",
    ]
    assert undo(client, told) == {"undone": 2, "left": 0}
    assert list(PlannedPost.objects.order_by("pk").values_list("state", flat=True)) == [
        "in_review",
        "in_review",
        "draft",
    ]
    assert not ReviewVerdict.objects.exists()
    assert set(Version.objects.filter(planned_post__in=posts[:2]).values_list("state", flat=True)) == {"in_review"}


def viewer_as_author(viewer: Any) -> Any:
    Membership.objects.filter(user=viewer).update(role="author")
    return viewer


def test_who_may_no_longer_publish_brings_nothing_back_that_would_go_out(
    client: Client, posts: list[PlannedPost], editor: Any
) -> None:
    schedule_post(editor, posts[1], at=posts[1].scheduled_at)
    told = change(client, posts, "delete")
    Membership.objects.filter(user=editor).update(role="author")
    assert undo(client, told) == {"undone": 2, "left": 1}
    assert set(PlannedPost.objects.values_list("state", flat=True)) == {"draft"}


def test_undone_once_by_who_did_it_within_a_day(
    client: Client, posts: list[PlannedPost], client_of: Any, brand: Brand
) -> None:
    other = User.objects.create(email="other@ninthbell.example", name="Other")
    Membership.objects.create(user=other, brand=brand, role="admin")
    told = change(client, posts, "move", days=1)
    assert client_of(other).post(f"{HOME}/several/{told['id']}/undo").status_code == 404
    assert undo(client, told)["undone"] == 3
    assert client.post(f"{HOME}/several/{told['id']}/undo").status_code == 409
    late = change(client, posts, "move", days=1)
    SeveralChange.objects.filter(pk=late["id"]).update(made_at=clock.now() - KEPT - timedelta(minutes=1))
    assert client.post(f"{HOME}/several/{late['id']}/undo").status_code == 409
    forget_changes(clock.now())
    assert SeveralChange.objects.count() == 1


@pytest.mark.parametrize("more", [
    {"what": "move"}, {"what": "move", "days": 9999}, {"what": "campaign", "campaign": 99_999}, {"what": "tags"},
    {"what": "tags", "tags": [99_999]}, {"what": "publish"}, {"what": "delete", "posts": []},
])  # fmt: skip
def test_what_cannot_be_is_refused(client: Client, posts: list[PlannedPost], more: Any) -> None:
    body = {"posts": [{"id": posts[0].pk, "edition": posts[0].edition}], **more}
    assert client.post(f"{HOME}/several", body, content_type="application/json").status_code == 400
    assert not SeveralChange.objects.exists()


def test_of_another_brand_nothing_is_touched(
    client: Client, posts: list[PlannedPost], stranger: Any, client_of: Any
) -> None:
    body = {"posts": [{"id": posts[0].pk, "edition": posts[0].edition}], "what": "delete"}
    told = (
        client_of(stranger).post("/api/brands/lantern-line/plan/several", body, content_type="application/json").json()
    )
    assert (told["changed"], told["refused"][0]["title"]) == (0, "")
    assert PlannedPost.objects.count() == 3
