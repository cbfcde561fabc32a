"""The web server's worker: a request takes a thread only once it is there whole, and errors are problem documents.

gunicorn's threads read heads and bodies themselves, so that a few dozen requests sent by halves stop
everybody. Here the loop, which waits for all connections at once, gathers a request first; what does
not come in time is answered with 408 and costs nobody a thread. Files of people are too large to be
gathered: few of them are read at once, and each must keep coming.

In the trade's words: slowloris, request timeout, load shedding.
"""

import json
import re
import time
from collections import deque
from contextlib import suppress
from dataclasses import dataclass
from functools import partial
from http import HTTPStatus
from selectors import EVENT_READ
from typing import Any

from gunicorn import util  # type: ignore[import-untyped]
from gunicorn.http.errors import LimitRequestHeaders, LimitRequestLine  # type: ignore[import-untyped]
from gunicorn.workers.gthread import TConn, ThreadWorker  # type: ignore[import-untyped]

# Seconds for a head; for a body so many beside those that its length takes at the least rate.
HEAD_SECONDS, BODY_SECONDS, LEAST_RATE = 10.0, 10.0, 16 * 1024
LARGEST_HEAD = 64 * 1024
# Bodies up to this are gathered; larger ones are files: so many are read at once, and none may pause for so long.
LARGEST_GATHERED = 3 * 1024 * 1024
MOST_FILES_AT_ONCE, LONGEST_PAUSE = 2, 10.0
# What all connections of a process may have gathered together.
MOST_GATHERED = 64 * 1024 * 1024
PIECE = 64 * 1024
_LENGTH = re.compile(rb"^content-length:[ \t]*(\d{1,15})[ \t]*\r?$", re.IGNORECASE | re.MULTILINE)
_STREAMED = re.compile(rb"^(transfer-encoding|expect|upgrade):", re.IGNORECASE | re.MULTILINE)
_SAID = {
    HTTPStatus.REQUEST_TIMEOUT: "What you sent did not come to its end in time. Try again.",
    HTTPStatus.REQUEST_URI_TOO_LONG: "The address is longer than any of ours.",
    HTTPStatus.REQUEST_HEADER_FIELDS_TOO_LARGE: "The request's head is longer than is taken.",
    HTTPStatus.SERVICE_UNAVAILABLE: "Too much is being sent at once. Try again in a few seconds.",
    HTTPStatus.BAD_REQUEST: "This request cannot be understood.",
    HTTPStatus.INTERNAL_SERVER_ERROR: "Something went wrong on our side, and was noted. Try again, or tell us.",
}


@dataclass(kw_only=True)
class _Gathered:
    """What came of a request so far, and until when the rest may take."""

    got: bytearray
    until: float
    has_length: bool = False


