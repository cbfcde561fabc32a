"""Each job of the worker: its number in every line it writes, and its time among the metrics."""

import logging
import time
from collections.abc import Callable
from typing import Any

from procrastinate.exceptions import JobAborted
from structlog.contextvars import bound_contextvars

from dakika_server.monitoring.errors import tell_of
from dakika_server.monitoring.metrics import ERRORS, JOBS

log = logging.getLogger("dakika.job")


def note_job(call_next: Callable[[], Any], context: Any, worker: Any) -> Any:
    """A middleware of the queue's: around every job, in its own thread."""
    del worker
    task, begun = context.task.name if context.task else "none", time.monotonic()
    with bound_contextvars(job=context.job.id, **_brand_of(context.job.task_kwargs)):
        outcome = "failed"
        try:
            result = call_next()
            outcome = "done"
        except JobAborted:
            outcome = "put off"
            raise
        except Exception as error:
            ERRORS.labels("worker").inc()
            tell_of(error)
            raise
        finally:
            seconds = time.monotonic() - begun
            JOBS.labels(task, outcome).observe(seconds)
            told = {"task": task, "outcome": outcome, "ms": round(seconds * 1000), "attempt": context.job.attempts + 1}
            log.info("job", extra=told)
    return result


def _brand_of(arguments: dict[str, Any]) -> dict[str, Any]:
    return {"brand": arguments["brand_id"]} if "brand_id" in arguments else {}
