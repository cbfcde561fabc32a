"""Rows of a file into items of its kind, one at a time, with every problem by row and column."""

import hashlib
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS
from dakika_core.networks.definition import Format
from dakika_core.sources.cells import (
    CellError,
    check_instant,
    is_empty,
    parse_count,
    parse_instant,
    parse_number,
    parse_share,
    restore,
    shorten,
)
from dakika_core.sources.kinds import Kind, Read

LONGEST_TEXT = 20_000
LONGEST_WORD = 200
LONGEST_ADDRESS = 2000
_FORMATS: dict[str, Format] = {
    "text": Format.TEXT, "status": Format.TEXT, "note": Format.TEXT,
    "link": Format.LINK, "article": Format.LINK,
    "image": Format.IMAGE, "photo": Format.IMAGE, "picture": Format.IMAGE,
    "album": Format.ALBUM, "carousel": Format.ALBUM, "gallery": Format.ALBUM,
    "short_video": Format.SHORT_VIDEO, "short video": Format.SHORT_VIDEO, "video": Format.SHORT_VIDEO,
    "clip": Format.SHORT_VIDEO, "long_video": Format.LONG_VIDEO, "long video": Format.LONG_VIDEO,
}  # fmt: skip
_DIMENSIONS = {
    **{name: name for name in AUDIENCE_DIMENSIONS},
    "ages": "age", "age group": "age", "sex": "gender", "countries": "country", "languages": "language",
    "cities": "city", "town": "city", "origin": "source", "sources": "source",
}  # fmt: skip


class RowError(Exception):
    """A row that cannot be used: the column's name (or nothing) and what is wrong."""

    def __init__(self, column: str, message: str) -> None:
        super().__init__(message)
        self.column, self.message = column, message


@dataclass(frozen=True, kw_only=True)
class RowProblem:
    """What is wrong in a row (counted as in the file, the head being row 1)."""

    row: int
    column: str
    message: str


@dataclass(frozen=True, kw_only=True)
class ReadOptions:
    """How the cells of a file are written. decimal is "." or ",", or nothing to go by each cell's looks."""

    zone: ZoneInfo
    is_day_first: bool = True
    decimal: str = ""


class RowReader:
    """Reads rows of one kind by a mapping of fields to columns.

    `read` returns a dict with every field of the kind, None where the file says nothing, and
    raises RowError for a row that must be left out whole.
    """

    def __init__(
        self, kind: Kind, header: Sequence[str], mapping: Mapping[str, int], options: ReadOptions, *, now: datetime
    ) -> None:
        self.kind = kind
        self._header = header
        self._now = now
        self._options = options
        readers = {
            Read.INSTANT: self._instant, Read.DAY: self._day, Read.COUNT: self._count, Read.SHARE: self._share,
            Read.AMOUNT: self._amount,
            Read.TEXT: _word, Read.LONG_TEXT: _text, Read.ADDRESS: _address, Read.FORMAT: _format,
            Read.DIMENSION: _dimension, Read.FLAG: _flag,
        }  # fmt: skip
        fields = kind.by_key
        self._columns: list[tuple[str, int, Callable[[object], Any]]] = [
            (key, column, readers[fields[key].read]) for key, column in mapping.items() if key in fields
        ]
        self._empty = dict.fromkeys(fields)
        # A group of which one field is enough is about the row's identity; one of many metrics may be empty.
        self._needed = [keys for keys, _ in kind.needs if len(keys) <= 2]

    def read(self, row: Sequence[object]) -> dict[str, Any]:
        """The row's values by field."""
        values: dict[str, Any] = dict(self._empty)
        width = len(row)
        for key, column, reader in self._columns:
            if column < width:
                try:
                    values[key] = reader(row[column])
                except CellError as error:
                    raise RowError(self._header[column], str(error)) from None
        for keys in self._needed:
            if all(values[key] is None or values[key] == "" for key in keys):
                raise RowError(self._name_of(keys), "is empty")
        return values

    def _name_of(self, keys: Sequence[str]) -> str:
        return next((self._header[column] for key, column, _ in self._columns if key in keys), keys[0])

    # -- cells

    def _instant(self, cell: object) -> datetime | None:
        if is_empty(cell):
            return None
        read = parse_instant(cell, zone=self._options.zone, is_day_first=self._options.is_day_first)
        if read is None:
            raise CellError(f"“{shorten(cell)}” is not a date that can be read")
        check_instant(read, now=self._now)
        return read

    def _day(self, cell: object) -> Any:
        read = self._instant(cell)
        return read.astimezone(self._options.zone).date() if read else None

    def _count(self, cell: object) -> int | None:
        return parse_count(cell, self._options.decimal)

    def _share(self, cell: object) -> float | None:
        return parse_share(cell, self._options.decimal)

    def _amount(self, cell: object) -> float | None:
        """Money: a number that may stand beside its sign or code (€ 12.50, 12,50 EUR); never negative."""
        plain = _MONEY.sub("", str(cell)).strip() if isinstance(cell, str) else cell
        if is_empty(plain):
            return None
        read = parse_number(plain, self._options.decimal)
        if read is None or not 0 <= read < LARGEST_AMOUNT:
            raise CellError(f"“{shorten(cell)}” is no amount of money")
        return read


_MONEY = re.compile(r"[€$£¥]|\b[A-Z]{3}\b")
LARGEST_AMOUNT = 1e10


def _word(cell: object) -> str:
    text = "" if cell is None else restore(str(cell).replace("\x00", "").strip())
    if len(text) > LONGEST_WORD:
        raise CellError(f"is longer than {LONGEST_WORD} characters")
    return text


def _text(cell: object) -> str:
    text = "" if cell is None else restore(str(cell).replace("\x00", ""))
    if len(text) > LONGEST_TEXT:
        raise CellError(f"is longer than {LONGEST_TEXT:,} characters")
    return text.encode("utf-8", "replace").decode()


def _address(cell: object) -> str:
    text = str(cell or "").strip()
    return text if text.startswith(("https://", "http://")) and len(text) <= LONGEST_ADDRESS else ""


def _format(cell: object) -> str:
    return _FORMATS.get(str(cell or "").strip().lower(), Format.TEXT).value


def _dimension(cell: object) -> str | None:
    if is_empty(cell):
        return None
    found = _DIMENSIONS.get(str(cell).strip().lower())
    if found is None:
        raise CellError(f"“{shorten(cell)}” is none of {', '.join(AUDIENCE_DIMENSIONS)}")
    return found


def _flag(cell: object) -> bool:
    return str(cell or "").strip().lower() in ("1", "true", "yes", "y", "x")


def made_up_id(published: datetime, text: str, url: str) -> str:
    """An identifier for a post whose file gives none: from its instant and text, so that it is always the same."""
    base = f"{published.isoformat()}\n{text}\n{url}".encode("utf-8", "replace")
    return "file-" + hashlib.sha256(base).hexdigest()[:24]
