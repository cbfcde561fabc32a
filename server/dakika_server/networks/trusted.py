"""Whose certificates are trusted when something is called over HTTPS."""

import ssl
from functools import lru_cache

import httpx


@lru_cache(maxsize=1)
def trusted() -> ssl.SSLContext:
    """Read once for all calls of a process: reading the list of authorities takes as long as a call."""
    return httpx.create_ssl_context()
