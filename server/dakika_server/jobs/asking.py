"""Asking for a job by its name: who asks need not know the code that will run."""

from datetime import datetime
from typing import Any

from procrastinate.contrib.django import app


def ask(task: str, *, queue: str | None = None, schedule_at: datetime | None = None, **arguments: Any) -> None:
    """Ask for a job, in the asker's transaction: it is asked for if that is kept, and only then.

    queue, schedule_at: another queue than the task's own, and not before an instant. Raises KeyError for a task that
    there is not.
    """
    configured: dict[str, Any] = {}
    if queue is not None:
        configured["queue"] = queue
    if schedule_at is not None:
        configured["schedule_at"] = schedule_at
    app.tasks[task].configure(**configured).defer(**arguments)
