"""Entry points of the worker for the demo."""

from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database


@app.task(queue="bulk", name="demo.fill")
@in_database
def fill_demo(brand_id: int) -> None:
    """Fill a demo with its half-year."""
    from dakika_server.demo.beside import fill

    fill(brand_id)


@app.task(queue="bulk", name="demo.erase")
@in_database
def erase_demo(brand_id: int) -> None:
    """Erase a demo that was taken away."""
    from dakika_server.demo.beside import erase

    erase(brand_id)


@app.periodic(cron="40 4 * * * 0")
@app.task(queue="upkeep", name="demo.take_away_old", queueing_lock="demo.take_away_old")
@in_database
def take_away_old_demos(timestamp: int) -> None:
    """A demo is over after a month."""
    from dakika_server.demo.beside import take_away_old
    from dakika_server.shared import clock

    del timestamp
    take_away_old(clock.now())


def _in(state: str) -> list[int]:
    from dakika_server.demo.models import DemoBrand

    return list(DemoBrand.objects.filter(state=state).values_list("pk", flat=True))


WAITING = (
    Waiting(task="demo.fill", argument="brand_id", found=lambda: _in("waiting"),
            ask=lambda pk: fill_demo.defer(brand_id=pk)),
    Waiting(task="demo.erase", argument="brand_id", found=lambda: _in("going"),
            ask=lambda pk: erase_demo.defer(brand_id=pk)),
)  # fmt: skip
