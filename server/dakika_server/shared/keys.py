"""Keys in addresses that stand for somebody: 256 bits of chance, told once, and kept as a digest.

Whoever reads the database finds no way in; a plain SHA-256 is enough for what nobody can guess (unlike a password).

In the trade's words: magic link, bearer token.
"""

import hashlib
import secrets


def new_key() -> tuple[str, str]:
    """A key as it is told, and the digest that is kept."""
    key = secrets.token_urlsafe(32)
    return key, digest_of_key(key)


def digest_of_key(key: str) -> str:
    """What is kept of a key: SHA-256 in hexadecimal digits."""
    return hashlib.sha256(key.encode()).hexdigest()
