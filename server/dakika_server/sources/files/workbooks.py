"""Sheets of workbooks as rows with their numbers: XLSX through openpyxl, ODS from its XML, both in a stream."""

import re
import zipfile
from collections.abc import Iterator
from datetime import date, datetime, time, timedelta
from typing import IO, Any
from xml.etree.ElementTree import Element, ParseError

from dakika_core.sources.files.cells import address_in
from dakika_core.sources.files.delimited import FileError
from dakika_core.sources.files.shapes import NumberedRow
from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import iterparse

MOST_COLUMNS = 2_000
# After so many rows without anything in them a sheet is over, wherever its last cell is said to be.
MOST_EMPTY_ROWS = 5_000
MOST_SHEETS = 100
MOST_LINKS = 200_000
BROKEN = "The workbook is broken or not a workbook. Open it, save it anew as XLSX, and try again."


def sheets_of_xlsx(file: IO[bytes]) -> list[str]:
    """Names of the sheets that hold cells, in their order. Raises FileError for a broken workbook."""
    book = _opened(file)
    return [sheet.title for sheet in book.worksheets[:MOST_SHEETS] if hasattr(sheet, "iter_rows")]


def _opened(file: IO[bytes]) -> Any:
    from openpyxl import load_workbook

    file.seek(0)
    try:
        # Formulas are kept as they stand, so that a row can be refused for one.
        return load_workbook(file, read_only=True, data_only=False)
    except Exception:  # noqa: BLE001 (the package raises whatever a broken file provokes)
        raise FileError(BROKEN) from None


def rows_of_xlsx(file: IO[bytes], sheet: str) -> Iterator[NumberedRow]:
    """Rows of a sheet that hold anything. A column whose cells carry web addresses gets another behind it for them."""
    book = _opened(file)
    try:
        found = book[sheet] if sheet else book.worksheets[0]
        links = _links_of(file, found)
        # What a sheet says of its own size is not believed: rows come as wide as they are.
        found.reset_dimensions()
        rows = found.iter_rows(values_only=True)
    except FileError:
        raise
    except Exception:  # noqa: BLE001 (see above)
        raise FileError(BROKEN) from None
    with_links = sorted({column for _, column in links})
    number, empty, is_head = 0, 0, True
    while True:
        try:
            row = next(rows, None)
        except Exception:  # noqa: BLE001 (see above)
            raise FileError(f"The workbook is broken after row {number:,}. Save it anew as XLSX.") from None
        number += 1
        if row is None or empty > MOST_EMPTY_ROWS:
            return
        if all(cell in (None, "") for cell in row):
            empty += 1
            continue
        empty = 0
        cells = [plain(cell) for cell in row[:MOST_COLUMNS]]
        if with_links:
            cells += [None] * (max(with_links) + 1 - len(cells))
            told = [links.get((number, column), "") for column in with_links]
            is_titled = is_head and not any(told)
            cells += [f"{cells[c]} (address)" for c in with_links] if is_titled and cells[with_links[0]] else told
            is_head = is_head and not is_titled
        while cells and cells[-1] in (None, ""):
            cells.pop()
        yield number, cells


_LINK = re.compile(rb"<(?:\w+:)?hyperlink\s[^>]{1,2000}>")
_ATTRIBUTE = re.compile(rb'([\w:]+)="([^"]*)"')
_REFERENCE = re.compile(r"^([A-Z]{1,3})(\d{1,7})")


def _links_of(file: IO[bytes], sheet: Any) -> dict[tuple[int, int], str]:
    """Addresses behind the cells of a sheet by (row, column): they stand apart from the cells (ECMA-376, 18.3.1.47)."""
    path = str(getattr(sheet, "_worksheet_path", "")).lstrip("/")
    folder, _, leaf = path.rpartition("/")
    found: dict[tuple[int, int], str] = {}
    with zipfile.ZipFile(file) as archive:
        names = set(archive.namelist())
        relations = f"{folder}/_rels/{leaf}.rels"
        if path not in names or relations not in names or archive.getinfo(relations).file_size > 1 << 26:
            return found
        targets = {
            attributes.get(b"Id", b""): attributes.get(b"Target", b"").decode("utf-8", "replace").replace("&amp;", "&")
            for part in re.findall(rb"<Relationship\s[^>]*>", archive.read(relations))
            if (attributes := dict(_ATTRIBUTE.findall(part)))
        }
        if not targets:
            return found
        rest = b""
        with archive.open(path) as source:
            while piece := source.read(1 << 20):
                text = rest + piece
                for part in _LINK.findall(text):
                    attributes = dict(_ATTRIBUTE.findall(part))
                    place = _REFERENCE.match(attributes.get(b"ref", b"").decode("ascii", "replace"))
                    target = address_in(targets.get(attributes.get(b"r:id", b""), ""))
                    if place and target and len(found) < MOST_LINKS:
                        found[int(place[2]), _column(place[1])] = target
                rest = text[text.rfind(b"<") :] if b"<" in text[-4096:] else b""
    return found


