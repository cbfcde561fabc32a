"""What is this file? Found out from its first bytes, before anything of it is unpacked."""

import zipfile
from dataclasses import dataclass, field
from typing import IO

from dakika_core.sources.files.delimited import (
    DELIMITERS,
    ENCODINGS,
    FileError,
    detect_delimiter,
    detect_encoding,
)
from django.conf import settings

SAMPLE_BYTES = 256 * 1024
# What a file is called until a worker has looked into it.
PACKED = "packed"
LARGEST_MEMBER = 1024 * 1024 * 1024
LARGEST_UNPACKED = 2 * 1024 * 1024 * 1024
LARGEST_SHARED = 64 * 1024 * 1024
LARGEST_STYLES = 4 * 1024 * 1024
# How much larger a member may be than what it is packed to, once it is of any size.
MOST_PACKED, OF_ANY_SIZE = 200, 16 * 1024 * 1024
MOST_MEMBERS = 200
TABLES_IN_ZIP = (".csv", ".tsv", ".txt", ".json", ".jsonl", ".ndjson")
_BROKEN = "The workbook is broken or not a workbook. Open it, save it anew as XLSX, and try again."
_SAVE_AS = "Save the table as XLSX or CSV and bring that in."


@dataclass(frozen=True, kw_only=True)
class Form:
    """How a file is to be opened: csv, json, xlsx, ods, or zip (of text tables); packed where only that is known.

    For text its encoding and delimiter; sheet is the sheet of a workbook or the member of an archive.
    head_row is the row of the head as the file counts (0: it is found out), head_lines how many
    lines it has, layout whether the table must be turned first (rows, long, wide; empty: found out).
    """

    form: str
    encoding: str = ""
    delimiter: str = ""
    sheet: str = ""
    head_row: int = 0
    head_lines: int = 0
    layout: str = ""
    sheets: tuple[str, ...] = field(default=(), compare=False)

    @property
    def is_text(self) -> bool:
        """Whether it has an encoding."""
        return self.form in ("csv", "json", "zip")

    @property
    def is_packed(self) -> bool:
        """Whether it is an archive or a workbook: opened by a worker alone, in a process with bounds."""
        return self.form not in ("csv", "json")


