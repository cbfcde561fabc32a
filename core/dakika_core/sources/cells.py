"""What stands in a cell: numbers and instants as people and tools write them."""

import re
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

LARGEST_COUNT = 2**53
_GROUPED = re.compile(r"^[+-]?\d{1,3}(?:([.,' \u00a0\u202f])\d{3})(?:\1\d{3})*(?:[.,]\d+)?$")
_SHORT = re.compile(r"^([+-]?\d+(?:[.,]\d+)?)\s*([km])$", re.IGNORECASE)
_DMY = re.compile(
    r"^(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2}))?\s*([ap]m)?)?$", re.IGNORECASE
)
_EARLIEST, _LATEST = datetime(1990, 1, 1, tzinfo=UTC), datetime(2100, 1, 1, tzinfo=UTC)


class CellError(ValueError):
    """A cell that cannot be read; the text says what is wrong with it."""


def parse_number(cell: object) -> float | None:
    """A number as written with any usual grouping, decimal sign, percent or k and m; None if it is none."""
    if isinstance(cell, bool) or cell is None:
        return None
    if isinstance(cell, int | float):
        return float(cell) if cell == cell and abs(cell) != float("inf") else None
    text = str(cell).strip()
    short = _SHORT.match(text)
    if short:
        return float(short[1].replace(",", ".")) * (1e3 if short[2].lower() == "k" else 1e6)
    if _GROUPED.match(text):
        sign = _GROUPED.match(text)[1]  # type: ignore[index]
        text = text.replace(sign, "")
    text = text.replace("\u00a0", "").replace("\u202f", "").replace("−", "-")
    if text.count(",") == 1 and "." not in text:
        text = text.replace(",", ".")
    try:
        return float(text) if re.fullmatch(r"[+-]?\d+(\.\d+)?", text) else None
    except ValueError:
        return None


def parse_count(cell: object) -> int | None:
    """A count, or None for an empty cell: missing is not zero.

    Raises CellError for anything that is not a whole number of things, 0 to 2^53.
    """
    if cell is None or (isinstance(cell, str) and cell.strip() in ("", "-", "–", "—", "n/a", "N/A", "null")):
        return None
    if isinstance(cell, str) and cell.lstrip()[:1] in ("=", "@"):
        raise CellError("holds a formula; save the file with its values instead")
    number = parse_number(cell)
    if number is None:
        raise CellError(f"“{shorten(cell)}” is not a number")
    if number < 0:
        raise CellError("is negative")
    if number > LARGEST_COUNT:
        raise CellError("is larger than any count can be")
    if number != int(number):
        raise CellError(f"“{shorten(cell)}” is not a whole number")
    return int(number)


def parse_instant(cell: object, *, zone: ZoneInfo | None = None, is_day_first: bool = True) -> datetime | None:
    """An instant in UTC; local times are read in `zone` (UTC if None). None if the cell is no date.

    Reads ISO 8601, day or month first with / . or -, epoch seconds and milliseconds, dates of
    spreadsheets. A time that the clocks skipped is read as the instant an hour on; one that
    occurs twice, as the first.
    """
    local = zone or ZoneInfo("UTC")
    if isinstance(cell, datetime):
        return (cell if cell.tzinfo else cell.replace(tzinfo=local)).astimezone(UTC)
    if isinstance(cell, date):
        return datetime(cell.year, cell.month, cell.day, tzinfo=local).astimezone(UTC)
    number = parse_number(cell)
    if number is not None:
        if 6e8 < number < 4.2e9:
            return datetime.fromtimestamp(number, tz=UTC)
        return datetime.fromtimestamp(number / 1000, tz=UTC) if 6e11 < number < 4.2e12 else None
    text = str(cell or "").strip()
    try:
        read = datetime.fromisoformat(text)
    except ValueError:
        return _day_or_month_first(text, local, is_day_first=is_day_first)
    return (read if read.tzinfo else read.replace(tzinfo=local)).astimezone(UTC)


def _day_or_month_first(text: str, zone: ZoneInfo, *, is_day_first: bool) -> datetime | None:
    match = _DMY.match(text)
    if not match:
        return None
    first, second, year = int(match[1]), int(match[2]), int(match[3])
    day, month = (first, second) if is_day_first else (second, first)
    if month > 12 >= day:
        day, month = month, day
    hour, minute, seconds = int(match[4] or 0), int(match[5] or 0), int(match[6] or 0)
    if match[7]:
        hour = hour % 12 + (12 if match[7].lower() == "pm" else 0)
    try:
        return datetime(year, month, day, hour, minute, seconds, tzinfo=zone).astimezone(UTC)
    except ValueError:
        return None


def check_instant(instant: datetime, *, now: datetime) -> None:
    """Raise CellError for an instant at which no post can have been published."""
    if instant < _EARLIEST or instant > _LATEST:
        raise CellError(f"the year {instant.year} cannot be right")
    if instant > now + timedelta(days=1):
        raise CellError("lies in the future")


def from_serial(serial: float) -> datetime:
    """A spreadsheet's serial date (1900 system) as a local datetime.

    The system counts a 29 February 1900 that never was: serials up to 59 are one day further on.
    Raises CellError for serials below 1.
    """
    if serial < 1:
        raise CellError("is no date")
    base = datetime(1899, 12, 30) if serial >= 60 else datetime(1899, 12, 31)  # noqa: DTZ001 (local by meaning)
    return base + timedelta(days=serial)


def shorten(cell: object, length: int = 40) -> str:
    """A cell as it may stand in a message: one line, no control characters, not too long."""
    text = re.sub(r"[\x00-\x1f\x7f]", " ", str(cell))
    return text if len(text) <= length else text[: length - 1] + "…"


def neutralise(value: object) -> object:
    """A cell for export: texts that a spreadsheet would take for a formula get a leading apostrophe.

    Numbers stay numbers (common practice, from memory of a security guide).
    """
    if isinstance(value, str) and value[:1] in ("=", "+", "-", "@", "\t", "\r") and parse_number(value) is None:
        return "'" + value
    return value
