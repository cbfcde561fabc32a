"""Promise: a followed calendar stands beside the plan, is asked for anew, and breaks nothing whatever it sends."""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.networks.fetcher import Fetched, FetchError
from dakika_server.plan import followed
from dakika_server.plan.models import CalendarEvent, FollowedCalendar
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"


def day(offset: int) -> str:
    return (clock.now() + timedelta(days=offset)).strftime("%Y%m%d")


def calendar(*names: str) -> bytes:
    events = "".join(
        f"BEGIN:VEVENT\r\nUID:{name}\r\nSUMMARY:{name}\r\nDTSTART;VALUE=DATE:{day(i)}\r\nEND:VEVENT\r\n"
        for i, name in enumerate(names)
    )
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nX-WR-CALNAME:Tides\r\n{events}END:VCALENDAR\r\n".encode()


class Elsewhere:
    """A server somewhere: what it answers, and what it was asked with."""

    def __init__(self) -> None:
        self.answer: bytes | Exception | int = calendar("Spring tide", "Neap tide")
        self.asked: list[tuple[str, dict[str, str]]] = []

    def fetch(self, address: str, *, accept: str, headers: dict[str, str] | None = None) -> Fetched:
        self.asked.append((address, headers or {}))
        if isinstance(self.answer, Exception):
            raise self.answer
        if isinstance(self.answer, int):
            return Fetched(status=self.answer, address=address, content=b"", headers={})
        return Fetched(status=200, address=address, content=self.answer, headers={"etag": '"1"'})


@pytest.fixture
def elsewhere(monkeypatch: pytest.MonkeyPatch) -> Elsewhere:
    found = Elsewhere()
    monkeypatch.setattr(followed, "fetch", found.fetch)
    return found


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def follow(client: Client, address: str = "webcal://tides.example/lisbon.ics", **more: Any) -> Any:
    return client.post(f"{BASE}/calendars", {"address": address, **more}, JSON)


def seen(client: Client) -> list[str]:
    now = clock.now()
    span = f"first={now:%Y-%m-%d}&last={now + timedelta(days=9):%Y-%m-%d}"
    return [one["text"] for one in client.get(f"{BASE}?{span}").json()["events"]]


def test_it_is_read_over_https_and_stands_in_the_calendar(client: Client, elsewhere: Elsewhere) -> None:
    made = follow(client)
    assert (made.status_code, made.json()["name"]) == (201, "Tides")
    assert elsewhere.asked[0][0] == "https://tides.example/lisbon.ics"
    assert seen(client) == ["Spring tide", "Neap tide"]
    # A private calendar's address is a secret of whoever wrote it.
    now = clock.now()
    assert "tides.example" not in client.get(f"{BASE}?first={now:%Y-%m-%d}&last={now:%Y-%m-%d}").content.decode()
    assert follow(client).status_code == 409
    assert client.delete(f"{BASE}/calendars/{made.json()['id']}").status_code == 204
    assert (seen(client), CalendarEvent.objects.count()) == ([], 0)


@pytest.mark.parametrize("answer", [b"<html>no</html>", FetchError("tides.example cannot be reached."), b""])
def test_what_is_none_is_said_beside_the_field(answer: Any, client: Client, elsewhere: Elsewhere) -> None:
    elsewhere.answer = answer
    refused = follow(client)
    assert refused.status_code == 400
    assert "address" in refused.json()["errors"]
    assert not FollowedCalendar.objects.exists()


@pytest.mark.parametrize("address", ["ftp://tides.example/a", "http://127.0.0.1:1/a.ics", "no address", "https:x"])
def test_addresses_inside_and_none_at_all_are_refused(address: str, client: Client) -> None:
    assert follow(client, address).status_code == 400


def test_asked_anew_it_is_replaced_and_when_away_it_stays_and_says_so(client: Client, elsewhere: Elsewhere) -> None:
    pk = follow(client).json()["id"]
    elsewhere.answer = 304
    followed.refresh_calendar(pk)
    assert elsewhere.asked[-1][1] == {"If-None-Match": '"1"'}
    elsewhere.answer = calendar("Eclipse")
    followed.refresh_calendar(pk)
    assert seen(client) == ["Eclipse"]
    elsewhere.answer = FetchError("tides.example cannot be reached.")
    before = clock.now()
    followed.refresh_calendar(pk)
    found = FollowedCalendar.objects.get()
    assert (seen(client), found.message) == (["Eclipse"], "tides.example cannot be reached.")
    assert found.next_at is not None
    assert found.next_at > before + timedelta(hours=5)
    assert followed.claim_due() == []
    FollowedCalendar.objects.update(next_at=before)
    # Told once, though its job may wait behind others for long.
    assert (followed.claim_due(), followed.claim_due()) == ([pk], [])


def test_it_is_the_brands_own_and_takes_the_right_to_write(
    client: Client, elsewhere: Elsewhere, viewer: Any, stranger: Any, client_of: Any, brand: Brand
) -> None:
    pk = follow(client).json()["id"]
    assert follow(client_of(viewer)).status_code == 403
    assert client_of(viewer).delete(f"{BASE}/calendars/{pk}").status_code == 403
    assert client_of(stranger).delete(f"/api/brands/lantern-line/plan/calendars/{pk}").status_code == 404
    assert FollowedCalendar.objects.filter(brand=brand).count() == 1
