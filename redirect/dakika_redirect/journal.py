"""The journal of clicks: on disk before the visitor is sent on, and kept until the database has it.

One line a click: the CRC-32 of what follows, a space, a JSON array. Everyone who waits is served by
one fdatasync. A segment's lock is held by the process that writes it; a segment whose lock is free
belongs to a process that is gone, and whoever finds it takes it in.

In the trade's words: write-ahead log, durable queue.
"""

import asyncio
import json
import os
import zlib
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import astuple, dataclass
from pathlib import Path
from time import time_ns

from dakika_redirect.places import lock

SEGMENT_BYTES = 8_000_000
SUFFIX = ".clicks"
# In place of a link: the line tells that a page of links was opened.
PAGE_VIEW = 0


@dataclass(frozen=True, kw_only=True)
class Written:
    """One click as it stands in the journal, or one view of a page: its link is PAGE_VIEW.

    `at` in microseconds since 1970; no network address is in it.
    """

    key: str
    link: int
    page: int
    at: int
    referrer: str
    agent: str
    visitor: str
    reason: str
    country: str
    language: str
    is_over: bool


def as_line(click: Written) -> bytes:
    """A click as a line, with its checksum."""
    body = json.dumps(astuple(click), ensure_ascii=True, separators=(",", ":")).encode()
    return b"%08x %s\n" % (zlib.crc32(body), body)


def from_line(line: bytes) -> Written:
    """The click of a line; ValueError for a line that is not whole."""
    checksum, _, body = line.rstrip(b"\n").partition(b" ")
    if len(checksum) != 8 or int(checksum, 16) != zlib.crc32(body):
        raise ValueError("the checksum does not fit")
    key, link, page, at, referrer, agent, visitor, reason, country, language, is_over = json.loads(body)
    return Written(
        key=key, link=link, page=page, at=at, referrer=referrer, agent=agent, visitor=visitor, reason=reason,
        country=country, language=language, is_over=is_over,
    )  # fmt: skip


class Journal:
    """Appends for one process. All methods but `append` may be called from any thread."""

    def __init__(self, folder: Path, *, segment_bytes: int = SEGMENT_BYTES) -> None:
        folder.mkdir(parents=True, exist_ok=True, mode=0o700)
        self.folder, self._most = folder, segment_bytes
        self._waiting: list[tuple[bytes, asyncio.Future[None]]] = []
        self._writer: asyncio.Task[None] | None = None
        self._thread = ThreadPoolExecutor(max_workers=1, thread_name_prefix="journal")
        self.path: Path
        self._handle, self._size = -1, 0
        self._begin()

    def _begin(self) -> None:
        """Begin a segment; the old one's lock is let go, which says that nothing more will come."""
        old = self._handle
        while True:
            self.path = self.folder / f"{time_ns():020d}-{os.getpid()}{SUFFIX}"
            handle = lock(self.path)
            if handle is None:
                continue
            if os.fstat(handle).st_nlink:
                break
            os.close(handle)  # between opening and locking, somebody took the empty file for an abandoned one
        _sync_folder(self.folder)
        self._handle, self._size = handle, 0
        if old >= 0:
            os.close(old)

    async def append(self, click: Written) -> None:
        """Return once the click is on disk; OSError when it cannot be written."""
        done: asyncio.Future[None] = asyncio.get_running_loop().create_future()
        self._waiting.append((as_line(click), done))
        if self._writer is None or self._writer.done():
            self._writer = asyncio.create_task(self._write_waiting())
        await done

    async def _write_waiting(self) -> None:
        loop = asyncio.get_running_loop()
        while self._waiting:
            batch, self._waiting = self._waiting, []
            try:
                await loop.run_in_executor(self._thread, self._write, b"".join(line for line, _ in batch))
            except OSError as error:
                for _, done in batch:
                    if not done.done():
                        done.set_exception(OSError(*error.args))
            else:
                for _, done in batch:
                    if not done.done():
                        done.set_result(None)

    def _write(self, lines: bytes) -> None:
        try:
            rest = memoryview(lines)
            while rest:
                rest = rest[os.write(self._handle, rest) :]
            os.fdatasync(self._handle)
        except OSError:
            # Half a line must not stand before the next one.
            os.ftruncate(self._handle, self._size)
            os.lseek(self._handle, self._size, os.SEEK_SET)
            raise
        self._size += len(lines)
        if self._size >= self._most:
            self._begin()

    def close(self) -> None:
        """Let go of the segment."""
        self._thread.shutdown(wait=True)
        os.close(self._handle)


@dataclass(frozen=True, kw_only=True)
class Piece:
    """Whole lines of a segment from `start` to `end` (bytes), and those among them that are damaged."""

    name: str
    start: int
    end: int
    clicks: list[Written]
    damaged: list[bytes]


def segments(folder: Path) -> list[Path]:
    """All segments, the oldest first."""
    return sorted(folder.glob(f"*{SUFFIX}"))


def read_pieces(path: Path, start: int, *, most_bytes: int = 1_000_000) -> Iterator[Piece]:
    """What stands in a segment from a place on, some thousand clicks at a time. A line without its end waits."""
    with path.open("rb") as file:
        while True:
            file.seek(start)
            block = file.read(most_bytes)
            whole = block[: block.rfind(b"\n") + 1]
            if not whole:
                return
            clicks, damaged = [], []
            for line in whole.splitlines(keepends=True):
                try:
                    clicks.append(from_line(line))
                except ValueError:
                    damaged.append(line)
            yield Piece(name=path.name, start=start, end=start + len(whole), clicks=clicks, damaged=damaged)
            start += len(whole)


def _sync_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
