"""Promise: links are made by the brand's rules, changed by their owner alone, and nothing that was typed does harm."""

import struct
import zlib
from datetime import timedelta
from typing import Any

import numpy as np
import pytest
import zxingcpp
from django.test import Client

from dakika_server.brands.models import Brand, Membership
from dakika_server.links.models import FormerTarget, LinkDomain, LinkPage, TrackedLink
from dakika_server.shared import clock
from dakika_server.shared.models import AuditEntry

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/links"
JSON = "application/json"


def made(client: Client, **values: Any) -> Any:
    answer = client.post(BASE, {"destination": "https://orrery.example/tickets?a=1#top", **values}, content_type=JSON)
    assert answer.status_code == 201, answer.content
    return answer.json()


def test_a_link_is_made_by_the_rules_and_what_is_typed_wins(client: Client, brand: Brand) -> None:
    campaign = brand.campaigns.create(name="The Repaired Hour", first_day="2026-01-01", last_day="2026-12-31")
    link = made(client, network="brevi", campaign_id=campaign.pk, utm={"content": "Lá em cima"})
    assert link["target"] == (
        "https://orrery.example/tickets?a=1&utm_source=brevi&utm_medium=social&utm_campaign=the-repaired-hour"
        "&utm_content=la-em-cima#top"
    )
    assert len(link["code"]) == 7
    rules = {"templates": {"source": "{network}", "campaign": "{campaign} 2026", "content": "{post}"}, "separator": "_",
             "existing": "replace"}  # fmt: skip
    saved = client.put(f"{BASE}/settings", {"rules": rules, "home": "https://orrery.example"}, content_type=JSON)
    assert saved.status_code == 200, saved.content
    assert saved.json()["home"] == "https://orrery.example/"
    body = {"destination": "https://orrery.example/?utm_source=own", "name": "Sky tonight", "network": "brevi"}
    shown = client.post(f"{BASE}/preview", body, content_type=JSON).json()
    assert shown["target"] == "https://orrery.example/?utm_source=brevi&utm_campaign=2026&utm_content=sky_tonight"
    assert (shown["replaced"], shown["kept"]) == (["utm_source"], [])
    tried = client.post(
        f"{BASE}/preview", {**body, "rules": {"templates": {"term": "{post}"}}}, content_type=JSON
    ).json()
    assert tried["utm"] == {"term": "sky-tonight"}
    wrong = client.post(f"{BASE}/preview", {**body, "rules": {"templates": {"term": "{x}"}}}, content_type=JSON)
    assert list(wrong.json()["errors"]) == ["rules.term"]
    assert TrackedLink.objects.count() == 1


@pytest.mark.parametrize(
    ("rules", "field"),
    [({"templates": {"source": "{nothing}"}}, "rules.source"), ({"templates": {}, "separator": "/"}, "rules"),
     ({"templates": {"campaign": "{"}}, "rules.campaign")],
)  # fmt: skip
def test_rules_that_cannot_be_filled_are_refused_at_their_place(rules: Any, field: str, client: Client) -> None:
    answer = client.put(f"{BASE}/settings", {"rules": rules}, content_type=JSON)
    assert (answer.status_code, list(answer.json()["errors"])) == (400, [field])


@pytest.mark.parametrize(
    "destination",
    ["javascript:alert(1)", "ftp://x.example", "//evil.example", "http://127.0.0.1:8000/l/abc", "http://127.0.0.1:8200/abc", "",
     "https://x.example/" + "a" * 2040 + "b" * 900],
)  # fmt: skip
def test_what_may_not_be_followed_is_never_stored(destination: str, client: Client) -> None:
    answer = client.post(BASE, {"destination": destination}, content_type=JSON)
    assert answer.status_code == 400
    assert "destination" in answer.json()["errors"]
    assert not TrackedLink.objects.exists()


def test_chosen_words_belong_to_one_link(client: Client) -> None:
    assert made(client, code="Night-Openings")["code"] == "night-openings"
    again = client.post(BASE, {"destination": "https://a.example/", "code": "night-openings"}, content_type=JSON)
    assert "taken" in again.json()["errors"]["code"][0]
    assert (
        client.post(BASE, {"destination": "https://a.example/", "code": "health"}, content_type=JSON).status_code == 400
    )
    past = {"destination": "https://a.example/", "ends_at": (clock.now() - timedelta(days=1)).isoformat()}
    assert "past" in client.post(BASE, past, content_type=JSON).json()["errors"]["ends_at"][0]


