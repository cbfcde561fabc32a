"""Promise: starting steps over ports in use, keeps its keys to itself, and says what to do when something is missing."""

import errno
import socket
import subprocess
import sys
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest

from scripts import environment, postgres, processes, stack, steps, system
from scripts.ports import take_port
from scripts.steps import StepError, guarded, run, step


def test_a_port_in_use_is_stepped_over() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        found = take_port(port, "x")
        assert found > port
        with pytest.raises(OSError, match="no free port"):
            take_port(port, "x", tries=1)


TAKER = "import sys; sys.path.insert(0, {root!r}); from scripts.ports import take_port; print(take_port(8900, {name!r}), flush=True)"


def test_copies_that_start_at_once_take_ports_of_their_own() -> None:
    """Nobody listens yet: to look for a free port alone would give all of them the same."""
    root = str(Path(__file__).parents[2])
    # Each lives until its input ends, as a supervisor does.
    starts = [
        subprocess.Popen(
            [sys.executable, "-c", TAKER.format(root=root, name=f"copy {number}") + "; sys.stdin.read()"],
            stdin=subprocess.PIPE, stdout=subprocess.PIPE,
        )
        for number in range(4)
    ]  # fmt: skip
    try:
        ports = [int(one.stdout.readline()) for one in starts if one.stdout]
        assert len(set(ports)) == 4
        own = take_port(8900, "this")
        assert own not in ports
        assert take_port(own, "this") == own, "a holder gets its own again"
        assert take_port(own, "another of this process") != own
    finally:
        for one in starts:
            one.kill()
            one.communicate()


def test_ports_of_last_time_are_taken_again_where_they_are_free(tmp_path: Path, monkeypatch: Any) -> None:
    """Links point at them."""
    monkeypatch.setattr(stack, "STATE", tmp_path)
    first = stack.Stack(name="x", first_web_port=8700, first_standins_port=9700)
    first.choose_ports()
    again = stack.Stack(name="x", first_web_port=8600, first_standins_port=9600)
    again.choose_ports()
    assert (again.web_port, again.links_port, again.standins_port) == (
        first.web_port, first.links_port, first.standins_port,
    )  # fmt: skip


def test_keys_are_made_once_and_are_ours_alone(tmp_path: Path, monkeypatch: Any) -> None:
    monkeypatch.setattr(processes, "STATE", tmp_path)
    made = processes.secrets_of_installation()
    assert made == processes.secrets_of_installation()
    assert {len(value) > 40 for value in made.values()} == {True}
    assert (tmp_path / "secrets.json").stat().st_mode & 0o077 == 0


def test_killed_while_making_keys_the_next_start_makes_them(tmp_path: Path, monkeypatch: Any) -> None:
    monkeypatch.setattr(processes, "STATE", tmp_path)

    def killed(*_: Any) -> str:
        raise KeyboardInterrupt

    with monkeypatch.context() as dying:
        dying.setattr(processes.json, "dumps", killed)
        with pytest.raises(KeyboardInterrupt):
            processes.secrets_of_installation()
    assert not (tmp_path / "secrets.json").exists()
    assert set(processes.secrets_of_installation()) == {"DAKIKA_SECRET_KEY", "DAKIKA_TOKEN_KEY"}


def test_a_step_says_how_long_it_took_and_that_it_failed(capsys: Any) -> None:
    with step("Building"):
        pass
    assert capsys.readouterr().out.startswith("  Building ... ")
    with pytest.raises(ValueError, match="x"), step("Building"):
        raise ValueError("x")
    assert capsys.readouterr().out.endswith(" failed\n")


def test_a_command_that_fails_leaves_its_last_words_and_advice(tmp_path: Path, monkeypatch: Any) -> None:
    monkeypatch.setattr(steps, "LOGS", tmp_path)
    with pytest.raises(StepError) as told:
        run(["sh", "-c", "echo the disk is full; exit 3"], log="x", advice="Make room, then start again.")
    assert "the disk is full" in str(told.value)
    assert "Make room, then start again." in str(told.value)
    assert str(tmp_path / "x.log") in str(told.value)


@pytest.mark.parametrize(
    ("raised", "code", "words"),
    [
        (None, 0, ""), (StepError("Install it."), 1, "Install it."), (KeyboardInterrupt(), 130, "Stopped."),
        (PermissionError(errno.EACCES, "Permission denied", "/x/.dakika"), 1, "somebody else's"),
        (OSError(errno.EROFS, "Read-only file system"), 1, "takes nothing"),
        (OSError(errno.ENOSPC, "No space left on device"), 1, "Make room"),
    ],
)  # fmt: skip
def test_what_ends_a_command(raised: BaseException | None, code: int, words: str, capsys: Any) -> None:
    def action() -> int:
        if raised:
            raise raised
        return 0

    assert guarded(action) == code
    assert words in capsys.readouterr().err


@pytest.fixture
def _bare_machine(monkeypatch: Any) -> None:
    """Nothing is installed, and we are nobody."""
    monkeypatch.setattr(system, "postgres_bin", lambda: None)
    monkeypatch.setattr(system.shutil, "which", lambda _: None)
    monkeypatch.setattr(system.os, "geteuid", lambda: 1000)


