"""Numbered places for processes that share a folder: who holds a file's lock lives."""

import fcntl
import os
from pathlib import Path

MOST_PLACES = 64


def lock(path: Path) -> int | None:
    """A descriptor that holds the file's lock, or None where another process does. A kill frees it."""
    handle = os.open(path, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        os.close(handle)
        return None
    return handle


def take_place(folder: Path) -> tuple[int, int]:
    """The first free number below MOST_PLACES and the descriptor that keeps it; OSError when all are taken."""
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    for number in range(MOST_PLACES):
        handle = lock(folder / f"place-{number}")
        if handle is not None:
            return number, handle
    raise OSError(f"{MOST_PLACES} redirect processes share {folder} already")
