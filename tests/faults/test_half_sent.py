"""Promise: requests that are sent by halves cost nobody else the web, and are told that they did not come in time."""

import json
import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

import pytest

from scripts.paths import ROOT, VENV
from scripts.ports import take_port

APP = """
import time
def application(environ, start_response):
    path = environ["PATH_INFO"]
    body = environ["wsgi.input"].read() if environ["REQUEST_METHOD"] == "POST" else b""
    if path == "/breaks":
        raise ZeroDivisionError
    answer = f"{path} {len(body)}".encode()
    start_response("200 OK", [("Content-Type", "text/plain"), ("Content-Length", str(len(answer)))])
    return [answer]
"""


@pytest.fixture(scope="module")
def port(tmp_path_factory: pytest.TempPathFactory) -> Iterator[int]:
    """The worker with an application of a few lines, its times cut short."""
    folder = tmp_path_factory.mktemp("app")
    (folder / "small_app.py").write_text(
        "import dakika_server.config.worker as w\nw.HEAD_SECONDS = w.BODY_SECONDS = w.LONGEST_PAUSE = 1.5\n" + APP
    )
    found = take_port(8950, "half sent")
    server = subprocess.Popen(
        [sys.executable, str(VENV / "bin" / "gunicorn"), "small_app:application", "--bind", f"127.0.0.1:{found}",
         "--workers", "1", "--threads", "3", "--worker-class", "dakika_server.config.worker.Worker",
         "--log-level", "warning", "--no-control-socket"],
        cwd=folder, env=os.environ | {"PYTHONPATH": os.pathsep.join([str(folder), str(ROOT / "server"), str(ROOT / "core")])},
    )  # fmt: skip
    try:
        until = time.monotonic() + 60
        while True:
            try:
                ask(found, "/ready")
                break
            except OSError:
                assert time.monotonic() < until
                time.sleep(0.1)
        yield found
    finally:
        server.terminate()
        assert server.wait(timeout=60) == 0


def ask(port: int, path: str, body: bytes | None = None) -> str:
    request = urllib.request.Request(f"http://127.0.0.1:{port}{path}", data=body)
    with urllib.request.urlopen(request, timeout=30) as answer:
        return str(answer.read().decode())


def half(port: int, sent: bytes) -> socket.socket:
    made = socket.create_connection(("127.0.0.1", port), timeout=30)
    made.sendall(sent)
    return made


HEADS = {
    "nothing": b"",
    "half a head": b"POST /x HTTP/1.1\r\nHost: a",
    "half a body": b"POST /x HTTP/1.1\r\nHost: a\r\nContent-Length: 1000\r\n\r\n{",
}


@pytest.mark.parametrize("sent", HEADS.values(), ids=HEADS)
def test_sixty_halves_stop_nobody(port: int, sent: bytes) -> None:
    halves = [half(port, sent) for _ in range(60)]
    # Three threads, and none of them is taken: these are answered before a half could have been given up.
    assert [ask(port, f"/{n}") for n in range(10)] == [f"/{n} 0" for n in range(10)]
    told = [one.recv(4000) for one in halves]
    for answer in told:
        assert answer.startswith(b"HTTP/1.1 408") if sent else answer == b""
    if sent:
        assert json.loads(told[0].partition(b"\r\n\r\n")[2])["type"] == "urn:dakika:problem:request_timeout"
    for one in halves:
        one.close()


def test_a_byte_now_and_then_does_not_go_round_the_end(port: int) -> None:
    answer = b""
    with half(port, HEADS["half a head"]) as dripping:
        dripping.settimeout(0.2)
        for _ in range(150):
            with suppress(TimeoutError):
                dripping.sendall(b"x")
                answer = dripping.recv(100)
            if answer:
                break
    assert answer.startswith(b"HTTP/1.1 408")


def test_whole_requests_come_through_as_they_are(port: int) -> None:
    for size in (0, 1, 5000, 2_000_000, 9_000_000):
        assert ask(port, "/size", b"x" * size) == f"/size {size}"
    with half(
        port, b"GET /1 HTTP/1.1\r\nHost: a\r\n\r\nGET /2 HTTP/1.1\r\nHost: a\r\nConnection: close\r\n\r\n"
    ) as two:
        said = b""
        while piece := two.recv(4000):
            said += piece
    assert b"/1 0" in said
    assert b"/2 0" in said


def test_files_that_pause_give_their_place_back(port: int) -> None:
    head = b"POST /file HTTP/1.1\r\nHost: a\r\nContent-Length: 90000000\r\n\r\n" + b"x" * 100_000
    paused = [half(port, head) for _ in range(5)]
    assert ask(port, "/meanwhile") == "/meanwhile 0"
    assert ask(port, "/file", b"x" * 5_000_000) == "/file 5000000"
    for one in paused:
        one.close()


@pytest.mark.parametrize(
    ("sent", "status"),
    [
        (b"GET /" + b"x" * 9000 + b" HTTP/1.1\r\nHost: a\r\n\r\n", 414),
        (b"GET / HTTP/1.1\r\nHost: a\r\nX: " + b"x" * 20_000 + b"\r\n\r\n", 431),
        (b"GET /" + b"x" * 90_000, 414),
        (b"nonsense\r\n\r\n", 400),
        (b"GET /breaks HTTP/1.1\r\nHost: a\r\n\r\n", 500),
    ],
)
def test_what_is_refused_before_any_view_is_a_problem_document(port: int, sent: bytes, status: int) -> None:
    with half(port, sent) as one:
        said = b""
        while piece := one.recv(8000):
            said += piece
    head, _, body = said.partition(b"\r\n\r\n")
    assert head.startswith(f"HTTP/1.1 {status} ".encode())
    assert b"Content-Type: application/problem+json" in head
    assert json.loads(body)["status"] == status
    assert json.loads(body)["detail"]


def test_the_module_is_the_one_that_is_started() -> None:
    assert "dakika_server.config.worker.Worker" in Path(ROOT / "scripts" / "stack.py").read_text()
