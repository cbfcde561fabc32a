"""Promise: whoever watches is told by name what fails, and anybody who asks learns no more than that."""

from collections import namedtuple
from typing import Any

import pytest
from django.db import DatabaseError, connection
from django.test import Client

from dakika_server.monitoring import gauges

pytestmark = pytest.mark.django_db
Usage = namedtuple("Usage", "total used free")


def alive(seconds_ago: int = 1) -> None:
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - make_interval(secs => %s))",
            [seconds_ago],
        )


def job(seconds_ago: int, status: str = "todo") -> None:
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO procrastinate_jobs (queue_name, task_name, status, scheduled_at) VALUES ('upkeep', 'x', %s, "
            "now() - make_interval(secs => %s))",
            [status, seconds_ago],
        )


def asked() -> tuple[int, dict[str, Any]]:
    answer = Client().get("/ready")
    return answer.status_code, answer.json()


def test_all_is_well_while_a_worker_lives_and_nothing_waits_for_long() -> None:
    alive()
    job(60)
    assert asked() == (200, {"ok": True, "failing": []})


def test_what_fails_is_told_by_name(monkeypatch: pytest.MonkeyPatch) -> None:
    assert asked() == (503, {"ok": False, "failing": ["worker"]})
    alive(600)
    job(3600)
    assert asked()[1]["failing"] == ["worker", "queue"]
    alive()
    monkeypatch.setattr(gauges, "disk_usage", lambda _: Usage(1, 1, 10))
    assert asked()[1]["failing"] == ["queue", "disk"]


def test_what_is_to_come_later_is_no_jam() -> None:
    alive()
    job(-86_400)
    job(86_400, "doing")
    assert asked()[0] == 200


def test_without_a_database_it_says_so(monkeypatch: pytest.MonkeyPatch) -> None:
    def away(sql: str) -> Any:
        raise DatabaseError(f"no answer to {sql}")

    monkeypatch.setattr(gauges, "rows", away)
    assert asked() == (503, {"ok": False, "failing": ["database"]})
