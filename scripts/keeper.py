"""A watchdog: stops the database once nobody holds it any more, however they ended: python -m scripts.keeper.

The system gives a lock back when its holder dies, even by SIGKILL; this waits for it and needs nothing else of them.
"""

import fcntl
import os
from pathlib import Path

from scripts import postgres
from scripts.paths import STATE


def keep() -> None:
    """Wait until nobody holds the cluster, and stop it. Where another waits already, or the folder is another now, end."""
    with (STATE / "pg.keeper").open("w") as one, (STATE / "pg.users").open("a") as users:
        try:
            fcntl.flock(one, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            return
        fcntl.flock(users, fcntl.LOCK_EX)
        if is_still(STATE / "pg.users", users.fileno()):
            postgres.stop()


def is_still(path: Path, handle: int) -> bool:
    """Whether an open file stands at a path yet."""
    try:
        return os.path.samestat(path.stat(), os.fstat(handle))
    except FileNotFoundError:
        return False


if __name__ == "__main__":
    keep()
