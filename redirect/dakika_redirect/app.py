"""The addresses that visitors call, as one small ASGI application.

/{code} leads on; /p/{page}/ lists a brand's links and /p/{page}/{code} leads on from there;
/health tells how things stand. Only stored http(s) addresses are ever followed.

In the trade's words: redirect, short link.
"""

import contextlib
import json
import logging
import os
import re
from collections.abc import Awaitable, Callable, MutableMapping
from datetime import UTC, datetime
from functools import lru_cache
from time import time
from typing import Any
from urllib.parse import urlsplit
from uuid import UUID

from dakika_core.links.addresses import redirect_target
from dakika_core.links.agents import language_of
from dakika_core.links.bots import purpose_of
from dakika_core.links.countries import Countries
from dakika_core.links.visitors import visitor_hash

from dakika_redirect import pages
from dakika_redirect.config import Config
from dakika_redirect.copy_of_links import CopyOfLinks, Link, Page
from dakika_redirect.following import Follower
from dakika_redirect.intake import Intake
from dakika_redirect.journal import PAGE_VIEW, Journal, Written
from dakika_redirect.places import take_place
from dakika_redirect.salts import Salts

Scope = MutableMapping[str, Any]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
CODE = re.compile(r"^[A-Za-z0-9_-]{1,64}$")
LONGEST_AGENT, LONGEST_QUERY, LONGEST_HOST = 300, 2000, 255
MOST_UNKNOWN, UNKNOWN_SECONDS = 10_000, 5.0
# A visitor's browser may keep nothing: the next click must come here again.
NEVER_KEPT = (b"cache-control", b"no-store, private")
GUARDED = [
    (b"x-content-type-options", b"nosniff"),
    (
        b"content-security-policy",
        b"default-src 'none'; style-src 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'",
    ),
]
log = logging.getLogger(__name__)


