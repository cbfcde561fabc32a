"""How are this file's numbers and dates written? Found out from a sample, shown, and changeable."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from zoneinfo import ZoneInfo, available_timezones

from dakika_core.sources.cells import decimal_of, order_of
from dakika_core.sources.kinds import Kind, Read

_OFFSET = re.compile(r"(Z|[+-]\d{2}:?\d{2})$", re.IGNORECASE)
_IN_HEAD = re.compile(r"\b(UTC|GMT)\b|\(([A-Z][A-Za-z_]+/[A-Za-z_/]+)\)")


@dataclass(frozen=True, kw_only=True)
class Written:
    """How cells are written. is_day_first is None when no date tells; zone is empty when the file does not say.

    has_offsets: the instants carry their own offset, so that no zone is needed.
    """

    decimal: str
    is_day_first: bool | None
    zone: str
    has_offsets: bool


def how_written(
    kind: Kind, header: Sequence[str], mapping: Mapping[str, int], sample: Sequence[Sequence[object]]
) -> Written:
    """Find out from the mapped columns of a sample. What contradicts itself goes by the majority."""
    fields = kind.by_key
    dates = [c for key, c in mapping.items() if key in fields and fields[key].read in (Read.INSTANT, Read.DAY)]
    numbers = [
        c for key, c in mapping.items() if key in fields and fields[key].read in (Read.COUNT, Read.SHARE, Read.AMOUNT)
    ]
    orders = [found for cell in _cells(sample, dates) if (found := order_of(cell)) is not None]
    signs = [sign for cell in _cells(sample, numbers) if (sign := decimal_of(cell)) is not None]
    written = [str(cell).strip() for cell in _cells(sample, dates) if isinstance(cell, str | datetime)]
    return Written(
        decimal=max(set(signs), key=signs.count) if signs else "",
        is_day_first=orders.count(True) >= orders.count(False) if orders else None,
        zone=_zone_in_head([header[c] for c in dates if c < len(header)]),
        has_offsets=bool(written) and all(_OFFSET.search(text) for text in written),
    )


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
