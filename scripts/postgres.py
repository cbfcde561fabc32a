"""Our own PostgreSQL cluster on loopback, shared by the commands that run at the same time."""

import fcntl
import os
import pwd
import secrets
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from scripts.paths import LOGS, ROOT, STATE
from scripts.ports import take_port
from scripts.steps import StepError, run, step
from scripts.system import postgres_bin

FIRST_PORT = 54330
USER = "dakika"
KEEPER = [sys.executable, "-m", "scripts.keeper"]
SETTINGS = """
listen_addresses = '127.0.0.1'
unix_socket_directories = ''
max_connections = 120
shared_buffers = 256MB
work_mem = 16MB
random_page_cost = 1.1
timezone = 'UTC'
log_timezone = 'UTC'
"""


def cluster_folder() -> Path:
    """Where the cluster lies: in the project, or, where the postgres user cannot reach that, in /var/tmp.

    In the project it is noted by its name alone, so that it moves with the project.
    """
    noted = STATE / "cluster"
    told = STATE / noted.read_text() if noted.exists() else None
    folder = STATE / "pg"
    if told and (told.exists() or not folder.exists()):
        return told
    if os.geteuid() == 0 and not reachable(STATE):
        folder = Path(tempfile.mkdtemp(prefix="dakika-pg-", dir="/var/tmp"))
        folder.chmod(0o755)
        folder = folder / "pg"
        print(f"  The project's folder is closed to the postgres user; the database lies in {folder}.")
        print("  Whoever removes the project removes that, too.")
    noted.write_text(str(folder.relative_to(STATE) if folder.is_relative_to(STATE) else folder))
    return folder


def reachable(folder: Path) -> bool:
    """Whether the postgres user may walk into the folder."""
    return subprocess.run([*as_postgres(), "test", "-x", str(folder)], cwd="/").returncode == 0


def as_postgres() -> list[str]:
    """Prefix that leaves root behind: the server refuses to run as root."""
    if os.geteuid() != 0:
        return []
    try:
        pwd.getpwnam("postgres")
    except KeyError:
        raise StepError("There is no user postgres. Install Debian's server:  apt-get install postgresql") from None
    return ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups"]


def programs() -> Path:
    """Folder of initdb, pg_ctl and the rest."""
    folder = postgres_bin()
    if folder is None:
        raise StepError("PostgreSQL's server is missing:  apt-get install postgresql")
    return folder


def password() -> str:
    """The cluster's password, made once and readable by us alone."""
    path = STATE / "pg.password"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(24))
    return path.read_text()


def create_cluster(folder: Path) -> None:
    """Run initdb with a fixed locale, so that sorting is the same everywhere."""
    folder.mkdir(parents=True, mode=0o700)
    handle, name = tempfile.mkstemp(dir=folder.parent)
    with os.fdopen(handle, "w") as file:
        file.write(password())
    if os.geteuid() == 0:
        shutil.chown(folder, "postgres", "postgres")
        shutil.chown(name, "postgres", "postgres")
    try:
        run(
            [*as_postgres(), programs() / "initdb", "-D", folder, "-U", USER, f"--pwfile={name}",
             "--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-instructions"],
            log="postgres", cwd=Path("/"), advice="The database cluster could not be made.",
        )  # fmt: skip
    finally:
        Path(name).unlink()
    with (folder / "postgresql.conf").open("a") as file:
        file.write(SETTINGS)


def is_ready(port: int) -> bool:
    """Whether a server answers there. pg_ctl's own status is wrong after a kill."""
    ask = [str(programs() / "pg_isready"), "-q", "-h", "127.0.0.1", "-p", str(port), "-U", USER]
    return subprocess.run(ask).returncode == 0


def connection(database: str) -> dict[str, str]:
    """Environment for a client of the cluster, by libpq's own names."""
    return {
        "PGHOST": "127.0.0.1",
        "PGPORT": (STATE / "pg.port").read_text(),
        "PGUSER": USER,
        "PGPASSWORD": password(),
        "PGDATABASE": database,
    }


