"""Say what is being done, how long it took, and what to do when it fails."""

import subprocess
import sys
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from errno import EACCES, EDQUOT, ENOSPC, EPERM, EROFS
from pathlib import Path

from scripts.paths import LOGS

# What a disk says, and what to do about it.
REFUSED_BY_THE_DISK = {
    EACCES: "This folder is somebody else's: Dakika keeps what it makes in .dakika/ and may not write there.\n"
    "Run it as whoever the folder is of, or in a copy of your own.",
    EPERM: "This folder is somebody else's. Run Dakika as whoever it is of, or in a copy of your own.",
    EROFS: "This disk takes nothing: Dakika keeps what it makes in .dakika/. Copy the folder to a disk that does.",
    ENOSPC: "The disk is full. Make room, then start again: nothing done so far is lost.",
    EDQUOT: "Your share of the disk is full. Make room, then start again: nothing done so far is lost.",
}


class StepError(Exception):
    """A step could not be done; the text tells the person what to do."""


@contextmanager
def step(title: str) -> Iterator[None]:
    """Print a line for a step, with its time when it is done."""
    print(f"  {title} ...", end="", flush=True)
    begun = time.monotonic()
    try:
        yield
    except BaseException:
        print(" failed", flush=True)
        raise
    print(f" {time.monotonic() - begun:.1f} s", flush=True)


def run(
    command: Sequence[str | Path],
    *,
    log: str,
    advice: str,
    cwd: Path | None = None,
    env: dict[str, str] | None = None,
) -> None:
    """Run a command with its output in a log file; raise StepError with advice if it fails."""
    LOGS.mkdir(parents=True, exist_ok=True)
    path = LOGS / f"{log}.log"
    with path.open("ab") as out:
        done = subprocess.run([str(part) for part in command], stdout=out, stderr=subprocess.STDOUT, cwd=cwd, env=env)
    if done.returncode != 0:
        tail = path.read_text(errors="replace").splitlines()[-15:]
        raise StepError("\n".join([*tail, "", advice, f"The whole output is in {path}"]))


def guarded(action: Callable[[], int]) -> int:
    """Run a command of ours: 0 on success, 1 with a clear message on a failed step."""
    try:
        return action()
    except StepError as error:
        print(f"\n{error}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        print("\nStopped.", file=sys.stderr)
        return 130
    except OSError as error:
        if error.errno not in REFUSED_BY_THE_DISK:
            raise
        where = f": {error.filename}" if error.filename else ""
        print(f"\n{REFUSED_BY_THE_DISK[error.errno]} ({error.strerror}{where})", file=sys.stderr)
        return 1
