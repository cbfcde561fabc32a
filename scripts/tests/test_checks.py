"""Promise: a check that finds something is told at once and named at the end; what finds nothing is told in a line."""

import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from scripts import checks, cli, processes, stack
from scripts.checks import Beside, Check, everything
from scripts.steps import StepError


def a_check(title: str, code: str, folder: Path) -> Check:
    return Check(title, (sys.executable, "-c", code), folder)


@pytest.fixture
def tests_that_take(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> Callable[..., Path]:
    """Instead of all tests, something that takes so many seconds and ends with a code."""

    def make(seconds: float, code: int = 0) -> Path:
        done = tmp_path / "tests.done"
        program = tmp_path / "stand_in"
        program.write_text(
            f"#!{sys.executable}\nimport time, pathlib, sys\ntime.sleep({seconds})\n"
            f"pathlib.Path({str(done)!r}).touch()\nsys.exit({code})\n"
        )
        program.chmod(0o755)
        monkeypatch.setattr(checks, "PYTHON", program)
        return done

    return make


BAD = "import sys; print('line 3 is too long'); print('and 4', file=sys.stderr); sys.exit(1)"


def test_all_run_each_told_in_one_piece(
    tmp_path: Path, tests_that_take: Any, capsys: pytest.CaptureFixture[str]
) -> None:
    done = tests_that_take(0.3)
    first = (a_check("first", "print('quiet')", tmp_path),)
    assert everything({}, first, (a_check("second", "open('was.here', 'w')", tmp_path),)) == 0
    said = capsys.readouterr().out
    assert said.index("== first: ") < said.index("== second: ")
    assert "quiet" not in said
    assert (tmp_path / "was.here").exists()
    assert done.exists()


def test_what_is_seen_at_a_glance_is_said_before_anything_else_begins(
    tmp_path: Path, tests_that_take: Any, capsys: pytest.CaptureFixture[str]
) -> None:
    done = tests_that_take(0)
    never = a_check("never", "open('was.here', 'w')", tmp_path)
    with pytest.raises(StepError, match="style found something"):
        everything({}, (a_check("style", BAD, tmp_path), never), (never,))
    said = capsys.readouterr().out
    assert "line 3 is too long" in said
    assert "and 4" in said
    assert not done.exists()
    assert not (tmp_path / "was.here").exists()


def test_what_is_found_beside_the_tests_cuts_nothing_off_and_is_named_at_the_end(
    tmp_path: Path, tests_that_take: Any, capsys: pytest.CaptureFixture[str]
) -> None:
    done = tests_that_take(1.0)
    never = a_check("never", "open('was.here', 'w')", tmp_path)
    with pytest.raises(StepError, match="types found something"):
        everything({}, (), (a_check("types", BAD, tmp_path), never))
    assert "line 3 is too long" in capsys.readouterr().out
    assert done.exists()
    assert not (tmp_path / "was.here").exists()


@pytest.mark.parametrize("code", [1, 5])
def test_tests_that_fail_fail_though_all_checks_are_well(code: int, tmp_path: Path, tests_that_take: Any) -> None:
    tests_that_take(0.1, code)
    assert everything({}, (), (a_check("well", "pass", tmp_path),)) == code


def test_a_check_that_finds_something_after_the_tests_are_done_still_counts(
    tmp_path: Path, tests_that_take: Any
) -> None:
    tests_that_take(0)
    with pytest.raises(StepError, match="late found something"):
        everything({}, (), (a_check("late", "import time, sys; time.sleep(1); sys.exit(2)", tmp_path),))


def test_tests_that_somebody_stops_may_clear_up_and_nothing_goes_on_beside_them(
    tmp_path: Path, tests_that_take: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    done = tests_that_take(0.5)
    wait = subprocess.Popen.wait
    asked: list[float | None] = []

    def stopped_once(self: Any, timeout: float | None = None) -> int:
        asked.append(timeout)
        if len(asked) == 1:
            raise KeyboardInterrupt
        return wait(self, timeout)

    monkeypatch.setattr(subprocess.Popen, "wait", stopped_once)
    with pytest.raises(KeyboardInterrupt):
        everything({}, (), (a_check("long", "import time; time.sleep(60)", tmp_path),))
    assert done.exists()
    assert checks.CLEARING_UP_SECONDS in asked


def test_what_is_stopped_begins_nothing_more(tmp_path: Path) -> None:
    beside = Beside(
        (a_check("long", "import time; time.sleep(60)", tmp_path), a_check("next", "open('x', 'w')", tmp_path)), {}
    )
    beside.start()
    beside.stop()
    assert beside.join() == []
    assert not (tmp_path / "x").exists()


def test_every_check_is_a_program_of_this_project() -> None:
    assert [check.title for check in checks.AT_A_GLANCE] == ["ruff", "ruff format", "import-linter"]
    assert all(check.folder.is_dir() for check in (*checks.AT_A_GLANCE, *checks.BESIDE))


# -- the commands


def test_a_failed_step_is_told_without_a_traceback(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    def fails() -> int:
        raise StepError("PostgreSQL's server is missing:  apt-get install postgresql")

    def stopped() -> int:
        raise KeyboardInterrupt

    monkeypatch.setitem(cli.COMMANDS, "start", fails)
    monkeypatch.setitem(cli.COMMANDS, "dev", stopped)
    monkeypatch.setattr(sys, "argv", ["dakika", "start"])
    assert cli.main() == 1
    assert capsys.readouterr().err.strip() == "PostgreSQL's server is missing:  apt-get install postgresql"
    monkeypatch.setattr(sys, "argv", ["dakika", "dev"])
    assert cli.main() == 130


# -- one installation


def test_all_processes_of_an_installation_are_told_the_same_and_two_installations_share_nothing(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(stack, "STATE", tmp_path)
    monkeypatch.setattr(processes, "STATE", tmp_path)
    monkeypatch.setattr(stack.postgres, "connection", lambda name: {"PGDATABASE": name})
    first = stack.Stack(name="one", first_web_port=18_100, first_standins_port=19_100, fixed_now="2026-11-24T10:40:00Z")
    first.choose_ports()
    again = stack.Stack(name="one")
    again.choose_ports()
    told = first.environment()
    assert told["PGDATABASE"] == "one"
    assert told["DAKIKA_PUBLIC_ADDRESS"] == f"http://127.0.0.1:{first.web_port}"
    assert told["DAKIKA_LINKS_ADDRESS"] == f"http://127.0.0.1:{first.links_port}"
    assert told["DAKIKA_FIXED_NOW"] == "2026-11-24T10:40:00Z"
    assert "DAKIKA_FIXED_NOW" not in again.environment()
    assert told["DAKIKA_SECRET_KEY"] == again.environment()["DAKIKA_SECRET_KEY"]
    other = stack.Stack(name="two", first_web_port=first.web_port)
    assert other.links_folder != first.links_folder
    assert other.standins_state != first.standins_state


def test_processes_end_by_themselves_when_told_and_are_killed_when_they_do_not_listen(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(processes, "STOP_SECONDS", 1.0)
    monkeypatch.setattr(processes, "ROOT", tmp_path)
    # Each says when it is ready to hear, and the gentle ones when they heard.
    gentle = (
        "import pathlib, signal, sys, time\n"
        "def heard(*_):\n    pathlib.Path('{0}.heard').touch()\n    sys.exit(0)\n"
        "signal.signal(15, heard)\npathlib.Path('{0}.ready').touch()\ntime.sleep(60)"
    )
    deaf = (
        "import pathlib, signal, time\nsignal.signal(15, signal.SIG_IGN)\n"
        "pathlib.Path('deaf.ready').touch()\ntime.sleep(60)"
    )
    made = stack.Stack(name="one", log_folder=tmp_path)
    monkeypatch.setattr(stack.Stack, "environment", lambda _: {})
    commands = {
        "a": [sys.executable, "-c", gentle.format("a")],
        "deaf": [sys.executable, "-c", deaf],
        "b": [sys.executable, "-c", gentle.format("b")],
    }
    monkeypatch.setattr(stack.Stack, "commands", lambda _: commands)
    for name in commands:
        made.start(name)
    running = dict(made.processes)
    while len(list(tmp_path.glob("*.ready"))) < len(commands):
        time.sleep(0.02)
    made.stop()
    assert [running[name].returncode for name in ("a", "deaf", "b")] == [0, -9, 0]
    assert sorted(path.stem for path in tmp_path.glob("*.heard")) == ["a", "b"]
    assert made.processes == {}


def test_a_process_that_dies_while_it_is_waited_for_is_named_with_its_log(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(stack.Stack, "environment", lambda _: {})
    monkeypatch.setattr(stack.Stack, "commands", lambda _: {"web": [sys.executable, "-c", "print('no such table')"]})
    made = stack.Stack(name="one", log_folder=tmp_path)
    made.start("web")
    with pytest.raises(StepError, match=r"web does not answer; see .*one-web\.log"):
        made.wait_for("http://127.0.0.1:1/health", "web", seconds=20)
    assert (tmp_path / "one-web.log").read_text() == "no such table\n"
