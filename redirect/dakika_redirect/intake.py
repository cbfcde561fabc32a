"""Taking the journal into the database: COPY, then one statement; exactly once, whatever is killed in between.

How far a segment is taken in stands in the database and moves in the transaction that brings its
clicks; a click's key is unique on top of that. So a piece that is offered twice, by this process
or by another that found it, adds nothing.

In the trade's words: ingest, exactly once, deduplication.
"""

import logging
import os
import threading
from functools import lru_cache
from pathlib import Path
from typing import Any

import psycopg
from dakika_core.links.agents import browser_of, device_of
from dakika_core.links.bots import BotReason, known_crawlers

from dakika_redirect.journal import PAGE_VIEW, Piece, Written, as_line, read_pieces, segments
from dakika_redirect.places import lock

EVERY_SECONDS = 0.5
LONGEST_WAIT_SECONDS = 5.0
log = logging.getLogger(__name__)

STAGE = """
CREATE TEMP TABLE IF NOT EXISTS journal_rows (key uuid, link bigint, page bigint, at bigint, referrer text,
    device text, browser text, language text, country text, visitor bytea, reason text, is_over boolean)
    ON COMMIT DELETE ROWS
"""
TAKE = """
INSERT INTO links_click (brand_id, link_id, key, at, referrer, device, browser, language, country, visitor, bot_reason,
    is_over, page_id)
SELECT l.brand_id, l.id, r.key, to_timestamp(r.at / 1e6), r.referrer, r.device, r.browser, r.language, r.country,
    r.visitor, r.reason, r.is_over, p.id
FROM journal_rows r JOIN links_trackedlink l ON l.id = r.link LEFT JOIN links_linkpage p ON p.id = r.page
ORDER BY r.at ON CONFLICT (key, at, brand_id) DO NOTHING
"""
# A quarter of an hour is cut through by no zone's day.
TAKE_VIEWS = """
INSERT INTO links_pageview AS v (brand_id, page_id, at, people, bots)
SELECT p.brand_id, p.id, date_bin('15 minutes', to_timestamp(r.at / 1e6), 'epoch'),
    count(*) FILTER (WHERE r.reason = ''), count(*) FILTER (WHERE r.reason <> '')
FROM journal_rows r JOIN links_linkpage p ON p.id = r.page WHERE r.link = %(page_view)s GROUP BY 1, 2, 3
ON CONFLICT (brand_id, at, page_id) DO UPDATE SET people = v.people + excluded.people, bots = v.bots + excluded.bots
"""
MOVE = """
INSERT INTO links_journal AS j (name, taken, moved_at) VALUES (%(name)s, %(end)s, now())
ON CONFLICT (name) DO UPDATE SET taken = excluded.taken, moved_at = excluded.moved_at WHERE j.taken = %(start)s
RETURNING taken
"""


@lru_cache(maxsize=8192)
def reading_of(agent: str) -> tuple[str, str, bool]:
    """Device, browser, and whether it is a known crawler; asked once for each agent string."""
    return device_of(agent), browser_of(agent), known_crawlers().match(agent)


def row_of(click: Written) -> tuple[Any, ...]:
    """A click as a row of the staging table."""
    device, browser, is_crawler = reading_of(click.agent)
    reason = click.reason or (BotReason.AGENT.value if is_crawler else "")
    return (
        click.key, click.link, click.page or None, click.at, click.referrer, device, browser,
        click.language, click.country, bytes.fromhex(click.visitor), reason, click.is_over,
    )  # fmt: skip


