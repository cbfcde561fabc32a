"""Promise: a post that is to come back with its season waits as a draft in time, once a year, whoever was killed."""

from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand, Membership
from dakika_server.links.actions import Draft, make_link
from dakika_server.links.models import ClickDay, LinkUse, TrackedLink
from dakika_server.measures.testing import fill, make_profile
from dakika_server.notices.models import Notification
from dakika_server.plan.models import PlannedPost, SeasonReturn
from dakika_server.plan.returning import bring_back
from dakika_server.shared import clock
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def post(brand: Brand) -> Post:
    fill(make_profile(brand), 1, lambda i: {"text": "The first frost on the dome"})
    return Post.objects.get()


def at(day: date) -> datetime:
    return datetime(day.year, day.month, day.day, 12, tzinfo=UTC)


def put(client: Client, post: Post, day: date, days_before: int = 14) -> Any:
    return client.put(f"/api/brands/orrery-house/plan/again/{post.pk}/season",
                      {"day": day.isoformat(), "days_before": days_before}, content_type="application/json")  # fmt: skip


def test_a_draft_waits_in_time_and_once_a_year(client: Client, post: Post) -> None:
    assert put(client, post, date(2027, 1, 20)).json()["day"] == "2027-01-20"
    assert bring_back(at(date(2027, 1, 5))) == 0
    assert bring_back(at(date(2027, 1, 6))) == 1
    assert bring_back(at(date(2027, 1, 7))) == 0
    assert bring_back(at(date(2027, 2, 1))) == 0
    draft = PlannedPost.objects.get()
    assert (draft.state, draft.from_post) == ("draft", post)
    zone = draft.brand.zone
    assert draft.scheduled_at is not None
    assert draft.scheduled_at.astimezone(zone).date() == date(2027, 1, 20)
    assert draft.scheduled_at.astimezone(zone).time() == post.published_at.astimezone(zone).time()
    assert draft.versions.get().due_at == draft.scheduled_at
    assert Notification.objects.filter(path=f"plan/{draft.pk}").count() == 1
    assert bring_back(at(date(2028, 1, 10))) == 1
    assert PlannedPost.objects.count() == 2


def test_a_missed_morning_is_made_up_for_and_a_passed_season_waits_a_year(client: Client, post: Post) -> None:
    put(client, post, date(2027, 1, 20))
    assert bring_back(at(date(2027, 1, 20))) == 1
    put(client, post, date(2027, 3, 1), 0)
    assert bring_back(at(date(2027, 3, 2))) == 0
    assert bring_back(at(date(2028, 3, 1))) == 1


def test_who_set_it_and_left_writes_nothing_and_others_are_told(
    client: Client, post: Post, editor: Any, brand: Brand, viewer: Any
) -> None:
    put(client, post, date(2027, 1, 20))
    Membership.objects.filter(user=editor).delete()
    Membership.objects.filter(user=viewer).update(role="admin")
    assert bring_back(at(date(2027, 1, 10))) == 0
    assert bring_back(at(date(2027, 1, 11))) == 0
    assert not PlannedPost.objects.exists()
    told = Notification.objects.get(path=f"results/posts/{post.pk}")
    assert "could not be written" in told.text


def test_the_busiest_weeks_of_its_link_are_told(client: Client, editor: Any, brand: Brand, post: Post) -> None:
    link = make_link(editor, brand, Draft(destination="https://orrery.example/frost"))
    LinkUse.objects.create(link=link, post=post)
    today = clock.now().astimezone(brand.zone).date()
    TrackedLink.objects.filter(pk=link.pk).update(created_at=clock.now() - timedelta(days=500))
    peak = today - timedelta(days=200)
    ClickDay.objects.bulk_create(
        ClickDay(brand_id=brand.pk, link_id=link.pk, day=today - timedelta(days=n), people=30 if 158 < n <= 200 else 2)
        for n in range(1, 400)
    )
    told = client.get(f"/api/brands/orrery-house/plan/again/{post.pk}/season").json()
    assert told["day"] is None
    assert told["busiest"]["first"] == peak.isoformat()
    assert told["busiest"]["times"] == pytest.approx(15)


def test_it_is_left_and_nobody_elses(client: Client, client_of: Any, stranger: Any, viewer: Any, post: Post) -> None:
    put(client, post, date(2027, 1, 20))
    path = f"/api/brands/orrery-house/plan/again/{post.pk}/season"
    assert client_of(stranger).get(path.replace("orrery-house", "lantern-line")).status_code == 404
    assert client_of(viewer).delete(path).status_code == 403
    assert put(client, post, date(2027, 1, 20), 400).status_code == 400
    assert client.delete(path).status_code == 204
    assert client.delete(path).status_code == 404
    assert not SeasonReturn.objects.exists()
