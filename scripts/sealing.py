"""A file that only whoever knows a passphrase can read, and where nothing was changed, cut off or put elsewhere.

AES-256-GCM over pieces of a mebibyte in the STREAM construction (Hoang, Reyhanitabar, Rogaway and Vizar, "Online
Authenticated-Encryption and its Nonce-Reuse Misuse-Resistance", CRYPTO 2015): each piece has its number and whether it
is the last in its nonce, so that pieces cannot be left out, swapped or added. The key comes from the passphrase by
scrypt (RFC 7914).
"""

import os
from collections.abc import Iterator
from typing import BinaryIO

from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM
from cryptography.hazmat.primitives.kdf.scrypt import Scrypt

MAGIC = b"DAKIKA1\n"
SALT, PREFIX, TAG, PIECE = 16, 7, 16, 1024 * 1024
# RFC 7914, 2 with N = 2^15: some 32 MB and a tenth of a second.
COST = 2**15


class SealError(ValueError):
    """A file that cannot be opened: another passphrase, or it was changed or cut off."""


def _key(passphrase: str, salt: bytes) -> AESGCM:
    return AESGCM(Scrypt(salt=salt, length=32, n=COST, r=8, p=1).derive(passphrase.encode()))


def _nonce(prefix: bytes, number: int, *, is_last: bool) -> bytes:
    return prefix + number.to_bytes(4, "big") + bytes([is_last])


class Sealed:
    """A file to write to; closed, it is whole."""

    def __init__(self, out: BinaryIO, passphrase: str) -> None:
        self._out, self._held, self._number = out, bytearray(), 0
        salt, self._prefix = os.urandom(SALT), os.urandom(PREFIX)
        self._key = _key(passphrase, salt)
        self._out.write(MAGIC + salt + self._prefix)

    def write(self, content: bytes) -> int:
        """More of it."""
        self._held += content
        # The last piece is only known at the end: a whole one is held back until there is more.
        while len(self._held) > PIECE:
            self._piece(bytes(self._held[:PIECE]), is_last=False)
            del self._held[:PIECE]
        return len(content)

    def close(self) -> None:
        """The last piece."""
        self._piece(bytes(self._held), is_last=True)
        self._held.clear()

    def _piece(self, content: bytes, *, is_last: bool) -> None:
        nonce = _nonce(self._prefix, self._number, is_last=is_last)
        self._out.write(self._key.encrypt(nonce, content, MAGIC))
        self._number += 1


def is_sealed(source: BinaryIO) -> bool:
    """Whether a file begins as sealed ones do; it stands at its beginning again."""
    found = source.read(len(MAGIC)) == MAGIC
    source.seek(0)
    return found


def unsealed(source: BinaryIO, passphrase: str) -> Iterator[bytes]:
    """What is in a sealed file, piece by piece, each checked. Raises SealError; what came before was right."""
    head = source.read(len(MAGIC) + SALT + PREFIX)
    if len(head) < len(MAGIC) + SALT + PREFIX or not head.startswith(MAGIC):
        raise SealError("This is no sealed file of ours.")
    salt, prefix = head[len(MAGIC) : len(MAGIC) + SALT], head[len(MAGIC) + SALT :]
    key = _key(passphrase, salt)
    piece, number = source.read(PIECE + TAG), 0
    while True:
        after = source.read(PIECE + TAG)
        try:
            yield key.decrypt(_nonce(prefix, number, is_last=not after), piece, MAGIC)
        except InvalidTag:
            raise SealError("The passphrase is another one, or the file was changed or cut off.") from None
        if not after:
            return
        piece, number = after, number + 1


class Unsealed:
    """The same as a file to read from."""

    def __init__(self, source: BinaryIO, passphrase: str) -> None:
        self._pieces, self._held = unsealed(source, passphrase), bytearray()

    def read(self, size: int) -> bytes:
        """So many bytes, fewer at the end. Raises SealError."""
        while len(self._held) < size:
            piece = next(self._pieces, None)
            if piece is None:
                break
            self._held += piece
        found = bytes(self._held[:size])
        del self._held[:size]
        return found
