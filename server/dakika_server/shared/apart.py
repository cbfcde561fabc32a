"""Functions that read what strangers wrote, run in a process of their own with bounds on time and memory.

The child is a fresh interpreter without Django's set-up: the functions that run there are pure. It is ended by the
system when it asks for more than it is allowed, and when its parent dies. What it gives back is unpickled: the child
runs our own code on hostile data, it does not run hostile code.

In the trade's words: sandbox, subprocess, resource limits.
"""

import ctypes
import os
import pickle
import resource
import signal
import struct
import subprocess
import sys
import threading
from collections.abc import Callable, Generator, Iterator
from contextlib import closing, suppress
from typing import IO, Any, cast

MEGABYTE = 1 << 20
ITEMS_AT_ONCE = 500
# Linux: prctl(2).
_PR_SET_PDEATHSIG = 1
_GIVEN, _RAISED, _OVER = b"g", b"r", b"o"
_HEAD = struct.Struct(">cQ")


class TooMuch(Exception):
    """The child asked for more time or memory than it may have."""


def called(function: Callable[..., Any], *arguments: Any, seconds: int, megabytes: int) -> Any:
    """The value of a function of a module, called in a child. Raises what it raises, and TooMuch.

    seconds bounds both its time on a processor and the time that passes; megabytes its address space.
    """
    with closing(streamed(_one, function, arguments, seconds=seconds, megabytes=megabytes)) as found:
        return next(found)


def called_on(function: Callable[..., Any], file: IO[bytes], *, seconds: int, megabytes: int) -> Any:
    """The value of a function of a module on an open file of this disk, called in a child. See called."""
    with closing(streamed(_one_on, function, seconds=seconds, megabytes=megabytes, file=file)) as found:
        return next(found)


def _one_on(file: IO[bytes], function: Callable[..., Any]) -> Iterator[Any]:
    yield function(file)


def _one(function: Callable[..., Any], arguments: tuple[Any, ...]) -> Iterator[Any]:
    yield function(*arguments)


def streamed(
    function: Callable[..., Iterator[Any]], *arguments: Any, seconds: int, megabytes: int,
    file: IO[bytes] | None = None, passing: float | None = None,
) -> Generator[Any, None, None]:  # fmt: skip
    """The items of a generator of a module, which runs in a child, as they come.

    file: an open file on disk, which the child is given as its first argument, at its beginning. passing: how many
    seconds may pass in all (None: as many as it has on a processor; 0: without end, for who takes items slowly).
    Raises what the generator raises, and TooMuch. Closing the generator ends the child.
    """
    inherited = (file.fileno(),) if file is not None else ()
    child = subprocess.Popen(
        [sys.executable, "-m", "dakika_server.shared.apart"], stdin=subprocess.PIPE, stdout=subprocess.PIPE,
        pass_fds=inherited, env=_environment(),
    )  # fmt: skip
    timer = threading.Timer(seconds if passing is None else passing, child.kill)
    timer.daemon = True
    if passing != 0:
        timer.start()
    source, sink = cast(IO[bytes], child.stdout), cast(IO[bytes], child.stdin)
    try:
        with suppress(BrokenPipeError):
            pickle.dump((function, arguments, inherited, seconds, megabytes, os.getpid()), sink)
            sink.close()
        while True:
            head = source.read(_HEAD.size)
            if len(head) < _HEAD.size:
                raise TooMuch
            kind, size = _HEAD.unpack(head)
            body = source.read(size)
            if len(body) < size:
                raise TooMuch
            if kind == _OVER:
                return
            found = pickle.loads(body)  # noqa: S301 (from our own child, see above)
            if kind == _RAISED:
                raise found
            yield from found
    finally:
        timer.cancel()
        child.kill()
        child.wait()
        source.close()
        with suppress(BrokenPipeError):
            sink.close()


def _environment() -> dict[str, str]:
    """What the child needs to know, and none of the installation's secrets."""
    kept = ("PATH", "LANG", "PYTHONPYCACHEPREFIX", "DJANGO_SETTINGS_MODULE")
    made = {name: os.environ[name] for name in kept if name in os.environ}
    return made | {"PYTHONPATH": os.pathsep.join(filter(None, sys.path)), "DAKIKA_INSECURE": "1"}


def _main() -> None:
    """The child: bounds first, then whatever was asked."""
    function, arguments, inherited, seconds, megabytes, parent = pickle.load(sys.stdin.buffer)  # noqa: S301
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)
    if os.getppid() != parent:
        return
    resource.setrlimit(resource.RLIMIT_AS, (megabytes * MEGABYTE,) * 2)
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    sys.setrecursionlimit(2000)
    out = sys.stdout.buffer
    batch: list[Any] = []
    wanted = 1  # the first at once
    try:
        # A descriptor of its own, with a place in the file of its own.
        files = [open(f"/proc/self/fd/{number}", "rb") for number in inherited]  # noqa: SIM115
        for item in function(*files, *arguments):
            batch.append(item)
            if len(batch) == wanted:
                _write(out, _GIVEN, batch)
                batch, wanted = [], ITEMS_AT_ONCE
    except MemoryError:
        os._exit(1)
    except Exception as error:  # noqa: BLE001 (whatever it is, the parent raises it)
        _write(out, _GIVEN, batch)
        _write(out, _RAISED, error)
    else:
        _write(out, _GIVEN, batch)
        _write(out, _OVER, None)


def _write(out: IO[bytes], kind: bytes, value: Any) -> None:
    try:
        body = pickle.dumps(value)
    except Exception:  # noqa: BLE001 (an error that cannot be sent is told by its words)
        body = pickle.dumps(RuntimeError(str(value)))
    out.write(_HEAD.pack(kind, len(body)) + body)
    out.flush()


if __name__ == "__main__":
    _main()
