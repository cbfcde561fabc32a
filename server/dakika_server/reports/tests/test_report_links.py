"""Promise: a link opens its report and nothing else, until it ends; passwords cannot be tried without end."""

from datetime import timedelta
from typing import Any

import pytest
from django.core.cache import cache
from django.test import Client

from dakika_server.brands.models import Brand, Membership
from dakika_server.reports.models import Report, ReportLink
from dakika_server.reports.testing import report
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/reports"
JSON = "application/json"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    cache.clear()
    found: Client = client_of(editor)
    return found


def share(client: Client, made: Report, **more: Any) -> Any:
    until = (clock.now() + timedelta(days=30)).isoformat()
    return client.post(f"{HOME}/{made.pk}/links", {"name": "Cleo", "until": until, **more}, JSON)


def key_of(answer: Any) -> str:
    assert answer.status_code == 201, answer.json()
    key: str = answer.json()["address"].partition("/report#")[2]
    assert len(key) >= 43
    return key


def look(key: str, password: str = "", **more: Any) -> Any:
    return Client().post("/api/report", {"key": key, "password": password}, JSON, **more)


def test_whoever_has_it_sees_the_report_and_is_counted(client: Client, editor: Any, brand: Brand) -> None:
    made = report(editor, brand)
    pages = [{**page, "notes": "for us alone"} for page in made.pages]
    Report.objects.update(pages=pages)
    key = key_of(share(client, made))
    found = look(key)
    assert found.status_code == 200
    told = found.json()
    assert (told["title"], told["brand"], len(told["shown"]["pages"])) == ("Weekly review", "Orrery House", 3)
    # Notes are for whoever presents it; who made it is nobody's business outside.
    assert "for us alone" not in found.content.decode()
    assert editor.email not in found.content.decode()
    assert found["Cache-Control"] == "no-store"
    link = client.get(f"{HOME}/{made.pk}/links").json()[0]
    assert (link["visits"], link["has_password"]) == (1, False)
    kept = ReportLink.objects.get()
    assert key not in (kept.digest, kept.password)


def test_what_ended_was_taken_back_or_is_away_opens_nothing(client: Client, editor: Any, brand: Brand) -> None:
    made = report(editor, brand)
    key = key_of(share(client, made))
    for change, back in (({"until": clock.now() - timedelta(seconds=1)}, {"until": clock.now() + timedelta(days=1)}),):
        ReportLink.objects.update(**change)
        assert look(key).status_code == 404
        ReportLink.objects.update(**back)
    client.put(f"{HOME}/{made.pk}/away", {"is_away": True}, JSON)
    assert look(key).status_code == 404
    client.put(f"{HOME}/{made.pk}/away", {"is_away": False}, JSON)
    assert look(key).status_code == 200
    link = ReportLink.objects.get()
    assert client.delete(f"{HOME}/{made.pk}/links/{link.pk}").status_code == 204
    for wrong in (key, key[:-1], "", "x" * 90, "\x00"):
        assert look(wrong).status_code in (400, 404)


@pytest.mark.usefixtures("within_a_minute")
def test_a_password_is_asked_for_and_tried_a_few_times_only(client: Client, editor: Any, brand: Brand) -> None:
    made = report(editor, brand, "blank")
    key = key_of(share(client, made, password="half past nine"))
    assert look(key).status_code == 403
    assert look(key, "half past nine").status_code == 200
    answers = [look(key, f"guess {i}", REMOTE_ADDR="198.51.100.9").status_code for i in range(8)]
    assert answers == [403] * 5 + [429] * 3
    # The right one does not help whoever tried too often; somebody elsewhere is not locked out by them.
    assert look(key, "half past nine", REMOTE_ADDR="198.51.100.9").status_code == 429
    assert look(key, "half past nine", REMOTE_ADDR="198.51.100.10").status_code == 200
    for i in range(40):
        look(key, "guess", REMOTE_ADDR=f"198.51.101.{i}")
    assert look(key, "half past nine", REMOTE_ADDR="198.51.102.1").status_code == 429
    assert "half past nine" not in ReportLink.objects.get().password


@pytest.mark.usefixtures("within_a_minute")
def test_it_is_not_opened_without_end(client: Client, editor: Any, brand: Brand) -> None:
    key = key_of(share(client, report(editor, brand, "blank")))
    answers = [look(key, REMOTE_ADDR="198.51.100.3").status_code for _ in range(32)]
    assert answers == [200] * 30 + [429] * 2
    assert look(key, REMOTE_ADDR="198.51.100.4").status_code == 200


def test_a_frozen_one_shows_what_it_was(client: Client, editor: Any, brand: Brand, own_profile: Any) -> None:
    own_profile()
    made = report(editor, brand)
    live, frozen = key_of(share(client, made)), key_of(share(client, made, is_frozen=True))
    Report.objects.update(title="Another", pages=made.pages[:1])
    assert look(live).json()["title"] == "Another"
    kept = look(frozen).json()
    assert (kept["title"], len(kept["pages"]), len(kept["shown"]["pages"])) == ("Weekly review", 3, 3)


def test_who_may_share_and_what_is_refused(
    client: Client, editor: Any, brand: Brand, viewer: Any, client_of: Any, stranger: Any
) -> None:
    made = report(editor, brand)
    for more, field in (
        ({"name": " "}, "name"), ({"until": "2020-01-01T00:00:00Z"}, "until"), ({"password": "abc"}, "password"),
        ({"until": "2099-01-01T00:00:00Z"}, "until"), ({"until": "x"}, "until"), ({"is_frozen": "x"}, "is_frozen"),
    ):  # fmt: skip
        answer = share(client, made, **more)
        assert answer.status_code == 400
        assert field in answer.json()["errors"]
    for role in ("viewer", "author"):
        Membership.objects.filter(user=viewer).update(role=role)
        assert share(client_of(viewer), made).status_code == 403
    assert share(client_of(stranger), made).status_code == 404
    key_of(share(client, made))
    link = ReportLink.objects.get()
    assert client_of(stranger).delete(f"/api/brands/lantern-line/reports/{made.pk}/links/{link.pk}").status_code == 404
