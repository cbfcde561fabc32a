"""PostgreSQL's advisory locks, all of them in one list, so that no two mean the same number.

A lock has a kind and a number within it (an id, or what a text comes to). They are made into one key of 64 bits:
the kind in the upper 16, the number in the lower 48. PostgreSQL gives a lock back when its holder dies.

In the trade's words: mutex, mutual exclusion.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from enum import IntEnum
from hashlib import blake2b

from django.db import connection

NUMBER_BITS = 48


class Lock(IntEnum):
    """What is locked. A number is never given to another kind."""

    NETWORK_PLACE = 1
    COLLECTION_RUN = 2
    PROFILE_MEASURES = 3
    BRAND_FINDINGS = 4
    ACCESS_LOG = 5
    VISITOR = 6
    FINDINGS_ASKED = 7
    PRINTING_ASKED = 8
    PROFILE_OUTLOOK = 9
    BEGINNING = 10
    PUSH_KEY = 11
    DEMO = 12
    EMPTY_DATABASE = 13
    CLICK_FILES = 14


def key_of(lock: Lock, number: int) -> int:
    """The key in the database. Raises ValueError for a number that is negative or has more than 48 bits."""
    if not 0 <= number < 1 << NUMBER_BITS:
        raise ValueError(f"{number} is no number of a lock")
    return lock << NUMBER_BITS | number


def number_of(content: bytes) -> int:
    """A number for what has none."""
    return int.from_bytes(blake2b(content, digest_size=NUMBER_BITS // 8).digest())


def wait_within_transaction(lock: Lock, number: int) -> None:
    """Wait for a lock, which the transaction's end gives back."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_xact_lock(%s)", [key_of(lock, number)])


@contextmanager
def waited_for(lock: Lock, number: int) -> Iterator[None]:
    """Wait for a lock of the session, and hold it for as long as the block runs, across transactions."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_lock(%s)", [key_of(lock, number)])
    try:
        yield
    finally:
        _give_back(lock, number)


@contextmanager
def tried(lock: Lock, number: int) -> Iterator[bool]:
    """Whether a lock of the session was free; held for as long as the block runs, across transactions."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_try_advisory_lock(%s)", [key_of(lock, number)])
        is_ours = bool(cursor.fetchone()[0])
    try:
        yield is_ours
    finally:
        if is_ours:
            _give_back(lock, number)


def _give_back(lock: Lock, number: int) -> None:
    # In a transaction that failed nothing can be said; the lock goes with the connection, which its end closes.
    if not connection.needs_rollback:
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_unlock(%s)", [key_of(lock, number)])
