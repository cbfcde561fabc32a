"""Visitors behind a known number of proxies: their address is the one that the outermost of these heard."""

from collections.abc import Awaitable, Callable
from typing import Any

from dakika_core.values.hops import by_hops

Application = Callable[[Any, Any, Any], Awaitable[None]]


def behind(application: Application, hops: int) -> Application:
    """The same application (ASGI), told of visitors by hops."""

    async def answer(scope: Any, receive: Any, send: Any) -> None:
        if scope["type"] == "http":
            told, port = scope.get("client") or ("", 0)
            forwarded = b",".join(value for name, value in scope["headers"] if name == b"x-forwarded-for")
            scope["client"] = (by_hops(told, forwarded.decode("latin-1"), hops), port)
        await application(scope, receive, send)

    return answer
