"""manage.py work: the worker.

In the trade's words: job runner, graceful shutdown, thread pool.
"""

import asyncio
import logging
from collections.abc import AsyncIterator, Mapping
from concurrent.futures import ThreadPoolExecutor
from contextlib import asynccontextmanager, suppress
from signal import SIGINT, SIGTERM
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand
from procrastinate import App
from procrastinate.connector import BaseConnector
from procrastinate.contrib.django import app
from procrastinate.contrib.django.django_connector import DjangoConnector
from procrastinate.contrib.django.utils import connector_params
from procrastinate.psycopg_connector import PsycopgConnector

from dakika_server.jobs.places import places
from dakika_server.jobs.tasks import AROUND_JOBS

log = logging.getLogger(__name__)
AGAIN_SECONDS = 3.0
# Beside the jobs: names of hosts are looked up in threads too.
SPARE_THREADS = 4


class Command(BaseCommand):
    """Take jobs from the queue until told to stop."""

    help = "Run the worker: collection, publishing, files, upkeep."

    def handle(self, *args: Any, **options: Any) -> None:
        """Until SIGTERM or SIGINT; running jobs are finished first."""
        asyncio.run(self._work())

    async def _work(self) -> None:
        stop = asyncio.Event()
        for signal in (SIGTERM, SIGINT):
            asyncio.get_running_loop().add_signal_handler(signal, stop.set)
        async with worker_app() as running:
            await take_all(running, places(settings.WORKER_PLACES, only=settings.WORKER_ONLY), stop)


async def take_all(running: App, places: Mapping[tuple[str, ...], int], stop: asyncio.Event) -> None:
    """Take jobs of all queues, each with its places, until told to stop."""
    # asyncio's own threads are four more than there are processors: on a small machine slow collections would hold
    # them all, and what is published at its minute would wait for one, whatever its places.
    threads = ThreadPoolExecutor(sum(places.values()) + SPARE_THREADS, thread_name_prefix="job")
    asyncio.get_running_loop().set_default_executor(threads)
    takers = [asyncio.ensure_future(_take(running, list(queues), count, stop)) for queues, count in places.items()]
    await stop.wait()
    # Each finishes what it is at.
    for taker in takers:
        taker.cancel()
    await asyncio.gather(*takers, return_exceptions=True)


class WorkerConnector(PsycopgConnector):
    """The worker's connections. It takes jobs over a pool of its own; what a job asks for goes over Django's.

    So a job that is asked for stands in the transaction of whoever asks, or not at all, in the worker as in the web.
    (Jobs are plain functions and ask in the plain way; what is awaited is the worker's own business.)
    """

    def get_sync_connector(self) -> BaseConnector:
        """Django's connection of the thread that asks."""
        connector: BaseConnector = DjangoConnector()
        return connector


@asynccontextmanager
async def worker_app() -> AsyncIterator[App]:
    """The application of the tasks, on the worker's connections."""
    with app.replace_connector(WorkerConnector(kwargs=connector_params())) as replaced:
        async with replaced.open_async():
            yield replaced


async def _take(running: App, queues: list[str], count: int, stop: asyncio.Event) -> None:
    """Take jobs of some queues until cancelled. A database that is away ends nothing: it is tried again.

    Cancelled, it may end by an error of the database instead: then the event says that it is over.
    """
    while not stop.is_set():
        try:
            await running.run_worker_async(
                queues=queues, name="-".join(queues), concurrency=count, install_signal_handlers=False,
                fetch_job_polling_interval=1.0,
                task_middleware=[*AROUND_JOBS.values()], update_heartbeat_interval=5.0, stalled_worker_timeout=20.0,
                shutdown_graceful_timeout=20.0, delete_jobs="successful",
            )  # fmt: skip
        except Exception as error:  # noqa: BLE001 (whatever ended it, it begins again)
            log.error("%s: %s", "-".join(queues), str(error).partition("\n")[0])
        if not stop.is_set():
            log.error("%s: begins again in %.0f s", "-".join(queues), AGAIN_SECONDS)
            with suppress(TimeoutError):
                await asyncio.wait_for(stop.wait(), AGAIN_SECONDS)
