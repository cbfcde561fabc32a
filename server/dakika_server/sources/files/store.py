"""A file's bytes while it waits to come in."""

import hashlib
import tempfile
from typing import IO

from dakika_server.shared import chunks
from dakika_server.sources.models import Import

CHUNK_BYTES = chunks.CHUNK_BYTES


def keep(item: Import, file: IO[bytes]) -> None:
    """Store a file's bytes from where it stands to its end."""
    chunks.keep(item.chunks, file)


def throw_away(item: Import) -> None:
    """Forget the bytes."""
    chunks.throw_away(item.chunks)


def digest_of(file: IO[bytes]) -> str:
    """SHA-256 of a file; leaves it at its beginning."""
    file.seek(0)
    found = hashlib.file_digest(file, "sha256").hexdigest()  # type: ignore[arg-type]
    file.seek(0)
    return found


def buffered(item: Import) -> IO[bytes]:
    """The stored bytes as a buffered stream from their beginning."""
    return chunks.buffered(item.chunks)


def on_disk(item: Import) -> IO[bytes]:
    """The stored bytes as a temporary file, for formats that must be read out of order. The caller closes it."""
    file = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    with buffered(item) as source:
        while data := source.read(CHUNK_BYTES):
            file.write(data)
    file.seek(0)
    return file
