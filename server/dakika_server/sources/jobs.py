"""Entry points of the worker for sources. Each can be run again without harm."""

from collections.abc import Callable, Iterable
from datetime import timedelta
from typing import Any

from dakika_core.sources.schedule import Due, fair_order
from django.db.models import Q
from procrastinate.contrib.django import app
from procrastinate.tasks import Task

from dakika_server.jobs.forgotten import Waiting
from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock
from dakika_server.sources.models import CollectionRun, Feed, Import, Profile

AGAIN_WHEN_FULL_SECONDS = 3
LOOK_AGAIN_SECONDS = 30
MOST_STARTED_PER_NETWORK = 40
# What was asked for this long ago and has no job by now has lost it.
FORGOTTEN_AFTER = timedelta(seconds=20)


@app.task(queue="collect", name="sources.collect_profile")
@in_database
def collect_profile(run_id: int) -> None:
    """Carry on one run for a turn; one that is over is left alone."""
    from dakika_server.sources.collect import collect
    from dakika_server.sources.collect.slots import only_one, place_at

    run = (
        CollectionRun.objects.select_related("profile__brand", "profile__credential", "profile__competitor")
        .filter(pk=run_id, ended_at__isnull=True)
        .first()
    )
    if run is None:
        return
    with only_one(run_id) as is_ours:
        if not is_ours:
            # Whoever is at it may be dying: it is looked at again. Two who ask end with the run.
            collect_profile.configure(schedule_in={"seconds": LOOK_AGAIN_SECONDS}).defer(run_id=run_id)
            return
        with place_at(run.profile.network) as has_place:
            seconds = collect(run) if has_place else float(AGAIN_WHEN_FULL_SECONDS)
    if seconds is not None:
        collect_profile.configure(schedule_in={"seconds": int(seconds)}).defer(run_id=run_id)


@app.periodic(cron="* * * * * */20")
@app.task(queue="upkeep", name="sources.collect_due", queueing_lock="sources.collect_due")
@in_database
def collect_due(timestamp: int) -> None:
    """Ask for a run of every profile that is due, turn and turn about between brands."""
    from dakika_server.networks.definitions import all_networks
    from dakika_server.sources.actions import request_run

    del timestamp
    now = clock.now()
    waiting = (
        Profile.objects.filter(is_followed=True, network__in=list(all_networks()))
        .filter(Q(next_run_at__lte=now) | Q(next_run_at__isnull=True, kind=Profile.Kind.COMPETITOR))
        .exclude(external_id__startswith="file:")
    )
    due = [
        Due(profile=pk, brand=brand, network=network, due_at=at or now)
        for pk, brand, network, at in waiting.values_list("pk", "brand_id", "network", "next_run_at")
    ]
    for one in fair_order(due, most_per_network=MOST_STARTED_PER_NETWORK):
        request_run(Profile.objects.get(pk=one.profile))


@app.task(queue="files", name="sources.read_file")
@in_database
def read_file(import_id: int) -> None:
    """Bring a file's rows in, from where it stopped."""
    from dakika_server.sources.files.reading import read_into

    read_into(import_id)


@app.task(queue="files", name="sources.look_into_file")
@in_database
def look_into_file(import_id: int) -> None:
    """Look into a workbook or an archive that somebody uploaded."""
    from dakika_server.sources.files.looking import look_into

    look_into(import_id)


@app.task(queue="measure", name="sources.rebuild_profile")
@in_database
def rebuild_profile(profile_id: int) -> None:
    """Work out anew what follows from a profile's rows."""
    from dakika_server.sources.rebuilding import rebuild

    rebuild(profile_id)


@app.task(queue="files", name="sources.undo_file")
@in_database
def undo_file(import_id: int) -> None:
    """Take out again what a file brought."""
    from dakika_server.sources.files.undoing import take_out

    take_out(import_id)


@app.task(queue="files", name="sources.erase_profile")
@in_database
def erase_profile(profile_id: int) -> None:
    """Erase a profile that somebody disconnected, with everything that was collected."""
    from dakika_server.sources.erase import erase

    erase(profile_id)


@app.task(queue="feeds", name="sources.fetch_feed", queueing_lock=None)
@in_database
def fetch_feed(feed_id: int) -> None:
    """Fetch one feed."""
    from dakika_server.sources.feeds import fetch_items

    fetch_items(feed_id)


@app.periodic(cron="*/5 * * * *")
@app.task(queue="upkeep", name="sources.feeds_due", queueing_lock="sources.feeds_due")
@in_database
def feeds_due(timestamp: int) -> None:
    """Fetch the feeds that are due."""
    del timestamp
    due = Feed.objects.filter(is_followed=True, next_at__lte=clock.now()).order_by("next_at")
    for pk in due.values_list("pk", flat=True)[:200]:
        fetch_feed.defer(feed_id=pk)


def _open_runs() -> Iterable[int]:
    before = clock.now() - FORGOTTEN_AFTER
    open_runs = CollectionRun.objects.filter(state__in=["waiting", "running"], asked_at__lt=before)
    return open_runs.filter(Q(resume_at__lt=before) | Q(resume_at__isnull=True)).values_list("pk", flat=True)


def _files(state: Import.State) -> Callable[[], Iterable[int]]:
    return lambda: Import.objects.filter(state=state).values_list("pk", flat=True)


def _ask_for_file(job: Task[..., Any, Any]) -> Callable[[int], object]:
    from dakika_server.sources.files.confirming import lane_of

    def ask(pk: int) -> None:
        job.configure(queue=lane_of(Import.objects.get(pk=pk))).defer(import_id=pk)

    return ask


def _waiting_profiles() -> Iterable[int]:
    from dakika_server.sources.rebuilding import waiting_profiles

    return waiting_profiles()


# What of ours may wait, told to the net below the queue.
WAITING = (
    Waiting(
        task="sources.collect_profile",
        argument="run_id",
        found=_open_runs,
        ask=lambda pk: collect_profile.defer(run_id=pk),
    ),
    Waiting(
        task="sources.rebuild_profile",
        argument="profile_id",
        found=_waiting_profiles,
        ask=lambda pk: rebuild_profile.defer(profile_id=pk),
    ),
    Waiting(
        task="sources.look_into_file",
        argument="import_id",
        found=_files(Import.State.LOOKING),
        ask=lambda pk: look_into_file.defer(import_id=pk),
    ),
    Waiting(
        task="sources.read_file",
        argument="import_id",
        found=_files(Import.State.RUNNING),
        ask=_ask_for_file(read_file),
    ),
    Waiting(
        task="sources.undo_file",
        argument="import_id",
        found=_files(Import.State.UNDOING),
        ask=_ask_for_file(undo_file),
    ),
)
