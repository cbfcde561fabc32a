"""Promise: under steady load PostgreSQL is cut off and redirects are killed, and every answered click is counted once."""

import threading
import time
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import psycopg
import pytest
from waiting import until

from clicks.cluster import Cluster, own_cluster
from clicks.processes import Processes

CLIENTS = 4
SEED = """
INSERT INTO brands_brand (id, name, slug, time_zone, first_weekday, picture) VALUES (1, 'Orrery House', 'o', 'Europe/Lisbon', 0, '');
INSERT INTO links_trackedlink (id, brand_id, code, name, destination, target, utm, network, is_paused, keeps_query, created_at)
VALUES (1, 1, 'open', 'x', 'https://orrery.example/', 'https://orrery.example/', '{}', '', false, true, now());
"""


@pytest.fixture
def cluster(transactional_db: Any) -> Iterator[Cluster]:
    with own_cluster() as made:
        yield made


@pytest.fixture
def processes(cluster: Cluster, tmp_path: Path) -> Iterator[Processes]:
    made = Processes(folder=tmp_path / "links", database=cluster.database("postgres"))
    try:
        yield made
    finally:
        made.stop()


def rows(cluster: Cluster, query: str) -> list[tuple[Any, ...]]:
    with psycopg.connect(
        " ".join(f"{k[2:].lower().replace('database', 'dbname')}={v}" for k, v in cluster.database("postgres").items())
    ) as opened:
        return opened.execute(query).fetchall()


class Load:
    """Visitors who come all the time; what they were answered is remembered by the click's key."""

    def __init__(self, processes: Processes) -> None:
        self.answered: list[str] = []
        self.statuses: Counter[int | str] = Counter()
        self._over = threading.Event()
        self._threads = [threading.Thread(target=self._come, args=(processes,)) for _ in range(CLIENTS)]
        for thread in self._threads:
            thread.start()

    def _come(self, processes: Processes) -> None:
        while not self._over.is_set():
            try:
                status, head, _ = processes.ask("/open")
            except OSError:
                self.statuses["refused"] += 1
                time.sleep(0.02)
                continue
            self.statuses[status] += 1
            if status == 302:
                self.answered.append(head["location"].rpartition("dk=")[2])
            time.sleep(0.005)

    def more(self, count: int) -> None:
        """Wait until so many more were answered."""
        wanted = len(self.answered) + count
        until(lambda: len(self.answered) >= wanted)

    def end(self) -> None:
        self._over.set()
        for thread in self._threads:
            thread.join()


def test_nothing_is_lost_and_nothing_counted_twice(cluster: Cluster, processes: Processes) -> None:
    with psycopg.connect(
        " ".join(f"{k[2:].lower().replace('database', 'dbname')}={v}" for k, v in cluster.database("postgres").items())
    ) as opened:
        opened.execute(SEED)
    first, second = processes.start(), processes.start(wait=False)
    following: set[int] = set()

    def both_follow() -> bool:
        told = processes.health()
        if told and told["follows"]:
            following.add(told["process"])
        return following == {first.pid, second.pid}

    until(both_follow, 60)
    load = Load(processes)
    load.more(100)
    cluster.stop()
    load.more(100)  # it keeps answering
    while_away = len(load.answered)
    processes.kill(first)
    third = processes.start(wait=False)  # it starts without a database, from the copy of last time
    load.more(100)
    processes.kill(second)
    until(lambda: (told := processes.health()) and not told["follows"])  # nobody answers for a moment
    load.more(100)
    assert len(load.answered) > while_away + 50  # it kept answering
    cluster.start()
    load.more(100)
    cluster.stop()  # and away again, in the middle of taking in
    load.more(50)
    fourth = processes.start(wait=False)
    cluster.start()
    processes.kill(third)
    load.more(50)
    processes.kill(fourth)
    processes.start()
    load.more(50)
    load.end()
    assert set(load.statuses) <= {302, "refused"}, load.statuses
    assert len(load.answered) == len(set(load.answered)) > 300
    wanted = set(load.answered)
    until(lambda: wanted <= {key.hex for (key,) in rows(cluster, "SELECT key FROM links_click")}, 60)
    counted = rows(cluster, "SELECT count(*), count(DISTINCT key) FROM links_click")[0]
    assert counted[0] == counted[1]
    assert rows(cluster, "SELECT sum(people + bots) FROM links_clickhour WHERE link_id = 0")[0][0] == counted[0]
    # Whoever was cut off before the answer may be counted too, once: at most those that were refused.
    assert counted[0] - len(wanted) <= load.statuses["refused"]
    assert not list(processes.folder.glob("*.damaged"))
