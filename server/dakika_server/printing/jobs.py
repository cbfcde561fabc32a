"""Entry points of the worker for printing."""

from collections.abc import Iterable

from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database


@app.task(queue="render", name="printing.print_one")
@in_database
def print_one(page_id: int) -> None:
    """Print a page somebody asked for."""
    from dakika_server.printing.actions import make

    make(page_id)


@app.periodic(cron="41 * * * *")
@app.task(queue="upkeep", name="printing.forget_old", queueing_lock="printing.forget_old")
@in_database
def forget_hourly(timestamp: int) -> None:
    """Pages whose day is over."""
    from dakika_server.printing.actions import forget_old

    del timestamp
    forget_old()


def _unfinished() -> Iterable[int]:
    from dakika_server.printing.actions import UNFINISHED
    from dakika_server.printing.models import PrintedPage

    return PrintedPage.objects.filter(state__in=UNFINISHED).values_list("pk", flat=True)


# What of ours may wait, told to the net below the queue.
WAITING = (
    Waiting(
        task="printing.print_one",
        argument="page_id",
        found=_unfinished,
        ask=lambda page: print_one.defer(page_id=page),
    ),
)
