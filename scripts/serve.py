"""An installation that people use: web server, worker, redirect and stream of changes, without stand-ins and demo.

What differs between installations is told by the environment, or by one file of names and values; what the environment
says goes before the file. The names stand in server/dakika_server/config/table.py.
"""

import os
import re
import signal
import subprocess
import time
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass, field
from pathlib import Path
from urllib.parse import urlsplit

from scripts import postgres
from scripts.environment import ensure_front_end, ensure_python, is_current, mark_current, python_environment
from scripts.paths import PYTHON, ROOT, STATE, VENV, python_path
from scripts.processes import HEAPS, KEPT_OPEN_SECONDS, Processes, secrets_of_installation, wanted_tables
from scripts.running import refusal, running_here, serving
from scripts.steps import StepError, step
from scripts.system import ensure_packages

FILE = ROOT / "dakika.env"
# Also the name of its database, where that is one of ours: the demo's is another.
NAME = "dakika_served"
PARTS = ("web", "worker", "links", "events")
WANTED = {
    "DAKIKA_PUBLIC_ADDRESS": "where people reach it, such as https://dakika.example.org",
    "DAKIKA_LINKS_ADDRESS": "where short addresses stand, such as https://go.example.org",
}
USUAL_BINDS = {
    "DAKIKA_WEB_BIND": "127.0.0.1:8000", "DAKIKA_LINKS_BIND": "127.0.0.1:8200", "DAKIKA_EVENTS_BIND": "127.0.0.1:8060",
}  # fmt: skip
_STATE = """
SELECT system_identifier, (SELECT oid FROM pg_database WHERE datname = current_database()),
    (SELECT count(*) || ' ' || max(id) FROM django_migrations) FROM pg_control_system()
"""
ON_EVERY = {"0.0.0.0": "127.0.0.1", "[::]": "[::1]"}
_LINE = re.compile(r"\s*(?:export\s+)?([A-Za-z_][A-Za-z0-9_]*)\s*=\s*(.*?)\s*")
RESTART_AFTER_SECONDS, LONGEST_RESTART_SECONDS = 2.0, 60.0
# What ran for so long and dies then has not died in a row.
LASTED_SECONDS = 300.0


def settings_in(text: str) -> dict[str, str]:
    """Names and values of a settings file: a line each, # begins a remark, quotes around a value are taken off.

    Raises StepError with the line that is none.
    """
    found = {}
    for number, line in enumerate(text.splitlines(), 1):
        if not line.strip() or line.lstrip().startswith("#"):
            continue
        read = _LINE.fullmatch(line)
        if read is None:
            raise StepError(f"Line {number} of the settings is no NAME=value: {line.strip()[:60]}")
        value = read[2]
        if len(value) > 1 and value[0] == value[-1] and value[0] in "\"'":
            value = value[1:-1]
        found[read[1]] = value
    return found


def from_within(bind: str) -> str:
    """Where a process that listens there is asked from this machine: on every address means on loopback, too."""
    host, _, port = bind.rpartition(":")
    return f"http://{ON_EVERY.get(host, host)}:{port}"


def told(environment: Mapping[str, str]) -> dict[str, str]:
    """What the file and the environment say together. Raises StepError for a file that is named and not there."""
    named = environment.get("DAKIKA_SETTINGS_FILE")
    path = Path(named) if named else FILE
    if not path.exists():
        if named:
            raise StepError(f"There is no file {path}, which DAKIKA_SETTINGS_FILE names.")
        return dict(environment)
    if path.stat().st_mode & 0o007:
        raise StepError(f"Everybody on this machine may read {path}, and it holds secrets:  chmod 640 {path}")
    return {**settings_in(path.read_text()), **environment}


