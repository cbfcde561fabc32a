"""Entry points of the worker for sources. Each can be run again without harm."""

from datetime import timedelta

from django.db.models import Exists, OuterRef
from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock
from dakika_server.sources.models import CollectionRun, Profile

COLLECT_EVERY = timedelta(hours=1)


@app.task(queue="collect", name="sources.collect_profile")
@in_database
def collect_profile(run_id: int) -> None:
    """Carry out one run; one that is over is left alone."""
    from dakika_server.sources.collect import collect

    run = CollectionRun.objects.select_related("profile__brand", "profile__credential").get(pk=run_id)
    if run.ended_at is None:
        collect(run)


@app.periodic(cron="*/10 * * * *")
@app.task(queue="collect", name="sources.collect_due", queueing_lock="sources.collect_due")
@in_database
def collect_due(timestamp: int) -> None:
    """Ask for a run of every profile whose last one is more than an hour old."""
    from dakika_server.sources.actions import request_run

    del timestamp
    recent = CollectionRun.objects.filter(profile=OuterRef("pk"), asked_at__gt=clock.now() - COLLECT_EVERY)
    due = Profile.objects.filter(~Exists(recent), is_followed=True).exclude(external_id__startswith="file:")
    for profile in due:
        request_run(profile)
