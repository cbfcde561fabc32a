"""From bytes to rows, in a stream, within bounds of memory and time, whatever the file claims to be."""

import io
import itertools
import zipfile
from collections.abc import Iterable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from datetime import date, datetime
from typing import IO

from dakika_core.sources.delimited import (
    DELIMITERS,
    ENCODINGS,
    FileError,
    detect_delimiter,
    detect_encoding,
    objects_of,
    rows_of,
)
from django.conf import settings

SAMPLE_BYTES = 256 * 1024
LARGEST_UNPACKED = 2 * 1024 * 1024 * 1024
LARGEST_SHARED = 64 * 1024 * 1024
MOST_PACKED = 200
MOST_COLUMNS = 200
PIECE = 64 * 1024
ROWS_FOR_NAMES = 200


@dataclass(frozen=True, kw_only=True)
class Form:
    """How a file is to be opened: csv, json or xlsx, and for text its encoding and delimiter."""

    form: str
    encoding: str = ""
    delimiter: str = ""


def form_of(name: str, size: int, file: IO[bytes]) -> Form:
    """Find out what a file is from its first bytes. Leaves it at its beginning.

    Raises FileError with what to do for anything that is too large, empty or not a table.
    """
    if size > settings.IMPORT_MAX_BYTES:
        limit = settings.IMPORT_MAX_BYTES // 1024 // 1024
        raise FileError(
            f"The file has {size / 1024 / 1024:,.0f} MB; at most {limit:,} MB can be read. Split it by year."
        )
    file.seek(0)
    head = file.read(SAMPLE_BYTES)
    file.seek(0)
    if not head.strip():
        raise FileError(f"“{name}” is empty.")
    if head[:4] == b"PK\x03\x04":
        _check_workbook(file)
        return Form(form="xlsx")
    if head[:4] == b"\xd0\xcf\x11\xe0":
        raise FileError("This is a workbook of the old binary kind. Save it as XLSX or CSV and try again.")
    encoding = detect_encoding(head, is_whole=size <= len(head))
    text = head.decode(ENCODINGS[encoding], errors="ignore").lstrip()
    if text[:1] in ("[", "{"):
        return Form(form="json", encoding=encoding)
    lines = text if size <= len(head) else text[: text.rfind("\n") + 1] or text
    return Form(form="csv", encoding=encoding, delimiter=detect_delimiter(lines))


def checked_form(form: Form) -> Form:
    """A form that a person chose. Raises FileError for encodings and delimiters that there are not."""
    if form.form != "xlsx" and form.encoding not in ENCODINGS:
        raise FileError(f"There is no encoding {form.encoding}.")
    if form.form == "csv" and form.delimiter not in DELIMITERS:
        raise FileError("Choose comma, semicolon, tab or bar as the delimiter.")
    return form


def open_rows(
    form: Form, file: IO[bytes], known_header: list[str] | None = None
) -> tuple[list[str], Iterator[list[object]]]:
    """Header and rows of a file from its beginning.

    A JSON file's header is the names of its first objects, or known_header, so that reading it
    again gives the same columns. Raises FileError, also later from the iterator, for what cannot
    be read.
    """
    if form.form == "xlsx":
        header, rows = _open_workbook(file)
    elif form.form == "json":
        header, rows = _open_json(_pieces(form, file), known_header)
    else:
        lines = rows_of(_lines(form, file), form.delimiter)
        header, rows = [cell.strip() for cell in next(lines, [])], (list(row) for row in lines)
    if len(header) > MOST_COLUMNS:
        raise FileError(f"The file has {len(header)} columns; at most {MOST_COLUMNS} can be read.")
    return header, rows


@contextmanager
def _text(form: Form, file: IO[bytes]) -> Iterator[io.TextIOWrapper]:
    """The file as text. It is let go of in the end, not closed: it is the caller's."""
    text = io.TextIOWrapper(file, encoding=ENCODINGS[form.encoding], errors="strict", newline="")
    try:
        yield text
    finally:
        with suppress(ValueError):
            text.detach()


def _lines(form: Form, file: IO[bytes]) -> Iterator[str]:
    with _text(form, file) as text:
        yield from text


def _pieces(form: Form, file: IO[bytes]) -> Iterator[str]:
    with _text(form, file) as text:
        while piece := text.read(PIECE):
            yield piece


def _open_json(pieces: Iterator[str], known_header: list[str] | None) -> tuple[list[str], Iterator[list[object]]]:
    objects = objects_of(pieces)
    first = list(itertools.islice(objects, ROWS_FOR_NAMES))
    header = known_header or list(dict.fromkeys(name for one in first for name in one))
    rows: Iterable[dict[str, object]] = itertools.chain(first, objects)
    return header, ([one.get(name) for name in header] for one in rows)


def _check_workbook(file: IO[bytes]) -> None:
    """Look at what a workbook would unpack to before anything is unpacked."""
    try:
        with zipfile.ZipFile(file) as archive:
            entries = archive.infolist()
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError):
        raise FileError(
            "The workbook is broken or not a workbook. Open it, save it anew as XLSX, and try again."
        ) from None
    finally:
        file.seek(0)
    unpacked = sum(entry.file_size for entry in entries)
    packed = sum(entry.compress_size for entry in entries) or 1
    shared = sum(entry.file_size for entry in entries if "sharedStrings" in entry.filename)
    if (
        unpacked > LARGEST_UNPACKED
        or shared > LARGEST_SHARED
        or (unpacked > 1 << 26 and unpacked / packed > MOST_PACKED)
    ):
        raise FileError("The workbook unpacks to far more than a table of its size does. Save the sheet as CSV.")


def _open_workbook(file: IO[bytes]) -> tuple[list[str], Iterator[list[object]]]:
    from openpyxl import load_workbook

    rows: Iterator[tuple[object, ...]]
    try:
        # Formulas are kept as they stand, so that a row can be refused for one.
        book = load_workbook(file, read_only=True, data_only=False)
        rows = book.worksheets[0].iter_rows(values_only=True)
        header: tuple[object, ...] = next((row for row in rows if any(c not in (None, "") for c in row)), ())
    except Exception:  # noqa: BLE001 (the package raises whatever a broken file provokes)
        raise FileError(
            "The workbook is broken or not a workbook. Open it, save it anew as XLSX, and try again."
        ) from None
    while header and header[-1] in (None, ""):
        header = header[:-1]
    return ["" if c is None else str(c).strip() for c in header], _workbook_rows(rows)


def _workbook_rows(rows: Iterator[tuple[object, ...]]) -> Iterator[list[object]]:
    number = 1
    while True:
        try:
            row = next(rows, None)
        except Exception:  # noqa: BLE001 (see above)
            raise FileError(f"The workbook is broken after row {number:,}. Save it anew as XLSX.") from None
        if row is None:
            return
        number += 1
        if any(cell not in (None, "") for cell in row):
            yield [_plain(cell) for cell in row[:MOST_COLUMNS]]


def _plain(cell: object) -> object:
    """A cell as it may be kept as JSON: instants as ISO 8601."""
    if isinstance(cell, datetime | date):
        return cell.isoformat()
    return cell if isinstance(cell, bool | int | float | str) or cell is None else str(cell)