@dataclass(kw_only=True)
class Installation(Processes):
    """What is served: parts, and what they were told."""

    settings: Mapping[str, str]
    parts: Sequence[str] = PARTS
    name: str = NAME
    restarts: dict[str, float] = field(default_factory=dict)

    @property
    def has_own_database(self) -> bool:
        """Whether the database is one of ours, on this machine."""
        return not self.settings.get("PGHOST")

    def setting(self, name: str) -> str:
        """As it was told, else as it usually is."""
        return self.settings.get(name) or USUAL_BINDS.get(name, "")

    def events_address(self) -> str:
        """Where browsers listen: behind a proxy at the public address, else at the port itself."""
        if self.setting("DAKIKA_EVENTS_ADDRESS"):
            return self.setting("DAKIKA_EVENTS_ADDRESS")
        public, bind = urlsplit(self.setting("DAKIKA_PUBLIC_ADDRESS")), self.setting("DAKIKA_WEB_BIND")
        if public.port is not None and str(public.port) == bind.rpartition(":")[2]:
            return f"{public.scheme}://{public.hostname}:{self.setting('DAKIKA_EVENTS_BIND').rpartition(':')[2]}"
        return f"{public.scheme}://{public.netloc}"

    def environment(self) -> dict[str, str]:
        """Everything that the processes need to know."""
        own = {name: value for name, value in secrets_of_installation().items() if not self.settings.get(name)}
        database = postgres.connection(self.name) if self.has_own_database else {}
        return {
            **python_environment(), **self.settings, **own, **database,
            "PATH": f"{VENV / 'bin'}{os.pathsep}{os.environ['PATH']}",
            "PYTHONPATH": python_path(),
            "DJANGO_SETTINGS_MODULE": "dakika_server.config.settings",
            "DAKIKA_EVENTS_ADDRESS": self.events_address(),
            "DAKIKA_PRINT_ADDRESS": self.setting("DAKIKA_PRINT_ADDRESS") or from_within(self.setting("DAKIKA_WEB_BIND")),
            "DAKIKA_LINKS_FOLDER": self.setting("DAKIKA_LINKS_FOLDER") or str(STATE / f"links-{self.name}"),
            "DAKIKA_MEDIA_FOLDER": self.setting("DAKIKA_MEDIA_FOLDER") or str(STATE / f"media-{self.name}"),
            # One thread of arithmetic each: more than there are processors fight for them.
            "OMP_NUM_THREADS": "1",
            "OPENBLAS_NUM_THREADS": "1",
            **HEAPS,
        }  # fmt: skip

    def commands(self) -> dict[str, list[str]]:
        """What is run, in the order of starting."""
        links_host, _, links_port = self.setting("DAKIKA_LINKS_BIND").rpartition(":")
        events_host, _, events_port = self.setting("DAKIKA_EVENTS_BIND").rpartition(":")
        every = {
            "links": [str(PYTHON), "-m", "dakika_redirect", "--host", links_host.strip("[]"), "--port", links_port],
            "web": [
                str(VENV / "bin" / "gunicorn"), "dakika_server.config.wsgi", "--bind", self.setting("DAKIKA_WEB_BIND"),
                "--workers", self.settings.get("DAKIKA_WEB_PROCESSES") or "2",
                "--threads", self.settings.get("DAKIKA_WEB_THREADS") or "6",
                "--worker-class", "dakika_server.config.worker.Worker", "--timeout", "60", "--log-level", "warning",
                "--graceful-timeout", "20", "--keep-alive", KEPT_OPEN_SECONDS, "--no-control-socket",
            ],
            "events": [
                str(PYTHON), "-m", "dakika_server.notices.events", "--host", events_host.strip("[]"), "--port", events_port,
            ],
            "worker": [str(PYTHON), str(ROOT / "server" / "manage.py"), "work"],
        }  # fmt: skip
        return {name: command for name, command in every.items() if name in self.parts}

    def prepare(self) -> None:
        """The tables as this version wants them; data in place stay."""
        if self.has_own_database:
            postgres.ensure_database(self.name)
        state = self.database_state()
        if state and is_current(f"tables-{self.name}", wanted_tables(state)):
            return
        with step("Bringing the database up to date"):
            self.manage("migrate", "--no-input", advice="The tables could not be made; see the lines above.")
        mark_current(f"tables-{self.name}", wanted_tables(self.database_state()))

    def database_state(self) -> str:
        """Which database it is and how far it was brought: its own numbers, and what was migrated in it last.

        Nothing where it cannot be asked so, or was never migrated: one that was made anew under the same name, or
        restored, is not taken for the one before.
        """
        done = subprocess.run(
            ["psql", "-X", "-q", "-A", "-t", "-v", "ON_ERROR_STOP=1", "-c", _STATE], env=self.environment(),
            capture_output=True, text=True,
        )  # fmt: skip
        return done.stdout.strip() if done.returncode == 0 else ""

    def start_all(self) -> None:
        """Start each part, and wait until those that are asked answer."""
        for name in self.commands():
            self.start(name)
        for name, bind in (
            ("links", "DAKIKA_LINKS_BIND"),
            ("web", "DAKIKA_WEB_BIND"),
            ("events", "DAKIKA_EVENTS_BIND"),
        ):
            if name in self.processes:
                self.wait_for(f"{from_within(self.setting(bind))}/health", name)

    def watch(self) -> None:
        """Start again whatever dies, later each time in a row, until asked to end."""
        again: dict[str, float] = {}
        begun = dict.fromkeys(self.processes, time.monotonic())
        while True:
            time.sleep(1.0)
            for name, process in list(self.processes.items()):
                if process.poll() is None:
                    continue
                if name not in again:
                    if time.monotonic() - begun[name] > LASTED_SECONDS:
                        self.restarts.pop(name, None)
                    wait = min(LONGEST_RESTART_SECONDS, self.restarts.get(name, RESTART_AFTER_SECONDS / 2) * 2)
                    self.restarts[name] = wait
                    again[name] = time.monotonic() + wait
                    print(f"  {name} ended with {process.returncode}; it is started again in {wait:.0f} s.", flush=True)
                elif again[name] <= time.monotonic():
                    del again[name]
                    self.start(name)
                    begun[name] = time.monotonic()


