"""Promise: the database ends with the last who holds it, also when that one is killed, and never under somebody's hands."""

import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest

from scripts.paths import ROOT

# The lock and the keeper are the real ones; the cluster is a file, so that nobody waits for a database.
HOLDER = """
import sys, pathlib
sys.path.insert(0, {root!r})
from scripts import postgres
postgres.STATE = pathlib.Path({state!r})
up = postgres.STATE / "up"
postgres.start = lambda: up.write_text("")
postgres.stop = lambda: up.unlink(missing_ok=True)
postgres.KEEPER = [sys.executable, "-c", {keeper!r}]
with postgres.running():
    print("holds", flush=True)
    sys.stdin.read()
"""
KEEPER = """
import sys, pathlib
sys.path.insert(0, {root!r})
from scripts import keeper
keeper.STATE = pathlib.Path({state!r})
keeper.postgres.stop = lambda: (keeper.STATE / "up").unlink(missing_ok=True)
keeper.keep()
"""


@pytest.fixture
def hold(tmp_path: Path) -> Any:
    held: list[subprocess.Popen[bytes]] = []
    keeper = KEEPER.format(root=str(ROOT), state=str(tmp_path))
    program = HOLDER.format(root=str(ROOT), state=str(tmp_path), keeper=keeper)

    def one() -> "subprocess.Popen[bytes]":
        held.append(subprocess.Popen([sys.executable, "-c", program], stdin=subprocess.PIPE, stdout=subprocess.PIPE))
        assert held[-1].stdout
        while b"holds" not in held[-1].stdout.readline():
            pass
        return held[-1]

    yield one
    for process in held:
        process.kill()
        process.communicate()


def is_up(folder: Path) -> bool:
    return (folder / "up").exists()


def test_the_last_one_out_stops_it(hold: Any, tmp_path: Path) -> None:
    first, second = hold(), hold()
    first.communicate(timeout=30)
    assert is_up(tmp_path)
    second.communicate(timeout=30)
    assert not is_up(tmp_path)


def test_killed_it_is_stopped_all_the_same_and_not_before(hold: Any, tmp_path: Path) -> None:
    first, second = hold(), hold()
    first.send_signal(signal.SIGKILL)
    first.wait()
    time.sleep(0.5)
    assert is_up(tmp_path), "somebody holds it yet"
    second.send_signal(signal.SIGKILL)
    second.wait()
    until = time.monotonic() + 30
    while is_up(tmp_path):
        assert time.monotonic() < until
        time.sleep(0.05)
    # And the next one finds everything as it should be.
    hold().communicate(timeout=30)
    assert not is_up(tmp_path)


def test_a_folder_that_was_thrown_away_and_made_anew_is_none_of_its_business(hold: Any, tmp_path: Path) -> None:
    old = hold()
    (tmp_path / "pg.users").unlink()
    hold()
    old.send_signal(signal.SIGKILL)
    old.wait()
    time.sleep(1.0)
    assert is_up(tmp_path)
