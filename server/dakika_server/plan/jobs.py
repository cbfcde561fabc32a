"""Entry points of the worker for the plan."""

from collections.abc import Iterable
from datetime import timedelta

from dakika_core.plan.states import State
from procrastinate.contrib.django import app

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock

OVERDUE_AFTER = timedelta(seconds=20)


@app.task(queue="publish", name="plan.publish", priority=10)
@in_database
def publish(version_id: int) -> None:
    """Publish one version; when the network is away, the same again later."""
    from dakika_server.plan.publish import TryLater, publish_version

    try:
        publish_version(version_id)
    except TryLater as later:
        publish.configure(schedule_in={"seconds": int(later.seconds) + 1}).defer(version_id=version_id)


def _overdue() -> Iterable[int]:
    """What should have been published and was not, or is *publishing* and nobody is at it.

    Asking twice is harmless: a version is published once per idempotency key.
    """
    from dakika_server.plan.models import Version

    overdue = Version.objects.filter(planned_post__scheduled_at__lt=clock.now() - OVERDUE_AFTER)
    return overdue.filter(state__in=[State.SCHEDULED.value, State.PUBLISHING.value]).values_list("pk", flat=True)


# What of ours may wait, told to the net below the queue.
WAITING = (
    Waiting(
        task="plan.publish",
        argument="version_id",
        found=_overdue,
        ask=lambda pk: publish.defer(version_id=pk),
    ),
)
