"""Promise: what prints a page sees what the person sees, may only look, and is gone when the page is printed."""

import shutil
from typing import Any

import pytest
from django.contrib.sessions.models import Session
from django.test import Client

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
    settings.PUBLIC_ADDRESS = "http://127.0.0.1:9"
    with pytest.raises(Unavailable, match="did not come in time"):
        chromium.print_page(editor, "/orrery-house")
