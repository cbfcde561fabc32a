"""How are this file's numbers and dates written? Found out from its cells, shown, and changeable."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo, available_timezones

from dakika_core.sources.files.date_order import Order, order_of
from dakika_core.sources.files.dates import has_offset, parse_instant, read_date
from dakika_core.sources.files.kinds import COUNTED, Kind, Read
from dakika_core.sources.files.numbers import decimal_of

_IN_HEAD = re.compile(r"\b(UTC|GMT)\b|\(([A-Z][A-Za-z_]+/[A-Za-z_/]+)\)")
_IN_NAME = re.compile(
    r"(?<!\d)(\d{4})[-_. ]?(\d{2})[-_. ]?(\d{2})(?!\d)|(?<!\d)(\d{1,2})[-_. ](\d{1,2})[-_. ](\d{4})(?!\d)"
)
NUMBERS = (*COUNTED, Read.SHARE, Read.AMOUNT)
# A file whose newest row is no older than this may well have been exported just now.
STILL_NEW = timedelta(days=3)


@dataclass(frozen=True, kw_only=True)
class Written:
    """How cells are written. decimal is empty where no number tells; zone is empty when the file does not say.

    has_offsets: the instants carry their own offset, so that no zone is needed.
    """

    decimal: str
    order: Order
    zone: str
    has_offsets: bool


def how_written(
    kind: Kind, header: Sequence[str], mapping: Mapping[str, Sequence[int]], sample: Sequence[Sequence[object]], *,
    now: datetime,
) -> Written:  # fmt: skip
    """Find out from the mapped columns. Numbers that show both signs as the decimal one tell nothing."""
    fields = kind.by_key

    def columns(*reads: Read) -> list[int]:
        return [c for key, places in mapping.items() if key in fields and fields[key].read in reads for c in places]

    dates = columns(Read.INSTANT, Read.DAY)
    signs = {sign for cell in _cells(sample, columns(*NUMBERS)) if (sign := decimal_of(cell)) is not None}
    written = [cell for cell in _cells(sample, dates) if isinstance(cell, str | int | float | datetime)]
    orders = [order_of(_cells(sample, [column]), now=now) for column in dates]
    return Written(
        decimal=next(iter(signs)) if len(signs) == 1 else "",
        order=next((o for o in orders if not o.told), next((o for o in orders if o.why), Order(
            chosen="dmy", fits=("dmy",), told=True, why=""))),
        zone=_zone_in_head([header[c] for c in dates if c < len(header)]),
        has_offsets=bool(written) and all(map(has_offset, written)),
    )  # fmt: skip


def _cells(sample: Sequence[Sequence[object]], columns: Sequence[int]) -> list[object]:
    return [row[c] for row in sample for c in columns if c < len(row) and row[c] not in (None, "")]


def _zone_in_head(names: Sequence[str]) -> str:
    for name in names:
        found = _IN_HEAD.search(name)
        if found:
            return "UTC" if found[1] else found[2] if found[2] in available_timezones() else ""
    return ""


def zone_of(name: str) -> ZoneInfo:
    """A zone by its IANA name. Raises ValueError when there is none of that name."""
    if name not in available_timezones():
        raise ValueError(f"There is no time zone called {name}.")
    return ZoneInfo(name)


@dataclass(frozen=True, kw_only=True)
class AsOf:
    """When the figures of a file were read, and what says so: "name", "newest" row, or "now"."""

    at: datetime
    why: str


def as_of(file_name: str, newest: datetime | None, *, now: datetime, zone: ZoneInfo) -> AsOf:
    """Propose the moment of an export: a day in the file's name, else now if its newest row is of these days.

    An older export without a day in its name is taken as of the end of its newest row's day: what
    came later it cannot say. Never later than now, never before the newest row.
    """
    for found in reversed(list(_IN_NAME.finditer(file_name))):
        text = "-".join(found.groups()[:3]) if found[1] else f"{found[4]}/{found[5]}/{found[6]}"
        day = read_date(text) or read_date(text, "mdy")
        if day and day.at.year >= 1990:
            end = _end_of(day.at, zone)
            if (newest is None or end >= newest) and _start_of(day.at, zone) <= now:
                return AsOf(at=min(end, now), why="name")
    if newest is None or now - newest <= STILL_NEW:
        return AsOf(at=now, why="now")
    return AsOf(at=min(_end_of(newest.astimezone(zone), zone), now), why="newest")


def _start_of(day: datetime, zone: ZoneInfo) -> datetime:
    return datetime.combine(day.date(), time.min, tzinfo=zone)


def _end_of(day: datetime, zone: ZoneInfo) -> datetime:
    return datetime.combine(day.date(), time(23, 59, 59), tzinfo=zone)


def newest_in(
    sample: Sequence[Sequence[object]], column: int, *, zone: ZoneInfo, order: str, now: datetime
) -> datetime | None:
    """The newest instant of a column that has come already."""
    read = (parse_instant(row[column], zone=zone, order=order) for row in sample if column < len(row))
    return max((at for at in read if at is not None and at <= now + timedelta(days=1)), default=None)
