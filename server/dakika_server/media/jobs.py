"""Entry points of the worker for files of people."""

from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database


@app.task(queue="files", name="media.check_one")
@in_database
def check_one(asset_id: int) -> None:
    """Look into a file that somebody brought."""
    from dakika_server.media.checking import check

    check(asset_id)


@app.periodic(cron="20 4 * * * 0")
@app.task(queue="upkeep", name="media.take_away_nobodys", queueing_lock="media.take_away_nobodys")
@in_database
def sweep_storage(timestamp: int) -> None:
    """Files that no row tells of."""
    from dakika_server.media.checking import take_away_nobodys
    from dakika_server.media.uploads import forget_unfinished

    del timestamp
    forget_unfinished()
    take_away_nobodys()


def _checking() -> list[int]:
    from dakika_server.media.models import Asset

    return list(Asset.objects.filter(state=Asset.State.CHECKING).values_list("pk", flat=True))


# What of ours may wait, told to the net below the queue.
WAITING = (
    Waiting(
        task="media.check_one", argument="asset_id", found=_checking, ask=lambda asset: check_one.defer(asset_id=asset)
    ),
)