def test_what_belongs_to_others_is_not_found(client: Client, stranger: Any, client_of: Any) -> None:
    other = Brand.objects.get(slug="lantern-line").campaigns.create(
        name="x", first_day="2026-01-01", last_day="2026-01-02"
    )
    body = {"destination": "https://a.example/", "campaign_id": other.pk}
    assert client.post(BASE, body, content_type=JSON).status_code == 400
    link = made(client)
    theirs = client_of(stranger)
    for path in (f"{BASE}/{link['id']}", f"{BASE}/{link['id']}/code", f"/api/brands/lantern-line/links/{link['id']}"):
        assert theirs.get(path).status_code == 404
    body = {"is_paused": True}
    assert theirs.patch(f"/api/brands/lantern-line/links/{link['id']}", body, content_type=JSON).status_code == 404


def test_its_owner_alone_may_change_a_link_and_every_change_is_kept(
    client: Client, brand: Brand, editor: Any, viewer: Any, client_of: Any
) -> None:
    link = made(client, network="brevi")
    path = f"{BASE}/{link['id']}"
    assert client_of(viewer).patch(path, {"is_paused": True}, content_type=JSON).status_code == 403
    Membership.objects.filter(user=viewer).update(role="admin")  # one more editor, who does not own it
    colleague = client_of(viewer)
    assert colleague.get(path).json()["link"]["may_change"] is False
    assert colleague.patch(path, {"is_paused": True}, content_type=JSON).status_code == 403
    changed = client.patch(
        path, {"destination": "https://orrery.example/new", "is_paused": True}, content_type=JSON
    ).json()
    assert changed["target"] == "https://orrery.example/new?utm_source=brevi&utm_medium=social"
    assert [f["target"] for f in changed["former"]] == [link["target"]]
    assert changed["former"][0]["by"] == "Ed"
    assert client.patch(path, {"destination": "javascript:1"}, content_type=JSON).status_code == 400
    assert AuditEntry.objects.filter(action="change_link").get().detail == {"changed": ["destination", "is_paused"]}
    assert client.patch(path, {"name": "x", "ends_at": None}, content_type=JSON).json()["name"] == "x"
    assert FormerTarget.objects.count() == 1
    client.patch(path, {"owner_id": viewer.pk}, content_type=JSON)
    assert client.patch(path, {"name": "y"}, content_type=JSON).status_code == 403
    assert colleague.patch(path, {"name": "y"}, content_type=JSON).status_code == 200
    Membership.objects.filter(user=viewer).delete()  # the owner has left: any editor may
    assert client.patch(path, {"name": "z"}, content_type=JSON).status_code == 200


def test_a_pasted_list_is_looked_at_row_by_row_and_made_as_a_whole(client: Client, brand: Brand) -> None:
    brand.campaigns.create(name="Night Openings", first_day="2026-01-01", last_day="2026-12-31")
    text = ("url;name;campaign;network;code\nhttps://a.example/1;One;night openings;Brevi;one-one\n"
            "javascript:alert(1);Two;;;\nhttps://a.example/3;Three;Nothing;;\nhttps://a.example/4;Four;;;one-one\n")  # fmt: skip
    shown = client.post(f"{BASE}/bulk/preview", {"text": text}, content_type=JSON).json()
    assert [bool(row["error"]) for row in shown["rows"]] == [False, True, True, True]
    assert shown["problems"] == 3
    assert "utm_campaign=night-openings" in shown["rows"][0]["target"]
    assert "Nothing" in shown["rows"][2]["error"]
    good = shown["rows"][0]["draft"]
    bad = {"rows": [good, {"destination": "ftp://x"}]}
    refused = client.post(f"{BASE}/bulk", bad, content_type=JSON)
    assert (refused.status_code, list(refused.json()["errors"])) == (400, ["row 2"])
    assert not TrackedLink.objects.exists()
    done = client.post(f"{BASE}/bulk", {"rows": [good, {"destination": "https://a.example/5"}]}, content_type=JSON)
    assert [row["name"] for row in done.json()] == ["One", "a.example 5"]


