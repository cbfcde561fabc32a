"""The local copy of what short addresses lead to: a file of SQLite that outlives the process.

Whoever starts while the database is away answers from the copy of last time. Look-ups take some
microseconds and the copy is never held in memory, however many links there are.

In the trade's words: local cache, read replica.
"""

import contextlib
import json
import sqlite3
from collections.abc import Iterable
from dataclasses import asdict, dataclass, field
from pathlib import Path

SCHEMA = """
PRAGMA journal_mode = WAL;
PRAGMA synchronous = NORMAL;
CREATE TABLE IF NOT EXISTS entry (
    kind TEXT, name TEXT, body TEXT, round INTEGER, PRIMARY KEY (kind, name)) WITHOUT ROWID;
"""


@dataclass(frozen=True, kw_only=True)
class Link:
    """What a code leads to. `ends` in seconds since 1970, or None."""

    id: int
    brand: int
    target: str
    is_paused: bool = False
    ends: float | None = None
    keeps_query: bool = True

    def is_over(self, now: float) -> bool:
        """Whether visitors are shown the brand's page instead."""
        return self.is_paused or (self.ends is not None and self.ends <= now)


@dataclass(frozen=True, kw_only=True)
class BrandFace:
    """How a brand shows itself to those whose link is over; `home` is where they can go instead."""

    id: int
    name: str
    home: str = ""
    words: str = ""


@dataclass(frozen=True, kw_only=True)
class Page:
    """A page of links: title, words, and (code, title) in their order."""

    id: int
    brand: int
    title: str
    words: str = ""
    entries: list[list[str]] = field(default_factory=list)


class CopyOfLinks:
    """Codes, hosts, brands and pages. One writer and any number of readers, in any threads of one process."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self._reading = self._open()
        self._writing = self._open()
        if not self._reading.execute("SELECT 1 FROM entry LIMIT 1").fetchone():
            self._take_from_others()

    def _open(self) -> sqlite3.Connection:
        try:
            opened = sqlite3.connect(self._path, check_same_thread=False, isolation_level=None, timeout=10)
            opened.executescript(SCHEMA)
        except sqlite3.DatabaseError:
            # A copy that cannot be read is worth nothing: the next full reading makes it anew.
            self._path.unlink(missing_ok=True)
            opened = sqlite3.connect(self._path, check_same_thread=False, isolation_level=None, timeout=10)
            opened.executescript(SCHEMA)
        return opened

    def _take_from_others(self) -> None:
        """A copy that is empty begins with what another process of this machine knows: the database may be away."""
        for other in sorted(self._path.parent.glob(f"{self._path.stem.rpartition('-')[0]}-*{self._path.suffix}")):
            if other == self._path:
                continue
            with contextlib.suppress(sqlite3.DatabaseError), contextlib.closing(sqlite3.connect(other)) as known:
                rows = known.execute("SELECT kind, name, body, round FROM entry").fetchall()
                self._writing.execute("BEGIN IMMEDIATE")
                self._writing.executemany("INSERT OR IGNORE INTO entry VALUES (?, ?, ?, ?)", rows)
                self._writing.execute("COMMIT")
                if rows:
                    return

    def _body(self, kind: str, name: str) -> dict[str, object] | None:
        row = self._reading.execute("SELECT body FROM entry WHERE kind = ? AND name = ?", (kind, name)).fetchone()
        return json.loads(row[0]) if row else None

    def link(self, code: str) -> Link | None:
        """What a code leads to."""
        body = self._body("link", code)
        return Link(**body) if body else None  # type: ignore[arg-type]

    def page(self, slug: str) -> Page | None:
        """A page of links by its address."""
        body = self._body("page", slug)
        return Page(**body) if body else None  # type: ignore[arg-type]

    def face(self, brand: int) -> BrandFace | None:
        """How a brand shows itself."""
        body = self._body("brand", str(brand))
        return BrandFace(**body) if body else None  # type: ignore[arg-type]

    def brand_of_host(self, host: str) -> int | None:
        """Whose own domain it is."""
        body = self._body("host", host)
        return int(body["brand"]) if body else None  # type: ignore[call-overload]

    def put(self, kind: str, name: str, body: Link | BrandFace | Page | int | None, round_: int = 0) -> None:
        """Write one entry, or take it out when there is none any more."""
        self.put_many([(kind, name, body)], round_)

    def put_many(self, rows: Iterable[tuple[str, str, Link | BrandFace | Page | int | None]], round_: int) -> None:
        """Write many in one transaction."""
        write = self._writing
        write.execute("BEGIN IMMEDIATE")
        try:
            for kind, name, body in rows:
                if body is None:
                    write.execute("DELETE FROM entry WHERE kind = ? AND name = ?", (kind, name))
                    continue
                text = json.dumps({"brand": body} if isinstance(body, int) else asdict(body), separators=(",", ":"))
                write.execute("INSERT OR REPLACE INTO entry VALUES (?, ?, ?, ?)", (kind, name, text, round_))
            write.execute("COMMIT")
        except BaseException:
            write.execute("ROLLBACK")
            raise

    def drop_older(self, round_: int) -> int:
        """Take out what a full reading did not find again; returns how many."""
        return self._writing.execute("DELETE FROM entry WHERE round < ?", (round_,)).rowcount

    def close(self) -> None:
        """Close both connections."""
        self._reading.close()
        self._writing.close()
