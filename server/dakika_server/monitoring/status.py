"""How an installation stands, part by part, in words: what a watcher reads as names, and admins as a screen."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import timedelta

from django.db import DatabaseError, transaction

from dakika_server.monitoring.gauges import free_bytes, samples, total
from dakika_server.shared.hooks import Registry

# A worker says every few seconds that it lives; what was to be done and is not begun for so long stands in a jam.
WORKER_SILENT_SECONDS, JAM_SECONDS = 120.0, 1800.0
LEAST_FREE_BYTES, LITTLE_FREE_BYTES = 500 * 1000 * 1000, 5 * 1000 * 1000 * 1000


@dataclass(frozen=True, kw_only=True)
class Standing:
    """How a part stands: well or not, in a sentence, and what to do where it does not.

    is_down: it does not do its work, so that nobody should be sent here; without that it wants looking at.
    """

    told: str
    is_well: bool = True
    is_down: bool = False
    advice: str = ""


@dataclass(frozen=True, kw_only=True)
class Part:
    """A part of an installation: its name for people, and a look at it that costs little."""

    words: str
    look: Callable[[], Standing]


def _database() -> Standing:
    size, open_ = total("dakika_database_bytes"), total("dakika_database_connections")
    return Standing(told=f"{in_bytes(size)}, {open_:.0f} connections open.")


def _worker() -> Standing:
    silent = samples("dakika_worker_silent_seconds")
    if not silent:
        return Standing(told="None runs.", is_well=False, is_down=True,
                        advice="Start it: ./dakika serve worker. Nothing is published without it.")  # fmt: skip
    seconds = silent[0][1]
    if seconds > WORKER_SILENT_SECONDS:
        return Standing(told=f"Silent for {for_how_long(seconds)}.", is_well=False, is_down=True,
                        advice="Its log says why it ended; ./dakika serve starts it again by itself.")  # fmt: skip
    return Standing(told=f"Said {for_how_long(seconds)} ago that it lives.")


def _queue() -> Standing:
    jobs, oldest = total("dakika_queue_jobs"), samples("dakika_queue_oldest_seconds")
    failed = total("dakika_queue_failed_jobs")
    more = f" {failed:.0f} failed within a day." if failed else ""
    if not jobs:
        return Standing(told=f"Nothing waits.{more}", is_well=not failed, advice=_FAILED if failed else "")
    (queue,), seconds = max(oldest, key=lambda one: one[1])
    told = f"{jobs:.0f} jobs wait, the oldest for {for_how_long(seconds)} ({queue}).{more}"
    if seconds > JAM_SECONDS:
        return Standing(told=told, is_well=False, is_down=True,
                        advice=f"More places: DAKIKA_WORKER_PLACES, or a worker of its own for {queue}.")  # fmt: skip
    return Standing(told=told, is_well=not failed, advice=_FAILED if failed else "")


_FAILED = "The worker's log has the job's number and why."


def _disk() -> Standing:
    free = free_bytes()
    if free < LEAST_FREE_BYTES:
        return Standing(told=f"{in_bytes(free)} left.", is_well=False, is_down=True,
                        advice="Make room, or move files and journals: DAKIKA_MEDIA_FOLDER, DAKIKA_STATE.")  # fmt: skip
    return Standing(told=f"{in_bytes(free)} left.", is_well=free >= LITTLE_FREE_BYTES,
                    advice="" if free >= LITTLE_FREE_BYTES else "It will be full before long.")  # fmt: skip


PARTS: Registry[Part] = Registry(
    "parts of an installation",
    {
        "database": Part(words="Database", look=_database), "worker": Part(words="Worker", look=_worker),
        "queue": Part(words="Queue", look=_queue), "disk": Part(words="Disk", look=_disk),
    },
)  # fmt: skip


def look_at(names: Sequence[str] | None = None) -> list[tuple[str, Part, Standing]]:
    """All parts, or some, as they stand. A part that cannot be looked at does not stand well."""
    found = []
    for name in names or [*PARTS]:
        try:
            with transaction.atomic():
                standing = PARTS[name].look()
        except DatabaseError as error:
            standing = Standing(told="It does not answer.", is_well=False, is_down=name == "database",
                                advice=str(error).partition("\n")[0])  # fmt: skip
        except OSError as error:
            standing = Standing(told=f"It cannot be read: {error.strerror}.", is_well=False)
        found.append((name, PARTS[name], standing))
    return found


def in_bytes(count: float) -> str:
    """So many bytes, for people."""
    for unit in ("bytes", "kB", "MB", "GB"):
        if count < 1000:
            return f"{count:.0f} {unit}" if count >= 10 or unit == "bytes" else f"{count:.1f} {unit}"
        count /= 1000
    return f"{count:.1f} TB"


def for_how_long(seconds: float) -> str:
    """A span, for people."""
    span = timedelta(seconds=max(0.0, seconds))
    if span < timedelta(minutes=2):
        return f"{span.seconds} s"
    if span < timedelta(hours=2):
        return f"{span.seconds // 60} min"
    return f"{span.total_seconds() / 3600:.0f} h" if span < timedelta(days=2) else f"{span.days} days"
