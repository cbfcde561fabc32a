"""A mail server that catches everything: no letter leaves the machine, and each can be read on a page."""

import asyncio
import html
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import UTC, datetime
from email import message_from_bytes, policy
from typing import Any

from aiosmtpd.smtp import SMTP, Envelope, Session
from starlette.requests import Request
from starlette.responses import HTMLResponse, JSONResponse, Response
from starlette.routing import Route

LARGEST = 5 * 1024 * 1024
MOST_KEPT = 500


class Catcher:
    """Takes letters as a mail server does (RFC 5321), and keeps the newest.

    refusals: what the next letters are answered with instead, "550 5.1.1 No such person" for one; "drop" breaks off
    before the answer.
    """

    def __init__(self) -> None:
        self.letters: list[dict[str, Any]] = []
        self.refusals: list[str] = []

    async def handle_DATA(self, server: SMTP, session: Session, envelope: Envelope) -> str:  # noqa: N802 (aiosmtpd's)
        """A letter was sent."""
        del session
        answer = self.refusals.pop(0) if self.refusals else ""
        if answer and answer != "drop":
            return answer
        content = envelope.content if isinstance(envelope.content, bytes) else str(envelope.content or "").encode()
        message = message_from_bytes(content, policy=policy.default)
        body = message.get_body(("plain",))
        self.letters.append({
            "at": datetime.now(tz=UTC).isoformat(), "from": envelope.mail_from, "to": envelope.rcpt_tos,
            "subject": str(message["subject"]), "id": str(message["message-id"]),
            "text": body.get_content() if body else "",
        })  # fmt: skip
        del self.letters[:-MOST_KEPT]
        if answer == "drop" and server.transport is not None:
            server.transport.abort()
        return "250 2.0.0 Kept"


@asynccontextmanager
async def catching(catcher: Catcher, port: int) -> AsyncIterator[None]:
    """Catch on a port of loopback; on none where the port is 0."""
    if not port:
        yield
        return
    loop = asyncio.get_running_loop()
    server = await loop.create_server(
        lambda: SMTP(catcher, data_size_limit=LARGEST, hostname="mail.example", loop=loop), "127.0.0.1", port
    )
    try:
        yield
    finally:
        server.close()


async def page(request: Request) -> Response:
    """All letters, the newest first, for people."""
    catcher: Catcher = request.app.state.mail
    letters = "".join(
        f"<article><h2>{html.escape(one['subject'])}</h2><p>{html.escape(', '.join(one['to']))}, "
        f"{html.escape(one['at'][:16].replace('T', ' '))} UTC</p><pre>{html.escape(one['text'])}</pre></article>"
        for one in reversed(catcher.letters)
    )
    style = "body{font:15px/1.5 sans-serif;max-width:44rem;margin:2rem auto;padding:0 1rem}pre{white-space:pre-wrap}"
    return HTMLResponse(
        f"<!doctype html><html lang=en><meta charset=utf-8><title>Letters</title><style>{style}</style>"
        f"<h1>Letters that the demo sent</h1>{letters or '<p>None yet.</p>'}</html>"
    )


async def letters(request: Request) -> Response:
    """All letters, for tests."""
    return JSONResponse(request.app.state.mail.letters)


async def refuse(request: Request) -> Response:
    """What the next letters are answered with."""
    request.app.state.mail.refusals += [str(one) for one in await request.json()][:20]
    return JSONResponse({})


def mail_routes() -> list[Route]:
    """The page of letters, and the hand on them."""
    return [
        Route("/mail", page), Route("/control/mail", letters),
        Route("/control/mail/refuse", refuse, methods=["POST"]),
    ]  # fmt: skip
