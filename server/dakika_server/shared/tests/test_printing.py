"""Promise: what prints a page sees what the person sees, may only look, and is gone when the page is printed."""

import shutil
from typing import Any

import pytest
from django.contrib.sessions.models import Session
from django.test import Client

from dakika_server.shared import printing
from dakika_server.shared.errors import Unavailable

pytestmark = pytest.mark.django_db
PDF = "/api/brands/orrery-house/results/audience/pdf?first=2026-10-01&last=2026-10-28"


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

    monkeypatch.setattr(printing, "_printed", printed)
    monkeypatch.setattr(shutil, "which", lambda _: "/usr/bin/chromium")
    assert printing.print_page(editor, "/orrery-house/results") == b"%PDF-1.4"
    assert (seen["look"], seen["change"], seen["leave"]) == (200, 403, 403)
    assert seen["address"].endswith("/orrery-house/results")
    assert not Session.objects.exists()


def test_it_ends_with_a_page_that_fails_too(editor: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def failing(*_: Any) -> bytes:
        raise Unavailable("The page could not be set.")

    monkeypatch.setattr(printing, "_printed", failing)
    monkeypatch.setattr(shutil, "which", lambda _: "/usr/bin/chromium")
    for _ in range(2):  # and lets the next one in
        with pytest.raises(Unavailable):
            printing.print_page(editor, "/")
    assert not Session.objects.exists()


def test_without_a_browser_it_says_what_to_do(editor: Any, client_of: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(shutil, "which", lambda _: None)
    answer = client_of(editor).get(PDF)
    assert answer.status_code == 503
    assert "Print the page in your browser" in answer.json()["detail"]


def test_an_address_that_does_not_answer_is_no_defect(editor: Any, settings: Any) -> None:
    settings.PUBLIC_ADDRESS = "http://127.0.0.1:9"
    with pytest.raises(Unavailable, match="did not come in time"):
        printing.print_page(editor, "/orrery-house")


def test_others_print_nothing_of_the_brand(stranger: Any, client_of: Any, brand: Any) -> None:
    assert client_of(stranger).get(PDF).status_code == 404
    assert Client().get(PDF).status_code == 401


def test_the_page_is_asked_for_with_checked_values_alone(
    viewer: Any, client_of: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked = []
    monkeypatch.setattr(
        "dakika_server.results.api.audience.print_page", lambda person, path: asked.append((person, path)) or b"%PDF"
    )
    answer = client_of(viewer).get(f"{PDF}&network=brevi&evil=//elsewhere.example")
    assert answer["Content-Type"] == "application/pdf"
    assert 'filename="orrery-house-audience-2026-10-01-2026-10-28.pdf"' in answer["Content-Disposition"]
    person, path = asked[0]
    assert person == viewer
    assert path.startswith("/orrery-house/results/audience/sheet?")
    assert "network=brevi" in path
    assert "evil" not in path
    assert client_of(viewer).get(f"{PDF}&first=soon").status_code == 400
