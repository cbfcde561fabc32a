"""From bytes to a table: its head, and its rows with their numbers in the file, in a stream and within bounds."""

import io
import itertools
import zipfile
from collections.abc import Generator, Iterable, Iterator
from contextlib import closing, contextmanager, suppress
from dataclasses import dataclass, replace
from typing import IO, Any

from dakika_core.sources.files.delimited import ENCODINGS, FileError, numbered_rows, objects_of, told_delimiter
from dakika_core.sources.files.head import LOOKED_AT, Head, find_head, head_at, known_in
from dakika_core.sources.files.shapes import NumberedRow, Shape, TooLarge, shape_of, turned

from dakika_server.shared.apart import TooMuch, streamed
from dakika_server.sources.files import own
from dakika_server.sources.files.forms import PACKED, SAMPLE_BYTES, Form, packed_form_of, text_form
from dakika_server.sources.files.workbooks import (
    MOST_COLUMNS,
    rows_of_ods,
    rows_of_xlsx,
    sheets_of_ods,
    sheets_of_xlsx,
)

# Of a workbook's process: to look into it; beyond that by its size, since a megabyte holds some 200,000 cells.
LOOKING_SECONDS, SECONDS_A_KILOBYTE, LONGEST_SECONDS = 60, 0.2, 3600
MOST_MEGABYTES = 1200
PIECE = 64 * 1024
ROWS_FOR_NAMES = 200
ROWS_FOR_SHAPE = 200
MOST_SHEETS_LOOKED_AT = 12


@dataclass(frozen=True, kw_only=True)
class Table:
    """A table that was opened: how (with what was found out filled in), its head and rows, whether it is our own."""

    form: Form
    header: list[str]
    rows: Iterator[NumberedRow]
    own_table: str = ""


def open_table(form: Form, file: IO[bytes], known_header: list[str] | None = None, *, is_whole: bool = False) -> Table:
    """Open a table from its beginning: the sheet, head and layout that the form says, else those that are found.

    Workbooks and archives are opened in a process of their own with bounds on time and memory, from a
    file on disk; is_whole says that all rows will be read, which may take long. A JSON file's header
    is the names of its first objects, or known_header, so that reading it again gives the same
    columns. Raises FileError, also later from the rows, for what cannot be read.
    """
    if form.is_packed:
        return _open_apart(form, file, known_header, is_whole=is_whole)
    return open_here(form, file, known_header)


def _open_apart(form: Form, file: IO[bytes], known_header: list[str] | None, *, is_whole: bool) -> Table:
    size = file.seek(0, 2)
    most = LOOKING_SECONDS + size // 1024 * SECONDS_A_KILOBYTE
    seconds = min(LONGEST_SECONDS, most) if is_whole else LOOKING_SECONDS
    told = streamed(
        _told_apart, form, known_header, file=file, seconds=int(seconds), megabytes=MOST_MEGABYTES,
        passing=0 if is_whole else None,
    )  # fmt: skip
    items = _in_words(told)
    opened: tuple[Form, list[str], str] = next(items)
    return Table(form=opened[0], header=opened[1], own_table=opened[2], rows=items)


def _told_apart(file: IO[bytes], form: Form, known_header: list[str] | None) -> Iterator[Any]:
    """In the child: how the table was opened, its head, whether it is ours; then its rows."""
    known = form if form.form != PACKED else packed_form_of(file)
    table = open_here(known, file, known_header)
    yield table.form, table.header, table.own_table
    yield from table.rows


def _in_words(told: Generator[Any, None, None]) -> Generator[Any, None, None]:
    with closing(told):
        try:
            yield from told
        except TooMuch:
            raise FileError(
                "The workbook asks for far more time or memory than a table of its size does. Save the sheet as CSV."
            ) from None


def open_here(form: Form, file: IO[bytes], known_header: list[str] | None) -> Table:
    """open_table in this process: for text, and within the child."""
    form = _with_sheet(form, file)
    if _text_kind(form) == "json":
        return _open_json(form, file, known_header)
    rows = _raw_rows(form, file)
    first = list(itertools.islice(rows, LOOKED_AT))
    own_table = own.table_of(first[0][1]) if first else ""
    if own_table and not form.head_row:
        own.require_readable(own_table)
    at = dict(first)
    top = [at.get(number, []) for number in range(1, max(at, default=0) + 1)]
    head = head_at(top, form.head_row, form.head_lines) if form.head_row else find_head(top[1:] if own_table else top)
    if own_table and not form.head_row:
        head = replace(head, row=head.row + 1)
    header = list(head.names)
    _require_few(header)
    last = head.row + head.lines - 1
    rest = (row for row in itertools.chain(first, rows) if row[0] > last)
    form = replace(form, head_row=head.row, head_lines=head.lines)
    return _turned(form, header, rest, own_table)


def _turned(form: Form, header: list[str], rows: Iterator[NumberedRow], own_table: str) -> Table:
    looked = list(itertools.islice(rows, ROWS_FOR_SHAPE))
    shape = shape_of(header, [row for _, row in looked]) if form.layout != "rows" and not own_table else Shape()
    if form.layout not in ("", "rows", shape.layout):
        raise FileError(
            "No column holds the names of figures with one column of numbers beside it."
            if form.layout == "long"
            else "The head does not hold a column for each day."
        )
    form = replace(form, layout=shape.layout)
    rows = itertools.chain(looked, rows)
    if shape.layout != "rows":
        try:
            header, turned_rows = turned(shape, header, rows)
        except TooLarge as error:
            raise FileError(str(error)) from None
        rows = iter(turned_rows)
    return Table(form=form, header=header, rows=rows, own_table=own_table)


