"""Stand-ins, worker, redirect and web server of one installation: their environment, and how they are started and stopped."""

import json
import os
import shutil
from dataclasses import dataclass
from pathlib import Path

from scripts import postgres
from scripts.environment import is_current, mark_current, python_environment
from scripts.paths import PYTHON, ROOT, STATE, VENV, python_path
from scripts.ports import take_port
from scripts.processes import HEAPS, KEPT_OPEN_SECONDS, Processes, secrets_of_installation, wanted_tables
from scripts.steps import step

LINKS_PORT_APART, EVENTS_PORT_APART, MAIL_PORT_APART = 40, 60, 25
BEGUN = "begun"
# An empty database with all tables, from which others are copied: migrating takes ten times as long.
TABLES = "dakika_tables"


@dataclass(kw_only=True)
class Stack(Processes):
    """One installation on loopback. fixed_now stops its clock, for pictures."""

    first_web_port: int = 8000
    first_standins_port: int = 9000
    fixed_now: str = ""
    has_worker: bool = True
    web_port: int = 0
    links_port: int = 0
    standins_port: int = 0
    events_port: int = 0
    mail_port: int = 0
    last_standins_port: int = 0

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
            **HEAPS,
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
                "--keep-alive", KEPT_OPEN_SECONDS, "--log-level", "warning", "--no-control-socket",
            ],
        }  # fmt: skip
        if self.has_worker:
            found["worker"] = [*manage, "work"]
            found["events"] = [str(PYTHON), "-m", "dakika_server.notices.events", "--port", str(self.events_port)]
        return found

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
        number = postgres.sql(f"SELECT oid FROM pg_database WHERE datname = '{self.name}'")
        return wanted_tables(f"{postgres.identifier()} {number}")

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


def ensure_tables() -> None:
    """The database that others are copied from; made from nothing whenever a migration changed, also one it had."""
    pattern = Stack(name=TABLES)
    if not is_current(f"tables-{TABLES}", pattern.fingerprint()):
        postgres.ensure_database(TABLES, copied_from="template0")
        pattern.prepare()
