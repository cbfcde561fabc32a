"""Nothing that was asked for is forgotten: whatever waits, and has no job that will come to it, is asked for again.

A net below the queue's own, which takes up the jobs of dead workers: it also finds what has no job left at all.
Each area says what of its own may wait. Asking twice must be harmless.

In the trade's words: reconciliation, lost jobs.
"""

import logging
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import timedelta

from django.db.models import Q
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.shared import clock
from dakika_server.shared.hooks import Registry

log = logging.getLogger(__name__)
# A job that is to begin later than this is none that what waits now can count on.
SOON = timedelta(minutes=15)
MOST_FAILED = 5


@dataclass(frozen=True, kw_only=True)
class Waiting:
    """What an area waits for: the task's name, the argument that names the thing, those that wait, how to ask again."""

    task: str
    argument: str
    found: Callable[[], Iterable[int]]
    ask: Callable[[int], object]


# By the name of the task.
WAITING: Registry[Waiting] = Registry("what waits for a job")


def add_waiting(told: Iterable[Waiting]) -> None:
    """What an area tells of its own, when the application starts."""
    for waiting in told:
        WAITING.add(waiting.task, waiting)


def take_up_forgotten() -> int:
    """Ask again for what waits without a job; returns how many. What failed again and again is left, and told."""
    return sum(_take_up(waiting) for waiting in WAITING.values())


def _take_up(waiting: Waiting) -> int:
    found = set(waiting.found())
    if not found:
        return 0
    argument = f"args__{waiting.argument}"
    jobs = ProcrastinateJob.objects.filter(task_name=waiting.task, **{f"{argument}__in": list(found)})
    is_coming = Q(status="doing") | Q(status="todo") & (
        Q(scheduled_at__isnull=True) | Q(scheduled_at__lt=clock.now() + SOON)
    )
    found -= set(jobs.filter(is_coming).values_list(argument, flat=True))
    failed = list(jobs.filter(status="failed").values_list(argument, flat=True))
    asked = 0
    for number in sorted(found):
        if failed.count(number) >= MOST_FAILED:
            log.error("%s of %s failed %s times and is not asked for again", waiting.task, number, MOST_FAILED)
            continue
        log.warning("%s of %s waits without a job and is asked for again", waiting.task, number)
        waiting.ask(number)
        asked += 1
    return asked
