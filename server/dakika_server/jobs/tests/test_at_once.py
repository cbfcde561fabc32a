"""Promise: what must not wait does not wait for what may, however slow that is and however small the machine."""

import asyncio
import os
import threading

import pytest
from procrastinate.contrib.django import app

from dakika_server.jobs.management.commands.work import take_all, worker_app
from dakika_server.jobs.tasks import in_database

pytestmark = pytest.mark.django_db(transaction=True)


def test_slow_networks_hold_their_own_places_and_nobody_elses(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(os, "cpu_count", lambda: 1)
    may_end, is_sent, began = threading.Event(), threading.Event(), threading.Semaphore(0)

    @app.task(queue="tests.slow", name="tests.hangs")
    @in_database
    def hangs() -> None:
        began.release()
        may_end.wait(60)

    @app.task(queue="tests.now", name="tests.is_sent")
    @in_database
    def sends() -> None:
        is_sent.set()

    places = {("tests.slow",): 12, ("tests.now",): 1}
    for _ in range(20):
        hangs.defer()

    async def work() -> None:
        stop = asyncio.Event()
        async with worker_app() as running:
            worker = asyncio.ensure_future(take_all(running, places, stop))
            for _ in range(12):
                assert await asyncio.to_thread(began.acquire, timeout=20)
            await running.configure_task(sends.name, queue="tests.now", allow_unknown=True).defer_async()
            try:
                assert await asyncio.to_thread(is_sent.wait, 20)
                # Nor do the slow ones take more places than are theirs.
                assert not began.acquire(blocking=False)
            finally:
                may_end.set()
                stop.set()
                await asyncio.wait_for(worker, 30)

    asyncio.run(work())
