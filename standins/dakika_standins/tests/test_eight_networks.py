"""Promise: each stand-in network answers in a style of its own, by one world, and keeps its limits and its secrets."""

import hashlib
import hmac
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import httpx
import pytest
from starlette.testclient import TestClient

from dakika_standins.app import create_app
from dakika_standins.audience import tell_of_comments
from dakika_standins.control import APIS
from dakika_standins.state import State
from dakika_standins.tests.conftest import NOW
from dakika_standins.world.rules import RULES

# A call for one's own accounts in each network's way: method, address, body.
MINE: dict[str, tuple[str, str, Any]] = {
    "commons": ("GET", "/commons/v1/me/pages", None), "brevi": ("GET", "/brevi/api/account.mine", None),
    "pictor": ("GET", "/pictor/2/accounts", None), "guildhall": ("GET", "/guildhall/rest/organisations", None),
    "vignette": ("POST", "/vignette/rpc", {"jsonrpc": "2.0", "id": 7, "method": "accounts.mine", "params": {}}),
    "corkboard": ("GET", "/corkboard/api/accounts", None), "longplay": ("GET", "/longplay/v3/channels", None),
    "doorstep": ("POST", "/doorstep/1/places", {}),
}  # fmt: skip


@pytest.fixture(scope="module")
def state(tmp_path_factory: pytest.TempPathFactory) -> State:
    return State(Path(tmp_path_factory.mktemp("world")) / "state.json", fixed_now=NOW)


@pytest.fixture(scope="module")
def http(state: State) -> Iterator[TestClient]:
    with TestClient(create_app(state, has_audience=False)) as client:
        yield client


@pytest.fixture(autouse=True)
def _no_faults(state: State) -> Iterator[None]:
    yield
    state.data["faults"].clear()
    state.calls.clear()


def bearer(http: TestClient, network: str, scope: str | None = None) -> dict[str, str]:
    body = {"network": network, "owner": "orrery", "scope": scope}
    return {"Authorization": f"Bearer {http.post('/control/grant', json=body).json()['access_token']}"}


def ask(http: TestClient, network: str, headers: dict[str, str]) -> httpx.Response:
    method, path, body = MINE[network]
    return http.request(method, path, json=body, headers=headers)


@pytest.mark.parametrize("network", MINE)
def test_ones_own_accounts_are_shown_to_who_is_let_in(network: str, http: TestClient) -> None:
    assert "orreryhouse" in ask(http, network, bearer(http, network)).text
    assert ask(http, network, {}).status_code == 401
    assert ask(http, network, {"Authorization": "Bearer wrong"}).status_code == 401
    other = next(n for n in MINE if n != network)
    assert ask(http, network, bearer(http, other)).status_code == 401


@pytest.mark.parametrize("network", MINE)
def test_a_token_without_reading_sees_nothing(network: str, http: TestClient) -> None:
    answer = ask(http, network, bearer(http, network, RULES[network].scopes[1]))
    assert answer.status_code == 403 or "error" in answer.text


@pytest.mark.parametrize("network", MINE)
def test_limits_and_faults_work_on_every_network(network: str, http: TestClient, state: State) -> None:
    headers = bearer(http, network)
    state.data["faults"][f"{network}.calls_per_minute"] = 1
    assert [ask(http, network, headers).status_code for _ in range(2)] == [200, 429]
    assert ask(http, network, headers).headers["Retry-After"]
    state.calls.clear()
    state.data["faults"] |= {f"{network}.calls_per_minute": 0, f"{network}.error500": 1}
    assert ask(http, network, headers).status_code == 500
    state.data["faults"] |= {f"{network}.error500": 0, f"{network}.revoked": 1}
    assert ask(http, network, headers).status_code == 401


@pytest.mark.parametrize("network", [n for n in RULES if n != "activitypub"])
def test_posts_grow_along_their_networks_own_curve(network: str, state: State) -> None:
    key = f"{network}-orreryhouse"
    post = max(state.world.all_posts_of(key), key=lambda p: sum(p.finals.values()))
    name = RULES[network].own[0]
    from datetime import timedelta

    half = state.world.counters(post, post.published_at + timedelta(hours=RULES[network].half_life_hours))[name]
    assert half == pytest.approx(post.finals[name] / 2, rel=0.05)
    assert set(post.finals) == {*RULES[network].own, *RULES[network].public}


