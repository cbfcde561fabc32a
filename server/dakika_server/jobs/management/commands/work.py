"""manage.py work: the worker."""

import asyncio
from typing import Any

from django.core.management.base import BaseCommand
from procrastinate import App
from procrastinate.contrib.django import app

# Publishing at the minute never waits behind a long collection or a large file: each has places of its own. Nor does
# a small file wait behind a large one, or behind the figures that are worked out from it.
PLACES = {("publish", "upkeep"): 3, ("collect", "feeds"): 6, ("files",): 2, ("measure",): 2, ("bulk",): 1}


class Command(BaseCommand):
    """Take jobs from the queue until told to stop."""

    help = "Run the worker: collection, publishing, files, upkeep."

    def handle(self, *args: Any, **options: Any) -> None:
        """Until SIGTERM or SIGINT; running jobs are finished first."""
        asyncio.run(self._work())

    async def _work(self) -> None:
        from procrastinate.contrib.django.django_connector import DjangoConnector

        connector = app.connector
        assert isinstance(connector, DjangoConnector)
        with app.replace_connector(connector.get_worker_connector()) as worker_app:
            async with worker_app.open_async():
                first, *others = [
                    asyncio.ensure_future(_take(worker_app, list(queues), places, is_first=i == 0))
                    for i, (queues, places) in enumerate(PLACES.items())
                ]
                await first
                # The first of them hears the signal; the others are told, and finish what they are at.
                for other in others:
                    other.cancel()
                await asyncio.gather(*others, return_exceptions=True)


async def _take(worker_app: App, queues: list[str], places: int, *, is_first: bool) -> None:
    await worker_app.run_worker_async(
        queues=queues,
        name="-".join(queues),
        concurrency=places,
        install_signal_handlers=is_first,
        fetch_job_polling_interval=1.0,
        update_heartbeat_interval=5.0,
        stalled_worker_timeout=20.0,
        shutdown_graceful_timeout=20.0,
        delete_jobs="successful",
    )