def start() -> None:
    """Start the cluster unless it is running, stepping over ports in use."""
    folder = cluster_folder()
    noted = STATE / "pg.port"
    if noted.exists() and (folder / "postmaster.pid").exists() and is_ours_running(folder, int(noted.read_text())):
        return
    if not (folder / "PG_VERSION").exists():
        shutil.rmtree(folder, ignore_errors=True)
        create_cluster(folder)
    port = take_port(FIRST_PORT, "postgres")
    noted.write_text(str(port))
    LOGS.mkdir(parents=True, exist_ok=True)
    log = folder.parent / "postgres-server.log" if os.geteuid() != 0 else folder / "server.log"
    run(
        [*as_postgres(), programs() / "pg_ctl", "-D", folder, "-l", log, "-o", f"-p {port}", "-W", "start"],
        log="postgres", cwd=Path("/"), advice=f"PostgreSQL did not start; see {log}",
    )  # fmt: skip
    for _ in range(300):
        if is_ready(port):
            return
        time.sleep(0.1)
    raise StepError(f"PostgreSQL did not answer within 30 s; see {log}")


def identifier() -> str:
    """What PostgreSQL itself calls this cluster, wherever its folder stands."""
    return sql("SELECT system_identifier FROM pg_control_system()")


def is_ours_running(folder: Path, port: int) -> bool:
    """Whether the server that answers on the port is the one of this folder."""
    lines = (folder / "postmaster.pid").read_text().splitlines()
    return len(lines) > 3 and lines[3].strip() == str(port) and is_ready(port)


def stop() -> None:
    """Shut the cluster down, finishing what is being written; nothing where it is down."""
    if not (cluster_folder() / "postmaster.pid").exists():
        return
    run(
        [*as_postgres(), programs() / "pg_ctl", "-D", cluster_folder(), "-m", "fast", "stop"],
        log="postgres", cwd=Path("/"), advice="PostgreSQL did not stop cleanly.",
    )  # fmt: skip


@contextmanager
def running() -> Iterator[None]:
    """The cluster, up for as long as anybody holds it: the last one out stops it.

    Whoever is killed cannot: a keeper, a process of its own, waits until nobody holds it any more.
    """
    STATE.mkdir(parents=True, exist_ok=True)
    with (STATE / "pg.users").open("w") as users:
        with (STATE / "pg.starting").open("w") as gate:
            fcntl.flock(gate, fcntl.LOCK_EX)
            fcntl.flock(users, fcntl.LOCK_SH)
            with step("Starting PostgreSQL"):
                start()
            # It holds nobody's terminal or pipe.
            subprocess.Popen(
                KEEPER, cwd=ROOT, start_new_session=True,
                stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
            )  # fmt: skip
        try:
            yield
        finally:
            try:
                fcntl.flock(users, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError:
                # Others hold it; or the keeper was quicker, and this waits until it is down.
                fcntl.flock(users, fcntl.LOCK_SH)
            else:
                stop()


def sql(statement: str, database: str = "postgres") -> str:
    """Run one statement through psql and return what it prints."""
    done = subprocess.run(
        ["psql", "-X", "-q", "-A", "-t", "-v", "ON_ERROR_STOP=1", "-c", statement],
        env={**os.environ, **connection(database)}, capture_output=True, text=True,
    )  # fmt: skip
    if done.returncode != 0:
        raise StepError(done.stderr)
    return done.stdout.strip()


def ensure_database(name: str, *, copied_from: str = "") -> None:
    """A database of that name; a new copy of another one, which nobody may be using, if `copied_from`."""
    if copied_from:
        sql(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')
    if not sql(f"SELECT 1 FROM pg_database WHERE datname = '{name}'"):
        sql(f'CREATE DATABASE "{name}" TEMPLATE "{copied_from or "template0"}"')
