"""Tables as files: what was studied and what each figure means stands beside the rows."""

import csv
import io
import tempfile
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import IO, Any

from dakika_core.sources.files.guard import neutralise

from dakika_server.figures.study import Study
from dakika_server.figures.words import narrowed_words
from dakika_server.networks.definitions import network_name

ROWS_AT_ONCE = 2_000
Row = list[Any]


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """A table to be written: name, head, rows as they come, and what each figure means (name, definition).

    mark is the first line, by which a file of it is known when it comes back.
    """

    name: str
    head: list[str]
    rows: Iterable[Row]
    definitions: Sequence[tuple[str, str]]
    about: Sequence[tuple[str, str]]
    mark: list[str] = field(default_factory=list)


def about(study: Study) -> list[tuple[str, str]]:
    """What was studied, a line each."""
    return [
        ("Brand", study.brand.name),
        ("Period", f"{study.period.first} to {study.period.last}, days of {study.brand.time_zone}"),
        ("Comparison", f"{study.compared.first} to {study.compared.last}"),
        ("Posts' age", study.age_words),
        ("Profiles", ", ".join(f"{p.name} on {network_name(p.network)}" for p in study.profiles)),
        ("Only", ", ".join(narrowed_words(study)) or "all posts"),
    ]  # fmt: skip


def as_csv(sheet: Sheet) -> Iterator[bytes]:
    """What it is, then the table (RFC 4180, UTF-8); after an empty line what was studied and what each figure means."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(sheet.mark)
    writer.writerow(sheet.head)
    for number, row in enumerate(sheet.rows, start=1):
        writer.writerow([neutralise(cell) for cell in row])
        if number % ROWS_AT_ONCE == 0:
            yield _taken(out)
    writer.writerow([])
    writer.writerows([neutralise(a), neutralise(b)] for a, b in (*sheet.about, *sheet.definitions))
    yield _taken(out)


def _taken(out: io.StringIO) -> bytes:
    text = out.getvalue()
    out.seek(0)
    out.truncate()
    return text.encode("utf-8", "replace")


def as_workbook(sheet: Sheet) -> IO[bytes]:
    """The table on one sheet, study and definitions on another, in a temporary file that the caller closes."""
    from openpyxl import Workbook
    from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE

    def clean(cell: Any) -> Any:
        safe = neutralise(cell)
        return ILLEGAL_CHARACTERS_RE.sub("", safe) if isinstance(safe, str) else safe

    book = Workbook(write_only=True)
    table = book.create_sheet(sheet.name)
    table.append(sheet.mark)
    table.append(sheet.head)
    for row in sheet.rows:
        table.append([clean(cell) for cell in row])
    words = book.create_sheet("definitions")
    for line in (*sheet.about, ("", ""), *sheet.definitions):
        words.append([clean(cell) for cell in line])
    out = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    book.save(out)
    out.seek(0)
    return out
