"""A file's bytes while it waits: in chunks in the database, so that any worker on any machine can read them."""

import hashlib
import io
import tempfile
from collections.abc import Iterator
from typing import IO, Any, cast

from dakika_server.sources.models import Import, ImportChunk

CHUNK_BYTES = 1 << 20


def keep(item: Import, file: IO[bytes]) -> None:
    """Store a file's bytes from where it stands to its end."""
    number = 0
    while data := file.read(CHUNK_BYTES):
        ImportChunk.objects.create(item=item, number=number, data=data)
        number += 1


def throw_away(item: Import) -> None:
    """Forget the bytes."""
    ImportChunk.objects.filter(item=item)._raw_delete(ImportChunk.objects.db)


def digest_of(file: IO[bytes]) -> str:
    """SHA-256 of a file; leaves it at its beginning."""
    file.seek(0)
    found = hashlib.file_digest(file, "sha256").hexdigest()  # type: ignore[arg-type]
    file.seek(0)
    return found


class KeptFile(io.RawIOBase):
    """The stored bytes as a readable stream, a chunk in memory at a time."""

    def __init__(self, item: Import) -> None:
        self._chunks = self._read(item)
        self._rest = b""

    def readable(self) -> bool:
        """It is."""
        return True

    def readinto(self, buffer: bytearray) -> int:  # type: ignore[override]
        """As io.RawIOBase has it."""
        if not self._rest:
            self._rest = next(self._chunks, b"")
        part = self._rest[: len(buffer)]
        buffer[: len(part)] = part
        self._rest = self._rest[len(part) :]
        return len(part)

    @staticmethod
    def _read(item: Import) -> Iterator[bytes]:
        number = 0
        while True:
            data = ImportChunk.objects.filter(item=item, number=number).values_list("data", flat=True).first()
            if data is None:
                return
            yield bytes(data)
            number += 1


def buffered(item: Import) -> IO[bytes]:
    """The stored bytes as a buffered stream from their beginning."""
    return cast(IO[bytes], io.BufferedReader(cast(Any, KeptFile(item)), CHUNK_BYTES))


def on_disk(item: Import) -> IO[bytes]:
    """The stored bytes as a temporary file, for formats that must be read out of order. The caller closes it."""
    file = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
    with buffered(item) as source:
        while data := source.read(CHUNK_BYTES):
            file.write(data)
    file.seek(0)
    return file
