"""Processes of one installation: started, waited for, asked to end in order; and the keys that they share."""

import json
import os
import secrets
import shutil
import signal
import subprocess
import time
import urllib.error
import urllib.request
from abc import ABC, abstractmethod
from base64 import urlsafe_b64encode
from dataclasses import dataclass, field
from pathlib import Path

from scripts.environment import digest
from scripts.paths import LOGS, PYTHON, ROOT, STATE
from scripts.running import end_with_parent
from scripts.steps import StepError, run

STOP_SECONDS = 25.0
# For so long the web server keeps a connection on which nothing is asked. Closed after two seconds, as is usual, it met
# the next question of a program that asks every few seconds, now and then.
KEPT_OPEN_SECONDS = "15"
# Memory that threads gave back is used by others too. With a heap for each of them a worker keeps every job's peak.
HEAPS = {"MALLOC_ARENA_MAX": "2"}


def secrets_of_installation() -> dict[str, str]:
    """The installation's keys, made once and readable by us alone."""
    path = STATE / "secrets.json"
    if not path.exists():
        made = {
            "DAKIKA_SECRET_KEY": secrets.token_urlsafe(48),
            "DAKIKA_TOKEN_KEY": urlsafe_b64encode(secrets.token_bytes(32)).decode(),
        }
        # Whole or not at all, and never for others' eyes: killed in between, the next start makes them anew.
        new = path.with_suffix(".new")
        new.unlink(missing_ok=True)
        new.touch(mode=0o600)
        new.write_text(json.dumps(made))
        new.replace(path)
    kept: dict[str, str] = json.loads(path.read_text())
    return kept


def wanted_tables(database: str) -> str:
    """A fingerprint of what this version wants of a database, which is told apart from others by some words."""
    server = ROOT / "server" / "dakika_server"
    # Which tables tell of their changes stands in the areas; triggers are put on them after migrating.
    told = [*server.glob("*/area.py"), server / "notices" / "changes.py"]
    return digest([*server.glob("*/migrations/*.py"), *told, ROOT / "requirements" / "run.lock"], database)


@dataclass(kw_only=True)
class Processes(ABC):
    """What runs of an installation, by the names of its processes."""

    name: str
    log_folder: Path = LOGS
    processes: dict[str, subprocess.Popen[bytes]] = field(default_factory=dict)

    @abstractmethod
    def environment(self) -> dict[str, str]:
        """Everything that the processes need to know."""

    @abstractmethod
    def commands(self) -> dict[str, list[str]]:
        """What is run, in the order of starting."""

    def manage(self, *arguments: str, advice: str) -> None:
        """Run one of Django's commands to its end."""
        run([PYTHON, ROOT / "server" / "manage.py", *arguments], log="manage", advice=advice, env=self.environment())

    def start(self, name: str) -> None:
        """Start one process, its output in a log file."""
        self.log_folder.mkdir(parents=True, exist_ok=True)
        environment = self.environment()
        if environment.get("DAKIKA_METRICS_TOKEN"):
            environment["PROMETHEUS_MULTIPROC_DIR"] = str(self._counted(is_first=not self.processes))
        with (self.log_folder / f"{self.name}-{name}.log").open("ab") as out:
            self.processes[name] = subprocess.Popen(
                self.commands()[name], env=environment, stdout=out, stderr=subprocess.STDOUT,
                cwd=ROOT, start_new_session=True, preexec_fn=end_with_parent,  # noqa: PLW1509 (one call of the system)
            )  # fmt: skip

    def _counted(self, *, is_first: bool) -> Path:
        """Where processes count into files that are read together; what those of before counted goes."""
        folder = STATE / f"metrics-{self.name}"
        if is_first:
            shutil.rmtree(folder, ignore_errors=True)
        folder.mkdir(parents=True, exist_ok=True)
        return folder

    def wait_for(self, address: str, name: str, seconds: float = 60.0) -> None:
        """Until a process answers; StepError when it does not, or dies."""
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            if self.processes[name].poll() is not None:
                break
            try:
                with urllib.request.urlopen(address, timeout=5):
                    return
            except (urllib.error.URLError, OSError):
                time.sleep(0.1)
        raise StepError(f"{name} does not answer; see {self.log_folder / f'{self.name}-{name}.log'}")

    def stop(self) -> None:
        """SIGTERM in the opposite order of starting; SIGKILL for who does not listen."""
        for process in reversed(self.processes.values()):
            if process.poll() is None:
                process.send_signal(signal.SIGTERM)
        until = time.monotonic() + STOP_SECONDS
        for process in self.processes.values():
            try:
                process.wait(timeout=max(0.1, until - time.monotonic()))
            except subprocess.TimeoutExpired:
                os.killpg(process.pid, signal.SIGKILL)
                process.wait()
        self.processes.clear()
