"""Rows of a file into items of its kind, one at a time, with every problem by row and column.

A cell that cannot be read is empty, and told; a row is refused only where it cannot be told what it is about.
"""

import html
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS
from dakika_core.networks.definition import Format
from dakika_core.sources.files.cells import (
    CellError,
    address_in,
    check_instant,
    is_empty,
    says_nothing,
    shorten,
)
from dakika_core.sources.files.dates import fold, read_date
from dakika_core.sources.files.guard import restore
from dakika_core.sources.files.identifiers import identifier_of, is_damaged
from dakika_core.sources.files.kinds import Kind, Read
from dakika_core.sources.files.mapping import dimension_of
from dakika_core.sources.files.names import FORMAT_WORDS
from dakika_core.sources.files.numbers import (
    CURRENCIES,
    Money,
    currency_in,
    parse_count,
    parse_money,
    parse_number,
    parse_seconds,
    parse_share,
)

LONGEST_TEXT = 20_000
LONGEST_WORD = 200
MOST_NOTES = 200
_FORMATS = {fold(word): key for key, words in FORMAT_WORDS.items() for word in (key, *words)}
_FORMATS[Format.OTHER.value] = Format.OTHER.value


class RowError(Exception):
    """A row that cannot be used: the column's name (or nothing) and what is wrong."""

    def __init__(self, column: str, message: str) -> None:
        super().__init__(message)
        self.column, self.message = column, message


@dataclass(frozen=True, kw_only=True)
class RowProblem:
    """What is wrong in a row (counted as in the file)."""

    row: int
    column: str
    message: str


@dataclass(kw_only=True)
class Note:
    """What was done with cells or rows that is not plain: in words, how often, and in which row of the file first."""

    column: str
    message: str
    count: int = 0
    row: int = 0


@dataclass(kw_only=True)
class Notes:
    """Notes on a file, added up by column and words."""

    found: dict[tuple[str, str], Note] = field(default_factory=dict)

    def add(self, column: str, message: str, row: int, count: int = 1) -> None:
        """Count one more; beyond two hundred different ones they are told together."""
        key = (column, message)
        if key not in self.found and len(self.found) >= MOST_NOTES:
            key = (column, "holds more cells that could not be read")
        note = self.found.setdefault(key, Note(column=key[0], message=key[1], row=row))
        note.count += count

    def as_list(self) -> list[dict[str, Any]]:
        """As kept: the most frequent first."""
        notes = sorted(self.found.values(), key=lambda n: (-n.count, n.row))
        return [{"column": n.column, "message": n.message, "count": n.count, "row": n.row} for n in notes]

    @classmethod
    def of(cls, kept: Sequence[Mapping[str, Any]]) -> "Notes":
        """Notes as they were kept, to be gone on with."""
        return cls(found={(n["column"], n["message"]): Note(**n) for n in kept})


@dataclass(frozen=True, kw_only=True)
class ReadOptions:
    """How the cells of a file are written. decimal is "." or ",", or nothing to go by each cell's looks.

    formats say what the file's own words for formats mean, by their folded form; midnights_are_days
    that the column of the date shows times that are none.
    """

    zone: ZoneInfo
    order: str = "dmy"
    decimal: str = ""
    currency: str = ""
    midnights_are_days: bool = False
    formats: Mapping[str, str] = field(default_factory=dict)


