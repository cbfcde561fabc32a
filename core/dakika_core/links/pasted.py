"""A pasted list of pages: bare addresses, one a line, or a table with a head, as spreadsheets and files give it."""

import csv
import io
from dataclasses import dataclass, field

COLUMNS = {
    "destination": ("destination", "address", "url", "link", "page", "leads to"),
    "name": ("name", "title", "label"),
    "code": ("code", "short", "word", "short address"),
    "network": ("network", "source"),
    "campaign": ("campaign", "utm_campaign"),
    "content": ("content", "utm_content"),
    "term": ("term", "utm_term"),
    "medium": ("medium", "utm_medium"),
}
DELIMITERS = "\t;,|"
MOST_ROWS = 500
LONGEST_CELL = 4000


class PasteError(ValueError):
    """What was pasted is no list; the text says what to do."""


@dataclass(frozen=True, kw_only=True)
class Pasted:
    """Columns as understood, in their order, and a dict of cells for each row that is not empty."""

    columns: list[str]
    rows: list[dict[str, str]] = field(default_factory=list)


def read_pasted(text: str) -> Pasted:
    """Read what was pasted (CSV by RFC 4180 with any usual delimiter). Raises PasteError.

    Without a head the first column is the address and the second, if there is one, the name.
    """
    text = text.removeprefix("\ufeff")
    lines = [line for line in text.splitlines() if line.strip()]
    if not lines:
        raise PasteError("Paste at least one address.")
    delimiter = max(DELIMITERS, key=lambda sign: lines[0].count(sign) if sign != "," or "://" not in lines[0] else 0)
    if delimiter not in lines[0]:
        delimiter = "\t"
    try:
        table = [[cell.strip() for cell in row] for row in csv.reader(io.StringIO(text), delimiter=delimiter)]
    except csv.Error:
        raise PasteError("The table cannot be read: a quotation mark is not closed, or a cell is too long.") from None
    table = [row for row in table if any(row)]
    if any(len(cell) > LONGEST_CELL for row in table for cell in row):
        raise PasteError("The table cannot be read: a quotation mark is not closed, or a cell is too long.")
    if not table:
        raise PasteError("Paste at least one address.")
    head = [_column(cell) for cell in table[0]]
    if any(head):
        if "destination" not in head:
            raise PasteError("No column is named destination, address or url.")
        body = table[1:]
    else:
        head = ["destination", "name"] if any("://" in row[0] for row in table) else ["", ""]
        if not any(head):
            raise PasteError("No address begins with https:// or http://.")
        body = table
    if len(body) > MOST_ROWS:
        raise PasteError(f"At most {MOST_ROWS} links are made at once; these are {len(body)}.")
    rows = [{name: cell for name, cell in zip(head, row, strict=False) if name} for row in body]
    return Pasted(columns=[name for name in head if name], rows=rows)


def _column(cell: str) -> str:
    low = cell.strip().lower()
    return next((name for name, words in COLUMNS.items() if low in words), "")
