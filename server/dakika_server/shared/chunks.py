"""A file's bytes while it waits: in chunks in the database, so that any worker on any machine can read them.

`chunks` is always the related manager of whatever the bytes belong to; its rows have a number and data.
"""

import io
from collections.abc import Iterator
from typing import IO, Any, cast

CHUNK_BYTES = 1 << 20


def keep(chunks: Any, file: IO[bytes]) -> None:
    """Store a file's bytes from where it stands to its end."""
    number = 0
    while data := file.read(CHUNK_BYTES):
        chunks.create(number=number, data=data)
        number += 1


def throw_away(chunks: Any) -> None:
    """Forget the bytes."""
    rows = chunks.all()
    rows._raw_delete(rows.db)


class KeptFile(io.RawIOBase):
    """The stored bytes as a readable stream, a chunk in memory at a time."""

    def __init__(self, chunks: Any) -> None:
        self._chunks = self._read(chunks)
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
    def _read(chunks: Any) -> Iterator[bytes]:
        number = 0
        while True:
            data = chunks.filter(number=number).values_list("data", flat=True).first()
            if data is None:
                return
            yield bytes(data)
            number += 1


def buffered(chunks: Any) -> IO[bytes]:
    """The stored bytes as a buffered stream from their beginning."""
    return cast(IO[bytes], io.BufferedReader(cast(Any, KeptFile(chunks)), CHUNK_BYTES))