class Intake(threading.Thread):
    """Takes in what `own` names and what processes that are gone have left, until it is told to stop."""

    def __init__(self, folder: Path, own: Any) -> None:
        super().__init__(name="intake", daemon=True)
        self._folder, self._own = folder, own
        self._stop_asked = threading.Event()
        self._connection: psycopg.Connection[Any] | None = None
        self.is_connected = False
        self.taken = 0

    def run(self) -> None:
        """Every half second; a database that is away is asked again."""
        wait = EVERY_SECONDS
        while not self._stop_asked.wait(wait):
            wait = self._round(wait)
        self._round(wait)

    def _round(self, wait: float) -> float:
        try:
            self.take_all()
        except Exception as error:  # noqa: BLE001 (whatever it is, the journal waits and is tried again)
            if self.is_connected:
                log.warning("the journal waits: %s: %s", type(error).__name__, error)
            self.is_connected = False
            self._close()
            return min(wait * 2, LONGEST_WAIT_SECONDS)
        self.is_connected = True
        return EVERY_SECONDS

    def stop(self) -> None:
        """Ask it to stop after a last round."""
        self._stop_asked.set()

    def take_all(self) -> int:
        """Take in everything that stands in the journal now; returns how many clicks were offered."""
        count = 0
        for path in segments(self._folder):
            if path == self._own():
                count += self._take(path)
                continue
            handle = lock(path)
            if handle is None:
                continue
            try:
                if os.fstat(handle).st_nlink:
                    count += self._take(path)
                    self._put_away(path)
            finally:
                os.close(handle)
        self.taken += count
        return count

    def _take(self, path: Path) -> int:
        try:
            size = path.stat().st_size
        except FileNotFoundError:
            return 0  # taken in and put away by another process
        connection = self._connected()
        found = connection.execute("SELECT taken FROM links_journal WHERE name = %s", (path.name,)).fetchone()
        start = int(found[0]) if found else 0
        if start >= size:
            return 0
        return sum(self._take_piece(connection, piece) for piece in read_pieces(path, start))

    def _take_piece(self, connection: psycopg.Connection[Any], piece: Piece) -> int:
        self._set_aside(piece.name, piece.damaged)
        with connection.transaction(), connection.cursor() as cursor:
            cursor.execute(MOVE, {"name": piece.name, "start": piece.start, "end": piece.end})
            if cursor.fetchone() is None:
                return 0  # somebody else has taken it in
            cursor.execute(STAGE)
            try:
                with connection.transaction():
                    _insert(cursor, piece.clicks)
            except psycopg.DataError:
                self._take_singly(connection, cursor, piece)
        return len(piece.clicks)

    def _take_singly(self, connection: psycopg.Connection[Any], cursor: psycopg.Cursor[Any], piece: Piece) -> None:
        """One click that the database refuses must not hold up the others."""
        for click in piece.clicks:
            try:
                with connection.transaction():
                    _insert(cursor, [click])
            except psycopg.DataError:
                self._set_aside(piece.name, [as_line(click)])

    def _set_aside(self, name: str, lines: list[bytes]) -> None:
        """Never dropped in silence: kept where somebody can look at it."""
        if not lines:
            return
        with (self._folder / f"{name}.damaged").open("ab") as file:
            file.writelines(lines)
        log.error("%s damaged lines of %s are set aside", len(lines), name)

    def _put_away(self, path: Path) -> None:
        """A segment that is whole in the database has served. What is half a line was never answered."""
        path.unlink(missing_ok=True)
        self._connected().execute("DELETE FROM links_journal WHERE name = %s", (path.name,))

    def _connected(self) -> psycopg.Connection[Any]:
        if self._connection is None or self._connection.closed:
            self._connection = psycopg.connect(autocommit=True, connect_timeout=5, application_name="dakika-redirect")
        return self._connection

    def _close(self) -> None:
        if self._connection is not None:
            self._connection.close()
            self._connection = None


def _insert(cursor: psycopg.Cursor[Any], clicks: list[Written]) -> None:
    with cursor.copy("COPY journal_rows FROM STDIN") as copy:
        for click in clicks:
            copy.write_row(row_of(click))
    cursor.execute(TAKE)
    if any(click.link == PAGE_VIEW for click in clicks):
        cursor.execute(TAKE_VIEWS, {"page_view": PAGE_VIEW})
    cursor.execute("TRUNCATE journal_rows")
