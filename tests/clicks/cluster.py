"""A PostgreSQL of a test's own, that may be stopped in the middle."""

import os
import shutil
import subprocess
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from django.db import connection

from scripts import postgres
from scripts.ports import take_port


class Cluster:
    """A cluster in a folder that the postgres user can reach, holding the schema of the tests' database."""

    def __init__(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="dakika-fault-", dir="/var/tmp"))
        self.folder.chmod(0o755)
        postgres.create_cluster(self.folder / "pg")
        self.port = take_port(54500, f"cluster {id(self)}")

    def database(self, name: str) -> dict[str, str]:
        return postgres.connection(name) | {"PGPORT": str(self.port)}

    def start(self) -> None:
        self._control("start", "-o", f"-p {self.port}", "-l", str(self.folder / "pg" / "server.log"))

    def stop(self, how: str = "immediate") -> None:
        """`immediate` is what a power cut leaves: no connection is closed in order, nothing is written out."""
        self._control("stop", "-m", how)

    def copy_schema(self, settings: dict[str, Any]) -> None:
        """The tables, functions and triggers of another database."""
        other = {"PGHOST": settings["HOST"], "PGPORT": str(settings["PORT"]), "PGUSER": settings["USER"],
                 "PGPASSWORD": settings["PASSWORD"]}  # fmt: skip
        dump = subprocess.run(
            [postgres.programs() / "pg_dump", "-s", settings["NAME"]],
            env=os.environ | other,
            capture_output=True,
            check=True,
        )
        subprocess.run(
            ["psql", "-q", "-v", "ON_ERROR_STOP=1"], env=os.environ | self.database("postgres"), input=dump.stdout, check=True,
            stdout=subprocess.DEVNULL,
        )  # fmt: skip

    def remove(self) -> None:
        subprocess.run(
            [*postgres.as_postgres(), *self._command("stop", "-m", "immediate")], cwd="/", capture_output=True
        )
        shutil.rmtree(self.folder, ignore_errors=True)

    def _command(self, *arguments: str) -> list[str]:
        return [str(postgres.programs() / "pg_ctl"), "-D", str(self.folder / "pg"), "-w", *arguments]

    def _control(self, *arguments: str) -> None:
        subprocess.run(
            [*postgres.as_postgres(), *self._command(*arguments)], cwd="/", check=True, stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )  # fmt: skip


@contextmanager
def own_cluster() -> Iterator[Cluster]:
    """One that runs, with the tables of the tests' database; gone afterwards."""
    made = Cluster()
    try:
        made.start()
        made.copy_schema(connection.settings_dict)
        yield made
    finally:
        made.remove()
