"""Callers without a session, told apart for a minute: by a hash of their address in this process, forgotten then.

In the trade's words: rate limit, throttling.
"""

from hashlib import sha256

from django.core.cache import cache

from dakika_server.shared import clock
from dakika_server.shared.errors import TooOften


def calls_in_minute(what: str, address: str) -> int:
    """How often somebody at an address did something in this minute, this time included."""
    mark = sha256(address.encode()).hexdigest()[:16]
    name = f"calls-{what}-{mark}-{int(clock.now().timestamp() // 60)}"
    cache.add(name, 0, 90)
    return int(cache.incr(name))


def slow_down(what: str, whom: str, most: int) -> None:
    """Count that somebody does something; raises TooOften (429 with Retry-After) beyond so often in a minute."""
    if calls_in_minute(what, whom) > most:
        raise TooOften("This was tried very often just now. Wait a minute and try again.")
