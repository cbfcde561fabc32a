"""What tells posts of a file apart: identifiers as they are, as a spreadsheet left them, or none at all."""

import hashlib
import re
from collections.abc import Sequence
from datetime import datetime
from urllib.parse import parse_qsl, urlencode, urlsplit

# A spreadsheet keeps fifteen figures of a number; what stood behind them is nought ever after.
FIGURES_KEPT = 15
_POWER = re.compile(r"^[+-]?\d(?:[.,]\d+)?E[+-]?\d+$", re.IGNORECASE)
_ZEROS = re.compile(r"^\d+\.0+$")
_FEWEST_ROUNDED = 3
# Parameters that say where a visitor came from, not what they see (UTM is an open convention).
_TRACKING = re.compile(r"^(?:utm_\w+|dk|ref|source|campaign)$", re.IGNORECASE)


def is_damaged(cell: object) -> bool:
    """Whether a cell holds an identifier that a spreadsheet made a number of, so that its last figures are lost."""
    if isinstance(cell, bool) or cell is None:
        return False
    if isinstance(cell, int | float):
        return bool(abs(cell) >= 10**FIGURES_KEPT)
    return bool(_POWER.match(str(cell).strip()))


def are_rounded(cells: Sequence[object]) -> bool:
    """Whether all long identifiers of a column end in the noughts that a spreadsheet leaves behind fifteen figures."""
    texts = [str(cell).strip() for cell in cells if cell not in (None, "")]
    long = [text for text in texts if text.isdigit() and len(text) > FIGURES_KEPT]
    return len(long) >= _FEWEST_ROUNDED and all(text.endswith("0" * (len(text) - FIGURES_KEPT)) for text in long)


def identifier_of(cell: object) -> str:
    """An identifier as text: a whole number that a spreadsheet shows with noughts behind the point is that number."""
    text = "" if cell is None else str(cell).strip()
    if isinstance(cell, float) and cell.is_integer():
        return str(int(cell))
    return text.split(".")[0] if _ZEROS.match(text) else text


def address_key(url: str) -> str:
    """An address in the one form in which two are the same post's: without scheme, www, tracking, trailing slash.

    Empty for what is no address. Case matters in paths and not in hosts (RFC 3986, 6.2.2.1).
    """
    try:
        parts = urlsplit(url.strip())
        host = (parts.hostname or "").removeprefix("www.").removeprefix("m.")
    except ValueError:
        return ""
    if not host or not (parts.path.strip("/") or parts.query):
        return ""
    query = urlencode(sorted((k, v) for k, v in parse_qsl(parts.query) if not _TRACKING.match(k)))
    path = re.sub(r"/{2,}", "/", parts.path).rstrip("/")
    return f"{host}{path}{'?' if query else ''}{query}"[:500]


def text_key(text: str) -> str:
    """A text in the form in which two are the same: one space between words, whatever the case; at most 200 characters.

    Empty for a text without words. Exports cut texts short, so that only the beginning counts.
    """
    words = " ".join(text.casefold().strip().rstrip("….").split())
    return words[:200]


def made_up_id(published: datetime, text: str, url: str, place: int = 0) -> str:
    """An identifier for a post whose file gives none: from its instant, text and address, so always the same.

    Rows that say neither text nor address are told apart by their place among those of the same instant.
    """
    base = f"{published.isoformat()}\n{text}\n{url}" + (f"\n{place}" if place else "")
    return "file-" + hashlib.sha256(base.encode("utf-8", "replace")).hexdigest()[:24]