def test_a_revoked_token_is_dead(http: TestClient) -> None:
    granted = http.post("/control/grant", json={"network": "pictor", "owner": "orrery"}).json()
    form = {"token": granted["access_token"], "client_id": "dakika", "client_secret": "stand-in-secret"}
    assert http.post("/pictor/oauth/revoke", data={**form, "client_secret": "x"}).status_code == 401
    assert http.post("/pictor/oauth/revoke", data=form).status_code == 200
    assert ask(http, "pictor", {"Authorization": f"Bearer {granted['access_token']}"}).status_code == 401


def test_comments_are_as_many_as_the_counter_says_and_come_in_time(state: State) -> None:
    for post in state.posts("commons-orreryhouse")[:40]:
        said = state.comments(post)
        assert len(said) == state.counters(post)["comments"]
        assert all(post.published_at <= c.at <= NOW for c in said)
        assert len({c.id for c in said}) == len(said)


def test_audiences_are_shares_and_drift(state: State) -> None:
    now = state.world.audience("pictor-orreryhouse", NOW.date())
    before = state.world.audience("pictor-orreryhouse", state.world.begins)
    assert all(sum(shares.values()) == pytest.approx(1, abs=0.002) for shares in now.values())
    assert now != before


async def _told(state: State) -> list[httpx.Request]:
    told: list[httpx.Request] = []

    def take(request: httpx.Request) -> httpx.Response:
        told.append(request)
        return httpx.Response(500 if len(told) == 1 else 200)

    async with httpx.AsyncClient(transport=httpx.MockTransport(take)) as client:
        await tell_of_comments(client, state)
        await tell_of_comments(client, state)
        await tell_of_comments(client, state)
    return told


def test_a_webhook_is_signed_and_told_again_until_it_is_taken(state: State) -> None:
    import asyncio

    state.subscribe("commons-orreryhouse", url="http://dakika.example/hook", secret="s3cret")
    told = asyncio.run(_told(state))
    bodies = [json.loads(request.content)["post"] for request in told]
    assert bodies.count(bodies[0]) == 2
    assert all(bodies.count(post) == 1 for post in bodies[2:] if post != bodies[0])
    mark = hmac.new(b"s3cret", told[0].content, hashlib.sha256).hexdigest()
    assert told[0].headers["signature-256"] == mark


def test_every_network_has_its_own_way_of_naming_accounts(state: State) -> None:
    names = {key: api.account_id(api.accounts(state, "orrery")[0]) for key, api in APIS.items()}
    assert len(set(names.values())) == len(APIS)


def test_a_site_names_its_owners_profiles_and_feeds(http: TestClient) -> None:
    page = http.get("/sites/halfmoon").text
    assert "https://vignette.example/@halfmoon" in page
    assert "application/atom+xml" in page
    feed = http.get("/feeds/halfmoon.atom")
    assert http.get("/feeds/halfmoon.atom", headers={"If-None-Match": feed.headers["ETag"]}).status_code == 304


def test_webfinger_and_an_actor(http: TestClient) -> None:
    found = http.get("/.well-known/webfinger", params={"resource": "acct:halfmoon@testserver"}).json()
    actor = http.get(next(link["href"] for link in found["links"] if link["rel"] == "self")).json()
    assert actor["preferredUsername"] == "halfmoon"
    first = http.get(http.get(actor["outbox"]).json()["first"]).json()
    assert first["orderedItems"][0]["object"]["likes"]["totalItems"] >= 0
    assert http.get("/.well-known/webfinger", params={"resource": "acct:x@elsewhere.example"}).status_code == 404


@pytest.mark.parametrize("scene", ["clock", "sky", "sundial", "ship", "nonsense"])
def test_a_posts_picture_is_drawn_and_stays_the_same(http: TestClient, scene: str) -> None:
    from xml.etree import ElementTree

    first, again = (http.get(f"/pictures/posts/{scene}-p123.svg") for _ in range(2))
    assert first.headers["content-type"] == "image/svg+xml"
    assert first.text == again.text
    assert ElementTree.fromstring(first.text).tag.endswith("svg")
    assert http.get(f"/pictures/posts/{scene}-p124.svg").text != first.text
