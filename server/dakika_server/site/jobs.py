"""Entry points of the worker for site."""

from collections.abc import Iterable

from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database

# Where another worker seems to be at it: it may have died, and its job would then be nobody's.
LOOK_AGAIN_SECONDS = 30


# The alias is its name of before: what was asked for then is still done.
@app.task(queue="files", name="site.read_access_log", aliases=["links.read_access_log"])
@in_database
def read_access_log(log_id: int) -> None:
    """An access log that somebody brought in."""
    from dakika_server.site.actions.logs import read_uploaded

    if not read_uploaded(log_id):
        read_access_log.configure(schedule_in={"seconds": LOOK_AGAIN_SECONDS}).defer(log_id=log_id)


def _unread_logs() -> Iterable[int]:
    from dakika_server.site.models import AccessLog

    return AccessLog.objects.filter(state__in=["waiting", "reading"]).values_list("pk", flat=True)


# What of ours may wait, told to the net below the queue.
WAITING = (
    Waiting(
        task="site.read_access_log",
        argument="log_id",
        found=_unread_logs,
        ask=lambda pk: read_access_log.defer(log_id=pk),
    ),
)
