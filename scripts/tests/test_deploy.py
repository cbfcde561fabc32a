"""Promise: the files for running Dakika name what there is, give it no more than it needs, and say nothing secret."""

import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest
import yaml
from dakika_server.config.table import GROUPS

from scripts.paths import ROOT

DEPLOY = ROOT / "deploy"
SETTINGS = {setting.name for _, group in GROUPS for setting in group}
UNITS = sorted((DEPLOY / "systemd").glob("*.service"))


def named(text: str) -> set[str]:
    return set(re.findall(r"\b(?:DAKIKA_[A-Z_]+|PG[A-Z]+)\b", text))


@pytest.mark.parametrize("path", [ROOT / "Dockerfile", DEPLOY / "compose.yaml", *UNITS], ids=lambda path: path.name)
def test_every_setting_that_is_named_is_one(path: Path) -> None:
    ours = {name for name in named(path.read_text()) if not name.startswith("PGDATA")}
    assert ours <= SETTINGS | {"DAKIKA_SETTINGS_FILE"}


def test_the_image_runs_as_nobody_special_and_writes_in_one_place() -> None:
    text = (ROOT / "Dockerfile").read_text()
    last = text[text.rindex("FROM ") :]
    users = re.findall(r"^USER (\S+)", last, re.MULTILINE)
    assert users == ["10001"]
    assert "useradd --uid 10001" in last
    assert last.index("USER 10001") < last.index("ENTRYPOINT")
    assert "HEALTHCHECK" in last
    assert "VOLUME /state" in last
    assert all(
        ":" in image and not image.endswith(":latest") for image in re.findall(r"^FROM (\S+)", text, re.MULTILINE)
    )
    assert not re.search(r"^ADD |curl |wget |sudo ", text, re.MULTILINE)
    left_out = (ROOT / ".dockerignore").read_text().splitlines()
    assert {".git", ".dakika", "dakika.env"} <= {*left_out}


def test_the_image_is_made_as_its_makers_advise() -> None:
    """By hadolint, whose rules are Docker's own advice and shellcheck's; not even a hint is left."""
    program = Path(sys.executable).with_name("hadolint")
    done = subprocess.run(
        [program, "--failure-threshold", "style", ROOT / "Dockerfile"], capture_output=True, text=True, check=False
    )
    assert (done.returncode, done.stdout) == (0, "")
    # Its rules are at work: the same file with a version that floats is told.
    floating = (ROOT / "Dockerfile").read_text().replace("python:3.11-slim-bookworm", "python:latest")
    told = subprocess.run([program, "-"], input=floating, capture_output=True, text=True, check=False)
    assert "DL3007" in told.stdout


def test_what_compose_runs_is_shut_in_and_reached_from_the_machine_alone() -> None:
    services = yaml.safe_load((DEPLOY / "compose.yaml").read_text())["services"]
    dakika = services["dakika"]
    assert dakika["read_only"] is True
    assert dakika["cap_drop"] == ["ALL"]
    assert all(port.startswith("127.0.0.1:") for port in dakika["ports"])
    assert "ports" not in services["database"]
    assert "PGPASSWORD" in services["database"]["environment"]["POSTGRES_PASSWORD"]
    exposed = set(re.search(r"^EXPOSE (.+)$", (ROOT / "Dockerfile").read_text(), re.MULTILINE)[1].split())  # type: ignore[index]
    assert {port.rpartition(":")[2] for port in dakika["ports"]} == exposed


@pytest.mark.parametrize("path", UNITS, ids=lambda path: path.name)
def test_units_are_units(path: Path, tmp_path: Path) -> None:
    """By systemd itself where it is there; the program that a unit starts stands at another place here."""
    program = shutil.which("systemd-analyze")
    if program is None:
        pytest.skip("systemd is not installed")
    text = path.read_text().replace("/opt/dakika", str(ROOT)).replace("User=dakika\n", "")
    (tmp_path / path.name).write_text(text)
    unit = path.name.replace("@.", "@render.")
    done = subprocess.run([program, "verify", "--man=no", str(tmp_path / unit)], capture_output=True, text=True)
    ours = [
        line for line in (done.stdout + done.stderr).splitlines() if path.name.partition(".")[0].rstrip("@") in line
    ]
    assert ours == []


def test_the_proxys_file_is_what_the_documentation_shows_and_a_test_runs() -> None:
    shown = (ROOT / "docs" / "operations.md").read_text()
    told = (DEPLOY / "nginx.conf").read_text().partition("\n")[2]
    assert told.strip() in shown


def test_what_is_installed_is_apart_from_what_is_made_at_run_time(tmp_path: Path) -> None:
    """With DAKIKA_STATE the folder of the installation is not written to: it may be read-only."""
    from scripts.paths import PYTHON

    told = subprocess.run(
        [str(PYTHON), "-c", "from scripts.paths import BUILT, LOGS, STATE, VENV; print(BUILT, LOGS, STATE, VENV, sep='|')"],
        env={"DAKIKA_STATE": str(tmp_path), "PATH": "/usr/bin"}, cwd=ROOT, capture_output=True, text=True, check=True,
    ).stdout.strip().split("|")  # fmt: skip
    assert told == [str(ROOT / ".dakika"), str(tmp_path / "logs"), str(tmp_path), str(ROOT / ".dakika" / "venv")]