class Worker(ThreadWorker):  # type: ignore[misc]
    """gunicorn's threads behind a loop that gathers."""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self._gathering: dict[TConn, _Gathered] = {}
        self._files: deque[TConn] = deque()
        self._reading = 0

    # -- gathering, in the loop

    def enqueue_req(self, conn: TConn) -> None:
        """Called for every connection that may have a request: begins to gather it."""
        got = bytearray(conn.parser.unreader.take_buffered()) if conn.initialized else bytearray()
        self._gather(conn, _Gathered(got=got, until=time.monotonic() + HEAD_SECONDS))

    def _gather(self, conn: TConn, held: _Gathered) -> None:
        """Take what is there without waiting; go on when there is more."""
        conn.sock.setblocking(False)
        try:
            while not (ready := _is_whole(held.got)):
                piece = conn.sock.recv(PIECE)
                if not piece:
                    self._drop(conn)
                    return
                held.got += piece
        except (BlockingIOError, InterruptedError):
            self._wait(conn, held)
        except OSError:
            self._drop(conn)
        else:
            self._take(conn, held.got, is_file=ready == "file")

    def _wait(self, conn: TConn, held: _Gathered) -> None:
        if sum(len(other.got) for other in self._gathering.values()) + len(held.got) > MOST_GATHERED:
            self._refuse(conn, HTTPStatus.SERVICE_UNAVAILABLE)
            return
        head = held.got.find(b"\r\n\r\n")
        if head >= 0 and not held.has_length:
            held.until = time.monotonic() + BODY_SECONDS + _length_of(held.got[: head + 2]) / LEAST_RATE
            held.has_length = True
        self._gathering[conn] = held
        self.poller.register(conn.sock, EVENT_READ, partial(self._more, conn))

    def _more(self, conn: TConn, _: Any) -> None:
        self.poller.unregister(conn.sock)
        self._gather(conn, self._gathering.pop(conn))

    def _take(self, conn: TConn, got: bytearray, *, is_file: bool) -> None:
        conn.init()
        conn.data_ready = True
        conn.parser.unreader.unread(bytes(got))
        conn.is_file = is_file
        if is_file and self._reading >= MOST_FILES_AT_ONCE:
            self._files.append(conn)
            return
        self._reading += is_file
        super().enqueue_req(conn)

    def finish_request(self, conn: TConn, fs: Any) -> None:
        """A thread is free again: the next file may be read."""
        if getattr(conn, "is_file", False):
            conn.is_file = False
            self._reading -= 1
            if self._files:
                self._reading += 1
                super().enqueue_req(self._files.popleft())
        super().finish_request(conn, fs)

    def murder_pending(self) -> None:
        """Once a second: whoever did not send in time is told so. Who ends waits for nobody who sent nothing.

        Who ends also lets go of where it listens: whoever comes now is refused at once, by the system, and does not
        wait for an answer that nobody will give.
        """
        super().murder_pending()
        if not self.alive:
            for listener in self.sockets:
                listener.close()
        now = time.monotonic()
        for conn, held in list(self._gathering.items()):
            if held.until < now or not (self.alive or held.got):
                self.poller.unregister(conn.sock)
                del self._gathering[conn]
                if held.got:
                    self._refuse(conn, HTTPStatus.REQUEST_TIMEOUT)
                else:
                    self._drop(conn)

    def _refuse(self, conn: TConn, status: HTTPStatus) -> None:
        _answer(conn.sock, status)
        self._drop(conn)

    def _drop(self, conn: TConn) -> None:
        self.nr_conns -= 1
        conn.close()

    # -- in a thread

    def handle_request(self, req: Any, conn: TConn) -> Any:
        """A file must keep coming: a pause ends it."""
        conn.sock.settimeout(LONGEST_PAUSE if getattr(conn, "is_file", False) else None)
        return super().handle_request(req, conn)

    def handle_error(self, req: Any, client: Any, addr: Any, exc: Exception) -> None:
        """What gunicorn itself refuses, as a problem document."""
        status = HTTPStatus.BAD_REQUEST
        if isinstance(exc, LimitRequestLine):
            status = HTTPStatus.REQUEST_URI_TOO_LONG
        elif isinstance(exc, LimitRequestHeaders):
            status = HTTPStatus.REQUEST_HEADER_FIELDS_TOO_LARGE
        elif not type(exc).__module__.startswith("gunicorn."):
            self.log.error("a request could not be answered", exc_info=exc)
            status = HTTPStatus.INTERNAL_SERVER_ERROR
        _answer(client, status)


def _is_whole(got: bytearray) -> str:
    """Nothing while more is wanted; "whole"; or "file" for what is not gathered."""
    head = got.find(b"\r\n\r\n")
    if head < 0:
        # Too long a head is handed over as it is: it is refused there by its rule.
        return "whole" if len(got) > LARGEST_HEAD else ""
    if _STREAMED.search(got, 0, head + 2):
        return "file"
    length = _length_of(got[: head + 2])
    if length > LARGEST_GATHERED:
        return "file"
    return "whole" if len(got) >= head + 4 + length else ""


def _length_of(head: bytes | bytearray) -> int:
    found = _LENGTH.search(head)
    return int(found[1]) if found else 0


def _answer(sock: Any, status: HTTPStatus) -> None:
    """A whole answer, and the end of the connection. What cannot be sent at once is not waited for."""
    kind = status.phrase.lower().replace(" ", "_").replace("-", "_")
    body = json.dumps(
        {"type": f"urn:dakika:problem:{kind}", "title": status.phrase, "status": int(status), "detail": _SAID[status]}
    ).encode()
    head = (
        f"HTTP/1.1 {int(status)} {status.phrase}\r\nConnection: close\r\nContent-Type: application/problem+json\r\n"
        f"Content-Length: {len(body)}\r\n\r\n"
    )
    with suppress(OSError):  # nobody may be there any more
        util.write_nonblock(sock, head.encode() + body)
