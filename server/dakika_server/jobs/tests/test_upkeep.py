"""Promise: a job whose worker died is taken up again, one that kills its workers is given up, and connections are not kept."""

import asyncio
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.jobs.jobs import MOST_ATTEMPTS, take_up_stalled
from dakika_server.jobs.management.commands.work import worker_app
from dakika_server.jobs.tasks import in_database

pytestmark = pytest.mark.django_db(transaction=True)
QUIET = timedelta(seconds=21)


def held(*, silent_for: timedelta, attempts: int = 1) -> int:
    """A job that some worker took, and since when nothing was heard of that worker. Returns the job's number."""
    job = app.configure_task("tests.long_work", allow_unknown=True).defer()
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO procrastinate_workers (last_heartbeat) VALUES (now() - %s) RETURNING id", [silent_for]
        )
        worker = cursor.fetchone()[0]
        cursor.execute(
            "UPDATE procrastinate_jobs SET status = 'doing', worker_id = %s, attempts = %s WHERE id = %s",
            [worker, attempts, job],
        )
    return job


def look_after() -> None:
    """The periodic job, run as the worker runs it."""

    async def run() -> None:
        async with worker_app() as running:
            context: Any = type("Context", (), {"app": running})()
            await take_up_stalled.func(context, 0)

    asyncio.run(run())


def test_a_dead_workers_job_waits_for_another_and_a_living_ones_is_left_alone() -> None:
    dead, living = held(silent_for=QUIET), held(silent_for=timedelta(seconds=3))
    look_after()
    states = dict(ProcrastinateJob.objects.filter(pk__in=[dead, living]).values_list("pk", "status"))
    assert states == {dead: "todo", living: "doing"}
    look_after()
    assert ProcrastinateJob.objects.get(pk=dead).attempts == 2  # counted once, since it waits now


def test_a_job_that_ends_its_workers_again_and_again_is_given_up_and_kept_to_be_looked_at() -> None:
    poison, other = held(silent_for=QUIET, attempts=MOST_ATTEMPTS), held(silent_for=QUIET, attempts=MOST_ATTEMPTS - 1)
    look_after()
    states = dict(ProcrastinateJob.objects.filter(pk__in=[poison, other]).values_list("pk", "status"))
    assert states == {poison: "failed", other: "todo"}


def test_no_connection_is_left_behind_whatever_becomes_of_a_job(monkeypatch: pytest.MonkeyPatch) -> None:
    said: list[str] = []
    monkeypatch.setattr("dakika_server.jobs.tasks.close_old_connections", lambda: said.append("closed"))

    @in_database
    def fails(word: str) -> None:
        """What it does."""
        said.append(word)
        raise LookupError(word)

    with pytest.raises(LookupError):
        fails("worked")
    assert said == ["closed", "worked", "closed"]
    assert fails.__doc__ == "What it does."


def test_what_a_job_asks_for_stands_in_its_transaction_or_not_at_all() -> None:
    """Under the worker's own connection: a row and its job are seen by others together."""
    from django.db import connections, transaction

    seen: list[int] = []

    def of_others() -> int:
        """How many such jobs somebody else sees now."""
        other = connections.create_connection("default")
        try:
            with other.cursor() as cursor:
                cursor.execute("SELECT count(*) FROM procrastinate_jobs WHERE task_name = 'tests.follows'")
                return int(cursor.fetchone()[0])
        finally:
            other.close()

    @app.task(queue="tests", name="tests.asks")
    @in_database
    def asks(is_broken: bool) -> None:
        try:
            with transaction.atomic():
                app.configure_task("tests.follows", allow_unknown=True, queue="later").defer()
                seen.append(of_others())
                if is_broken:
                    raise ZeroDivisionError
        finally:
            connection.close()  # this thread's own

    async def work() -> None:
        async with worker_app() as running:
            await running.run_worker_async(queues=["tests"], wait=False, install_signal_handlers=False)

    asks.defer(is_broken=True)
    asyncio.run(work())
    assert (seen, of_others()) == ([0], 0)
    asks.defer(is_broken=False)
    asyncio.run(work())
    assert (seen, of_others()) == ([0, 0], 1)
