"""An uploaded file into a head and rows, within bounds of time and memory. Nothing is stored here."""

import zipfile
from dataclasses import dataclass
from datetime import date, datetime
from itertools import islice
from typing import IO

from dakika_core.sources.delimited import FileError, decode, detect_delimiter, rows_of
from django.conf import settings

LARGEST_UNPACKED = 200 * 1024 * 1024
MOST_COLUMNS = 200


@dataclass(frozen=True, kw_only=True)
class TableFile:
    """A table as read: cells are text, numbers, ISO 8601 instants or None."""

    header: list[str]
    rows: list[list[object]]
    encoding: str
    delimiter: str


def read_table(name: str, size: int, file: IO[bytes]) -> TableFile:
    """Read a CSV, TSV or XLSX file.

    Raises FileError with what to do for anything that is too large, broken, empty or not a table.
    """
    if size > settings.IMPORT_MAX_BYTES:
        limit = settings.IMPORT_MAX_BYTES // 1024 // 1024
        raise FileError(
            f"The file has {size / 1024 / 1024:.0f} MB; at most {limit} MB can be read at once. Split it by month."
        )
    head = file.read(4)
    file.seek(0)
    if head == b"PK\x03\x04":
        table = _read_workbook(file)
    elif head == b"\xd0\xcf\x11\xe0":
        raise FileError("This is a workbook of the old binary kind. Save it as XLSX or CSV and try again.")
    else:
        table = _read_text(file.read())
    if not table.rows:
        raise FileError(
            f"“{name}” has a head but no rows. Is it the right file?" if table.header else f"“{name}” is empty."
        )
    if len(table.header) > MOST_COLUMNS:
        raise FileError(f"The file has {len(table.header)} columns; at most {MOST_COLUMNS} can be read.")
    return table


def _read_text(data: bytes) -> TableFile:
    if not data.strip():
        return TableFile(header=[], rows=[], encoding="utf-8", delimiter=",")
    text, encoding = decode(data)
    delimiter = detect_delimiter(text)
    rows = rows_of(text, delimiter)
    header = next(rows, [])
    body: list[list[object]] = [list(row) for row in islice(rows, settings.IMPORT_MAX_ROWS + 1)]
    _require_few(body)
    return TableFile(header=[cell.strip() for cell in header], rows=body, encoding=encoding, delimiter=delimiter)


def _require_few(rows: list[list[object]]) -> None:
    if len(rows) > settings.IMPORT_MAX_ROWS:
        raise FileError(f"The file has more than {settings.IMPORT_MAX_ROWS:,} rows. Split it, by year for instance.")


def _read_workbook(file: IO[bytes]) -> TableFile:
    from openpyxl import load_workbook

    try:
        with zipfile.ZipFile(file) as archive:
            unpacked = sum(entry.file_size for entry in archive.infolist())
        if unpacked > LARGEST_UNPACKED:
            raise FileError("The workbook unpacks to more than 200 MB. Save the sheet as CSV and split it.")
        file.seek(0)
        # Formulas are kept as they stand, so that a row can be refused for one.
        book = load_workbook(file, read_only=True, data_only=False)
        sheet = book.worksheets[0]
        rows = (row for row in sheet.iter_rows(values_only=True) if any(cell not in (None, "") for cell in row))
        header = next(rows, ())
        body = [[_plain(cell) for cell in row[:MOST_COLUMNS]] for row in islice(rows, settings.IMPORT_MAX_ROWS + 1)]
    except FileError:
        raise
    except Exception:  # noqa: BLE001 (the package raises whatever a broken file provokes)
        raise FileError(
            "The workbook is broken or not a workbook. Open it, save it anew as XLSX, and try again."
        ) from None
    _require_few(body)
    return TableFile(header=["" if c is None else str(c).strip() for c in header], rows=body, encoding="", delimiter="")


def _plain(cell: object) -> object:
    if isinstance(cell, datetime | date):
        return cell.isoformat()
    if isinstance(cell, bool | int | float | str) or cell is None:
        return cell
    return str(cell)