def form_of(name: str, size: int, file: IO[bytes]) -> Form:
    """Find out what a file is from its first bytes, no more than that it is packed where it is. Leaves it at its start.

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
        return Form(form=PACKED)
    if head[:4] == b"\xd0\xcf\x11\xe0":
        raise FileError(_of_old_office(file))
    _refuse_known(head)
    return text_form(head, is_whole=size <= len(head))


def text_form(head: bytes, *, is_whole: bool) -> Form:
    """CSV or JSON, by the beginning of a text. Raises FileError when it is no text."""
    encoding = detect_encoding(head, is_whole=is_whole)
    text = head.decode(ENCODINGS[encoding], errors="ignore").lstrip()
    if text[:1] in ("[", "{"):
        return Form(form="json", encoding=encoding)
    lines = text if is_whole else text[: text.rfind("\n") + 1] or text
    return Form(form="csv", encoding=encoding, delimiter=detect_delimiter(lines))


def checked_form(form: Form) -> Form:
    """A form that a person chose. Raises FileError for encodings and delimiters that there are not."""
    if form.is_text and form.encoding not in ENCODINGS:
        raise FileError(f"There is no encoding {form.encoding}.")
    if form.form == "csv" and form.delimiter not in DELIMITERS and len(form.delimiter) != 1:
        raise FileError("Choose comma, semicolon, tab or bar as the delimiter.")
    if form.layout not in ("", "rows", "long", "wide"):
        raise FileError("A table has a row for each thing, a row for each figure, or a column for each day.")
    return form


def _refuse_known(head: bytes) -> None:
    """Raise FileError, each in its own words, for what is known and is no table."""
    start = head[:1024].lstrip(b"\xef\xbb\xbf \t\r\n").lower()
    for magic, words in (
        (b"%pdf", f"This is a PDF. Its table cannot be read out. Export the figures themselves: {_SAVE_AS}"),
        (b"{\\rtf", f"This is a text document (RTF). {_SAVE_AS}"),
        (b"<!doctype html", f"This is a web page, perhaps named like a workbook. Open it in a spreadsheet. {_SAVE_AS}"),
        (b"<html", f"This is a web page, perhaps named like a workbook. Open it in a spreadsheet. {_SAVE_AS}"),
        (b"<table", f"This is a web page, perhaps named like a workbook. Open it in a spreadsheet. {_SAVE_AS}"),
        (b"<?xml", f"This is XML. Open it in a spreadsheet. {_SAVE_AS}"),
        (b"\x1f\x8b", "This file is compressed (gzip). Unpack it and bring in what is inside."),
        (b"rar!", "This is an archive. Unpack it and bring in what is inside."),
        (b"7z\xbc\xaf", "This is an archive. Unpack it and bring in what is inside."),
        (b"\x89png", "This is a picture. Bring in the figures as XLSX or CSV."),
        (b"\xff\xd8\xff", "This is a picture. Bring in the figures as XLSX or CSV."),
        (b"gif8", "This is a picture. Bring in the figures as XLSX or CSV."),
    ):  # fmt: skip
        if start.startswith(magic):
            raise FileError(words)


def _of_old_office(file: IO[bytes]) -> str:
    """What to say of a compound file: a locked workbook, an old one, or another document."""
    file.seek(0)
    data = file.read(1 << 20)
    file.seek(0)

    def holds(name: str) -> bool:
        return name.encode("utf-16-le") in data

    if holds("EncryptedPackage") or holds("EncryptionInfo"):
        return "This workbook is locked with a password. Open it, save it without one, and bring that in."
    if holds("WordDocument"):
        return f"This is a text document, not a table. {_SAVE_AS}"
    if holds("PowerPoint Document"):
        return f"This is a presentation, not a table. {_SAVE_AS}"
    return "This is a workbook of the old binary kind. Save it as XLSX or CSV and try again."


def packed_form_of(file: IO[bytes]) -> Form:
    """What an archive is by what it holds. What it would unpack to is looked at before anything is unpacked.

    Raises FileError for what is no table, and for what would unpack beyond all bounds.
    """
    try:
        with zipfile.ZipFile(file) as archive:
            entries = archive.infolist()
            names = {entry.filename for entry in entries}
            kind = archive.read("mimetype")[:80].decode("ascii", "replace") if _is_small(archive, "mimetype") else ""
    except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError, RuntimeError, EOFError):
        raise FileError(_BROKEN) from None
    finally:
        file.seek(0)
    if any(entry.flag_bits & 1 for entry in entries):
        raise FileError("This archive is locked with a password. Unpack it and bring in what is inside.")
    _require_bounded(entries)
    if "xl/workbook.xml" in names:
        return Form(form="xlsx")
    if kind.startswith("application/vnd.oasis.opendocument.spreadsheet") and "content.xml" in names:
        if b"encryption-data" in _read_small(file, "META-INF/manifest.xml"):
            raise FileError("This workbook is locked with a password. Open it, save it without one, and bring that in.")
        return Form(form="ods")
    if "[Content_Types].xml" in names and not any(n.startswith(("word/", "ppt/")) or n.endswith(".bin") for n in names):
        # Workbooks by other programs may name their parts as they like: the reader looks for itself.
        return Form(form="xlsx")
    return _of_members(entries, names, kind)


def _of_members(entries: list[zipfile.ZipInfo], names: set[str], kind: str) -> Form:
    if "xl/workbook.bin" in names:
        raise FileError(f"This is a workbook of the binary kind. {_SAVE_AS}")
    if any(n.startswith("word/") for n in names) or "opendocument.text" in kind:
        raise FileError(f"This is a text document, not a table. {_SAVE_AS}")
    if any(n.startswith("ppt/") for n in names) or "opendocument.presentation" in kind:
        raise FileError(f"This is a presentation, not a table. {_SAVE_AS}")
    if any(n.startswith("Index/") and n.endswith(".iwa") for n in names):
        raise FileError(f"This is another program's spreadsheet, which cannot be read. {_SAVE_AS}")
    tables = tuple(
        entry.filename
        for entry in entries
        if entry.filename.lower().endswith(TABLES_IN_ZIP)
        and entry.file_size
        and not entry.filename.startswith("__MACOSX/")
    )
    if not tables:
        raise FileError("The archive holds no table: no CSV, no JSON. Unpack it and bring in the table itself.")
    return Form(form="zip", sheets=tables)


def _require_bounded(entries: list[zipfile.ZipInfo]) -> None:
    unpacked = sum(entry.file_size for entry in entries)
    shared = sum(entry.file_size for entry in entries if "sharedStrings" in entry.filename)
    styles = max((entry.file_size for entry in entries if entry.filename.endswith("styles.xml")), default=0)
    if (
        unpacked > LARGEST_UNPACKED
        or shared > LARGEST_SHARED
        or styles > LARGEST_STYLES
        or len(entries) > MOST_MEMBERS * 10
        or any(
            entry.file_size > LARGEST_MEMBER
            or (entry.file_size > OF_ANY_SIZE and entry.file_size > MOST_PACKED * max(1, entry.compress_size))
            for entry in entries
        )
    ):
        raise FileError("The workbook unpacks to far more than a table of its size does. Save the sheet as CSV.")


def _is_small(archive: zipfile.ZipFile, name: str) -> bool:
    return name in archive.namelist() and archive.getinfo(name).file_size < 1 << 20


def _read_small(file: IO[bytes], name: str) -> bytes:
    try:
        with zipfile.ZipFile(file) as archive:
            return archive.read(name) if _is_small(archive, name) else b""
    finally:
        file.seek(0)
