"""Who may call a network now: a few at a time, so that a slow network never holds all workers.

Advisory locks of the session: PostgreSQL gives them back when their holder dies.
"""

import zlib
from collections.abc import Iterator
from contextlib import contextmanager

from django.db import connection

PLACES_PER_NETWORK = 2
_NETWORKS, _RUNS = 21, 22


@contextmanager
def place_at(network: str) -> Iterator[bool]:
    """A place among the network's callers for as long as the block runs; False when all are taken."""
    number = zlib.crc32(network.encode()) % 100_000_000
    held = next((n for n in range(PLACES_PER_NETWORK) if _try(_NETWORKS, number * 10 + n)), None)
    try:
        yield held is not None
    finally:
        if held is not None:
            _give_back(_NETWORKS, number * 10 + held)


@contextmanager
def only_one(run_id: int) -> Iterator[bool]:
    """Whether nobody else is at this run. A run may be asked for twice; it is carried out by one."""
    is_ours = _try(_RUNS, run_id)
    try:
        yield is_ours
    finally:
        if is_ours:
            _give_back(_RUNS, run_id)


def _try(room: int, number: int) -> bool:
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_try_advisory_lock(%s, %s)", [room, number % 2**31])
        return bool(cursor.fetchone()[0])


def _give_back(room: int, number: int) -> None:
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_unlock(%s, %s)", [room, number % 2**31])