class Redirect:
    """The application with everything it holds. Make it inside a running process; `start` and `stop` it there."""

    def __init__(self, config: Config) -> None:
        self._config = config
        self._place, self._place_handle = take_place(config.folder)
        self.copy = CopyOfLinks(config.folder / f"links-{self._place}.sqlite")
        self.salts = Salts(config.folder)
        self.follower = Follower(self.copy, self.salts)
        self.journal = Journal(config.folder)
        self.intake = Intake(config.folder, own=lambda: self.journal.path)
        self._countries = Countries(config.countries)
        self._unknown: dict[str, float] = {}
        self._day = datetime.now(tz=UTC).date()
        self._salt = self.salts.of(self._day)
        # Whoever stood still over midnight, or for weeks, has keys of days that are over.
        self.salts.forget_before(self._day)

    def start(self) -> None:
        """Begin to take the journal in."""
        self.intake.start()

    def stop(self) -> None:
        """Take in what is there, let go of the journal."""
        self.intake.stop()
        self.intake.join(timeout=5)
        self.journal.close()
        self.copy.close()
        os.close(self._place_handle)

    async def __call__(self, scope: Scope, receive: Any, send: Send) -> None:
        """Answer one request."""
        del receive
        method = scope["method"]
        if method not in ("GET", "HEAD"):
            await answer(send, 405, "Only GET and HEAD.\n", [(b"allow", b"GET, HEAD")], kind="text/plain")
            return
        parts = scope["path"].strip("/").split("/")
        if parts == ["health"]:
            await self._health(send)
        elif parts[0] == "p" and len(parts) in (2, 3):
            await self._page(scope, send, *parts[1:])
        elif len(parts) == 1 and CODE.match(parts[0]):
            await self._follow(scope, send, parts[0], page=None)
        else:
            await answer(send, 404, pages.unknown())

    async def _health(self, send: Send) -> None:
        body = {
            "follows": self.follower.is_connected, "takes_in": self.intake.is_connected, "taken": self.intake.taken,
            "countries": self._countries.source, "process": os.getpid(),
        }  # fmt: skip
        await answer(send, 200, json.dumps(body), [NEVER_KEPT], kind="application/json")

    async def _page(self, scope: Scope, send: Send, slug: str, code: str = "") -> None:
        page = self.copy.page(slug)
        owner = self._brand_of(scope)
        if page is None or (owner is not None and owner != page.brand):
            await answer(send, 404, pages.unknown())
        elif code:
            # What a page never listed is followed as a link, but not counted as the page's.
            await self._follow(
                scope, send, code, page=page if any(code == known for known, _ in page.entries) else None
            )
        elif not scope["path"].endswith("/"):
            await answer(send, 308, "", [(b"location", f"/p/{page_slug(slug)}/".encode())])
        else:
            await self._viewed(scope, page)
            await answer(send, 200, pages.links(page, self.copy.face(page.brand)), [NEVER_KEPT])

    async def _viewed(self, scope: Scope, page: Page) -> None:
        """Count that a page was opened. A page that cannot be counted is shown all the same."""
        now = time()
        try:
            await self.journal.append(self._written(scope, None, new_key(now), now, page, is_over=False))
        except OSError as error:
            log.error("a view of a page could not be written down: %s", error)

    def _brand_of(self, scope: Scope) -> int | None:
        """The brand whose own domain was called; None on the address that all share."""
        host = header(scope, b"host").lower()
        return None if host == self._config.host else self.copy.brand_of_host(host.partition(":")[0])

    async def _find(self, code: str) -> Link | None:
        # Chosen words are kept in lower case; people write them as they like.
        found = self.copy.link(code) or self.copy.link(code.lower())
        if found is not None or self._unknown.get(code, 0.0) > time():
            return found
        found = await self.follower.ask(code)
        if found is None:
            if len(self._unknown) >= MOST_UNKNOWN:
                self._unknown.clear()
            self._unknown[code] = time() + UNKNOWN_SECONDS
        return found

    async def _follow(self, scope: Scope, send: Send, code: str, *, page: Page | None) -> None:
        try:
            link = await self._find(code)
        except ConnectionError:
            await answer(send, 503, pages.not_now(), [(b"retry-after", b"5")])
            return
        owner = self._brand_of(scope) if link else None
        if link is None or (owner is not None and owner != link.brand):
            await answer(send, 404, pages.unknown())
            return
        now = time()
        key = new_key(now)
        is_over = link.is_over(now)
        try:
            await self.journal.append(self._written(scope, link, key, now, page, is_over=is_over))
        except OSError as error:
            log.error("a click could not be written down: %s", error)
            await answer(send, 503, pages.not_now(), [(b"retry-after", b"5")])
            return
        if is_over:
            await answer(send, 410, pages.over(self.copy.face(link.brand)), [NEVER_KEPT])
            return
        query = scope["query_string"].decode("latin-1")[:LONGEST_QUERY] if link.keeps_query else ""
        target = redirect_target(link.target, query, key.hex)
        head = [(b"location", target.encode("ascii", "ignore")), NEVER_KEPT, (b"referrer-policy", b"unsafe-url")]
        await answer(send, 302, "", head)

    def _written(
        self, scope: Scope, link: Link | None, key: UUID, now: float, page: Page | None, *, is_over: bool
    ) -> Written:
        """A click on a link as the journal has it; without a link, a view of the page."""
        headers = {name.decode("latin-1"): value.decode("latin-1") for name, value in scope["headers"]}
        agent = headers.get("user-agent", "")[:LONGEST_AGENT]
        address = scope["client"][0] if scope["client"] else ""
        return Written(
            key=key.hex, link=link.id if link else PAGE_VIEW, page=page.id if page else 0, at=int(now * 1_000_000),
            referrer=host_of(headers.get("referer", "")), agent=agent,
            visitor=visitor_hash(address, agent, self._salt_of(now)).hex(),
            reason=purpose_of(scope["method"], headers).value, country=self._countries.of(address),
            language=language_of(headers.get("accept-language", "")), is_over=is_over,
        )  # fmt: skip

    def _salt_of(self, now: float) -> bytes:
        day = datetime.fromtimestamp(now, tz=UTC).date()
        if day != self._day:
            self._day, self._salt = day, self.salts.of(day)
            self.salts.forget_before(day)
        return self._salt


def page_slug(slug: str) -> str:
    """A page's address as it may stand in a header."""
    return slug if CODE.match(slug) else ""


def new_key(now: float) -> UUID:
    """A UUID of version 7 (RFC 9562, 5.7): its time first, so that the database's index grows at one end."""
    value = int(now * 1000) << 80 | int.from_bytes(os.urandom(10))
    value = value & ~(0xF << 76) | 7 << 76
    return UUID(int=value & ~(0x3 << 62) | 2 << 62)


def header(scope: Scope, name: bytes) -> str:
    """A request's header, or nothing."""
    for key, value in scope["headers"]:
        if key == name:
            return str(value.decode("latin-1"))
    return ""


@lru_cache(maxsize=4096)
def host_of(referrer: str) -> str:
    """The host of a referrer; the rest of it is nobody's business."""
    with contextlib.suppress(ValueError):
        return (urlsplit(referrer).hostname or "")[:LONGEST_HOST]
    return ""


async def answer(
    send: Send, status: int, text: str, head: list[tuple[bytes, bytes]] | None = None, *, kind: str = "text/html"
) -> None:
    """Send a whole answer."""
    body = text.encode()
    headers = [
        *(head or []), *GUARDED, (b"content-length", str(len(body)).encode()),
        (b"content-type", f"{kind}; charset=utf-8".encode()),
    ]  # fmt: skip
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})
