"""Server-sent events: what changed, to every browser that listens, from one LISTEN.

A bare ASGI application in a process of its own (`python -m dakika_server.notices.events`): a stream costs a task, not a
thread. It reads nothing but notices of changes and shows nothing but their names; a browser that heard of one asks the
web server. Each stream has a bounded queue: who does not keep up is told to ask for everything again. Streams end after
some minutes and come again with a new ticket, so that whoever may no longer listen is out by then.
(HTML Living Standard, 9.2 Server-sent events.)

In the trade's words: push updates, live updates.
"""

import argparse
import asyncio
import json
import logging
import os
import time
from collections import Counter
from collections.abc import Awaitable, Callable, MutableMapping
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any
from urllib.parse import parse_qs, urlsplit

log = logging.getLogger(__name__)
Message = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[Message]]
Send = Callable[[Message], Awaitable[None]]
PING_SECONDS, LONGEST_SECONDS = 15.0, 600.0
# Changes of a moment are told together.
GATHER_SECONDS = 0.2
MOST_WAITING, MOST_OF_PERSON, MOST_STREAMS = 32, 12, 4_000
AGAIN_SECONDS = 2.0


@dataclass(eq=False, kw_only=True)
class Listener:
    """A stream. is_behind: something was left out, so that it must be told to ask anew."""

    person: int
    brands: dict[int, str]
    waiting: asyncio.Queue[bytes] = field(default_factory=lambda: asyncio.Queue(MOST_WAITING))
    is_behind: bool = False

    def tell(self, event: bytes) -> None:
        """Put an event into its queue; where that is full, note that it is behind."""
        try:
            self.waiting.put_nowait(event)
        except asyncio.QueueFull:
            self.is_behind = True


def event(name: str, **told: object) -> bytes:
    """An event as it travels."""
    return f"event: {name}\ndata: {json.dumps(told)}\n\n".encode()


