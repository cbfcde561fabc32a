"""How often somebody did something in this minute, counted once for all processes of the web server.

Whoever it is stands in the database as a keyed hash that holds for the minute alone, and goes with it.

In the trade's words: rate limit, throttling.
"""

from hashlib import sha256
from hmac import new as keyed

from django.conf import settings
from django.db import connection

from dakika_server.shared import clock
from dakika_server.shared.errors import TooOften
from dakika_server.shared.models import CallCount

_COUNT = """
INSERT INTO shared_callcount (mark, minute, calls) VALUES (%s, %s, 1)
ON CONFLICT (mark) DO UPDATE SET calls = shared_callcount.calls + 1 RETURNING calls
"""
# A process whose clock goes a little behind still counts in its own minute.
MINUTES_KEPT = 2


def calls_in_minute(what: str, whom: str) -> int:
    """How often somebody, told by an address or a number, did something in this minute, this time included."""
    minute = _minute()
    mark = keyed(settings.SECRET_KEY.encode(), f"{minute} {what} {whom}".encode(), sha256).hexdigest()
    with connection.cursor() as cursor:
        cursor.execute(_COUNT, [mark, minute])
        return int(cursor.fetchone()[0])


def slow_down(what: str, whom: str, most: int) -> None:
    """Count that somebody does something; raises TooOften (429 with Retry-After) beyond so often in a minute."""
    if calls_in_minute(what, whom) > most:
        raise TooOften("This was tried very often just now. Wait a minute and try again.")


def forget_minutes() -> int:
    """Let go the counts of minutes that are over; how many went."""
    return CallCount.objects.filter(minute__lt=_minute() - MINUTES_KEPT)._raw_delete("default")


def _minute() -> int:
    return int(clock.now().timestamp() // 60)