@pytest.mark.usefixtures("_bare_machine")
def test_who_may_not_install_is_told_the_one_line() -> None:
    with pytest.raises(StepError) as told:
        system.ensure_packages()
    assert "    apt-get update && apt-get install -y --no-install-recommends" in str(told.value)
    assert "postgresql" in str(told.value)


@pytest.mark.parametrize(
    ("who", "sudo", "line"),
    [
        (0, "/usr/bin/sudo", "apt-get update && apt-get install x"), (1000, None, "apt-get update && apt-get install x"),
        (1000, "/usr/bin/sudo", "sudo apt-get update && sudo apt-get install x"),
    ],
)  # fmt: skip
def test_the_line_goes_by_who_types_it(who: int, sudo: str | None, line: str, monkeypatch: Any) -> None:
    monkeypatch.setattr(system.os, "geteuid", lambda: who)
    monkeypatch.setattr(system.shutil, "which", lambda _: sudo)
    assert system.by_hand("apt-get install x") == line


@pytest.mark.usefixtures("_bare_machine")
def test_a_helper_that_is_missing_stops_nobody(monkeypatch: Any, capsys: Any) -> None:
    monkeypatch.setattr(system, "postgres_bin", lambda: Path("/usr/lib/postgresql/15/bin"))
    system.ensure_packages()
    assert "PDFs need Chromium" in capsys.readouterr().out
    # The tests do need it.
    with pytest.raises(StepError, match="chromium"):
        system.ensure_packages(for_tests=True)


@pytest.mark.usefixtures("_bare_machine")
def test_as_root_what_is_missing_is_installed_in_one_go(tmp_path: Path, monkeypatch: Any) -> None:
    asked: list[list[str]] = []
    kept, made = (tmp_path / version / "main" / "start.conf" for version in ("14", "15"))
    kept.parent.mkdir(parents=True)
    kept.write_text("auto\n")

    def install(command: list[str], **_: Any) -> None:
        asked.append(list(command))
        if command[1] == "install":
            made.parent.mkdir(parents=True)
            made.write_text("auto\n")
        elif command[0] == "sh":
            subprocess.run(command, check=True)

    monkeypatch.setattr(system.os, "geteuid", lambda: 0)
    monkeypatch.setattr(system, "run", install)
    monkeypatch.setattr(system, "DEBIAN_CLUSTERS", tmp_path)
    stopped: list[list[str]] = []
    monkeypatch.setattr(system, "subprocess", SimpleNamespace(run=lambda command, **_: stopped.append(command)))
    system.ensure_packages()
    assert asked[0] == ["apt-get", "update"]
    assert asked[1][:2] == ["apt-get", "install"]
    assert {"chromium", "postgresql"} <= set(asked[1])
    # The cluster that Debian makes along with it stays down; one that was there is nobody's business.
    assert (made.read_text(), kept.read_text()) == ("manual\n", "auto\n")
    assert stopped == [["pg_ctlcluster", "15", "main", "stop"]]


def test_what_was_made_is_made_again_only_when_its_files_change(tmp_path: Path, monkeypatch: Any) -> None:
    monkeypatch.setattr(environment, "STATE", tmp_path)
    monkeypatch.setattr(environment, "ROOT", tmp_path)
    lock = tmp_path / "run.lock"
    lock.write_text("a==1")
    first = environment.digest([lock], "salt")
    environment.mark_current("python", first)
    assert environment.is_current("python", environment.digest([lock], "salt"))
    lock.write_text("a==2")
    assert not environment.is_current("python", environment.digest([lock], "salt"))
    assert environment.digest([lock], "other") != environment.digest([lock], "salt")


def test_help_names_every_command() -> None:
    root = Path(__file__).parents[2]
    said = subprocess.run([root / "dakika", "help"], capture_output=True, text=True, check=True, cwd=root).stdout
    for command in ("start", "dev", "test", "bench", "shots", "reset-demo", "help"):
        assert command in said


def test_the_project_moves_with_everything_it_made(tmp_path: Path, monkeypatch: Any) -> None:
    """The database goes along, and the programs, which name their Python by its whole path, are made anew."""
    here, there = tmp_path / "here", tmp_path / "there"
    (here / "pg").mkdir(parents=True)
    for module in (postgres, environment):
        monkeypatch.setattr(module, "STATE", here)
    monkeypatch.setattr(postgres, "reachable", lambda _: True)
    monkeypatch.setattr(environment, "VENV", here / "venv")
    assert postgres.cluster_folder() == here / "pg"
    made = environment.fingerprint_of("demo")
    here.rename(there)
    for module in (postgres, environment):
        monkeypatch.setattr(module, "STATE", there)
    monkeypatch.setattr(environment, "VENV", there / "venv")
    assert postgres.cluster_folder() == there / "pg"
    assert environment.fingerprint_of("demo") != made
    # What an earlier version noted by its whole path.
    (there / "cluster").write_text(str(here / "pg"))
    assert postgres.cluster_folder() == there / "pg"
