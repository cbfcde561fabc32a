"""When something that was not taken is tried again."""

from datetime import datetime, timedelta

# After each failure; two days and a half altogether.
AGAIN = (
    timedelta(minutes=1), timedelta(minutes=5), timedelta(minutes=30), timedelta(hours=2), timedelta(hours=6),
    timedelta(hours=12), timedelta(hours=36),
)  # fmt: skip
LONGEST_ASKED = timedelta(hours=24)
# Whoever has taken nothing for so long is told nothing more until somebody looks.
GIVEN_UP_AFTER = timedelta(days=3)


def next_try(failures: int, now: datetime, retry_after: str = "") -> datetime | None:
    """The instant of the next try after so many failures in a row, None when it is given up.

    retry_after: the field of that name, where the other side told one (seconds; RFC 9110, 10.2.3).
    """
    if failures > len(AGAIN):
        return None
    wait = AGAIN[max(failures, 1) - 1]
    if retry_after.isascii() and retry_after.isdigit() and len(retry_after) <= 9:
        wait = max(wait, min(timedelta(seconds=int(retry_after)), LONGEST_ASKED))
    return now + wait