def _require_few(header: list[str]) -> None:
    if len(header) > MOST_COLUMNS:
        raise FileError(f"The file has {len(header):,} columns; at most {MOST_COLUMNS:,} can be read.")


# -- sheets


def _with_sheet(form: Form, file: IO[bytes]) -> Form:
    """The form with the sheets there are and the one that is read: the chosen one, else whose head is known best."""
    if form.form not in ("xlsx", "ods", "zip"):
        return form
    if form.form == "zip":
        sheets = list(form.sheets) or list(packed_form_of(file).sheets)
    else:
        sheets = sheets_of_xlsx(file) if form.form == "xlsx" else sheets_of_ods(file)
    sheets = [sheet for sheet in sheets if sheet != own.ABOUT]
    if not sheets:
        raise FileError("The workbook holds no sheet with cells.")
    if form.sheet and form.sheet not in sheets:
        raise FileError(f"There is no sheet {form.sheet[:60]}.")
    sheet = form.sheet or _best_sheet(form, file, sheets)
    made = replace(form, sheet=sheet, sheets=tuple(sheets))
    if made.form == "zip" and not made.encoding:
        head, is_whole = _head_of_member(file, sheet)
        text = text_form(head, is_whole=is_whole)
        made = replace(made, encoding=text.encoding, delimiter=text.delimiter)
    return made


def _best_sheet(form: Form, file: IO[bytes], sheets: list[str]) -> str:
    if len(sheets) == 1:
        return sheets[0]
    best, best_score = sheets[0], -1.0
    for place, sheet in enumerate(sheets[:MOST_SHEETS_LOOKED_AT]):
        try:
            one = _with_sheet(replace(form, sheet=sheet, sheets=tuple(sheets)), file)
            if _text_kind(one) == "json":
                score = 1.0
            else:
                top = [row for _, row in itertools.islice(_raw_rows(one, file), LOOKED_AT)]
                score = _worth(top, find_head(top) if top else None)
        except FileError:
            continue
        if score - place * 0.01 > best_score:
            best, best_score = sheet, score - place * 0.01
    return best


def _worth(top: list[list[object]], head: Head | None) -> float:
    has_rows = head is not None and len(top) > head.row + head.lines - 1
    table = own.table_of(top[0]) if top else ""
    # Our own posts come before any other sheet, however many of its columns are known.
    return float(known_in(head.names)) + (1000.0 if table == "posts" else 0.0) if head and has_rows else 0.0


# -- rows


def _text_kind(form: Form) -> str:
    if form.form == "zip":
        return "csv" if form.delimiter else "json"
    return form.form


def _raw_rows(form: Form, file: IO[bytes]) -> Iterator[NumberedRow]:
    """Rows that hold anything, with their number as a spreadsheet counts them."""
    if form.form == "xlsx":
        yield from rows_of_xlsx(file, form.sheet)
    elif form.form == "ods":
        yield from rows_of_ods(file, form.sheet)
    else:
        for number, row in numbered_rows(_lines(form, file), form.delimiter):
            if number == 1 and told_delimiter(form.delimiter.join(row)):
                continue
            yield number, list(row)


@contextmanager
def _bytes(form: Form, file: IO[bytes]) -> Iterator[IO[bytes]]:
    if form.form != "zip":
        yield file
        return
    file.seek(0)
    try:
        with zipfile.ZipFile(file) as archive, archive.open(form.sheet) as member:
            yield member
    except (zipfile.BadZipFile, KeyError, OSError, NotImplementedError):
        raise FileError("The archive is broken. Unpack it and bring in what is inside.") from None


def _head_of_member(file: IO[bytes], name: str) -> tuple[bytes, bool]:
    with _bytes(Form(form="zip", sheet=name), file) as member:
        head = member.read(SAMPLE_BYTES)
        return head, not member.read(1)


@contextmanager
def _text(form: Form, file: IO[bytes]) -> Iterator[io.TextIOWrapper]:
    """The file as text. It is let go of in the end, not closed: it is the caller's."""
    with _bytes(form, file) as source:
        text = io.TextIOWrapper(source, encoding=ENCODINGS[form.encoding], errors="strict", newline="")
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


def _open_json(form: Form, file: IO[bytes], known_header: list[str] | None) -> Table:
    objects = objects_of(_pieces(form, file))
    first = list(itertools.islice(objects, ROWS_FOR_NAMES))
    own_table = str(first[0].get(own.MARK, "")) if first else ""
    if own_table:
        own.require_readable(own_table)
        first = first[1:]
    names = list(dict.fromkeys(name for one in first for name in one))
    header = known_header if known_header and form.layout in ("", "rows") else [_clean(name) for name in names]
    raw = known_header if known_header and form.layout in ("", "rows") else names
    _require_few(header)
    rows: Iterable[dict[str, object]] = itertools.chain(first, objects)
    numbered = ((number, [one.get(name) for name in raw]) for number, one in enumerate(rows, 1 + bool(own_table)))
    return _turned(form, header, numbered, own_table)


def _clean(name: str) -> str:
    """A name as it may be kept."""
    return name.replace("\x00", "").encode("utf-8", "replace").decode()
