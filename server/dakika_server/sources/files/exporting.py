"""Writing everything out, in a stream: CSV, XLSX and JSON Lines, under the names by which it is read in again.

In the trade's words: export, data portability.
"""

import csv
import io
import json
import tempfile
import zipfile
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import IO, Any
from zoneinfo import ZoneInfo

from dakika_core.metrics.observed import OBSERVED, OBSERVED_OF_PROFILE
from dakika_core.sources.files.guard import neutralise
from django.db.models import F, QuerySet

from dakika_server.brands.models import Brand
from dakika_server.shared import clock
from dakika_server.shared.hooks import Registry
from dakika_server.sources.files.own import ABOUT, MARK, mark_line
from dakika_server.sources.models import AudienceReading, Comment, Post, PostReading, Profile, ProfileReading

ROWS_AT_ONCE = 5000
# A sheet of the standard holds 1,048,576 rows (ECMA-376); the rest goes on in another.
ROWS_PER_SHEET = 1_048_574
MEDIA = {
    "csv": "text/csv; charset=utf-8", "jsonl": "application/jsonl",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "zip": "application/zip",
}  # fmt: skip
Row = tuple[Any, ...]


@dataclass(frozen=True, kw_only=True)
class Table:
    """A table to be written: its name, its head, how many rows, and the rows of a brand."""

    name: str
    head: tuple[str, ...]
    rows: Callable[[int], Iterator[Row]]


def _stream(rows: QuerySet[Any], fields: list[Any]) -> Iterator[Row]:
    """Rows by a cursor on the server: as many in memory as are fetched at once."""
    yield from rows.values_list(*fields).iterator(chunk_size=ROWS_AT_ONCE)


_PLACE = ("profile_network", "profile_handle")


def _posts(brand_id: int) -> Iterator[Row]:
    found = Post.objects.filter(brand_id=brand_id).order_by("pk")
    fields = ["published_at", "has_time", "external_id", "text", "url", "format", "campaign__name", "removed_at"]
    return _stream(found, [*fields, F("profile__network"), F("profile__handle")])


def _post_readings(brand_id: int) -> Iterator[Row]:
    found = PostReading.objects.filter(brand_id=brand_id).order_by("pk")
    return _stream(
        found, ["taken_at", F("post__external_id"), *OBSERVED, F("post__profile__network"), F("post__profile__handle")]
    )


def _profile_readings(brand_id: int) -> Iterator[Row]:
    found = ProfileReading.objects.filter(brand_id=brand_id).order_by("pk")
    return _stream(found, ["day", *OBSERVED_OF_PROFILE, F("profile__network"), F("profile__handle")])


def _audience(brand_id: int) -> Iterator[Row]:
    found = AudienceReading.objects.filter(brand_id=brand_id).order_by("pk")
    for day, dimension, segments, network, handle in _stream(
        found, ["day", "dimension", "segments", F("profile__network"), F("profile__handle")]
    ):
        for segment, share in sorted(segments.items()):
            yield day, dimension, segment, share, network, handle


def _comments(brand_id: int) -> Iterator[Row]:
    found = Comment.objects.filter(brand_id=brand_id).order_by("pk")
    fields: list[Any] = ["written_at", "external_id", "author", "text", F("post__external_id")]
    return _stream(found, [*fields, F("post__profile__network"), F("post__profile__handle")])


def _profiles(brand_id: int) -> Iterator[Row]:
    found = Profile.objects.filter(brand_id=brand_id).order_by("pk")
    return _stream(found, ["network", "handle", "name", "kind", "competitor__name", "added_at", "is_followed"])


TABLES: Registry[Table] = Registry("tables of all that is kept", {
    table.name: table
    for table in (
        Table(
            name="profiles", rows=_profiles,
            head=("network", "handle", "name", "kind", "competitor", "added_at", "is_followed"),
        ),
        Table(
            name="posts", rows=_posts,
            head=("published_at", "has_time", "external_id", "text", "url", "format", "campaign", "removed_at",
                  *_PLACE),
        ),
        Table(name="post_readings", rows=_post_readings, head=("taken_at", "external_id", *OBSERVED, *_PLACE)),
        Table(name="profile_readings", rows=_profile_readings, head=("day", *OBSERVED_OF_PROFILE, *_PLACE)),
        Table(name="audience", rows=_audience, head=("day", "dimension", "segment", "share", *_PLACE)),
        Table(name="comments", rows=_comments, head=("written_at", "comment_id", "author", "text", "post", *_PLACE)),
    )
})  # fmt: skip


