"""Keeping the local copy fresh: first everything, then each change as the database tells of it.

Listening begins before the full reading, so nothing falls between the two. What is told names the
thing that changed, never its content: it is read anew, so the order of arrival does not matter.

In the trade's words: replication, cache refresh.
"""

import asyncio
import logging
import secrets
import sqlite3
from collections.abc import AsyncIterator
from datetime import datetime
from typing import Any

import psycopg

from dakika_redirect.copy_of_links import BrandFace, CopyOfLinks, Link, Page
from dakika_redirect.salts import Salts

CHANNEL = "dakika_links"
ROWS_AT_ONCE = 5000
LONGEST_WAIT_SECONDS = 10.0
FULL_READING_SECONDS = 3600.0
LONGEST_ASKING_SECONDS = 3.0
log = logging.getLogger(__name__)

QUERIES = {
    "link": "SELECT code, id, brand_id, target, is_paused, ends_at, keeps_query FROM links_trackedlink",
    "host": "SELECT host, brand_id FROM links_linkdomain",
    "brand": "SELECT b.id::text, b.id, b.name, coalesce(f.home, ''), coalesce(f.over_words, '') "
    "FROM brands_brand b LEFT JOIN links_linksettings f ON f.brand_id = b.id",
    "page": "SELECT p.slug, p.id, p.brand_id, p.title, p.words, coalesce(("
    "SELECT json_agg(json_build_array(l.code, e.title) ORDER BY e.position, e.id) FROM links_linkpageentry e "
    "JOIN links_trackedlink l ON l.id = e.link_id WHERE e.page_id = p.id), '[]') "
    "FROM links_linkpage p WHERE p.is_shown",
}
NAMES = {"link": "code", "host": "host", "brand": "b.id::text", "page": "p.slug"}


def entry(kind: str, row: tuple[Any, ...]) -> Link | BrandFace | Page | int:
    """A row of the kind's query as it stands in the copy."""
    if kind == "link":
        _, key, brand, target, is_paused, ends_at, keeps_query = row
        ends = ends_at.timestamp() if isinstance(ends_at, datetime) else None
        return Link(id=key, brand=brand, target=target, is_paused=is_paused, ends=ends, keeps_query=keeps_query)
    if kind == "host":
        return int(row[1])
    if kind == "brand":
        return BrandFace(id=row[1], name=row[2], home=row[3], words=row[4])
    return Page(id=row[1], brand=row[2], title=row[3], words=row[4], entries=row[5])


class Follower:
    """One task that keeps the copy fresh, and asks for single codes that it does not know yet."""

    def __init__(self, copy: CopyOfLinks, salts: Salts) -> None:
        self.copy, self.salts = copy, salts
        self.is_connected = False
        self._has_tried = asyncio.Event()
        self._asking = asyncio.Lock()
        self._ask: psycopg.AsyncConnection[Any] | None = None

    async def run(self) -> None:
        """For ever; a database that is away is asked again, ever more slowly."""
        wait = 0.2
        while True:
            try:
                async with await connected() as listening, await connected() as reading:
                    # Two connections: what is told while one reads must not pass by unheard.
                    await listening.execute(f"LISTEN {CHANNEL}")
                    while True:
                        await self._read_all(reading)
                        self.is_connected, wait = True, 0.2
                        self._has_tried.set()
                        async for note in listening.notifies(timeout=FULL_READING_SECONDS):
                            await self._read_one(reading, note.payload)
            except (psycopg.Error, sqlite3.Error, OSError) as error:
                if self.is_connected:
                    log.warning("changes cannot be followed, answering from the copy: %s", type(error).__name__)
                self.is_connected = False
                self._has_tried.set()
                await asyncio.sleep(wait)
                wait = min(wait * 2, LONGEST_WAIT_SECONDS)

    async def _read_all(self, connection: psycopg.AsyncConnection[Any]) -> None:
        round_ = await self._round(connection)
        for kind, query in QUERIES.items():
            async for rows in _in_blocks(connection, query):
                found = [(kind, row[0], entry(kind, row)) for row in rows]
                await asyncio.to_thread(self.copy.put_many, found, round_)
        self.copy.drop_older(round_)
        await self._fetch_salts(connection)

    async def _fetch_salts(self, connection: psycopg.AsyncConnection[Any]) -> None:
        """Today's and tomorrow's key, so that an outage over midnight does not matter."""
        for days in (0, 1):
            query = (
                "INSERT INTO links_visitorsalt (day, salt) VALUES ((now() AT TIME ZONE 'UTC')::date + %s, %s) "
                "ON CONFLICT (day) DO UPDATE SET day = excluded.day RETURNING day, salt"
            )
            found = await (await connection.execute(query, (days, secrets.token_bytes(32)))).fetchone()
            if found is not None:
                self.salts.keep(found[0], bytes(found[1]))

    async def _round(self, connection: psycopg.AsyncConnection[Any]) -> int:
        found = await (
            await connection.execute("SELECT (extract(epoch FROM clock_timestamp()) * 1000)::bigint")
        ).fetchone()
        return int(found[0]) if found else 0

    async def _read_one(self, connection: psycopg.AsyncConnection[Any], payload: str) -> None:
        kind, _, name = payload.partition(" ")
        if kind not in QUERIES:
            return
        query = f"{QUERIES[kind]} {'AND' if kind == 'page' else 'WHERE'} {NAMES[kind]} = %s"
        row = await (await connection.execute(query, (name,))).fetchone()
        self.copy.put(kind, name, entry(kind, row) if row else None, await self._round(connection))

    async def ask(self, code: str) -> Link | None:
        """A code that the copy does not have: made a moment ago, or never. ConnectionError while nobody can tell."""
        try:
            async with asyncio.timeout(LONGEST_ASKING_SECONDS), self._asking:
                await self._has_tried.wait()
                if self._ask is None or self._ask.closed:
                    self._ask = await connected()
                row = await (await self._ask.execute(f"{QUERIES['link']} WHERE code = %s", (code,))).fetchone()
        except (TimeoutError, psycopg.Error, OSError):
            self._ask = None
            raise ConnectionError("the database is away") from None
        if row is None:
            return None
        found = entry("link", row)
        return found if isinstance(found, Link) else None

    async def close(self) -> None:
        """Close what asks."""
        if self._ask is not None:
            await self._ask.close()


async def connected() -> psycopg.AsyncConnection[Any]:
    """A connection to the database; psycopg.Error when it is away."""
    return await psycopg.AsyncConnection.connect(autocommit=True, connect_timeout=5, application_name="dakika-redirect")


async def _in_blocks(connection: psycopg.AsyncConnection[Any], query: str) -> AsyncIterator[list[tuple[Any, ...]]]:
    async with connection.transaction(), connection.cursor(name="links_copy") as cursor:
        await cursor.execute(query)
        while rows := await cursor.fetchmany(ROWS_AT_ONCE):
            yield rows
