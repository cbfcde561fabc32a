"""Entry points of the worker for the plan."""

from datetime import timedelta

from dakika_core.plan.states import State
from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock

OVERDUE_AFTER = timedelta(seconds=45)


@app.task(queue="publish", name="plan.publish", priority=10)
@in_database
def publish(version_id: int) -> None:
    """Publish one version; when the network is away, the same again later."""
    from dakika_server.plan.publish import TryLater, publish_version

    try:
        publish_version(version_id)
    except TryLater as later:
        publish.configure(schedule_in={"seconds": int(later.seconds) + 1}).defer(version_id=version_id)


@app.periodic(cron="* * * * *")
@app.task(queue="publish", name="plan.sweep", queueing_lock="plan.sweep")
@in_database
def sweep(timestamp: int) -> None:
    """Whatever should have been published and was not, though no job says why: asked for again.

    A second line behind the queue's own: asking twice is harmless, since a version is published
    once per idempotency key.
    """
    from dakika_server.plan.models import Version

    del timestamp
    overdue = Version.objects.filter(
        state=State.SCHEDULED.value, planned_post__scheduled_at__lt=clock.now() - OVERDUE_AFTER
    )
    for pk in overdue.values_list("pk", flat=True):
        publish.defer(version_id=pk)
