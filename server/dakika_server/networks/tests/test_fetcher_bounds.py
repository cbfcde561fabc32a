"""Promise: whatever a server sends, a fetch ends in time, in memory and in words; and never calls inside."""

import gzip
import socket
import threading
import time
from collections.abc import Callable, Iterator
from typing import Any

import pytest

from dakika_server.networks import fetcher
from dakika_server.networks.connectors.base import Unavailable
from dakika_server.networks.connectors.registry import address_of
from dakika_server.networks.fetcher import FetchError, fetch, is_public

Answer = Callable[[socket.socket], None]


@pytest.fixture
def serve(settings: Any) -> Iterator[Callable[[Answer], str]]:
    """A server that answers every call as it is told, in the place where the stand-ins are let through."""
    listener = socket.create_server(("127.0.0.1", 0))
    told: list[Answer] = []
    over = threading.Event()

    def run() -> None:
        while not over.is_set():
            try:
                caller, _ = listener.accept()
            except OSError:
                return
            with caller:
                try:
                    caller.recv(65536)
                    told[0](caller)
                except OSError:
                    continue

    thread = threading.Thread(target=run, daemon=True)

    def start(answer: Answer) -> str:
        told[:] = [answer]
        port = listener.getsockname()[1]
        settings.STANDINS_ADDRESS = f"http://127.0.0.1:{port}"
        if not thread.is_alive():
            thread.start()
        return f"http://127.0.0.1:{port}/"

    yield start
    over.set()
    listener.close()


def sends(head: str, body: bytes = b"") -> Answer:
    return lambda caller: caller.sendall(f"HTTP/1.1 {head}\r\nConnection: close\r\n\r\n".encode() + body)


def drips(data: bytes) -> Answer:
    def answer(caller: socket.socket) -> None:
        for byte in data * 40:
            caller.sendall(bytes([byte]))
            time.sleep(0.05)

    return answer


@pytest.mark.parametrize(
    "answer",
    [drips(b"HTTP/1.1 200 OK\r\nX-Slow: "), lambda c: (c.sendall(b"HTTP/1.1 200 OK\r\n\r\n"), drips(b"x")(c))[1]],
    ids=["headers", "body"],
)
def test_a_byte_now_and_then_does_not_hold_a_fetch(answer: Answer, serve: Any, monkeypatch: Any) -> None:
    monkeypatch.setattr(fetcher, "LONGEST_SECONDS", 0.6)
    with pytest.raises(FetchError, match="takes longer"):
        fetch(serve(answer))


@pytest.mark.parametrize("coding", ["gzip, gzip", "br", "gzip;q=1", "zstd", "compress"])
def test_stacked_and_unknown_codings_are_refused(coding: str, serve: Any) -> None:
    with pytest.raises(FetchError, match="packed in a way"):
        fetch(serve(sends(f"200 OK\r\nContent-Encoding: {coding}", b"x")))


def test_what_is_packed_is_bounded_as_it_is_unpacked(serve: Any) -> None:
    bomb = gzip.compress(b"0" * 60_000_000)
    with pytest.raises(FetchError, match="sends more than"):
        fetch(serve(sends("200 OK\r\nContent-Encoding: gzip", bomb)))
    packed = gzip.compress(b"a page" * 1000)
    assert fetch(serve(sends("200 OK\r\nContent-Encoding: gzip", packed))).content == b"a page" * 1000
    with pytest.raises(FetchError, match="broken"):
        fetch(serve(sends("200 OK\r\nContent-Encoding: gzip", b"not packed at all")))


@pytest.mark.parametrize("location", ["http:x", "http://[", "javascript:alert(1)", "//", "http://a b/", "\u00ff", ""])
def test_a_follow_up_to_nowhere_is_said(location: str, serve: Any) -> None:
    with pytest.raises(FetchError):
        fetch(serve(sends(f"302 Found\r\nLocation: {location}")))


@pytest.mark.parametrize(
    "address",
    ["::7f00:1", "::127.0.0.1", "64:ff9b:1::1", "64:ff9b:1::7f00:1", "fec0::1", "::", "::1", "::ffff:10.0.0.1"],
)
def test_addresses_of_the_inside_are_none_of_the_public(address: str) -> None:
    assert not is_public(address)


def test_only_where_the_stand_ins_run_is_an_address_inside_called(serve: Any, settings: Any) -> None:
    """The exception is for an address that the start command gives; an installation without a demo has none."""
    address = serve(sends("200 OK\r\nContent-Length: 2", b"ok"))
    assert fetch(address).content == b"ok"
    settings.STANDINS_ADDRESS = ""
    for inside in (address, "http://127.0.0.1:9000/"):
        with pytest.raises(FetchError, match="internal address"):
            fetch(inside)
    with pytest.raises(Unavailable, match="no stand-ins run here"):
        address_of("brevi")
    assert address_of("activitypub") == "", "an open protocol needs none"
