"""Promise: a profile is connected through the network's own consent page, and only what may be connected is."""

from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx
import pytest

from dakika_server.sources.models import CollectionRun, Connection, Profile

pytestmark = pytest.mark.django_db


def consent(address: str, answer: str = "allow") -> str:
    """Say yes (or no) on the stand-in's page; returns where it sends the browser."""
    asked = {k: v[0] for k, v in parse_qs(urlsplit(address).query).items()}
    assert asked["code_challenge_method"] == "S256"
    page = httpx.get(address)
    assert "asks to" in page.text
    sent = httpx.post(address.split("?")[0], data={**asked, "owner": "orrery", "answer": answer})
    return sent.headers["location"]


def begin(client: Any) -> str:
    answer = client.post(
        "/api/brands/orrery-house/sources/connections", {"network": "commons"}, content_type="application/json"
    )
    return str(answer.json()["address"])


def test_consent_choice_and_first_run(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    back = urlsplit(consent(begin(client)))
    answer = client.get(f"{back.path}?{back.query}")
    assert answer.status_code == 302
    connection = Connection.objects.get()
    assert answer["Location"] == f"/orrery-house/sources?connection={connection.pk}"
    base = f"/api/brands/orrery-house/sources/connections/{connection.pk}"
    offered = {o["handle"]: o for o in client.get(base).json()["offered"]}
    assert "personal" in offered["mirela.duarte"]["refusal"]
    refused = client.post(base, {"external_ids": ["pg-mirela.duarte"]}, content_type="application/json")
    assert refused.status_code == 400
    chosen = client.post(base, {"external_ids": ["pg-orreryshop"]}, content_type="application/json")
    assert chosen.status_code == 201
    assert Profile.objects.get().kind == "own"
    assert CollectionRun.objects.get().state == "waiting"


def test_cancelling_connects_nothing(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    back = urlsplit(consent(begin(client), "cancel"))
    assert client.get(f"{back.path}?{back.query}")["Location"].endswith("consent=cancelled")
    assert not Profile.objects.exists()


def test_a_code_serves_only_who_asked_for_it(editor: Any, stranger: Any, client_of: Any, world: Any) -> None:
    back = urlsplit(consent(begin(client_of(editor))))
    assert "not+known" in client_of(stranger).get(f"{back.path}?{back.query}")["Location"]
    assert Connection.objects.get().credential is None


def test_a_competitor_by_handle(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    path = "/api/brands/orrery-house/sources/competitors"

    def add(handle: str) -> Any:
        return client.post(path, {"network": "brevi", "handle": handle}, content_type="application/json")

    assert add("@brassandbeam").status_code == 201
    assert Profile.objects.get().competitor.name == "Brass & Beam"
    assert add("brassandbeam").status_code == 409
    unknown = add("nobody-at-all")
    assert "no page called" in unknown.json()["errors"]["handle"][0]
    assert add("../etc").status_code == 400