def checked(environment: Mapping[str, str]) -> dict[str, str]:
    """Settings that can be. Raises StepError that names those that cannot, and those that are wanted."""
    settings = told(environment)
    ours = {name: value for name, value in settings.items() if name.startswith(("DAKIKA_", "PG"))}
    missing = [f"{name} is not set: {words}." for name, words in WANTED.items() if not ours.get(name)]
    done = subprocess.run(
        [str(PYTHON), "-m", "dakika_server.config.table", "--check", *sorted(ours)],
        env={**python_environment(), **ours, "PYTHONPATH": python_path()}, capture_output=True, text=True,
    )  # fmt: skip
    wrong = done.stderr.splitlines() if done.returncode else []
    if missing or wrong:
        where = settings.get("DAKIKA_SETTINGS_FILE") or FILE
        raise StepError(
            "\n".join([*missing, *wrong, f"Set it in the environment or in {where}; ./dakika settings lists all."])
        )
    return ours


@contextmanager
def _database(installation: Installation) -> Iterator[None]:
    with postgres.running() if installation.has_own_database else nullcontext():
        yield


def serve(parts: Sequence[str]) -> int:
    """Serve the parts, all where none are named, until SIGTERM or Ctrl-C. Raises StepError for a part that is none."""
    if unknown := [part for part in parts if part not in PARTS]:
        raise StepError(f"There is no part {unknown[0]}: {', '.join(PARTS)}.")
    print("Dakika")
    with serving() as place:
        ensure_packages()
        ensure_python(lock="run")
        settings = checked(os.environ)
        ensure_front_end()
        installation = Installation(settings=settings, parts=parts or PARTS)
        signal.signal(signal.SIGTERM, signal.default_int_handler)
        with _database(installation):
            try:
                installation.prepare()
                with step(f"Starting {', '.join(installation.commands())}"):
                    installation.start_all()
                place.tell(installation.setting("DAKIKA_PUBLIC_ADDRESS"))
                print(f"\n  Dakika is at {installation.setting('DAKIKA_PUBLIC_ADDRESS')}", flush=True)
                _tell_first(installation)
                print("  Ctrl-C stops.\n", flush=True)
                installation.watch()
            except KeyboardInterrupt:
                print("", flush=True)
            finally:
                with step("Stopping"):
                    installation.stop()
    return 0


