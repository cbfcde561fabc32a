"""Promise: the first person of an installation comes in by the key of its first start, once, and nobody else does."""

import threading
from datetime import timedelta
from io import StringIO
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connections
from django.test import Client

from dakika_server.accounts.models import FirstKey, User
from dakika_server.brands.beginning import begin, first_key
from dakika_server.brands.models import Brand, Membership
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
JSON = "application/json"
ASKED = {
    "name": "Mira", "email": "Mira@ninthbell.example", "password": "half past nine o'clock", "brand": "Orrery House",
    "time_zone": "Europe/Lisbon",
}  # fmt: skip


def post(key: str, client: Client | None = None, **more: Any) -> Any:
    return (client or Client()).post("/api/begin", {"key": key, **ASKED, **more}, JSON)


def test_it_makes_the_first_admin_with_their_brand_and_signs_them_in() -> None:
    key, client = first_key(), Client()
    assert key is not None
    answer = post(key, client)
    assert answer.status_code == 201, answer.json()
    assert [(one["name"], one["role"]) for one in answer.json()["brands"]] == [("Orrery House", "admin")]
    person = User.objects.get()
    assert person.email == "mira@ninthbell.example"
    assert person.check_password("half past nine o'clock")
    assert Membership.objects.get().role == "admin"
    assert client.get("/api/brands/orrery-house").status_code == 200
    # It is used up; no further one is made.
    assert post(key, email="other@ninthbell.example").status_code == 404
    assert first_key() is None
    assert not FirstKey.objects.exists()


@pytest.mark.parametrize(
    ("wrong", "field"),
    [({"name": "  "}, "name"), ({"email": "nobody"}, "email"), ({"password": "short"}, "password"),
     ({"password": "password123"}, "password"), ({"brand": "  "}, "brand"), ({"time_zone": "Mars/Olympus"}, "time_zone")],
)  # fmt: skip
def test_what_is_wrong_is_said_beside_it_and_uses_nothing_up(wrong: dict[str, str], field: str) -> None:
    key = str(first_key())
    answer = post(key, **wrong)
    assert answer.status_code == 400
    assert field in answer.json()["errors"]
    assert not User.objects.exists()
    assert not Brand.objects.exists()
    assert post(key).status_code == 201


def test_a_key_ends_after_a_day_and_with_the_next_one(monkeypatch: pytest.MonkeyPatch) -> None:
    old, key = str(first_key()), str(first_key())
    assert post(old).status_code == 404
    later = clock.now() + timedelta(hours=25)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert post(key).status_code == 404
    assert post("").status_code == 400
    assert not User.objects.exists()


def test_where_somebody_is_no_key_helps(editor: Any) -> None:
    FirstKey.objects.create(digest="0" * 64, until=clock.now() + timedelta(days=1))
    assert first_key() is None
    out = StringIO()
    call_command("first_key", stdout=out)
    assert out.getvalue() == ""
    assert post("x").status_code == 404


@pytest.mark.usefixtures("within_a_minute")
def test_it_is_not_tried_without_end() -> None:
    key = first_key()
    answers = [post(f"guess {i}").status_code for i in range(12)]
    assert answers[:10] == [404] * 10
    assert answers[-1] == 429
    assert key


def test_the_terminal_is_told_where_and_the_database_keeps_a_digest(settings: Any) -> None:
    out = StringIO()
    call_command("first_key", stdout=out)
    address = out.getvalue().split()[-1]
    assert address.startswith(f"{settings.PUBLIC_ADDRESS}/begin#")
    assert address.partition("#")[2] not in FirstKey.objects.get().digest


@pytest.mark.django_db(transaction=True)
def test_of_two_who_come_at_once_one_is_the_first() -> None:
    key = str(first_key())
    done: list[str] = []
    both = threading.Barrier(2)

    def come(i: int) -> None:
        both.wait()
        try:
            begin(key, **{**ASKED, "email": f"p{i}@ninthbell.example", "brand": f"Brand {i}"})
            done.append("in")
        except Exception as error:  # noqa: BLE001 (whatever keeps the other out)
            done.append(type(error).__name__)
        finally:
            connections.close_all()

    people = [threading.Thread(target=come, args=(i,)) for i in range(2)]
    for one in people:
        one.start()
    for one in people:
        one.join()
    assert sorted(done) == ["Http404", "in"]
    assert (User.objects.count(), Brand.objects.count()) == (1, 1)
