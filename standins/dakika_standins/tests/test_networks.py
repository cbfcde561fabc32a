"""Promise: the stand-ins keep their own rules, and their figures agree with one another and with the truth."""

from datetime import date, timedelta
from typing import Any

import numpy as np
import pytest
from starlette.testclient import TestClient

from dakika_standins.state import State
from dakika_standins.tests.conftest import NOW
from dakika_standins.world.model import World


def bearer(http: TestClient, network: str) -> dict[str, str]:
    granted = http.post("/control/grant", json={"network": network, "owner": "orrery"}).json()
    return {"Authorization": f"Bearer {granted['access_token']}"}


def all_commons_posts(http: TestClient, headers: dict[str, str]) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    after: str | None = ""
    while after is not None:
        page = http.get(
            "/commons/v1/pages/pg-orreryhouse/posts", params={"limit": 50, "after": after}, headers=headers
        ).json()
        found += page["data"]
        after = page["paging"]["after"]
    return found


def test_the_same_seed_gives_the_same_world() -> None:
    first, second = (World(seed=20, anchor=date(2026, 11, 24)) for _ in range(2))
    assert first.posts_of("brevi-orreryhouse", NOW) == second.posts_of("brevi-orreryhouse", NOW)


def test_pages_hold_every_post_once(http: TestClient, state: State) -> None:
    posts = all_commons_posts(http, bearer(http, "commons"))
    assert len({p["id"] for p in posts}) == len(posts) == len(state.posts("commons-orreryhouse"))


def test_counters_only_grow_towards_their_end(state: State) -> None:
    post = state.posts("commons-orreryhouse")[30]
    ages = [state.world.counters(post, post.published_at + timedelta(hours=h))["impressions"] for h in range(0, 700, 7)]
    assert ages == sorted(ages)
    half = state.world.counters(post, post.published_at + timedelta(hours=5))["impressions"]
    assert half == pytest.approx(post.finals["impressions"] / 2, rel=0.02)


def test_publishing_is_idempotent_and_survives_a_restart(http: TestClient, state: State) -> None:
    headers = bearer(http, "commons") | {"Idempotency-Key": "k"}
    path = "/commons/v1/pages/pg-orreryhouse/posts"
    first = http.post(path, json={"message": "Hello"}, headers=headers)
    again = http.post(path, json={"message": "Hello"}, headers=headers)
    assert (first.status_code, again.status_code) == (201, 200)
    assert first.json() == again.json()
    reopened = State(state.path, fixed_now=NOW)
    assert [p.id for p in reopened.sent_posts] == [first.json()["id"]]
    assert http.post(path, json={"message": "x"}, headers=bearer(http, "commons")).status_code == 400


def test_brevi_counts_characters_as_people_see_them(http: TestClient) -> None:
    headers = bearer(http, "brevi")

    def send(body: str) -> int:
        form = {"name": "orreryhouse", "body": body, "client_token": body[:9] + str(len(body))}
        return http.post("/brevi/api/note.send", data=form, headers=headers).status_code

    assert send("x" * 301) == 422
    assert send("👩‍👩‍👧" * 300) == 200
    assert send("x" * 270 + " https://a.example/" + "y" * 200) == 200


def test_limits_and_faults(http: TestClient) -> None:
    headers = bearer(http, "brevi")
    http.post("/control/faults", json={"brevi.calls_per_minute": 2})
    codes = [http.get("/brevi/api/account.mine", headers=headers) for _ in range(3)]
    assert [c.status_code for c in codes] == [200, 200, 429]
    assert codes[2].headers["Retry-After"].endswith("GMT")
    http.post("/control/faults", json={"brevi.calls_per_minute": 0, "commons.error500": 1})
    assert http.get("/commons/v1/me/pages", headers=bearer(http, "commons")).status_code == 500


def test_public_figures_only_for_others(http: TestClient) -> None:
    headers = {"X-App-Id": "dakika"}
    page = http.get("/commons/v1/directory/gnomongallery/posts", headers=headers).json()
    assert set(page["data"][0]["counts"]) == {"feelings", "answers", "forwards"}
    assert http.get("/commons/v1/directory/mirela.duarte", headers=headers).status_code == 404
    assert http.get("/commons/v1/directory/gnomongallery").status_code == 401


def test_a_code_without_its_verifier_is_refused(http: TestClient) -> None:
    asked = {
        "client_id": "dakika", "redirect_uri": "http://127.0.0.1/back", "scope": "read", "state": "s",
        "code_challenge": "E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM", "code_challenge_method": "S256",
        "owner": "orrery", "answer": "allow",
    }  # fmt: skip

    def code() -> str:
        answer = http.post("/commons/oauth/authorize", data=asked, follow_redirects=False)
        return answer.headers["location"].split("code=")[1].split("&")[0]

    def token(verifier: str) -> int:
        form = {
            "grant_type": "authorization_code", "code": code(), "code_verifier": verifier, "client_id": "dakika",
            "client_secret": "stand-in-secret", "redirect_uri": "http://127.0.0.1/back",
        }  # fmt: skip
        return http.post("/commons/oauth/token", data=form).status_code

    # RFC 7636, appendix B: this verifier belongs to the challenge above.
    assert token("dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk") == 200
    assert token("wrong") == 400


def test_evenings_are_truly_better_in_this_world() -> None:
    effect = World(seed=20, anchor=date(2026, 11, 24)).hour_effect("brevi-orreryhouse", date(2026, 11, 23))
    assert effect[20] > effect[10]
    assert np.isclose(effect.mean(), 0)
