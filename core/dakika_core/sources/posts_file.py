"""Rows of a file of posts into posts with a reading each, with every problem by row."""

import hashlib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from zoneinfo import ZoneInfo

from dakika_core.networks.definition import Format
from dakika_core.sources.cells import CellError, check_instant, parse_count, parse_instant, shorten
from dakika_core.sources.mapping import COUNTS

LONGEST_TEXT = 20_000
_FORMATS: dict[str, Format] = {
    "text": Format.TEXT, "status": Format.TEXT, "note": Format.TEXT,
    "link": Format.LINK, "article": Format.LINK,
    "image": Format.IMAGE, "photo": Format.IMAGE, "picture": Format.IMAGE,
    "album": Format.ALBUM, "carousel": Format.ALBUM, "gallery": Format.ALBUM,
    "short_video": Format.SHORT_VIDEO, "short video": Format.SHORT_VIDEO, "video": Format.SHORT_VIDEO,
    "clip": Format.SHORT_VIDEO, "long_video": Format.LONG_VIDEO, "long video": Format.LONG_VIDEO,
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class RowProblem:
    """What is wrong in a row (counted as in the file, the head being row 1)."""

    row: int
    column: str
    message: str


@dataclass(frozen=True, kw_only=True)
class FilePost:
    """A post with the values of one reading; counts that the file does not give are absent."""

    row: int
    external_id: str
    published_at: datetime
    text: str
    url: str
    format: Format
    taken_at: datetime | None
    counts: dict[str, int] = field(default_factory=dict)


def read_posts(
    rows: Iterable[Sequence[object]],
    *,
    header: Sequence[str],
    mapping: Mapping[str, int],
    zone: ZoneInfo,
    is_day_first: bool,
    now: datetime,
) -> tuple[list[FilePost], list[RowProblem]]:
    """Posts of the rows that can be read, and the problems of those that cannot.

    A row with a problem is left out whole. A post without an identifier gets one from its
    instant and text, so that reading the same file again gives the same posts.
    """
    posts: list[FilePost] = []
    problems: list[RowProblem] = []
    seen: dict[str, int] = {}
    for number, row in enumerate(rows, start=2):
        try:
            post = _read_row(number, row, header, mapping, zone, now, is_day_first=is_day_first)
        except _RowError as error:
            problems.append(RowProblem(row=number, column=error.column, message=error.message))
            continue
        if post.external_id in seen:
            message = f"is the same post as row {seen[post.external_id]}"
            problems.append(RowProblem(row=number, column="", message=message))
            continue
        seen[post.external_id] = number
        posts.append(post)
    return posts, problems


class _RowError(Exception):
    def __init__(self, column: str, message: str) -> None:
        self.column, self.message = column, message


def _read_row(
    number: int, row: Sequence[object], header: Sequence[str], mapping: Mapping[str, int],
    zone: ZoneInfo, now: datetime, *, is_day_first: bool,
) -> FilePost:  # fmt: skip
    def cell(key: str) -> object:
        column = mapping.get(key)
        return row[column] if column is not None and column < len(row) else None

    def instant(key: str) -> datetime | None:
        value = cell(key)
        if value is None or (isinstance(value, str) and not value.strip()):
            return None
        read = parse_instant(value, zone=zone, is_day_first=is_day_first)
        if read is None:
            raise _RowError(header[mapping[key]], f"“{shorten(value)}” is not a date that can be read")
        try:
            check_instant(read, now=now)
        except CellError as error:
            raise _RowError(header[mapping[key]], str(error)) from None
        return read

    published = instant("published_at")
    if published is None:
        raise _RowError(header[mapping["published_at"]], "is empty: when was the post published?")
    counts = {}
    for key in COUNTS:
        if key in mapping:
            try:
                count = parse_count(cell(key))
            except CellError as error:
                raise _RowError(header[mapping[key]], str(error)) from None
            if count is not None:
                counts[key] = count
    text = str(cell("text") or "").replace("\x00", "")
    if len(text) > LONGEST_TEXT:
        raise _RowError(header[mapping["text"]], f"is longer than {LONGEST_TEXT:,} characters")
    url = str(cell("url") or "").strip()
    return FilePost(
        row=number,
        external_id=str(cell("external_id") or "").strip()[:200] or _identifier(published, text, url),
        published_at=published,
        text=text,
        url=url if url.startswith(("https://", "http://")) and len(url) <= 2000 else "",
        format=_FORMATS.get(str(cell("format") or "").strip().lower(), Format.TEXT),
        taken_at=instant("taken_at"),
        counts=counts,
    )


def _identifier(published: datetime, text: str, url: str) -> str:
    base = f"{published.isoformat()}\n{text}\n{url}".encode()
    return "file-" + hashlib.sha256(base).hexdigest()[:24]
