"""Promise: a competitor is found by handle, by a part of the name, by web site; and a wrong turn does no harm."""

from typing import Any

import pytest

from dakika_server.sources.models import Competitor, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/sources"


def post(client: Any, path: str, body: dict[str, Any]) -> Any:
    return client.post(f"{HOME}/{path}", body, content_type="application/json")


def test_by_handle(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)

    def add(handle: str, network: str = "brevi") -> Any:
        return post(client, "competitors", {"network": network, "handle": handle})

    assert add("@brassandbeam").status_code == 201
    assert Profile.objects.get().competitor.name == "Brass & Beam"
    assert add("brassandbeam").status_code == 409
    assert "no page called" in add("nobody-at-all").json()["errors"]["handle"][0]
    assert add("../etc").status_code == 400
    assert "nobody's figures" in add("orreryhouse", "doorstep").json()["errors"]["network"][0]


@pytest.mark.parametrize("network", ["commons", "brevi", "pictor", "guildhall", "vignette", "corkboard", "longplay"])
def test_by_a_part_of_the_name_while_one_types(network: str, editor: Any, client_of: Any, world: Any) -> None:
    wanted = "Brass & Beam" if network in ("guildhall", "corkboard") else "Halfmoon Planetarium"
    ask = {"network": network, "text": wanted[:5].lower()}
    found = client_of(editor).get(f"{HOME}/search", ask).json()
    assert wanted in [one["name"] for one in found]
    assert client_of(editor).get(f"{HOME}/search", {"network": network, "text": "b"}).json() == []


def test_by_web_site(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    site = post(client, "site", {"address": f"{world.address}/sites/halfmoon"}).json()
    assert site["name"] == "Halfmoon Planetarium"
    assert site["feeds"][0].endswith("/feeds/halfmoon.rss")
    found = {p["network"]: p for p in site["profiles"]}
    assert set(found) == {"commons", "brevi", "pictor", "vignette", "longplay", "activitypub"}
    assert all(p["account"]["followers"] > 1000 for p in found.values())
    assert found["commons"]["evidence"] == "structured data"
    chosen = [{"network": n, "handle": found[n]["handle"]} for n in ("vignette", "activitypub", "commons")]
    answer = post(client, "follow", {"name": "Halfmoon", "website": site["address"], "profiles": chosen})
    assert answer.status_code == 201, answer.content
    assert Competitor.objects.get().profiles.count() == 3
    again = {p["network"]: p for p in post(client, "site", {"address": site["address"]}).json()["profiles"]}
    assert again["commons"]["is_followed"]
    assert not again["pictor"]["is_followed"]
    assert post(client, "follow", {"name": "Halfmoon", "profiles": chosen}).status_code == 201
    assert Profile.objects.count() == 3


@pytest.mark.parametrize(
    ("path", "says"),
    [("/wrong/inside", "internal address"), ("/wrong/local", "internal address"), ("/wrong/circle", "leads on and on"),
     ("/wrong/large", "more than"), ("/wrong/nothing", "status 404")],
)  # fmt: skip
def test_wrong_turns_are_told_and_harm_nothing(path: str, says: str, editor: Any, client_of: Any, world: Any) -> None:
    answer = post(client_of(editor), "site", {"address": f"{world.address}{path}"})
    assert answer.status_code == 400
    assert says in answer.json()["errors"]["address"][0]


@pytest.mark.parametrize(
    "address",
    ["http://169.254.169.254/", "http://127.0.0.1:5432/", "http://[::1]/", "http://localhost/", "http://10.0.0.8/",
     "http://0x7f.1/", "file:///etc/passwd", "http://[::ffff:127.0.0.1]/", "http://[64:ff9b::a00:1]/", "gopher://x"],
)  # fmt: skip
def test_addresses_inside_are_never_called(address: str, editor: Any, client_of: Any, world: Any) -> None:
    assert post(client_of(editor), "site", {"address": address}).status_code == 400


def test_a_name_that_leads_inside_is_refused(editor: Any, client_of: Any, world: Any, monkeypatch: Any) -> None:
    """The name is looked up once; any private address among the answers is enough."""
    asked: list[str] = []

    def look_up(host: str, port: int, **_: Any) -> list[Any]:
        asked.append(host)
        return [(2, 1, 6, "", ("93.184.216.34", port)), (2, 1, 6, "", ("192.168.1.1", port))]

    monkeypatch.setattr("socket.getaddrinfo", look_up)
    answer = post(client_of(editor), "site", {"address": "https://rebind.example/"})
    assert "internal address" in answer.json()["errors"]["address"][0]
    assert asked == ["rebind.example"]


def test_who_may_only_look_may_not_search_or_follow(viewer: Any, client_of: Any, world: Any) -> None:
    client = client_of(viewer)
    assert client.get(f"{HOME}/search", {"network": "commons", "text": "halfmoon"}).status_code == 403
    assert post(client, "site", {"address": f"{world.address}/sites/halfmoon"}).status_code == 403
