"""What stands in a cell: numbers and instants as people and tools write them."""

import re
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

LARGEST_COUNT = 2**53
_GROUPED = re.compile(r"^[+-]?\d{1,3}(?:([.,' \u00a0\u202f])\d{3})(?:\1\d{3})*(?:[.,]\d+)?$")
_SHORT = re.compile(r"^([+-]?\d+(?:[.,]\d+)?)\s*([km])$", re.IGNORECASE)
_PLAIN = re.compile(r"[+-]?\d+(\.\d+)?")
_DMY = re.compile(
    r"^(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?:[ T,]+(\d{1,2}):(\d{2})(?::(\d{2}))?\s*([ap]m)?)?$", re.IGNORECASE
)
_EARLIEST, _LATEST = datetime(1990, 1, 1, tzinfo=UTC), datetime(2100, 1, 1, tzinfo=UTC)
_UTC = ZoneInfo("UTC")
_EMPTY = frozenset({"", "-", "–", "—", "n/a", "N/A", "null", "NULL", "None", "NaN"})
_SPACES = str.maketrans("", "", " \u00a0\u202f'")


class CellError(ValueError):
    """A cell that cannot be read; the text says what is wrong with it."""


def is_empty(cell: object) -> bool:
    """Whether a cell holds nothing, in any of the usual ways of writing nothing."""
    return cell is None or (isinstance(cell, str) and cell.strip() in _EMPTY)


def parse_number(cell: object, decimal: str = "") -> float | None:
    """A number as written with any usual grouping, decimal sign, or k and m; None if it is none.

    decimal is "." or "," where the file's way is known; without it a cell is read by its own looks.
    """
    if isinstance(cell, bool) or cell is None:
        return None
    if isinstance(cell, int | float):
        return float(cell) if cell == cell and abs(cell) != float("inf") else None
    text = str(cell).strip()
    short = _SHORT.match(text)
    if short:
        return float(short[1].replace(",", ".")) * (1e3 if short[2].lower() == "k" else 1e6)
    if decimal:
        text = text.translate(_SPACES).replace("," if decimal == "." else ".", "").replace(decimal, ".")
    else:
        grouped = _GROUPED.match(text)
        if grouped:
            text = text.replace(grouped[1], "")
        text = text.replace("\u00a0", "").replace("\u202f", "")
        if text.count(",") == 1 and "." not in text:
            text = text.replace(",", ".")
    text = text.replace("−", "-")
    return float(text) if _PLAIN.fullmatch(text) else None


def parse_count(cell: object, decimal: str = "") -> int | None:
    """A count, or None for an empty cell: missing is not zero.

    Raises CellError for anything that is not a whole number of things, 0 to 2^53.
    """
    if isinstance(cell, str) and cell.isdigit() and cell.isascii() and len(cell) < 16:
        return int(cell)
    if is_empty(cell):
        return None
    if isinstance(cell, str) and cell.lstrip()[:1] in ("=", "@"):
        raise CellError("holds a formula; save the file with its values instead")
    number = parse_number(cell, decimal)
    if number is None:
        raise CellError(f"“{shorten(cell)}” is not a number")
    if number < 0:
        raise CellError("is negative")
    if number > LARGEST_COUNT:
        raise CellError("is larger than any count can be")
    if number != int(number):
        raise CellError(f"“{shorten(cell)}” is not a whole number")
    return int(number)


def parse_share(cell: object, decimal: str = "") -> float | None:
    """A share, percentage or count of a group, 0 or more; a percent sign divides by a hundred. None when empty.

    Raises CellError for anything else.
    """
    if is_empty(cell):
        return None
    text = str(cell).strip() if isinstance(cell, str) else cell
    is_percent = isinstance(text, str) and text.endswith("%")
    number = parse_number(text[:-1] if isinstance(text, str) and is_percent else text, decimal)
    if number is None:
        raise CellError(f"“{shorten(cell)}” is not a number")
    if number < 0 or number > LARGEST_COUNT:
        raise CellError("is negative" if number < 0 else "is larger than any count can be")
    return number / 100 if is_percent else number


