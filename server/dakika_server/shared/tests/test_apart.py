"""Promise: what strangers wrote costs no more time and memory than it may, and takes nobody else down with it."""

import os
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import IO, Any

import pytest

from dakika_server.shared.apart import TooMuch, called, streamed
from scripts.running import is_alive

ME = __name__


def doubled(value: Any) -> Any:
    return value * 2


def refused(_: Any) -> None:
    raise KeyError("not there")


def busy(_: Any) -> None:
    while True:
        pass


def asleep(_: Any) -> None:
    time.sleep(600)


def greedy(_: Any) -> int:
    return len(bytearray(900 << 20))


def counting(most: int) -> Iterator[int]:
    yield from range(most)


def breaking(most: int) -> Iterator[int]:
    yield from range(most)
    raise ValueError("broken at its end")


def lines_of(file: IO[bytes]) -> Iterator[bytes]:
    yield from file


def writing(path: str) -> None:
    with open(path, "wb") as out:
        out.write(b"x")


def test_values_and_errors_come_back() -> None:
    assert called(doubled, "ab", seconds=20, megabytes=400) == "abab"
    with pytest.raises(KeyError, match="not there"):
        called(refused, 1, seconds=20, megabytes=400)


@pytest.mark.parametrize("what", [busy, asleep, greedy])
def test_more_than_it_may_have_is_ended(what: Any) -> None:
    with pytest.raises(TooMuch):
        called(what, 1, seconds=2, megabytes=400)


def test_items_come_as_they_are_made_and_the_rest_is_not_asked_for() -> None:
    items = streamed(counting, 10**9, seconds=20, megabytes=400)
    assert [next(items) for _ in range(2000)] == list(range(2000))
    items.close()
    assert list(streamed(counting, 3, seconds=20, megabytes=400)) == [0, 1, 2]


def test_what_came_before_an_error_is_there() -> None:
    items = streamed(breaking, 700, seconds=20, megabytes=400)
    assert [next(items) for _ in range(700)] == list(range(700))
    with pytest.raises(ValueError, match="at its end"):
        next(items)


def test_a_file_is_read_from_its_beginning_wherever_the_parent_stands() -> None:
    with tempfile.TemporaryFile() as file:
        file.write(b"one\ntwo\n")
        file.flush()
        assert list(streamed(lines_of, file=file, seconds=20, megabytes=400)) == [b"one\n", b"two\n"]
        assert file.tell() == 8


def names_in_environment(_: Any) -> set[str]:
    return set(os.environ)


def test_it_knows_no_secret(monkeypatch: pytest.MonkeyPatch) -> None:
    for name in ("DAKIKA_SECRET_KEY", "DAKIKA_TOKEN_KEY", "PGPASSWORD"):
        monkeypatch.setenv(name, "secret")
    known = called(names_in_environment, 1, seconds=20, megabytes=400)
    assert not any("KEY" in name or "PASSWORD" in name for name in known)


def test_it_writes_no_file(tmp_path: Path) -> None:
    with pytest.raises(OSError, match="too large"):
        called(writing, str(tmp_path / "x"), seconds=5, megabytes=400)
    assert (tmp_path / "x").read_bytes() == b""


def test_a_child_ends_with_its_parent() -> None:
    """Killed with SIGKILL, the parent can do nothing more: the system ends the child."""
    program = (
        "from dakika_server.shared.apart import streamed\n"
        f"from {ME} import told_and_asleep\n"
        "print(next(streamed(told_and_asleep, seconds=600, megabytes=400)), flush=True)\n"
        "import time; time.sleep(600)\n"
    )
    with subprocess.Popen([sys.executable, "-c", program], stdout=subprocess.PIPE, text=True) as parent:
        assert parent.stdout
        child = int(parent.stdout.readline())
        parent.send_signal(signal.SIGKILL)
        parent.wait()
    until = time.monotonic() + 30
    while is_alive(child):
        assert time.monotonic() < until
        time.sleep(0.05)


def told_and_asleep() -> Iterator[int]:
    yield os.getpid()
    time.sleep(600)
