"""What stands in a cell beside numbers and dates: nothing, or an address; and how a cell is shown in a message."""

import re
from datetime import UTC, datetime, timedelta

_EARLIEST, _LATEST = datetime(1990, 1, 1, tzinfo=UTC), datetime(2100, 1, 1, tzinfo=UTC)
_EMPTY = frozenset({"", "-", "--", "–", "—", "---", "n/a", "na", "null", "none", "nan", "n.d.", "n.d", "k.a.", "k. a.",
                    "n/d", "s/d", "n.a.", "#n/a", "#null!", "#div/0!", "#value!", "#wert!", "#nv", "#n/d", "#valor!",
                    "(blank)", "(leer)", "?", "yok", "δ/υ", "nd", "not available", "."})  # fmt: skip
_FORMULA = re.compile(r'^=\s*HYPERLINK\(\s*"([^"]{1,2000})"', re.IGNORECASE)
_SCHEMELESS = re.compile(r"^(?:www\.)?[a-z0-9-]+(?:\.[a-z0-9-]+)*\.[a-z]{2,}(?::\d+)?/\S*$", re.IGNORECASE)
LONGEST_ADDRESS = 2000


class CellError(ValueError):
    """A cell that cannot be read; the text says what is wrong with it."""


def is_empty(cell: object) -> bool:
    """Whether a cell holds nothing, in any of the usual ways of writing nothing."""
    return cell is None or (isinstance(cell, str) and (not cell or cell.strip().casefold() in _EMPTY))


def says_nothing(cell: object) -> bool:
    """Whether a cell holds nothing but says so in a word, such as n/a: worth telling, unlike a blank."""
    return isinstance(cell, str) and bool(cell.strip()) and is_empty(cell)


def address_in(cell: object) -> str:
    """The web address in a cell: plain, without its scheme, or within a spreadsheet's hyperlink; empty if none."""
    text = str(cell or "").strip()
    found = _FORMULA.match(text)
    text = found[1].strip() if found else text
    if _SCHEMELESS.match(text):
        text = f"https://{text}"
    return text if re.match(r"(?i)https?://", text) and len(text) <= LONGEST_ADDRESS else ""


def check_instant(instant: datetime, *, now: datetime) -> None:
    """Raise CellError for an instant at which nothing can have been published or read."""
    if instant < _EARLIEST or instant > _LATEST:
        raise CellError(f"the year {instant.year} cannot be right")
    if instant > now + timedelta(days=1):
        raise CellError("lies in the future")


def shorten(cell: object, length: int = 40) -> str:
    """A cell as it may stand in a message: one line, no control characters, not too long."""
    text = re.sub(r"[\x00-\x1f\x7f]", " ", str(cell)[: length * 4])
    return text if len(text) <= length else text[: length - 1] + "…"
