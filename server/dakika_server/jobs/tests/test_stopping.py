"""Promise: a worker that is told to end ends, also when the database is away just then and its queues end by errors."""

import asyncio
from typing import Any

import pytest

from dakika_server.jobs.management.commands import work


class Queue:
    """Stands for procrastinate's application: it runs until cancelled, and then ends as it is told."""

    def __init__(self, end: BaseException | None) -> None:
        self.end, self.begun, self.is_on = end, 0, asyncio.Event()

    async def run_worker_async(self, **_: Any) -> None:
        self.begun += 1
        self.is_on.set()
        try:
            await asyncio.sleep(600)
        except asyncio.CancelledError:
            if self.end is None:
                return
            raise self.end from None


@pytest.mark.parametrize("end", [None, ConnectionError("the connection is closed"), asyncio.CancelledError()])
def test_however_a_queue_ends_when_it_is_cancelled_it_does_not_begin_again(end: BaseException | None) -> None:
    queue = Queue(end)

    async def run() -> None:
        stop = asyncio.Event()
        taker = asyncio.ensure_future(work._take(queue, ["files"], 1, stop))  # type: ignore[arg-type]
        await queue.is_on.wait()
        stop.set()
        taker.cancel()
        await asyncio.wait_for(asyncio.gather(taker, return_exceptions=True), 5)

    asyncio.run(run())
    assert queue.begun == 1


def test_told_to_end_while_it_waits_for_the_database_it_does_not_wait_on(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(work, "AGAIN_SECONDS", 600.0)

    class Away:
        begun, is_on = 0, asyncio.Event()

        async def run_worker_async(self, **_: Any) -> None:
            self.begun += 1
            self.is_on.set()
            raise ConnectionError("no server")

    queue = Away()

    async def run() -> None:
        stop = asyncio.Event()
        taker = asyncio.ensure_future(work._take(queue, ["files"], 1, stop))  # type: ignore[arg-type]
        await queue.is_on.wait()
        stop.set()
        await asyncio.wait_for(taker, 5)

    asyncio.run(run())
    assert queue.begun == 1
