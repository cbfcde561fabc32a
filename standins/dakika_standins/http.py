"""What the networks' applications share: faults, rate limits, who is asking."""

import asyncio
import random
import time
from collections.abc import Awaitable, Callable
from typing import Any

from starlette.requests import Request
from starlette.responses import Response

from dakika_standins.state import State

CALLS_PER_MINUTE = 600


def state_of(request: Request) -> State:
    """The one state of the process."""
    state: State = request.app.state.world
    return state


def bearer(request: Request) -> str:
    """The access token of a request, or nothing."""
    kind, _, token = request.headers.get("authorization", "").partition(" ")
    return token if kind.lower() == "bearer" else ""


def wait_before_next(request: Request, network: str) -> tuple[int, float]:
    """Calls left in this minute, and seconds to wait when there are none."""
    state = state_of(request)
    limit = int(state.fault(network, "calls_per_minute")) or CALLS_PER_MINUTE
    now = time.monotonic()
    who = bearer(request) or request.headers.get("x-app-id", "") or "nobody"
    calls = state.calls.setdefault(f"{network}:{who}", [])
    calls[:] = [at for at in calls if at > now - 60]
    if len(calls) >= limit:
        return 0, max(1.0, calls[0] + 60 - now)
    calls.append(now)
    return limit - len(calls), 0.0


async def with_faults(network: str, request: Request, answer: Callable[[], Awaitable[Response]]) -> Response:
    """Answer, unless a fault that is switched on gets in the way."""
    state = state_of(request)
    slow = state.fault(network, "slow")
    if slow:
        await asyncio.sleep(slow)
    if random.random() < state.fault(network, "error500"):
        return Response("upstream unavailable", status_code=500)
    if random.random() < state.fault(network, "cut"):
        return _CutResponse()
    return await answer()


class _CutResponse(Response):
    """Promises more bytes than it sends, then hangs up."""

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        headers = [(b"content-length", b"5000"), (b"content-type", b"application/json")]
        await send({"type": "http.response.start", "status": 200, "headers": headers})
        await send({"type": "http.response.body", "body": b'{"data": [', "more_body": False})
