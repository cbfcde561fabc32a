"""manage.py work: the worker."""

import asyncio
from typing import Any

from django.core.management.base import BaseCommand
from procrastinate.contrib.django import app


class Command(BaseCommand):
    """Take jobs from the queue until told to stop."""

    help = "Run the worker: collection, publishing, upkeep."

    def add_arguments(self, parser: Any) -> None:
        """How many jobs at a time."""
        parser.add_argument("--concurrency", type=int, default=4)

    def handle(self, *args: Any, **options: Any) -> None:
        """Until SIGTERM or SIGINT; running jobs are finished first."""
        asyncio.run(self._work(options["concurrency"]))

    async def _work(self, concurrency: int) -> None:
        from procrastinate.contrib.django.django_connector import DjangoConnector

        connector = app.connector
        assert isinstance(connector, DjangoConnector)
        with app.replace_connector(connector.get_worker_connector()) as worker_app:
            async with worker_app.open_async():
                await worker_app.run_worker_async(
                    concurrency=concurrency,
                    fetch_job_polling_interval=1.0,
                    update_heartbeat_interval=5.0,
                    stalled_worker_timeout=20.0,
                    shutdown_graceful_timeout=20.0,
                    delete_jobs="successful",
                )
