"""Promise: networks are asked politely, errors come in our words, and only public addresses are ever called."""

import random
from datetime import UTC, datetime
from typing import Any

import httpx
import pytest

from dakika_server.networks.connectors.base import NotAuthorised, NotFound, Refused, Unavailable
from dakika_server.networks.connectors.client import NetworkClient
from dakika_server.networks.fetcher import FetchError, fetch, is_public


def client(*answers: httpx.Response | Exception) -> tuple[NetworkClient, list[float]]:
    """A client whose network gives these answers one after the other, and the waits it takes."""
    waits: list[float] = []
    made = NetworkClient("Commons", "http://x", sleep=waits.append)
    left = list(answers)

    def answer(request: httpx.Request) -> httpx.Response:
        found = left.pop(0)
        if isinstance(found, Exception):
            raise found
        return found

    made._client = httpx.Client(base_url="http://x", transport=httpx.MockTransport(answer))
    return made, waits


def test_it_tries_again_with_growing_waits() -> None:
    made, waits = client(httpx.Response(500), httpx.ConnectError("x"), httpx.Response(200, json={"ok": 1}))
    assert made.call("GET", "/") == {"ok": 1}
    assert made.requests == 3
    assert made.refused == 2
    assert 0.5 <= waits[0] <= 1.0 <= waits[1] <= 2.0


def test_retry_after_is_honoured_and_a_long_one_is_handed_on() -> None:
    made, waits = client(httpx.Response(429, headers={"Retry-After": "2"}), httpx.Response(200, json={}))
    made.call("GET", "/")
    assert waits == [2.0]
    made, waits = client(httpx.Response(503, headers={"Retry-After": "120"}))
    with pytest.raises(Unavailable) as told:
        made.call("GET", "/")
    assert told.value.wait_seconds == 120
    assert waits == []


@pytest.mark.parametrize(
    ("status", "error"), [(401, NotAuthorised), (404, NotFound), (410, NotFound), (403, Refused), (422, Refused)]
)
def test_errors_come_in_our_words(status: int, error: type[Exception]) -> None:
    made, _ = client(httpx.Response(status, json={"detail": "x"}))
    with pytest.raises(error, match="Commons"):
        made.call("GET", "/")


@pytest.mark.parametrize("content", [b"<html>", b"\xff\xfe\x00", b"[1]", b"null"])
def test_what_is_no_json_object_is_unavailable(content: bytes) -> None:
    made, _ = client(*[httpx.Response(200, content=content)] * 3)
    with pytest.raises(Unavailable, match="not JSON"):
        made.call("GET", "/")


# Examples of the special-purpose registries (RFC 6890 and its updates), and of public addresses.
@pytest.mark.parametrize(
    "address",
    ["127.0.0.1", "10.1.2.3", "172.16.0.1", "192.168.0.1", "169.254.169.254", "100.64.0.1", "0.0.0.0", "192.0.2.1",
     "198.18.0.1", "224.0.0.1", "255.255.255.255", "::1", "::", "fe80::1", "fc00::1", "ff02::1", "::ffff:10.0.0.1",
     "64:ff9b::7f00:1", "2002:7f00:1::", "2001:db8::1"],
)  # fmt: skip
def test_special_addresses_are_not_public(address: str) -> None:
    assert not is_public(address)


@pytest.mark.parametrize(
    "address", ["93.184.216.34", "8.8.8.8", "2606:2800:220:1:248:1893:25c8:1946", "64:ff9b::808:808"]
)
def test_public_addresses_are(address: str) -> None:
    assert is_public(address)


def test_only_the_configured_stand_ins_may_be_inside(world: Any) -> None:
    assert fetch(f"{world.address}/sites/halfmoon").status == 200
    with pytest.raises(FetchError, match="internal"):
        fetch("http://127.0.0.1:1/")


def test_a_large_answer_is_cut_off(world: Any) -> None:
    with pytest.raises(FetchError, match="more than"):
        fetch(f"{world.address}/wrong/large", most_bytes=100_000)


def test_text_is_read_in_the_encoding_that_the_header_names() -> None:
    from dakika_server.networks.fetcher import Fetched

    def text(content: bytes, kind: str) -> str:
        return Fetched(status=200, address="x", content=content, headers={"content-type": kind}).text

    assert text("é".encode("cp1252"), "text/html; charset=windows-1252") == "é"
    assert text("é".encode(), "text/html") == "é"
    assert text(b"\xff", "text/html; charset=nonsense") == "\ufffd"


def test_jitter_keeps_its_bounds() -> None:
    from dakika_core.sources.retry import retry_after_seconds, wait_seconds

    now = datetime(2026, 11, 25, tzinfo=UTC)
    waits = [wait_seconds(n, random.Random(n)) for n in range(1, 40)]
    assert all(0 < w <= 3600 for w in waits)
    assert waits[6] > waits[0]
    # RFC 9110, 10.2.3: its own two examples, the first as seen from a minute before.
    assert retry_after_seconds("120", now=now) == 120
    then = datetime(1999, 12, 31, 23, 58, 59, tzinfo=UTC)
    assert retry_after_seconds("Fri, 31 Dec 1999 23:59:59 GMT", now=then) == 60
    # RFC 9110, 5.6.7: the same instant in the three forms that a recipient reads.
    for form in ("Sun, 06 Nov 1994 08:49:37 GMT", "Sunday, 06-Nov-94 08:49:37 GMT", "Sun Nov  6 08:49:37 1994"):
        assert retry_after_seconds(form, now=datetime(1994, 11, 6, 8, 49, 7, tzinfo=UTC)) == 30
    for nonsense in (None, "", "soon", "-5", "1.5"):
        assert retry_after_seconds(nonsense, now=now) is None
