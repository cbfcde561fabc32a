"""One start at a time in a folder: who serves here, at which address, and children that end with their parent."""

import ctypes
import fcntl
import json
import os
import signal
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from scripts.paths import STATE
from scripts.steps import StepError

STOP_SECONDS = 60.0
# Linux: prctl(2).
_PR_SET_PDEATHSIG = 1


@dataclass(frozen=True, kw_only=True)
class Running:
    """What serves from this folder: its process and its address (empty while it starts)."""

    process: int
    address: str


def running_here() -> Running | None:
    """What serves from this folder, if anything does. The system gives the lock back however its holder ended."""
    path = STATE / "serving.lock"
    if not path.exists():
        return None
    with path.open() as file:
        try:
            fcntl.flock(file, fcntl.LOCK_SH | fcntl.LOCK_NB)
        except BlockingIOError:
            told = json.loads(file.read() or "{}")
            return Running(process=int(told.get("process", 0)), address=str(told.get("address", "")))
    return None


class Serving:
    """Held while this folder is served from."""

    def __init__(self, handle: int) -> None:
        self._handle = handle
        self.tell("")

    def tell(self, address: str) -> None:
        """Say where it is reached."""
        os.ftruncate(self._handle, 0)
        os.pwrite(self._handle, json.dumps({"process": os.getpid(), "address": address}).encode(), 0)


@contextmanager
def serving() -> Iterator[Serving]:
    """Be the one that serves from this folder. Raises StepError, with the address, when another does already."""
    STATE.mkdir(parents=True, exist_ok=True)
    handle = os.open(STATE / "serving.lock", os.O_RDWR | os.O_CREAT, 0o644)
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        os.close(handle)
        raise refusal() from None
    try:
        yield Serving(handle)
    finally:
        os.close(handle)


def refusal() -> StepError:
    """Why something cannot be done now."""
    found = running_here()
    where = f" at {found.address}" if found and found.address else ""
    return StepError(f"Dakika runs from this folder already{where}. Stop it first:  ./dakika stop")


def stop() -> int:
    """End what serves from this folder, in order, and wait for it."""
    found = running_here()
    if found is None:
        print("Nothing runs from this folder.")
        return 0
    os.kill(found.process, signal.SIGTERM)
    until = time.monotonic() + STOP_SECONDS
    while running_here() is not None:
        if time.monotonic() > until:
            raise StepError(f"It does not end. Its process is {found.process}; .dakika/logs says what it does.")
        time.sleep(0.1)
    print("Stopped.")
    return 0


def status() -> int:
    """Say whether something serves from this folder: 0 where it does, else 3 (as init scripts have it, LSB 20.2)."""
    found = running_here()
    outside = made_outside()
    if outside is not None:
        print(f"The database lies in {outside}: remove it with this folder.")
    if found is None:
        print("Nothing runs from this folder.  ./dakika start")
        return 3
    print(f"Dakika {f'is at {found.address}' if found.address else 'is starting'} (process {found.process}).")
    return 0


def made_outside() -> Path | None:
    """The folder of ours that lies outside of the project, if there is one."""
    noted = STATE / "cluster"
    folder = STATE / noted.read_text() if noted.exists() else STATE
    return None if folder.is_relative_to(STATE) else folder.parent


def is_alive(process: int) -> bool:
    """Whether a process runs; one that has ended and was not asked for its end yet does not."""
    try:
        return (Path("/proc") / str(process) / "stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except FileNotFoundError:
        return False


def end_with_parent() -> None:
    """For a child before it becomes its program: the system ends it when its parent is gone, even by SIGKILL."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)