class RowReader:
    """Reads rows of one kind by a mapping of fields to columns; several columns of a count add up.

    `read` returns a dict with every field of the kind, None where the file says nothing, and
    raises RowError for a row that must be left out whole. `notes` tells of cells that were emptied.
    The values also hold "has_time": whether the row's date tells a time of day.
    """

    def __init__(
        self, kind: Kind, header: Sequence[str], mapping: Mapping[str, Sequence[int]], options: ReadOptions, *,
        now: datetime,
    ) -> None:  # fmt: skip
        self.kind = kind
        self.notes = Notes()
        self._header = header
        self._now = now
        self._options = options
        readers: dict[Read, Callable[[object], Any]] = {
            Read.COUNT: self._count, Read.SECONDS: self._seconds, Read.SHARE: self._share, Read.AMOUNT: self._amount,
            Read.CURRENCY: _currency, Read.TEXT: _word, Read.LONG_TEXT: _text, Read.ADDRESS: _address,
            Read.FORMAT: self._format, Read.DIMENSION: _dimension, Read.FLAG: _flag,
        }  # fmt: skip
        fields = kind.by_key
        self._date = kind.date_field
        self._columns = [
            (key, tuple(places), fields[key].read, readers.get(fields[key].read))
            for key, places in mapping.items()
            if key in fields and key not in ("time", "has_time") and places
        ]
        self._has_time = mapping.get("has_time", ())
        self._time = mapping.get("time", ())
        self._empty = {**dict.fromkeys(fields), "has_time": True}
        # A group of which one field is enough is about the row's identity; one of many metrics may be empty.
        self._needed = [keys for keys, _ in kind.needs if len(keys) <= 2]
        self._must = {key for keys in self._needed for key in keys}
        self._last = max((c for _, places, _, _ in self._columns for c in places), default=0)
        self._fewest = (len({c for _, places, _, _ in self._columns for c in places}) + 1) // 2
        self._in_head = {
            key: currency_in(header[places[0]])[0]
            for key, places in mapping.items()
            if key in fields and fields[key].read is Read.AMOUNT and places and places[0] < len(header)
        }

    def read(self, row: Sequence[object], number: int = 0) -> dict[str, Any]:
        """The row's values by field; number is the row's in the file, for the notes."""
        values: dict[str, Any] = dict(self._empty)
        width = len(row)
        if width <= self._last:
            self._look_at_short(row, number)
        for key, places, read, reader in self._columns:
            for column in places:
                if column >= width:
                    continue
                try:
                    value = self._dated(key, row, column, values) if reader is None else reader(row[column])
                except CellError as error:
                    if key in self._must or read in (Read.INSTANT, Read.DAY):
                        raise RowError(self._header[column], str(error)) from None
                    self.notes.add(self._header[column], f"{error}; the cell is left empty", number)
                    continue
                if value is None and says_nothing(row[column]):
                    self.notes.add(
                        self._header[column], f"“{shorten(str(row[column]).strip(), 12)}” is read as nothing", number
                    )
                old = values[key]
                values[key] = value if old is None or len(places) == 1 else old if value is None else old + value
        self._settle_money(values)
        if self._has_time and self._has_time[0] < width and not is_empty(row[self._has_time[0]]):
            values["has_time"] = _flag(row[self._has_time[0]])
        for keys in self._needed:
            if all(values[key] is None or values[key] == "" for key in keys):
                raise RowError(self._name_of(keys), "is empty")
        return values

    def _look_at_short(self, row: Sequence[object], number: int) -> None:
        told = sum(c < len(row) for _, places, _, _ in self._columns for c in places)
        if told < self._fewest and len(row) < len(self._header):
            raise RowError("", f"the row ends after {len(row)} of {len(self._header)} cells")
        if len(row) < len(self._header):
            self.notes.add("", "rows end before the last columns; what they lack is missing", number)

    def _name_of(self, keys: Sequence[str]) -> str:
        return next((self._header[places[0]] for key, places, _, _ in self._columns if key in keys), keys[0])

    # -- cells

    def _dated(self, key: str, row: Sequence[object], column: int, values: dict[str, Any]) -> Any:
        """An instant or a day; the date of the row with the time that stands in a column of its own."""
        cell = row[column]
        if is_empty(cell):
            return None
        read = read_date(cell, self._options.order)
        if read is None:
            raise CellError(f"“{shorten(cell)}” is not a date that can be read")
        is_day = not read.has_time or (self._options.midnights_are_days and (read.at.hour, read.at.minute) == (0, 0))
        if key == self._date and self._time and self._time[0] < len(row) and is_day:
            clock = _clock(row[self._time[0]])
            if clock is not None:
                read = type(read)(at=read.at + clock, has_time=True)
                is_day = False
        instant = read.instant(self._options.zone)
        check_instant(instant, now=self._now)
        if key == self._date:
            values["has_time"] = not is_day
        if self.kind.by_key[key].read is Read.DAY:
            return instant.astimezone(self._options.zone).date() if read.at.tzinfo else read.at.date()
        return instant

    def _count(self, cell: object) -> int | None:
        return parse_count(cell, self._options.decimal)

    def _seconds(self, cell: object) -> int | None:
        return parse_seconds(cell, self._options.decimal)

    def _share(self, cell: object) -> float | None:
        return parse_share(cell, self._options.decimal)

    def _amount(self, cell: object) -> Money | None:
        return parse_money(cell, self._options.decimal)

    def _settle_money(self, values: dict[str, Any]) -> None:
        """An amount's currency: the cell's own, the one in its column, in the head, as told; empty if none says."""
        money = values.get("amount")
        if isinstance(money, Money):
            values["amount"] = money.amount
            values["currency"] = (
                money.currency or values.get("currency") or self._in_head.get("amount") or self._options.currency
            )

    def _format(self, cell: object) -> str | None:
        word = fold(str(cell or ""))
        if not word:
            return None
        found = self._options.formats.get(word) or _FORMATS.get(word)
        if found is None:
            raise CellError(f"“{shorten(cell)}” is no format that is known")
        return found

    def knows_format(self, word: str) -> bool:
        """Whether a word for a format is understood, by itself or as it was told."""
        return fold(word) in self._options.formats or fold(word) in _FORMATS


