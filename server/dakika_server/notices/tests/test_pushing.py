"""Promise: notices come to a person's own browsers if they wish so, each once, none that was read and none at night.

The push service is a stand-in that opens what it gets with code of its own (RFC 8291) and checks who sends (RFC 8292).
"""

from datetime import timedelta
from typing import Any

import httpx
import pytest
from django.test import Client

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.notices.actions import mark_read, notify
from dakika_server.notices.choices import KINDS
from dakika_server.notices.models import NoticeBrowser, NoticeChoice, NoticeHours, Notification, PushKey
from dakika_server.notices.pushing import push_due, push_key
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
BROWSERS, JSON = "/api/account/browsers", "application/json"
KIND = "team"


def new_browser(world: Any) -> Any:
    (made,) = httpx.post(f"{world.address}/control/browsers", json={"subscribe": 1}).json()
    return made


def shown(world: Any) -> list[list[dict[str, Any]]]:
    return [one["shown"] for one in httpx.get(f"{world.address}/control/browsers").json()]


@pytest.fixture
def chosen(brand: Brand, editor: User, client_of: Any, world: Any) -> Client:
    """Somebody with one browser who wants to see a kind of notices there."""
    client: Client = client_of(editor)
    answer = client.post(BROWSERS, new_browser(world), JSON)
    assert answer.status_code == 201, answer.content
    NoticeChoice.objects.create(brand=brand, person=editor, kind=KIND, by_push=True)
    return client


def tell(brand: Brand, key: str = "1") -> int:
    return notify(brand, kind=KIND, key=key, text="Toma left, and you have what was theirs.", path="team")


def later(monkeypatch: pytest.MonkeyPatch, **by: float) -> None:
    at = clock.now() + timedelta(**by)
    monkeypatch.setattr(clock, "now", lambda: at)


def test_a_notice_is_shown_once(chosen: Client, brand: Brand, world: Any) -> None:
    before = len(shown(world)) - 1
    tell(brand)
    tell(brand)
    assert push_due() == 1
    assert push_due() == 0
    notice = Notification.objects.get()
    (seen,) = shown(world)[before]
    assert (seen["title"], seen["text"], seen["tag"], seen["times"]) == (
        "Orrery House", "Toma left, and you have what was theirs.", f"notice-{notice.pk}", 1,
    )  # fmt: skip
    assert seen["address"].endswith("/orrery-house/team")
    assert notice.pushed_at is not None


def test_who_did_not_choose_it_is_left_in_peace(brand: Brand, editor: User, world: Any, client_of: Any) -> None:
    client_of(editor).post(BROWSERS, new_browser(world), JSON)
    tell(brand)
    assert Notification.objects.get().push_at is None
    assert push_due() == 0


def test_what_was_read_needs_no_message(
    chosen: Client, brand: Brand, editor: User, world: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = len(shown(world)) - 1
    tell(brand)
    mark_read(editor, brand, None)
    assert push_due() == 0
    tell(brand, "2")
    later(monkeypatch, hours=25)
    assert push_due() == 0, "and what is old is no news"
    assert shown(world)[before] == []


def test_quiet_hours_hold_for_messages_too(
    chosen: Client, brand: Brand, editor: User, monkeypatch: pytest.MonkeyPatch
) -> None:
    night = clock.now().replace(hour=23, minute=30)
    monkeypatch.setattr(clock, "now", lambda: night)
    NoticeHours.objects.create(person=editor, quiet_from="22:00", quiet_to="07:00", digest_at="08:00")
    tell(brand)
    told = Notification.objects.get().push_at
    assert told is not None
    assert told.astimezone(brand.zone).strftime("%H:%M") == "07:00"
    assert push_due() == 0


def test_a_service_that_is_away_is_tried_again_and_the_message_takes_its_own_place(
    chosen: Client, brand: Brand, world: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = len(shown(world)) - 1
    tell(brand)
    world.faults(push__lost_answer=1)
    push_due()
    world.faults(push__lost_answer=0)
    assert Notification.objects.get().pushed_at is None
    assert push_due() == 0, "not before its time"
    later(monkeypatch, minutes=6)
    assert push_due() == 1
    (seen,) = shown(world)[before]
    assert seen["times"] == 2, "the same message, in its own place"
    assert Notification.objects.get().pushed_at is not None


def test_it_is_given_up_in_the_end(chosen: Client, brand: Brand, world: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    tell(brand)
    world.faults(push__error500=1)
    for _ in range(6):
        push_due()
        later(monkeypatch, minutes=30)
    world.faults(push__error500=0)
    notice = Notification.objects.get()
    assert (notice.push_tries, notice.pushed_at is not None) == (4, True)


def test_a_browser_that_is_gone_is_forgotten(chosen: Client, brand: Brand, world: Any) -> None:
    httpx.post(f"{world.address}/control/browsers", json={"leave": len(shown(world))})
    tell(brand)
    push_due()
    assert not NoticeBrowser.objects.exists()
    assert Notification.objects.get().pushed_at is not None


def test_one_sees_and_ends_ones_own_alone(chosen: Client, viewer: User, client_of: Any, world: Any) -> None:
    (mine,) = chosen.get(BROWSERS).json()["browsers"]
    assert "endpoint" not in mine
    other = client_of(viewer)
    assert other.get(BROWSERS).json()["browsers"] == []
    assert other.delete(f"{BROWSERS}/{mine['id']}").status_code == 404
    assert chosen.delete(f"{BROWSERS}/{mine['id']}").status_code == 204
    assert chosen.get(BROWSERS).json()["browsers"] == []


def test_a_browser_that_two_use_shows_the_latters(chosen: Client, viewer: User, client_of: Any, world: Any) -> None:
    one = new_browser(world)
    chosen.post(BROWSERS, one, JSON)
    assert client_of(viewer).post(BROWSERS, one, JSON).status_code == 201
    assert [kept.person for kept in NoticeBrowser.objects.order_by("-pk")[:1]] == [viewer]
    assert len(chosen.get(BROWSERS).json()["browsers"]) == 1


@pytest.mark.parametrize(
    "wrong",
    [
        {}, {"endpoint": "https://push.example/x"}, {"endpoint": "https://push.example/x", "keys": "none"},
        {"endpoint": "http://push.example/x", "keys": {"p256dh": "a", "auth": "b"}},
        {"endpoint": "https://push.example/x", "keys": {"p256dh": "B" * 87, "auth": "A" * 22}},
        {"endpoint": 7, "keys": {"p256dh": 7, "auth": 7}},
    ],
)  # fmt: skip
def test_what_is_no_subscription_is_refused(brand: Brand, editor: User, client_of: Any, wrong: Any) -> None:
    assert client_of(editor).post(BROWSERS, wrong, JSON).status_code == 400
    assert not NoticeBrowser.objects.exists()


def test_there_is_one_key_and_it_is_kept_sealed(chosen: Client) -> None:
    told = chosen.get(BROWSERS).json()["key"]
    assert told == push_key().public_key
    assert PushKey.objects.count() == 1
    assert len(told) == 87


def test_it_is_chosen_with_the_other_ways(chosen: Client, brand: Brand) -> None:
    home = "/api/brands/orrery-house/notifications/choices"
    kinds = [{"kind": key, "is_shown": True, "by_mail": "never", "by_push": key == "mail"} for key in KINDS]
    hours = {"quiet_from": None, "quiet_to": None, "digest_at": "08:00"}
    answer = chosen.put(home, {"kinds": kinds, "hours": hours}, JSON)
    assert answer.status_code == 200, answer.content
    assert {one["kind"] for one in answer.json()["kinds"] if one["by_push"]} == {"mail"}