def as_text(table: Table, brand: Brand, form: str) -> Iterator[bytes]:
    """A table as CSV (RFC 4180, UTF-8) or JSON Lines, in pieces. The first line says what it is."""
    mark, brand_id = _mark(table, brand), brand.pk
    if form == "jsonl":
        about = {MARK: mark[1], "brand": mark[2], "day": mark[3]}
        yield (json.dumps(about, ensure_ascii=False) + "\n").encode()
        for row in table.rows(brand_id):
            cells = (_plain(cell, brand.zone) for cell in row)
            yield (json.dumps(dict(zip(table.head, cells, strict=True)), ensure_ascii=False) + "\n").encode()
        return
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(mark)
    writer.writerow(table.head)
    for number, row in enumerate(table.rows(brand_id), start=1):
        writer.writerow([neutralise(_plain(cell, brand.zone)) for cell in row])
        if number % ROWS_AT_ONCE == 0:
            yield _taken(out)
    yield _taken(out)


def _mark(table: Table, brand: Brand) -> list[str]:
    return mark_line(table.name, brand.slug, str(clock.now().astimezone(brand.zone).date()))


def _taken(out: io.StringIO) -> bytes:
    text = out.getvalue()
    out.seek(0)
    out.truncate()
    return text.encode("utf-8", "replace")


def _plain(cell: Any, zone: ZoneInfo) -> Any:
    """A cell as it is written: instants by the brand's clock with its offset, whole numbers as such."""
    if isinstance(cell, datetime):
        return cell.astimezone(zone).isoformat()
    if isinstance(cell, date):
        return cell.isoformat()
    return int(cell) if isinstance(cell, float) and cell.is_integer() else cell


def as_workbook(tables: list[Table], brand: Brand) -> IO[bytes]:
    """Tables as sheets of a workbook, one of them saying what it is, in a temporary file that the caller closes."""
    from openpyxl import Workbook
    from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE

    book = Workbook(write_only=True)
    about = book.create_sheet(ABOUT)
    about.append([MARK, ", ".join(table.name for table in tables), brand.slug, _mark(tables[0], brand)[3]])
    about.append(["Each sheet holds one table; its first line says which. Any of them can be brought in again."])
    for table in tables:
        sheet, written = None, 0
        for row in table.rows(brand.pk):
            if sheet is None or written == ROWS_PER_SHEET:
                sheet = book.create_sheet(table.name if sheet is None else f"{table.name} {len(book.worksheets) + 1}")
                sheet.append(_mark(table, brand))
                sheet.append(list(table.head))
                written = 0
            cells = [neutralise(_plain(cell, brand.zone)) for cell in row]
            sheet.append([ILLEGAL_CHARACTERS_RE.sub("", c) if isinstance(c, str) else c for c in cells])
            written += 1
        if sheet is None:
            empty = book.create_sheet(table.name)
            empty.append(_mark(table, brand))
            empty.append(list(table.head))
    out = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    book.save(out)
    out.seek(0)
    return out


def as_archive(brand: Brand, form: str) -> IO[bytes]:
    """All tables as CSV or JSON Lines in a ZIP archive, in a temporary file that the caller closes."""
    out = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for table in TABLES.values():
            with archive.open(f"{table.name}.{form}", "w", force_zip64=True) as entry:
                for piece in as_text(table, brand, form):
                    entry.write(piece)
    out.seek(0)
    return out


def refused_rows(item: Any) -> Iterator[bytes]:
    """The rows of a file that were left out, as CSV: their cells under the file's own head, the row, and why."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([*item.header, "row in the file", "column", "why it was left out"])
    for row, column, message, cells in _stream(item.problems.order_by("row"), ["row", "column", "message", "cells"]):
        filled = [*cells, *[""] * (len(item.header) - len(cells))][: len(item.header)]
        writer.writerow([*(neutralise(cell) for cell in filled), row, column, message])
        if out.tell() > 65536:
            yield _taken(out)
    yield _taken(out)
