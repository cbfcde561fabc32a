"""Pictures for a table, in a ZIP archive (PKWARE's APPNOTE 6.3): what may be taken out of it, and how much at most."""

import struct
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from typing import IO

MOST_FILES = 1000
LARGEST_FILE, MOST_IN_ALL = 256_000_000, 1_000_000_000
LARGEST_DIRECTORY = 1_000_000
# Pictures and films are packed already: what shrinks to a hundredth is none.
MOST_TIMES, SMALL = 100, 1_000_000
ENDINGS = (".jpg", ".jpeg", ".png", ".webp", ".gif", ".heic", ".heif", ".avif", ".mp4", ".mov", ".webm", ".m4v", ".pdf")
_END = b"PK\x05\x06"
PIECE = 1 << 20
_BROKEN = (
    zipfile.BadZipFile, zlib.error, struct.error, OSError, ValueError, NotImplementedError, EOFError, RuntimeError,
    KeyError,
)  # fmt: skip


class ArchiveError(ValueError):
    """An archive that is not opened; the text says why, for people."""


@dataclass(frozen=True, kw_only=True)
class Packed:
    """A file in an archive: its name without folders, and its size in bytes as the archive tells it."""

    name: str
    size: int
    path: str


def pictures_in(file: IO[bytes], size: int) -> tuple[list[Packed], list[str]]:
    """Files of an archive that can be pictures, films or documents, and the names of those left out.

    Nothing is unpacked yet. Of two of one name the first is taken. Raises ArchiveError for what is no archive, is
    locked, or would come to more than is taken.
    """
    _require_small_directory(file, size)
    try:
        with zipfile.ZipFile(file) as archive:
            entries = [entry for entry in archive.infolist() if not entry.is_dir()]
    except _BROKEN:
        raise ArchiveError("This is no ZIP archive that can be opened. Pack the files anew.") from None
    if len(entries) > MOST_FILES:
        raise ArchiveError(f"At most {MOST_FILES:,} files are taken from an archive.")
    taken: dict[str, Packed] = {}
    left: list[str] = []
    for entry in entries:
        name = entry.filename.replace("\\", "/").rpartition("/")[2].replace("\x00", "")
        if entry.flag_bits & 1:
            raise ArchiveError("The archive is locked with a password. Pack the files without one.")
        # What systems put in by themselves is nobody's picture.
        if name.startswith(".") or "__MACOSX/" in entry.filename:
            continue
        is_bomb = entry.file_size > SMALL and entry.file_size > MOST_TIMES * max(1, entry.compress_size)
        if not name.lower().endswith(ENDINGS) or entry.file_size > LARGEST_FILE or is_bomb or name in taken:
            left.append(name[:200])
            continue
        taken[name] = Packed(name=name[:200], size=entry.file_size, path=entry.filename)
    if sum(one.size for one in taken.values()) > MOST_IN_ALL:
        raise ArchiveError(f"Unpacked it comes to more than {MOST_IN_ALL // 1_000_000:,} megabytes. Bring it in parts.")
    return list(taken.values()), left


def unpacked(file: IO[bytes], one: Packed) -> Iterator[bytes]:
    """A file's bytes in pieces, never more than the archive said. Raises ArchiveError where it is not what it says."""
    left = one.size
    try:
        with zipfile.ZipFile(file) as archive, archive.open(one.path) as entry:
            while piece := entry.read(min(PIECE, left + 1)):
                left -= len(piece)
                if left < 0:
                    raise ArchiveError(f"\u201c{one.name}\u201d is larger than the archive says.")
                yield piece
    except _BROKEN as error:
        if isinstance(error, ArchiveError):
            raise
        raise ArchiveError(f"\u201c{one.name}\u201d could not be unpacked.") from None


def _require_small_directory(file: IO[bytes], size: int) -> None:
    """Refuse a directory that would take more memory to read than its files are worth, before it is read."""
    file.seek(max(0, size - (1 << 16) - 22))
    tail = file.read((1 << 16) + 22)
    at = tail.rfind(_END)
    if at < 0 or len(tail) < at + 22:
        raise ArchiveError("This is no ZIP archive that can be opened. Pack the files anew.")
    (directory,) = struct.unpack("<L", tail[at + 12 : at + 16])
    file.seek(0)
    if directory > LARGEST_DIRECTORY:
        raise ArchiveError(f"At most {MOST_FILES:,} files are taken from an archive.")