def pixels(png: bytes) -> Any:
    """The picture of a PNG of one bit a pixel, as our codes are written (ISO/IEC 15948)."""
    place, data, width = 8, b"", 0
    while place < len(png):
        size, kind = struct.unpack(">I4s", png[place : place + 8])
        body = png[place + 8 : place + 8 + size]
        if kind == b"IHDR":
            width, _, depth, colour = struct.unpack(">IIBB", body[:10])
            assert (depth, colour) == (1, 0)
        data += body if kind == b"IDAT" else b""
        place += 12 + size
    rows = np.frombuffer(zlib.decompress(data), np.uint8).reshape(-1, 1 + -(-width // 8))
    lines = rows[:, 1:].copy()
    for i, how in enumerate(rows[:, 0]):
        assert how in (0, 2)  # as it is, or as the difference to the line above
        if how == 2 and i:
            lines[i] += lines[i - 1]
    return (np.unpackbits(lines, axis=1)[:, :width] * 255).astype(np.uint8)


def test_a_code_on_paper_leads_to_the_short_address(client: Client) -> None:
    """Read back by a general-purpose reader of bar codes (zxing-cpp)."""
    link = made(client)
    answer = client.get(f"{BASE}/{link['id']}/code?form=png")
    assert answer["Content-Type"] == "image/png"
    assert zxingcpp.read_barcode(pixels(answer.content)).text == link["short"]
    drawn = client.get(f"{BASE}/{link['id']}/code").content
    assert drawn.startswith(b"<?xml")
    assert b"<script" not in drawn


def test_hosts_of_ones_own(client: Client, brand: Brand) -> None:
    for wrong in ("", "http://x", "a b", "localhost", "10.0.0.1", "go.example/x", "go.example:8080", "127.0.0.1"):
        assert client.post(f"{BASE}/domains", {"host": wrong}, content_type=JSON).status_code == 400, wrong
    domain = client.post(f"{BASE}/domains", {"host": "Go.Orrery.example"}, content_type=JSON).json()
    assert domain["host"] == "go.orrery.example"
    assert client.put(f"{BASE}/domains", {"id": domain["id"]}, content_type=JSON).status_code == 204
    assert made(client, code="tickets")["short"] == "https://go.orrery.example/tickets"
    kept = client.delete(f"{BASE}/domains/{domain['id']}")
    assert (kept.status_code, kept.json()["kind"]) == (409, "domain_in_use") if "kind" in kept.json() else (409, 409)
    body = {"destination": "https://go.orrery.example/tickets"}
    assert client.post(BASE, body, content_type=JSON).status_code == 400
    TrackedLink.objects.all().delete()
    assert client.delete(f"{BASE}/domains/{domain['id']}").status_code == 204
    assert not LinkDomain.objects.exists()
    assert client.put(f"{BASE}/domains", {"id": 99}, content_type=JSON).status_code == 404


def test_pages_list_links_of_the_brand_alone(client: Client, stranger: Any, client_of: Any) -> None:
    one, two = made(client, name="Tickets"), made(client)
    body = {"slug": "orrery", "title": "Now", "entries": [{"link_id": two["id"], "title": "B"}, {"link_id": one["id"]}]}
    page = client.post(f"{BASE}/pages", body, content_type=JSON).json()
    assert page["address"].endswith("/p/orrery/")
    assert [e["title"] for e in page["entries"]] == ["B", "Tickets"]
    assert client.post(f"{BASE}/pages", body, content_type=JSON).status_code == 400  # the address is taken
    body["entries"] = [{"link_id": one["id"]}]
    assert len(client.put(f"{BASE}/pages/{page['id']}", body, content_type=JSON).json()["entries"]) == 1
    theirs = client_of(stranger)
    base = "/api/brands/lantern-line/links/pages"
    assert theirs.post(base, {**body, "slug": "other"}, content_type=JSON).status_code == 400
    assert theirs.put(f"{base}/{page['id']}", {**body, "entries": []}, content_type=JSON).status_code == 404
    assert theirs.delete(f"{base}/{page['id']}").status_code == 404
    assert client.delete(f"{BASE}/pages/{page['id']}").status_code == 204
    assert not LinkPage.objects.exists()


def test_a_page_is_called_through_the_guard(client: Client, world: Any) -> None:
    found = client.post(
        f"{BASE}/check", {"destination": f"{world.address}/sites/orreryhouse/tickets"}, content_type=JSON
    ).json()
    assert (found["is_reachable"], found["title"]) == (True, "Tickets · Orrery House")
    assert [step["status"] for step in found["steps"]] == [200]
    inside = client.post(f"{BASE}/check", {"destination": f"{world.address}/wrong/inside"}, content_type=JSON).json()
    assert (inside["is_reachable"], [step["status"] for step in inside["steps"]]) == (False, [307])
    assert inside["error"]
