"""How long to wait before asking a network again.

In the trade's words: exponential backoff, jitter.
"""

import random
from datetime import datetime, timedelta
from email.utils import parsedate_to_datetime

FIRST_WAIT_SECONDS = 1.0
LONGEST_WAIT_SECONDS = 3600.0


def retry_after_seconds(value: str | None, *, now: datetime) -> float | None:
    """Seconds that Retry-After asks for, in either of its forms (RFC 9110, 10.2.3); None if it says nothing.

    Dates are read in all three forms of RFC 9110, 5.6.7; one that has passed asks for 0.
    """
    if not value:
        return None
    text = value.strip()
    if text.isascii() and text.isdigit():
        return min(float(text), 10 * 365 * 86400.0)
    try:
        at = parsedate_to_datetime(text)
    except ValueError:
        return None
    return max(0.0, ((at if at.tzinfo else at.replace(tzinfo=now.tzinfo)) - now).total_seconds())


def next_try(now: datetime, failures: int, *, every: timedelta, longest: timedelta, chance: random.Random) -> datetime:
    """When to ask for something again that is asked for regularly and failed `failures` times before this.

    Twice as late each time, at most `longest`, and some seconds of jitter on top (common practice, no source).
    """
    wait: timedelta = min(every * 2 ** min(failures, 8), longest)
    return now + wait + timedelta(seconds=wait_seconds(6, chance))


def wait_seconds(attempt: int, chance: random.Random) -> float:
    """Growing wait with full jitter before attempt `attempt` + 1, attempts counted from 1.

    Drawn evenly between half and the whole of 1, 2, 4, ... seconds, at most an hour: what many
    clients do at once must not come back at once (common practice, no source).
    """
    most = min(LONGEST_WAIT_SECONDS, FIRST_WAIT_SECONDS * 2.0 ** min(attempt - 1, 20))
    return most * chance.uniform(0.5, 1.0)