def _tell_first(installation: Installation) -> None:
    """Where the first person begins: on the terminal alone, in no log."""
    done = subprocess.run(
        [str(PYTHON), str(ROOT / "server" / "manage.py"), "first_key"], env=installation.environment(),
        stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True,
    )  # fmt: skip
    if done.stdout:
        print(done.stdout.rstrip(), flush=True)


def let_in(arguments: Sequence[str]) -> int:
    """Let somebody in who lost their device or gets no mail. Raises StepError."""
    if len(arguments) != 1:
        raise StepError("Say whom, by the address that they sign in with:  ./dakika let-in NAME@EXAMPLE.ORG")
    ensure_python(lock="run")
    installation = Installation(settings=checked(os.environ))
    with _database(installation):
        command = [str(PYTHON), str(ROOT / "server" / "manage.py"), "let_in", arguments[0]]
        return subprocess.run(command, env=installation.environment(), stderr=subprocess.DEVNULL).returncode


def everything(what: str, arguments: Sequence[str]) -> int:
    """Give out or take out everything of a brand or a person. Raises StepError."""
    wanted = 3 if what == "export" else 2
    if len(arguments) != wanted or arguments[0] not in ("brand", "person"):
        file = " FILE" if what == "export" else ""
        raise StepError(f"./dakika {what} brand SLUG{file}   or   ./dakika {what} person NAME@EXAMPLE.ORG{file}")
    told = [*arguments[:2], *(str(Path(one).resolve()) for one in arguments[2:])]
    ensure_python(lock="run")
    installation = Installation(settings=checked(os.environ))
    with _database(installation):
        command = [str(PYTHON), str(ROOT / "server" / "manage.py"), "everything", what, *told]
        return subprocess.run(command, env=installation.environment()).returncode


def retain(arguments: Sequence[str]) -> int:
    """What would go of what is kept for a time alone; with --apply it goes now. Raises StepError."""
    if [*arguments] not in ([], ["--apply"]):
        raise StepError("./dakika retention  says what would go;  ./dakika retention --apply  lets it go now.")
    ensure_python(lock="run")
    installation = Installation(settings=checked(os.environ))
    with _database(installation):
        command = [str(PYTHON), str(ROOT / "server" / "manage.py"), "retention", *arguments]
        return subprocess.run(command, env=installation.environment(), stderr=subprocess.DEVNULL).returncode


def back_up_or_restore(what: str, arguments: Sequence[str]) -> int:
    """Write a backup while people work, or put one in place where nothing is served yet. Raises StepError."""
    if len(arguments) != 1:
        raise StepError(f"Say which file:  ./dakika {what} FILE")
    if what == "restore" and running_here():
        raise refusal()
    ensure_python(lock="run")
    installation = Installation(settings=checked(os.environ))
    with _database(installation):
        if installation.has_own_database:
            postgres.ensure_database(installation.name)
        environment = {**installation.environment(), "DAKIKA_KEYS_FILE": str(STATE / "secrets.json")}
        command = [str(PYTHON), "-m", "scripts.backup", what, arguments[0]]
        return subprocess.run(command, env=environment).returncode


def show_settings() -> int:
    """Print every setting as a table."""
    ensure_python(lock="run")
    return subprocess.run(
        [str(PYTHON), "-m", "dakika_server.config.table"], env={**python_environment(), "PYTHONPATH": python_path()}
    ).returncode