class Events:
    """The application: GET /events?ticket=..., GET /health."""

    def __init__(self, origin: str, read_ticket: Callable[[str], tuple[int, dict[int, str]]]) -> None:
        self._origin, self._read_ticket = origin, read_ticket
        self.listeners: set[Listener] = set()
        self._changed: dict[int, set[str]] = {}
        self._tasks: set[asyncio.Task[None]] = set()
        self.is_listening = False

    # -- from the database

    def changed(self, payload: str) -> None:
        """Note a change, "12 links"; told a moment later, with what else changed by then."""
        number, _, thing = payload.partition(" ")
        if not number.isdigit() or not thing:
            return
        if not self._changed:
            self._later(self._tell_soon())
        self._changed.setdefault(int(number), set()).add(thing)

    async def _tell_soon(self) -> None:
        await asyncio.sleep(GATHER_SECONDS)
        changed, self._changed = self._changed, {}
        for listener in self.listeners:
            for number in changed.keys() & listener.brands.keys():
                listener.tell(event("changed", brand=listener.brands[number], things=sorted(changed[number])))

    def everything(self) -> None:
        """Nobody knows what changed meanwhile: everybody asks anew."""
        for listener in self.listeners:
            listener.tell(event("anew"))

    def _later(self, work: Any) -> None:
        task = asyncio.get_running_loop().create_task(work)
        self._tasks.add(task)
        task.add_done_callback(self._tasks.discard)

    async def listen(self, connect: Callable[[], Awaitable[Any]], channel: str) -> None:
        """Listen to the database for ever; one that is away is tried again."""
        while True:
            try:
                async with await connect() as connection:
                    await connection.execute(f"LISTEN {channel}")
                    self.is_listening = True
                    self.everything()
                    async for notice in connection.notifies():
                        self.changed(notice.payload)
            except Exception as error:  # noqa: BLE001 (whatever ended it, it begins again)
                log.warning("the database: %s", str(error).partition("\n")[0])
            self.is_listening = False
            await asyncio.sleep(AGAIN_SECONDS)

    # -- to browsers

    async def __call__(self, scope: Message, receive: Receive, send: Send) -> None:
        """ASGI 3."""
        if scope["type"] != "http":
            return
        if scope["path"] == "/health":
            await self._answer(send, 200 if self.is_listening else 503, b"")
        elif scope["path"] != "/events" or scope["method"] != "GET":
            await self._answer(send, 404, b"")
        else:
            await self._stream(scope, receive, send)

    async def _answer(self, send: Send, status: int, body: bytes) -> None:
        await send({"type": "http.response.start", "status": status, "headers": self._headers(b"text/plain")})
        await send({"type": "http.response.body", "body": body})

    def _headers(self, kind: bytes) -> list[tuple[bytes, bytes]]:
        return [
            (b"content-type", kind), (b"cache-control", b"no-store"), (b"x-accel-buffering", b"no"),
            (b"access-control-allow-origin", self._origin.encode()), (b"x-content-type-options", b"nosniff"),
        ]  # fmt: skip

    async def _stream(self, scope: Message, receive: Receive, send: Send) -> None:
        ticket = parse_qs(scope["query_string"].decode("ascii", "replace")).get("ticket", [""])[0]
        try:
            person, brands = self._read_ticket(ticket)
        except Exception:  # noqa: BLE001 (whatever is wrong with it, it is none)
            await self._answer(send, 403, b"no ticket, or one that is over")
            return
        of_person = Counter(listener.person for listener in self.listeners)[person]
        if of_person >= MOST_OF_PERSON or len(self.listeners) >= MOST_STREAMS:
            await self._answer(send, 429, b"too many streams")
            return
        listener = Listener(person=person, brands=brands)
        self.listeners.add(listener)
        gone = asyncio.ensure_future(_until_gone(receive))
        try:
            await send({
                "type": "http.response.start", "status": 200, "headers": self._headers(b"text/event-stream"),
            })  # fmt: skip
            await self._write(listener, send, gone)
        finally:
            self.listeners.discard(listener)
            gone.cancel()

    async def _write(self, listener: Listener, send: Send, gone: "asyncio.Future[None]") -> None:
        """Events as they come, a ping where none does, and the end after some minutes."""

        async def put(body: bytes, *, more: bool = True) -> None:
            await send({"type": "http.response.body", "body": body, "more_body": more})

        until = time.monotonic() + LONGEST_SECONDS
        await put(event("hello"))
        while not gone.done() and time.monotonic() < until:
            coming: asyncio.Future[Any] = asyncio.ensure_future(listener.waiting.get())
            waited: set[asyncio.Future[Any]] = {coming, gone}
            done, _ = await asyncio.wait(waited, timeout=PING_SECONDS, return_when=asyncio.FIRST_COMPLETED)
            if coming not in done:
                coming.cancel()
                if gone not in done:
                    await put(b": ping\n\n")
                continue
            if listener.is_behind:
                listener.is_behind = False
                while not listener.waiting.empty():
                    listener.waiting.get_nowait()
                await put(event("anew"))
            else:
                await put(coming.result())
        if not gone.done():
            await put(event("over"), more=False)


async def _until_gone(receive: Receive) -> None:
    while (await receive())["type"] != "http.disconnect":
        pass


def main() -> None:
    """Run it on a port, of loopback unless told otherwise.

    It needs no more of Django than its signing, and so a third of the memory.
    """
    import psycopg
    import uvicorn
    from django.conf import settings

    settings.configure(SECRET_KEY=os.environ["DAKIKA_SECRET_KEY"])
    from dakika_server.notices.changes import CHANNEL
    from dakika_server.notices.tickets import read_ticket

    parser = argparse.ArgumentParser()
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, required=True)
    given = parser.parse_args()
    parts = urlsplit(os.environ["DAKIKA_PUBLIC_ADDRESS"])
    app = Events(f"{parts.scheme}://{parts.netloc}", read_ticket)

    async def run() -> None:
        # The database is the one that PGHOST and its like name (libpq).
        listening = asyncio.ensure_future(
            app.listen(lambda: psycopg.AsyncConnection.connect(autocommit=True, connect_timeout=10), CHANNEL)
        )
        config = uvicorn.Config(
            app, host=given.host, port=given.port, log_level="warning", access_log=False, lifespan="off",
            timeout_graceful_shutdown=2, timeout_keep_alive=5,
        )  # fmt: skip
        await uvicorn.Server(config).serve()
        listening.cancel()
        with suppress(asyncio.CancelledError):
            await listening

    asyncio.run(run())


if __name__ == "__main__":
    main()
