"""Promise: what prints a page sees what the person sees, may only look, and is gone when the page is printed."""

import os
import shutil
import signal
import threading
from collections.abc import Iterator
from contextlib import suppress
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from io import BytesIO
from pathlib import Path
from typing import Any

import pytest
from django.contrib.sessions.models import Session
from django.test import Client
from pypdf import PdfReader

from dakika_server.printing import chromium
from dakika_server.shared.errors import Unavailable

pytestmark = pytest.mark.django_db


def holding(key: str) -> Client:
    """A client with this session."""
    client = Client()
    client.cookies["sessionid"] = key
    return client


def test_its_session_looks_and_changes_nothing(editor: Any, brand: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    seen = {}

    def printed(program: str, address: str, key: str) -> bytes:
        client = holding(key)
        seen["look"] = client.get("/api/brands/orrery-house").status_code
        seen["change"] = client.put("/api/brands/orrery-house", {}, content_type="application/json").status_code
        seen["leave"] = client.delete("/api/session").status_code
        seen["address"] = address
        return b"%PDF-1.4"

    monkeypatch.setattr(chromium, "_printed", printed)
    monkeypatch.setattr(shutil, "which", lambda _: "/usr/bin/chromium")
    assert chromium.print_page(editor, "/orrery-house/results") == b"%PDF-1.4"
    assert (seen["look"], seen["change"], seen["leave"]) == (200, 403, 403)
    assert seen["address"].endswith("/orrery-house/results")
    assert not Session.objects.exists()


def test_it_ends_with_a_page_that_fails_too(editor: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def failing(*_: Any) -> bytes:
        raise Unavailable("The page could not be set.")

    monkeypatch.setattr(chromium, "_printed", failing)
    monkeypatch.setattr(shutil, "which", lambda _: "/usr/bin/chromium")
    for _ in range(2):  # and lets the next one in
        with pytest.raises(Unavailable):
            chromium.print_page(editor, "/")
    assert not Session.objects.exists()


def test_without_a_browser_it_says_what_to_do(editor: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(shutil, "which", lambda _: None)
    with pytest.raises(Unavailable, match="Print the page in your browser"):
        chromium.print_page(editor, "/orrery-house")


def test_an_address_that_does_not_answer_is_no_defect(editor: Any, settings: Any) -> None:
    settings.PRINT_ADDRESS = "http://127.0.0.1:9"
    with pytest.raises(Unavailable, match="did not come in time"):
        chromium.print_page(editor, "/orrery-house")


class Pages(BaseHTTPRequestHandler):
    """Pages that say who asks for them, and keep what they are given."""

    def do_GET(self) -> None:
        body = (
            f"<title>P</title><p id=told>{self.headers.get('Cookie', 'nobody')}</p><p id=kept></p>"
            "<script>kept.textContent = 'kept ' + localStorage.length; localStorage.setItem('a', 'b');"
            "document.cookie = 'left=here'</script><p data-page=ready>Page</p>"
        ).encode()
        self.send_response(200)
        self.send_header("Content-Type", "text/html")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *_: Any) -> None:
        """Nothing."""


@pytest.fixture
def pages(settings: Any) -> Iterator[None]:
    server = ThreadingHTTPServer(("127.0.0.1", 0), Pages)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    settings.PRINT_ADDRESS = f"http://127.0.0.1:{server.server_port}"
    yield
    server.shutdown()
    server.server_close()
    chromium._press.close()


def text_of(content: bytes) -> str:
    return PdfReader(BytesIO(content)).pages[0].extract_text()


def parents() -> dict[int, int]:
    """Every process and its parent (proc(5), the fourth field of stat, after the name in brackets)."""
    found = {}
    for stat in Path("/proc").glob("[0-9]*/stat"):
        with suppress(OSError):
            found[int(stat.parent.name)] = int(stat.read_text().rpartition(")")[2].split()[1])
    return found


def browsers() -> set[int]:
    """Browsers that come from this process; their helpers have a type."""
    known, found = parents(), set()
    for pid in known:
        with suppress(OSError):
            words = Path(f"/proc/{pid}/cmdline").read_bytes()
            above = pid
            while above in known and above != os.getpid():
                above = known[above]
            if above == os.getpid() and b"chromium" in words.split(b"\0")[0] and b"--type=" not in words:
                found.add(pid)
    return found


def test_one_browser_prints_many_and_keeps_nothing_of_one_for_the_next(pages: None, editor: Any, viewer: Any) -> None:
    first = text_of(chromium.print_page(editor, "/a"))
    running = browsers()
    second = text_of(chromium.print_page(viewer, "/b"))
    assert browsers() == running
    assert "sessionid" in first
    assert "sessionid" in second
    # Neither the other's session nor what its page left behind.
    assert first.split("sessionid=")[1].split()[0] not in second
    assert "left=here" not in second
    assert "kept 0" in second


def test_a_browser_that_is_killed_is_begun_anew(pages: None, editor: Any) -> None:
    chromium.print_page(editor, "/a")
    (browser,) = browsers()
    os.kill(browser, signal.SIGKILL)
    made = b""
    for _ in range(2):  # the page at which it died may be lost; the next is not
        try:
            made = chromium.print_page(editor, "/a")
            break
        except Unavailable:
            continue
    assert "Page" in text_of(made)
    assert browser not in browsers()


def test_it_ends_when_nobody_needs_it(pages: None, editor: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(chromium, "MOST_PAGES", 1)
    chromium.print_page(editor, "/a")
    first = browsers()
    chromium.print_page(editor, "/a")
    assert len(browsers()) == 1
    assert browsers() != first
    chromium._press.close()
    assert browsers() == set()
