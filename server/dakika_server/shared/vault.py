"""Tokens at rest: encrypted and authenticated (Fernet), opened only when a network is called.

In the trade's words: encryption at rest, secrets, key rotation.
"""

from cryptography.fernet import Fernet
from django.conf import settings


def seal(plain: str) -> bytes:
    """Encrypt."""
    return Fernet(settings.TOKEN_KEY).encrypt(plain.encode())


def unseal(sealed: bytes | memoryview) -> str:
    """Decrypt. Raises cryptography.fernet.InvalidToken when the key is another."""
    return Fernet(settings.TOKEN_KEY).decrypt(bytes(sealed)).decode()