def _column(letters: str) -> int:
    number = 0
    for letter in letters:
        number = number * 26 + ord(letter) - 64
    return number - 1


def plain(cell: object) -> object:
    """A cell as it may be kept as JSON: instants as ISO 8601, times of day and lengths of time as clocks write them."""
    if isinstance(cell, datetime | date):
        return cell.isoformat()
    if isinstance(cell, time):
        return cell.isoformat("seconds")
    if isinstance(cell, timedelta):
        seconds = round(cell.total_seconds())
        return f"{seconds // 3600}:{seconds // 60 % 60:02d}:{seconds % 60:02d}"
    return cell if isinstance(cell, bool | int | float | str) or cell is None else str(cell)


# -- OpenDocument (OASIS, version 1.2, part 1, chapter 9 and 19)

_TABLE = "{urn:oasis:names:tc:opendocument:xmlns:table:1.0}"
_OFFICE = "{urn:oasis:names:tc:opendocument:xmlns:office:1.0}"
_TEXT = "{urn:oasis:names:tc:opendocument:xmlns:text:1.0}"
_XLINK = "{http://www.w3.org/1999/xlink}"
_CLOCK = re.compile(r"^PT(\d+)H(\d+)M(\d+)")


def sheets_of_ods(file: IO[bytes]) -> list[str]:
    """Names of the sheets. Raises FileError for a broken workbook."""
    return list(dict.fromkeys(name for name, _ in _ods_rows(file, None)))[:MOST_SHEETS]


def rows_of_ods(file: IO[bytes], sheet: str) -> Iterator[NumberedRow]:
    """Rows of a sheet that hold anything."""
    for _, row in _ods_rows(file, sheet):
        if row is not None:
            yield row


def _ods_rows(file: IO[bytes], wanted: str | None) -> Iterator[tuple[str, NumberedRow | None]]:
    file.seek(0)
    try:
        with zipfile.ZipFile(file) as archive, archive.open("content.xml") as source:
            name, number, empty = "", 0, 0
            page: Element | None = None
            for event, element in iterparse(source, events=("start", "end")):
                if event == "start":
                    if element.tag == f"{_TABLE}table":
                        name, number, empty, page = element.get(f"{_TABLE}name", ""), 0, 0, element
                        yield name, None
                elif element.tag == f"{_TABLE}table-row":
                    repeated = min(int(element.get(f"{_TABLE}number-rows-repeated", "1")), 1 << 20)
                    if wanted == name and empty <= MOST_EMPTY_ROWS:
                        cells = _ods_cells(element)
                        empty = 0 if cells else empty + repeated
                        for again in range(min(repeated, 10_000) if cells else 0):
                            yield name, (number + again + 1, list(cells))
                    number += repeated
                    element.clear()
                    # Rows that were read are let go of, else all of the sheet would stand in memory.
                    if page is not None:
                        page.clear()
                elif element.tag == f"{_TABLE}table":
                    element.clear()
                    if wanted == name:
                        return
    except (zipfile.BadZipFile, ParseError, DefusedXmlException, KeyError, OSError, ValueError, EOFError):
        raise FileError("The workbook is broken. Open it, save it anew, and try again.") from None


def _ods_cells(row: Element) -> list[object]:
    cells: list[object] = []
    for element in row:
        if element.tag not in (f"{_TABLE}table-cell", f"{_TABLE}covered-table-cell"):
            continue
        value = _ods_value(element)
        repeated = int(element.get(f"{_TABLE}number-columns-repeated", "1"))
        cells += [value] * max(0, min(repeated, MOST_COLUMNS - len(cells)) if value is not None or repeated < 50 else 0)
        if value is None and repeated >= 50:
            cells += [None] * min(repeated, max(0, MOST_COLUMNS - len(cells)))
    while cells and cells[-1] in (None, ""):
        cells.pop()
    return cells


def _ods_value(element: Element) -> object:
    kind = element.get(f"{_OFFICE}value-type", "")
    if kind in ("float", "currency", "percentage"):
        number = float(element.get(f"{_OFFICE}value", "nan"))
        shown = "".join(element.itertext()).strip()
        # An amount keeps its currency, as it is shown.
        return shown if kind == "currency" and shown else int(number) if number == int(number) else number
    if kind == "date":
        return element.get(f"{_OFFICE}date-value", "")
    if kind == "time":
        found = _CLOCK.match(element.get(f"{_OFFICE}time-value", ""))
        return f"{int(found[1])}:{found[2]}:{found[3]}" if found else "".join(element.itertext())
    if kind == "boolean":
        return element.get(f"{_OFFICE}boolean-value") == "true"
    link = element.find(f".//{_TEXT}a")
    text = "\n".join("".join(part.itertext()) for part in element.findall(f"{_TEXT}p"))
    if link is not None and address_in(link.get(f"{_XLINK}href")) and not address_in(text):
        return text if len(text) > 40 else link.get(f"{_XLINK}href")
    return text or None
