"""Promise: the worker outlives PostgreSQL: when that is back, jobs are taken again, and a signal still ends it in order."""

import os
import signal
import subprocess
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest
from clicks.cluster import Cluster, own_cluster
from waiting import until

from scripts.paths import PYTHON, ROOT


@pytest.fixture
def cluster(transactional_db: Any) -> Iterator[Cluster]:
    with own_cluster() as made:
        yield made


def asked(database: dict[str, str]) -> int:
    """How many jobs the worker deferred by itself so far, done or not: the periodic ones come every few seconds."""
    told = {"host": "PGHOST", "port": "PGPORT", "user": "PGUSER", "password": "PGPASSWORD", "dbname": "PGDATABASE"}
    with psycopg.connect(**{key: database[name] for key, name in told.items()}) as found:
        row = found.execute("SELECT last_value FROM procrastinate_jobs_id_seq").fetchone()
        busy = found.execute("SELECT count(*) FROM procrastinate_jobs WHERE status = 'todo'").fetchone()
    assert row
    assert busy
    return int(row[0]) - int(busy[0])


def test_jobs_are_taken_again_after_the_database_was_away(cluster: Cluster, tmp_path: Path) -> None:
    database = cluster.database("postgres")
    log = tmp_path / "worker.log"
    with log.open("wb") as out:
        worker = subprocess.Popen(
            [str(PYTHON), str(ROOT / "server" / "manage.py"), "work"], env=os.environ | database, stdout=out, stderr=out
        )
    try:
        before = until(lambda: (found := asked(database)) > 1 and found)
        cluster.stop()
        # It noticed, and begins again by itself.
        until(lambda: "begins again" in log.read_text() or worker.poll() is not None)
        assert worker.poll() is None, log.read_text()[-3000:]
        cluster.start()
        until(lambda: asked(database) > before + 3)
        worker.send_signal(signal.SIGTERM)
        assert worker.wait(timeout=60) == 0
    finally:
        if worker.poll() is None:
            worker.kill()
            worker.wait()
