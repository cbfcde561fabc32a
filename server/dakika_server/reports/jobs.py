"""Entry points of the worker for reports."""

from collections.abc import Iterable

from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", name="reports.sweep", queueing_lock="reports.sweep")
@in_database
def sweep_deliveries(timestamp: int) -> None:
    """Reports that are due."""
    from dakika_server.reports.deliveries import sweep
    from dakika_server.shared import clock

    del timestamp
    sweep(clock.now())


@app.task(queue="render", name="reports.deliver")
@in_database
def deliver_run(run_id: int) -> None:
    """Make a report's letters."""
    from dakika_server.reports.deliveries import deliver

    deliver(run_id)


def _unfinished() -> Iterable[int]:
    from dakika_server.reports.models import DeliveryRun

    return DeliveryRun.objects.filter(state=DeliveryRun.State.WAITING).values_list("pk", flat=True)


# What of ours may wait, told to the net below the queue.
WAITING = (
    Waiting(
        task="reports.deliver", argument="run_id", found=_unfinished, ask=lambda run: deliver_run.defer(run_id=run)
    ),
)


@app.periodic(cron="52 5 * * *")
@app.task(queue="upkeep", name="reports.forget", queueing_lock="reports.forget")
@in_database
def forget(timestamp: int) -> None:
    """Reports that were taken away long ago."""
    from dakika_server.reports.keeping import forget_reports

    del timestamp
    forget_reports()