def _clock(cell: object) -> timedelta | None:
    """The time of day in a cell: a clock time, or a spreadsheet's part of a day."""
    number = parse_number(cell)
    if number is not None and 0 <= number < 1:
        return timedelta(seconds=round(number * 86_400))
    read = read_date(f"2000-01-01 {str(cell).strip()}") if not is_empty(cell) else None
    if read is None or not read.has_time:
        return None
    return timedelta(hours=read.at.hour, minutes=read.at.minute, seconds=read.at.second)


def plain_text(cell: object) -> str:
    """The text of a cell: HTML's entities as the characters they stand for, the guard of an export taken off."""
    text = "" if cell is None else restore(str(cell).replace("\x00", ""))
    text = html.unescape(text) if "&" in text else text
    return text.encode("utf-8", "replace").decode()


def _word(cell: object) -> str:
    if is_damaged(cell):
        raise CellError(f"“{shorten(cell)}” is an identifier that a spreadsheet has rounded")
    text = plain_text(identifier_of(cell)).strip()
    if len(text) > LONGEST_WORD:
        raise CellError(f"is longer than {LONGEST_WORD} characters")
    return text


def _text(cell: object) -> str:
    text = plain_text(cell)
    if len(text) > LONGEST_TEXT:
        raise CellError(f"is longer than {LONGEST_TEXT:,} characters")
    return text


def _address(cell: object) -> str:
    found = address_in(cell)
    if not found and not is_empty(cell):
        raise CellError(f"“{shorten(cell)}” is no web address")
    return found


def _dimension(cell: object) -> str | None:
    if is_empty(cell):
        return None
    found = dimension_of(cell)
    if found is None:
        raise CellError(f"“{shorten(cell)}” is none of {', '.join(AUDIENCE_DIMENSIONS)}")
    return found


def _currency(cell: object) -> str | None:
    if is_empty(cell):
        return None
    text = str(cell).strip()
    found = currency_in(text.upper())[0] or currency_in(text)[0]
    if found not in CURRENCIES:
        raise CellError(f"“{shorten(cell)}” is no currency by ISO 4217")
    return found


def _flag(cell: object) -> bool:
    return str(cell or "").strip().lower() in (
        "1",
        "true",
        "yes",
        "y",
        "x",
        "ja",
        "sim",
        "si",
        "sí",
        "oui",
        "evet",
        "ναι",
    )