def parse_instant(cell: object, *, zone: ZoneInfo | None = None, is_day_first: bool = True) -> datetime | None:
    """An instant in UTC; local times are read in `zone` (UTC if None). None if the cell is no date.

    Reads ISO 8601, day or month first with / . or -, epoch seconds and milliseconds, dates of
    spreadsheets. A time that the clocks skipped is read as the instant an hour on; one that
    occurs twice, as the first.
    """
    local = zone or _UTC
    if isinstance(cell, str):
        text = cell.strip()
        if not text.isdigit():
            try:
                return _in_utc(datetime.fromisoformat(text), local)
            except (ValueError, OverflowError):
                pass
            return _day_or_month_first(text, local, is_day_first=is_day_first)
    elif isinstance(cell, datetime):
        return _in_utc(cell, local)
    elif isinstance(cell, date):
        return _in_utc(datetime(cell.year, cell.month, cell.day), local)  # noqa: DTZ001 (local by meaning)
    number = parse_number(cell)
    if number is None:
        return None
    if 6e8 < number < 4.2e9:
        return datetime.fromtimestamp(number, tz=UTC)
    if 6e11 < number < 4.2e12:
        return datetime.fromtimestamp(number / 1000, tz=UTC)
    text = str(int(number))
    if len(text) == 8 and text[:2] in ("19", "20"):
        try:
            return _in_utc(datetime.fromisoformat(text), local)
        except ValueError:
            return None
    return None


def _in_utc(read: datetime, zone: ZoneInfo) -> datetime | None:
    try:
        return (read if read.tzinfo else read.replace(tzinfo=zone)).astimezone(UTC)
    except OverflowError:
        # The first and last days of the calendar have no UTC: they are dates, and impossible ones.
        return read.replace(tzinfo=UTC)


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
        return _in_utc(datetime(year, month, day, hour, minute, seconds), zone)  # noqa: DTZ001 (local by meaning)
    except ValueError:
        return None


def order_of(cell: object) -> bool | None:
    """Whether a written date has its day first; None when it does not tell (both numbers are at most 12)."""
    match = _DMY.match(str(cell).strip()) if isinstance(cell, str) else None
    if not match:
        return None
    first, second = int(match[1]), int(match[2])
    if first > 12 >= second:
        return True
    return False if second > 12 >= first else None


def decimal_of(cell: object) -> str | None:
    """The decimal sign that a written number shows, by itself or by its grouping; None when it does not tell."""
    if not isinstance(cell, str):
        return None
    text = cell.strip().removesuffix("%").strip()
    if re.fullmatch(r"[+-]?\d{1,3}(\.\d{3})+,\d+|[+-]?\d{1,3}(\.\d{3}){2,}|[+-]?\d+,\d{1,2}|[+-]?\d+,\d{4,}", text):
        return ","
    if re.fullmatch(r"[+-]?\d{1,3}(,\d{3})+\.\d+|[+-]?\d{1,3}(,\d{3}){2,}|[+-]?\d+\.\d{1,2}|[+-]?\d+\.\d{4,}", text):
        return "."
    return None


def check_instant(instant: datetime, *, now: datetime) -> None:
    """Raise CellError for an instant at which nothing can have been published or read."""
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
    text = re.sub(r"[\x00-\x1f\x7f]", " ", str(cell)[: length * 4])
    return text if len(text) <= length else text[: length - 1] + "…"


def neutralise(value: object) -> object:
    """A cell for export: texts that a spreadsheet would take for a formula get a leading apostrophe.

    Numbers stay numbers (common practice, from memory of a security guide).
    """
    if isinstance(value, str) and value[:1] in ("=", "+", "-", "@", "\t", "\r") and parse_number(value) is None:
        return "'" + value
    return value


def restore(text: str) -> str:
    """A text that `neutralise` guarded, as it was."""
    return text[1:] if text[:1] == "'" and text[1:2] in ("=", "+", "-", "@", "\t", "\r") else text
