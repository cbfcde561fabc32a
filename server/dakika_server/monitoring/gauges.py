"""What is measured when somebody asks: each area says its own, by a name of OpenMetrics, in one cheap question."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path
from shutil import disk_usage

from django.conf import settings
from django.db import connection

from dakika_server.shared.hooks import Registry

Sample = tuple[tuple[str, ...], float]
_QUEUES = """
SELECT queue_name, count(*), COALESCE(EXTRACT(epoch FROM now() - min(due)), 0)
FROM (SELECT queue_name, COALESCE(scheduled_at,
        (SELECT min(at) FROM procrastinate_events e WHERE e.job_id = j.id), now()) AS due
      FROM procrastinate_jobs j WHERE status = 'todo' AND (scheduled_at IS NULL OR scheduled_at <= now())) waiting
GROUP BY queue_name ORDER BY queue_name
"""
_FAILED = """
SELECT queue_name, count(*) FROM procrastinate_jobs j WHERE status = 'failed' AND EXISTS (
    SELECT 1 FROM procrastinate_events e WHERE e.job_id = j.id AND e.at > now() - interval '1 day')
GROUP BY queue_name ORDER BY queue_name
"""
_SILENT = "SELECT EXTRACT(epoch FROM now() - max(last_heartbeat)) FROM procrastinate_workers"


@dataclass(frozen=True, kw_only=True)
class Gauge:
    """A number that goes up and down. words: what it is; labels: names of what it is told apart by."""

    words: str
    read: Callable[[], Iterable[Sample]]
    labels: Sequence[str] = ()


def rows(sql: str) -> list[tuple[object, ...]]:
    """What the database answers to a question of ours."""
    with connection.cursor() as cursor:
        cursor.execute(sql)
        found: list[tuple[object, ...]] = cursor.fetchall()
    return found


def _by_name(sql: str, column: int = 1) -> list[Sample]:
    return [((str(row[0]),), float(str(row[column]))) for row in rows(sql)]


def _one(sql: str) -> list[Sample]:
    (value,) = rows(sql)[0]
    return [] if value is None else [((), float(str(value)))]


def free_bytes() -> int:
    """Room on the disk that people's files are on."""
    folder = Path(str(settings.STORAGES["media"]["OPTIONS"].get("location", "/")))
    while not folder.exists():
        folder = folder.parent
    return disk_usage(folder).free


GAUGES: Registry[Gauge] = Registry(
    "what is measured",
    {
        "dakika_queue_jobs": Gauge(
            words="Jobs that are due and not begun", labels=("queue",), read=lambda: _by_name(_QUEUES)
        ),
        "dakika_queue_oldest_seconds": Gauge(
            words="For how long the oldest of them waits", labels=("queue",), read=lambda: _by_name(_QUEUES, 2)
        ),
        "dakika_queue_failed_jobs": Gauge(
            words="Jobs that failed within a day", labels=("queue",), read=lambda: _by_name(_FAILED)
        ),
        "dakika_worker_silent_seconds": Gauge(
            words="Since when no worker said that it lives", read=lambda: _one(_SILENT)
        ),
        "dakika_database_bytes": Gauge(
            words="Size of the database", read=lambda: _one("SELECT pg_database_size(current_database())")
        ),
        "dakika_database_connections": Gauge(
            words="Connections to the database",
            read=lambda: _one("SELECT count(*) FROM pg_stat_activity WHERE datname = current_database()"),
        ),
        "dakika_disk_free_bytes": Gauge(
            words="Room left on the disk of files", read=lambda: [((), float(free_bytes()))]
        ),
    },
)


def samples(name: str) -> list[Sample]:
    """What a gauge tells now."""
    return list(GAUGES[name].read())


def total(name: str) -> float:
    """All of a gauge together."""
    return sum(value for _, value in samples(name))
