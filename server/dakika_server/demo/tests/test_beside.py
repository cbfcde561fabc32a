"""Promise: the demo beside one's own brands is whole or not there, is its asker's alone, and touches nothing outside."""

from datetime import timedelta
from threading import Thread
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from rest_framework.exceptions import ValidationError

from dakika_server.accounts.models import User
from dakika_server.brands.actions import add_brand
from dakika_server.brands.everything import erase_person
from dakika_server.brands.models import Brand
from dakika_server.demo import beside
from dakika_server.demo.models import DemoBrand
from dakika_server.links.models import Click, TrackedLink
from dakika_server.notices.actions import notify
from dakika_server.notices.models import Notification
from dakika_server.plan.models import Boost, PlannedPost, Version
from dakika_server.shared import clock
from dakika_server.site.models import Visit
from dakika_server.sources.models import Credential, Post, Profile

pytestmark = pytest.mark.django_db
HERE = "/api/account/demo"


@pytest.fixture
def world(half_year: dict[str, Any], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(beside, "_archive", lambda: half_year)
    # Findings are looked for over all figures there are, which takes most of the time.
    monkeypatch.setattr("dakika_server.demo.results.find", lambda *_: None)


@pytest.fixture
def filled(world: None, editor: User) -> Brand:
    demo = beside.ask_for_demo(editor)
    beside.fill(demo.pk)
    return demo.brand


@pytest.fixture
def ready(editor: User) -> Brand:
    """One with nothing in it: filling takes long, and what is asked here of a demo needs none of it."""
    demo = beside.ask_for_demo(editor)
    DemoBrand.objects.filter(pk=demo.pk).update(state="ready")
    return demo.brand


def test_it_is_asked_for_once_and_told(editor: User, brand: Brand, client_of: Any) -> None:
    client = client_of(editor)
    assert client.get(HERE).json() == {"state": "none", "is_offered": True, "slug": None, "until": None}
    told = client.post(HERE)
    assert (told.status_code, told.json()["state"]) == (202, "waiting")
    assert client.post(HERE).json()["slug"] == told.json()["slug"]
    assert Brand.objects.filter(is_demo=True).count() == 1
    seen = client.get(f"/api/brands/{told.json()['slug']}").json()
    assert (seen["is_demo"], seen["name"], seen["role"]) == (True, "Orrery House (demo)", "admin")
    assert client.get(f"/api/brands/{brand.slug}").json()["is_demo"] is False


def test_whoever_may_make_no_brand_gets_none(viewer: User, client_of: Any) -> None:
    assert client_of(viewer).post(HERE).status_code == 400
    assert Client().post(HERE).status_code in (401, 403)
    assert not DemoBrand.objects.exists()


def test_it_has_figures_of_every_area_and_is_seen_by_its_asker_alone(
    filled: Brand, editor: User, viewer: User, brand: Brand, client_of: Any
) -> None:
    here = f"/api/brands/{filled.slug}"
    assert client_of(viewer).get(here).status_code == 404
    client = client_of(editor)
    assert client.get(HERE).json()["state"] == "ready"
    for rows in (Post, TrackedLink, Click, Visit, PlannedPost, Boost):
        assert rows.objects.filter(brand=filled).exists(), rows
        assert not rows.objects.filter(brand=brand).exists(), rows
    line = client.get(f"{here}/line").json()
    assert line["as_of"]


def test_nothing_of_it_goes_out_or_is_fetched(filled: Brand, editor: User) -> None:
    assert not Credential.objects.filter(brand=filled).exists()
    # Profiles that come from files are asked by nobody, and posted to by hand alone.
    assert all(profile.is_from_file for profile in Profile.objects.filter(brand=filled))
    assert not Version.objects.filter(planned_post__brand=filled, state="scheduled").exists()
    assert not Boost.objects.filter(brand=filled, next_at__isnull=False).exists()
    targets = TrackedLink.objects.filter(brand=filled).values_list("target", flat=True)
    assert all(".example/" in target for target in targets)
    # Not even by letter or message, whatever is chosen usually.
    notify(filled, kind="findings", key="x", text="Reach rose.")
    told = Notification.objects.get(brand=filled, key="x")
    assert (told.person, told.mail_at, told.push_at) == (editor, None, None)


def test_two_people_have_one_each(world: None, editor: User, stranger: User) -> None:
    for person in (editor, stranger):
        beside.fill(beside.ask_for_demo(person).pk)
    first, second = (beside.demo_of(person) for person in (editor, stranger))
    assert first is not None
    assert second is not None
    assert (first.state, second.state) == ("ready", "ready")
    assert first.brand.slug != second.brand.slug


def test_what_breaks_off_leaves_nothing_and_is_tried_again(
    world: None, editor: User, monkeypatch: pytest.MonkeyPatch
) -> None:
    demo = beside.ask_for_demo(editor)
    with monkeypatch.context() as broken:
        broken.setattr("dakika_server.demo.loading.make_reports", lambda *_: 1 / 0)
        beside.fill(demo.pk)
    demo.refresh_from_db()
    assert demo.state == "failed"
    assert not Post.objects.filter(brand=demo.brand).exists()
    assert beside.ask_for_demo(editor).state == "waiting"
    beside.fill(demo.pk)
    posts = Post.objects.filter(brand=demo.brand).count()
    # A job that comes twice finds it done.
    beside.fill(demo.pk)
    assert Post.objects.filter(brand=demo.brand).count() == posts > 0


def test_it_is_taken_away_as_a_whole_and_alone(filled: Brand, editor: User, brand: Brand, client_of: Any) -> None:
    client = client_of(editor)
    assert client.delete(HERE).status_code == 204
    assert client.get(f"/api/brands/{filled.slug}").status_code == 404
    assert client.get(HERE).json()["state"] == "going"
    assert client.post(HERE).status_code == 409
    beside.erase(brand.pk)
    beside.erase(filled.pk)
    assert list(Brand.objects.values_list("slug", flat=True)) == [brand.slug]
    assert not Post.objects.exists()
    assert client.get(HERE).json()["state"] == "none"
    assert client.delete(HERE).status_code == 204


def test_it_is_over_after_a_month(ready: Brand, editor: User) -> None:
    assert beside.take_away_old(clock.now() + beside.LASTS - timedelta(minutes=1)) == 0
    assert beside.take_away_old(clock.now() + beside.LASTS + timedelta(minutes=1)) == 1
    assert beside.take_away_old(clock.now() + beside.LASTS + timedelta(minutes=1)) == 0


def test_whoever_goes_for_good_takes_it_along(ready: Brand, viewer: User, editor: User, brand: Brand) -> None:
    brand.memberships.filter(user=viewer).update(role="admin")
    erase_person(editor)
    assert list(Brand.objects.values_list("slug", flat=True)) == [brand.slug]


def test_where_the_world_is_not_there_it_says_so(editor: User, client_of: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(beside, "WORLD", "nothing_of_this_name")
    client = client_of(editor)
    assert client.get(HERE).json()["is_offered"] is False
    answer = client.post(HERE)
    assert (answer.status_code, answer.json()["type"]) == (409, "urn:dakika:problem:no_demo")


def test_whoever_is_an_admin_of_a_demo_alone_makes_no_brand(ready: Brand, editor: User, brand: Brand) -> None:
    brand.memberships.filter(user=editor).update(role="viewer")
    with pytest.raises(ValidationError):
        add_brand(editor, name="Another", time_zone="UTC", first_weekday=0)


@pytest.mark.django_db(transaction=True)
def test_whoever_takes_it_away_while_it_is_made_does_not_wait_and_nothing_is_left(
    world: None, editor: User, brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    demo = beside.ask_for_demo(editor)

    def take_away() -> None:
        try:
            beside.take_away(editor)
        finally:
            connection.close()

    def nearly_done(*_: Any) -> None:
        other = Thread(target=take_away)
        other.start()
        other.join(30)
        assert not other.is_alive()

    monkeypatch.setattr("dakika_server.demo.loading.make_reports", nearly_done)
    beside.fill(demo.pk)
    demo.refresh_from_db()
    assert demo.state == "going"
    assert not Post.objects.filter(brand=demo.brand).exists()
    beside.erase(demo.pk)
    assert list(Brand.objects.values_list("slug", flat=True)) == [brand.slug]
