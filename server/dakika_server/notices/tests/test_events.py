"""Promise: a browser hears what changed in its own brands, soon, once committed, and nothing of anybody else's."""

import asyncio
import json
from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from typing import Any

import psycopg
import pytest
from django.core.signing import BadSignature
from django.db import connection, transaction

from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.notices import events, tickets
from dakika_server.notices.changes import CHANNEL, WATCHED
from dakika_server.notices.events import Events


@pytest.fixture(autouse=True)
def _quick(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(events, "GATHER_SECONDS", 0.01)


def read_ticket(ticket: str) -> tuple[int, dict[int, str]]:
    if ticket != "good":
        raise BadSignature
    return 7, {1: "orrery-house", 2: "lantern-line"}


class Stream:
    """A browser's side of a stream."""

    def __init__(self) -> None:
        self.sent: asyncio.Queue[dict[str, Any]] = asyncio.Queue()
        self._gone = asyncio.Event()

    async def receive(self) -> dict[str, Any]:
        await self._gone.wait()
        return {"type": "http.disconnect"}

    async def send(self, message: Any) -> None:
        await self.sent.put(dict(message))

    def leave(self) -> None:
        self._gone.set()

    async def status(self) -> int:
        return int((await asyncio.wait_for(self.sent.get(), 5))["status"])

    async def event(self) -> tuple[str, Any]:
        body = (await asyncio.wait_for(self.sent.get(), 5))["body"].decode()
        name, _, data = body.partition("\n")
        return name.removeprefix("event: "), json.loads(data.removeprefix("data: ").strip() or "null")


@asynccontextmanager
async def opened(app: Events, ticket: str = "good", path: str = "/events") -> AsyncIterator[Stream]:
    stream = Stream()
    scope = {"type": "http", "method": "GET", "path": path, "query_string": f"ticket={ticket}".encode()}
    task = asyncio.create_task(app(scope, stream.receive, stream.send))
    yield stream
    stream.leave()
    await asyncio.wait_for(task, 5)


def run(story: Callable[[Events], Awaitable[None]]) -> None:
    asyncio.run(_told(story))


async def _told(story: Callable[[Events], Awaitable[None]]) -> None:
    await story(Events("http://127.0.0.1:8000", read_ticket))


def test_changes_of_a_moment_come_together_and_those_of_others_never() -> None:
    async def story(app: Events) -> None:
        async with opened(app) as stream:
            assert await stream.status() == 200
            assert (await stream.event())[0] == "hello"
            for payload in ("1 links", "3 plan", "1 plan", "1 links", "nonsense", "", "2 "):
                app.changed(payload)
            assert await stream.event() == ("changed", {"brand": "orrery-house", "things": ["links", "plan"]})
            app.changed("2 files")
            assert await stream.event() == ("changed", {"brand": "lantern-line", "things": ["files"]})
            assert stream.sent.empty()
        assert not app.listeners, "who leaves is forgotten"

    run(story)


def test_who_does_not_keep_up_asks_for_everything(monkeypatch: pytest.MonkeyPatch) -> None:
    async def story(app: Events) -> None:
        async with opened(app) as stream:
            await stream.status()
            await stream.event()
            (listener,) = app.listeners
            for _ in range(events.MOST_WAITING + 5):
                listener.tell(events.event("changed", brand="x", things=["links"]))
            assert (await stream.event())[0] == "anew"

    run(story)


def test_nobody_listens_without_a_ticket_or_without_bound(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(events, "MOST_OF_PERSON", 2)

    async def story(app: Events) -> None:
        for ticket, path, wanted in (("bad", "/events", 403), ("", "/events", 403), ("good", "/else", 404)):
            async with opened(app, ticket, path) as stream:
                assert await stream.status() == wanted
        async with opened(app) as one, opened(app) as two, opened(app) as three:
            assert [await s.status() for s in (one, two, three)] == [200, 200, 429]

    run(story)


def test_a_quiet_stream_is_pinged_and_ends_in_time(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(events, "PING_SECONDS", 0.05)
    monkeypatch.setattr(events, "LONGEST_SECONDS", 0.2)

    async def story(app: Events) -> None:
        async with opened(app) as stream:
            await stream.status()
            bodies = []
            while not bodies or b"over" not in bodies[-1]:
                bodies.append((await asyncio.wait_for(stream.sent.get(), 5))["body"])
            assert b": ping\n\n" in bodies

    run(story)


def test_tickets_are_ours_fresh_and_of_ones_own_brands(
    client_of: Any, editor: Any, stranger: Any, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings.EVENTS_ADDRESS = "http://127.0.0.1:8060"
    told = client_of(editor).get("/api/events").json()
    person, brands = tickets.read_ticket(told["ticket"])
    assert (told["address"], person, [*brands.values()]) == ("http://127.0.0.1:8060", editor.pk, ["orrery-house"])
    Membership.objects.filter(user=editor).update(role="guest")
    assert tickets.read_ticket(client_of(editor).get("/api/events").json()["ticket"])[1] == {}
    with pytest.raises(BadSignature):
        tickets.read_ticket(told["ticket"][:-2] + "xx")
    monkeypatch.setattr(tickets, "GOOD_FOR", -1)
    with pytest.raises(BadSignature):
        tickets.read_ticket(told["ticket"])
    settings.EVENTS_ADDRESS = ""
    assert client_of(editor).get("/api/events").json() == {"address": "", "ticket": ""}


@pytest.mark.django_db(transaction=True)
def test_what_is_committed_is_told_once_a_statement_and_what_is_rolled_back_never(brand: Brand) -> None:
    params = connection.get_connection_params()
    keys = {name: params[name] for name in ("dbname", "user", "password", "host", "port") if params.get(name)}
    days = {"first_day": "2026-11-01", "last_day": "2026-11-02"}
    with psycopg.connect(autocommit=True, **keys) as listening:
        listening.execute(f"LISTEN {CHANNEL}")
        with transaction.atomic():
            Campaign.objects.bulk_create([Campaign(brand=brand, name=f"c{i}", **days) for i in range(50)])
        with pytest.raises(RuntimeError), transaction.atomic():
            Campaign.objects.create(brand=brand, name="never", **days)
            raise RuntimeError
        Campaign.objects.filter(name="c1").update(name="d1")
        Campaign.objects.filter(name="nothing").delete()
        told = [notice.payload for notice in listening.notifies(timeout=0.5)]
    assert told == [f"{brand.pk} campaigns"] * 2


@pytest.mark.django_db
def test_every_watched_table_is_there_and_tells() -> None:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT tgrelid::regclass::text, count(*) FROM pg_trigger WHERE tgname LIKE 'notices\\_%%' GROUP BY 1"
        )
        found = dict(cursor.fetchall())
    assert found == dict.fromkeys(WATCHED, 3)


@pytest.mark.django_db
def test_every_watched_table_knows_its_brand() -> None:
    with connection.cursor() as cursor:
        for table, watched in WATCHED.items():
            cursor.execute(f'WITH touched AS (SELECT * FROM "{table}" LIMIT 1) SELECT {watched.brand} FROM touched')
