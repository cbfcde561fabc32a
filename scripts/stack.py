"""Stand-ins, worker, redirect and web server of one installation: their environment, and how they are started and stopped."""

import json
import os
import secrets
import shutil
import signal
import subprocess
import time
import urllib.error
import urllib.request
from base64 import urlsafe_b64encode
from dataclasses import dataclass, field
from pathlib import Path

from scripts import postgres
from scripts.environment import digest, is_current, mark_current, python_environment
from scripts.paths import LOGS, PYTHON, ROOT, STATE, VENV, python_path
from scripts.ports import take_port
from scripts.running import end_with_parent
from scripts.steps import StepError, run, step

STOP_SECONDS = 25.0
LINKS_PORT_APART, EVENTS_PORT_APART, MAIL_PORT_APART = 40, 60, 25
BEGUN = "begun"
# An empty database with all tables, from which others are copied: migrating takes ten times as long.
TABLES = "dakika_tables"


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


@dataclass(kw_only=True)
class Stack:
    """One installation on loopback. fixed_now stops its clock, for pictures."""

    name: str
    first_web_port: int = 8000
    first_standins_port: int = 9000
    fixed_now: str = ""
    log_folder: Path = LOGS
    has_worker: bool = True
    web_port: int = 0
    links_port: int = 0
    standins_port: int = 0
    events_port: int = 0
    mail_port: int = 0
    last_standins_port: int = 0
    processes: dict[str, subprocess.Popen[bytes]] = field(default_factory=dict)

    @property
    def address(self) -> str:
        """Where the browser finds it."""
        return f"http://127.0.0.1:{self.web_port}"

    @property
    def links_address(self) -> str:
        """Where short addresses stand."""
        return f"http://127.0.0.1:{self.links_port}"

    @property
    def events_address(self) -> str:
        """Where browsers listen to what changed; nothing changes by itself without a worker."""
        return f"http://127.0.0.1:{self.events_port}" if self.has_worker else ""

    @property
    def links_folder(self) -> Path:
        """The redirect's journal and its copy of the links."""
        return STATE / f"links-{self.name}"

    @property
    def media_folder(self) -> Path:
        """The files that people brought."""
        return STATE / f"media-{self.name}"

    @property
    def standins_state(self) -> Path:
        """The stand-ins' memory."""
        return STATE / f"standins-{self.name}.json"

    def choose_ports(self) -> None:
        """Ports of last time where they are free, since links point at them; else the next free ones."""
        noted = STATE / f"ports-{self.name}.json"
        last = json.loads(noted.read_text()) if noted.exists() else {}
        holder = f"{STATE}:{self.name}"
        self.web_port = take_port(last.get("web", self.first_web_port), f"{holder}:web")
        self.links_port = take_port(last.get("links", self.first_web_port + LINKS_PORT_APART), f"{holder}:links")
        self.standins_port = take_port(last.get("standins", self.first_standins_port), f"{holder}:standins")
        self.events_port = take_port(last.get("events", self.first_web_port + EVENTS_PORT_APART), f"{holder}:events")
        self.mail_port = take_port(last.get("mail", self.first_standins_port + MAIL_PORT_APART), f"{holder}:mail")
        self.last_standins_port = last.get("standins", self.standins_port)
        noted.write_text(json.dumps({
            "web": self.web_port, "links": self.links_port, "standins": self.standins_port,
            "events": self.events_port, "mail": self.mail_port,
        }))  # fmt: skip

    def environment(self) -> dict[str, str]:
        """Everything that the processes need to know."""
        made = {
            **python_environment(),
            **postgres.connection(self.name),
            **secrets_of_installation(),
            "PATH": f"{VENV / 'bin'}{os.pathsep}{os.environ['PATH']}",
            "PYTHONPATH": python_path(),
            "DJANGO_SETTINGS_MODULE": "dakika_server.config.settings",
            "DAKIKA_PUBLIC_ADDRESS": self.address,
            # Browsers keep cookies by host, whatever the port: two copies must not sign each other's people out.
            "DAKIKA_SESSION_COOKIE": f"sessionid_{self.web_port}",
            "DAKIKA_LINKS_ADDRESS": self.links_address,
            "DAKIKA_LINKS_FOLDER": str(self.links_folder),
            "DAKIKA_MEDIA_FOLDER": str(self.media_folder),
            "DAKIKA_STANDINS_ADDRESS": f"http://127.0.0.1:{self.standins_port}",
            "DAKIKA_STANDINS_STATE": str(self.standins_state),
            "DAKIKA_STANDINS_MAIL_PORT": str(self.mail_port),
            "DAKIKA_EVENTS_ADDRESS": self.events_address,
            "DAKIKA_SMTP": f"127.0.0.1:{self.mail_port}",
            "DAKIKA_MAIL_FROM": "Dakika <dakika@ninthbell.example>",
            # Two cores: one thread each is faster than arithmetic that fights for them.
            "OMP_NUM_THREADS": "1",
            "OPENBLAS_NUM_THREADS": "1",
        }
        if self.fixed_now:
            made["DAKIKA_FIXED_NOW"] = self.fixed_now
        return made

    def commands(self) -> dict[str, list[str]]:
        """What is run, in the order of starting."""
        manage = [str(PYTHON), str(ROOT / "server" / "manage.py")]
        found = {
            "standins": [
                str(PYTHON), "-m", "uvicorn", "--factory", "dakika_standins.app:from_environment",
                "--host", "127.0.0.1", "--port", str(self.standins_port), "--log-level", "warning", "--no-access-log",
            ],
            "links": [str(PYTHON), "-m", "dakika_redirect", "--port", str(self.links_port)],
            "web": [
                str(VENV / "bin" / "gunicorn"), "dakika_server.config.wsgi", "--bind", f"127.0.0.1:{self.web_port}",
                "--workers", "2", "--threads", "6", "--worker-class", "dakika_server.config.worker.Worker", "--timeout", "60",
                "--log-level", "warning", "--no-control-socket",
            ],
        }  # fmt: skip
        if self.has_worker:
            found["worker"] = [*manage, "work"]
            found["events"] = [str(PYTHON), "-m", "dakika_server.notices.events", "--port", str(self.events_port)]
        return found

    def manage(self, *arguments: str, advice: str) -> None:
        """Run one of Django's commands to its end."""
        run([PYTHON, ROOT / "server" / "manage.py", *arguments], log="manage", advice=advice, env=self.environment())

    def prepare(self, *, fresh: bool = False) -> None:
        """Database, tables; from scratch if `fresh`: then as a copy of one that was migrated once for all."""
        if fresh:
            ensure_tables()
            postgres.ensure_database(self.name, copied_from=TABLES)
            self.standins_state.unlink(missing_ok=True)
            shutil.rmtree(self.links_folder, ignore_errors=True)
            shutil.rmtree(self.media_folder, ignore_errors=True)
            mark_current(f"tables-{self.name}", self.fingerprint())
            return
        postgres.ensure_database(self.name)
        if is_current(f"tables-{self.name}", self.fingerprint()):
            return
        with step("Migrating the database"):
            self.manage("migrate", "--no-input", advice="The tables could not be made; see the lines above.")
        mark_current(f"tables-{self.name}", self.fingerprint())

    def fingerprint(self) -> str:
        """What a database was migrated with is remembered with its own number: asking Django takes seconds."""
        server = ROOT / "server" / "dakika_server"
        # Which tables tell of their changes stands in the areas; triggers are put on them after migrating.
        told = [*server.glob("*/area.py"), server / "notices" / "changes.py"]
        files = [*server.glob("*/migrations/*.py"), *told, ROOT / "requirements" / "run.lock"]
        number = postgres.sql(f"SELECT oid FROM pg_database WHERE datname = '{self.name}'")
        return digest(files, f"{postgres.identifier()} {number}")

    def load_demo(self) -> None:
        """The demo's half-year, unless there is data already."""
        if is_current(f"loading-{self.name}", BEGUN):
            with step("Taking up the demo that was broken off while it loaded"):
                postgres.sql(f'DROP DATABASE IF EXISTS "{self.name}" WITH (FORCE)')
                self.prepare()
        elif postgres.sql("SELECT 1 FROM brands_brand LIMIT 1", self.name):
            self._follow_standins()
            return
        with step("Loading the demo: half a year of two brands"):
            mark_current(f"loading-{self.name}", BEGUN)
            self.manage("load_demo", advice="Try ./dakika reset-demo.")
            mark_current(f"loading-{self.name}", "done")

    def _follow_standins(self) -> None:
        """The demo's links lead to the stand-in sites: when those had to take another port, the links go with them."""
        if self.last_standins_port == self.standins_port:
            return
        old, new = (f"http://127.0.0.1:{port}/" for port in (self.last_standins_port, self.standins_port))
        moved = ", ".join(f"{column} = replace({column}, '{old}', '{new}')" for column in ("destination", "target"))
        postgres.sql(f"UPDATE links_trackedlink SET {moved} WHERE destination LIKE '{old}%'", self.name)

    def start(self, name: str) -> None:
        """Start one process, its output in a log file."""
        self.log_folder.mkdir(parents=True, exist_ok=True)
        with (self.log_folder / f"{self.name}-{name}.log").open("ab") as out:
            self.processes[name] = subprocess.Popen(
                self.commands()[name], env=self.environment(), stdout=out, stderr=subprocess.STDOUT,
                cwd=ROOT, start_new_session=True, preexec_fn=end_with_parent,  # noqa: PLW1509 (one call of the system)
            )  # fmt: skip

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

    def start_standins(self) -> None:
        """The outside world first: the demo comes from it."""
        self.start("standins")
        self.wait_for(f"http://127.0.0.1:{self.standins_port}/control/health", "standins")

    def start_rest(self) -> None:
        """Worker, redirect and web server."""
        for name in self.commands():
            if name not in self.processes:
                self.start(name)
        self.wait_for(f"{self.links_address}/health", "links")
        self.wait_for(f"{self.address}/health", "web")
        if "events" in self.processes:
            self.wait_for(f"{self.events_address}/health", "events")

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


def ensure_tables() -> None:
    """The database that others are copied from; made from nothing whenever a migration changed, also one it had."""
    pattern = Stack(name=TABLES)
    if not is_current(f"tables-{TABLES}", pattern.fingerprint()):
        postgres.ensure_database(TABLES, copied_from="template0")
        pattern.prepare()
