"""Promise: one start at a time in a folder, whoever asks is told where, and nothing is left running by whoever was killed."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest

from scripts import cli, running, stack
from scripts.paths import ROOT
from scripts.steps import StepError


@pytest.fixture(autouse=True)
def own_folder(tmp_path: Path, monkeypatch: Any) -> Path:
    monkeypatch.setattr(running, "STATE", tmp_path)
    return tmp_path


def test_a_second_start_is_refused_with_the_address_of_the_first(capsys: Any) -> None:
    assert (running.running_here(), running.status()) == (None, 3)
    with running.serving() as place:
        assert running.running_here() == running.Running(process=os.getpid(), address="")
        place.tell("http://127.0.0.1:8123")
        with pytest.raises(StepError, match=r"already at http://127.0.0.1:8123.*dakika stop"), running.serving():
            pass
        assert running.status() == 0
        assert "is at http://127.0.0.1:8123" in capsys.readouterr().out
        with pytest.raises(StepError, match="already"):
            cli.reset_demo()
    assert running.running_here() is None
    assert running.stop() == 0


def test_what_lies_outside_of_the_folder_is_told(own_folder: Path, tmp_path: Path, capsys: Any) -> None:
    (own_folder / "cluster").write_text("pg")
    running.status()
    assert "remove it" not in capsys.readouterr().out
    (own_folder / "cluster").write_text("/var/tmp/dakika-pg-x/pg")
    running.status()
    assert "lies in /var/tmp/dakika-pg-x: remove it with this folder" in capsys.readouterr().out


HOLDER = """
import sys, time, pathlib, subprocess
sys.path.insert(0, {root!r})
from scripts import running
running.STATE = pathlib.Path({state!r})
with running.serving() as place:
    child = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(600)"], preexec_fn=running.end_with_parent)
    place.tell(f"http://child-{{child.pid}}")
    time.sleep(600)
"""


def holder(folder: Path) -> tuple["subprocess.Popen[bytes]", int]:
    """A process that serves from the folder, and the child it has."""
    held = subprocess.Popen([sys.executable, "-c", HOLDER.format(root=str(ROOT), state=str(folder))])
    until = time.monotonic() + 60
    while not ((found := running.running_here()) and found.address):
        assert time.monotonic() < until
        time.sleep(0.05)
    return held, int(found.address.rpartition("-")[2])


def test_killed_it_leaves_nothing_running_and_the_folder_free(own_folder: Path) -> None:
    held, child = holder(own_folder)
    held.send_signal(signal.SIGKILL)
    held.wait()
    until = time.monotonic() + 30
    while running.is_alive(child):
        assert time.monotonic() < until
        time.sleep(0.05)
    with running.serving():
        pass


def test_stop_ends_it_and_waits(own_folder: Path, capsys: Any) -> None:
    held, _ = holder(own_folder)
    assert running.stop() == 0
    assert running.running_here() is None
    held.wait(timeout=30)
    assert "Stopped." in capsys.readouterr().out


@pytest.mark.parametrize("arguments", [["start", "--port", "80"], ["status", "x"], ["reset-demo", "all"]])
def test_what_is_not_understood_is_refused(arguments: list[str], monkeypatch: Any, capsys: Any) -> None:
    monkeypatch.setattr(sys, "argv", ["dakika", *arguments])
    assert cli.main() == 2
    assert "is not understood" in capsys.readouterr().err


def test_a_demo_that_was_broken_off_while_it_loaded_is_loaded_anew(tmp_path: Path, monkeypatch: Any) -> None:
    from scripts import environment

    monkeypatch.setattr(environment, "STATE", tmp_path)
    done: list[str] = []

    def sql(statement: str, database: str = "postgres") -> str:
        done.append(statement.split()[0])
        return "1"

    def manage(*arguments: str, **_: Any) -> None:
        done.append(arguments[0])
        if done.count("load_demo") == 1:
            raise KeyboardInterrupt

    one = stack.Stack(name="x")
    monkeypatch.setattr(stack.postgres, "sql", sql)
    monkeypatch.setattr(one, "prepare", lambda: done.append("prepare"))
    monkeypatch.setattr(one, "manage", manage)
    monkeypatch.setattr(one, "_follow_standins", lambda: done.append("follow"))
    stack.mark_current("loading-x", stack.BEGUN)
    with pytest.raises(KeyboardInterrupt):
        one.load_demo()
    one.load_demo()
    one.load_demo()
    assert done == ["DROP", "prepare", "load_demo", "DROP", "prepare", "load_demo", "SELECT", "follow"]
