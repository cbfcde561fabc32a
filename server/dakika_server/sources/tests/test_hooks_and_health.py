"""Promise: a network's call leads to looking soon, and to nothing else; the health page tells what to do, cheaply."""

import asyncio
import hashlib
import hmac
import json
from datetime import timedelta
from typing import Any

import httpx
import pytest

from dakika_server.shared import clock
from dakika_server.shared.vault import seal
from dakika_server.sources.models import CollectionRun, Post, Profile, ProfileReading
from dakika_server.sources.testing import run_to_end

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/sources"
SECRET = "what the network and we agreed on"


def with_a_hook(profile: Profile) -> Profile:
    """A profile of which its network was asked to tell."""
    profile.hook_secret = seal(SECRET)
    profile.save(update_fields=["hook_secret"])
    return profile


def test_new_comments_are_told_and_looked_at(own_profile: Any, world: Any, client: Any) -> None:
    profile = own_profile("pictor")
    run_to_end(profile)
    profile.refresh_from_db()
    hook = world.state.data["hooks"]["pictor-orreryhouse"]
    assert hook["url"].endswith(f"/hooks/pictor/{profile.pk}")
    told: list[httpx.Request] = []

    def take(request: httpx.Request) -> httpx.Response:
        told.append(request)
        return httpx.Response(202)

    async def tell() -> int:
        async with httpx.AsyncClient(transport=httpx.MockTransport(take)) as http:
            return await world.tell_of_comments(http)

    assert asyncio.run(tell()) > 0
    CollectionRun.objects.all().delete()
    first = told[0]
    headers = {"HTTP_SIGNATURE_256": first.headers["signature-256"]}
    path = f"/hooks/pictor/{profile.pk}"
    assert client.post(path, first.content, content_type="application/json", **headers).status_code == 202
    post = Post.objects.get(profile=profile, external_id=json.loads(first.content)["post"])
    assert post.next_reading_at <= clock.now()
    assert CollectionRun.objects.get().state == "waiting"
    assert asyncio.run(tell()) == 0


@pytest.mark.parametrize("signature", ["", "00", "f" * 64])
def test_a_call_without_the_right_signature_is_refused(
    signature: str, own_profile: Any, world: Any, client: Any
) -> None:
    profile = with_a_hook(own_profile("commons"))
    answer = client.post(
        f"/hooks/commons/{profile.pk}", b'{"post": "x"}', content_type="application/json", HTTP_SIGNATURE_256=signature
    )
    assert answer.status_code == 403
    assert not CollectionRun.objects.exists()
    assert client.post("/hooks/commons/999999", b"{}", content_type="application/json").status_code == 403
    assert client.get(f"/hooks/commons/{profile.pk}").status_code == 405


@pytest.mark.parametrize("body", [b"", b"[]", b"not json", b'{"post": ["x"]}', b"\xff\xfe", b'{"a":' * 5000])
def test_a_signed_call_that_says_nonsense_is_survived(body: bytes, own_profile: Any, world: Any, client: Any) -> None:
    profile = with_a_hook(own_profile("commons"))
    mark = hmac.new(SECRET.encode(), body, hashlib.sha256).hexdigest()
    answer = client.post(f"/hooks/commons/{profile.pk}", body, content_type="application/json", HTTP_SIGNATURE_256=mark)
    assert answer.status_code == 202


def test_the_health_page_names_each_trouble_with_what_to_do(
    own_profile: Any, competitor_profile: Any, editor: Any, client_of: Any, world: Any
) -> None:
    own = own_profile("brevi")
    Profile.objects.update(added_at=clock.now() - timedelta(days=20))
    run_to_end(own)
    today = clock.now().date()
    ProfileReading.objects.filter(day__in=[today - timedelta(days=n) for n in (9, 10, 11)]).delete()
    world.faults(pictor__error500=1)
    other = competitor_profile("pictor")
    run_to_end(other)
    found = {h["profile"]["id"]: h for h in client_of(editor).get(f"{HOME}/health").json()["profiles"]}
    holes = next(t for t in found[own.pk]["troubles"] if t["kind"] == "hole")
    assert holes["text"].startswith("3 days are missing")
    days = found[own.pk]["coverage"]["days"]
    assert len(days) == 90
    assert days[-12:-9] == "mmm"
    assert days[-1] == "c"
    assert days[:60] == "c" * 60
    failed = found[other.pk]["troubles"][0]
    assert (failed["kind"], failed["act"]) == ("failed", "collect")
    assert "trouble" in failed["text"]
    assert "next in" in failed["advice"]


def test_health_asks_a_fixed_number_of_questions(
    competitor_profile: Any, editor: Any, client_of: Any, world: Any, django_assert_max_num_queries: Any
) -> None:
    for handle in ("halfmoon", "gnomongallery", "tidehall"):
        for network in ("commons", "brevi", "pictor"):
            competitor_profile(network, handle)
    client = client_of(editor)
    with django_assert_max_num_queries(12):
        assert len(client.get(f"{HOME}/health").json()["profiles"]) == 9


def test_one_profiles_page_tells_what_is_known(own_profile: Any, editor: Any, client_of: Any, world: Any) -> None:
    profile = own_profile("vignette")
    run_to_end(profile)
    client = client_of(editor)
    shown = client.get(f"{HOME}/profiles/{profile.pk}").json()
    assert {d["dimension"] for d in shown["audience"]} == {"age", "gender", "country"}
    assert len(shown["online"]) == 168
    assert shown["comment_count"] > 0
    assert shown["comments"][0]["text"]
    assert len(shown["days"]) == 90
    post = shown["comments"][0]["post_id"]
    assert client.get(f"{HOME}/posts/{post}/comments").json()[0]["author"]
    assert client.get(f"{HOME}/posts/999999/comments").status_code == 404


def test_nobody_elses_sources_are_seen(own_profile: Any, stranger: Any, client_of: Any, world: Any) -> None:
    profile = own_profile("vignette")
    client = client_of(stranger)
    for path in ("health", f"profiles/{profile.pk}", "export?what=posts", "feeds", "imports"):
        assert client.get(f"{HOME}/{path}").status_code == 404
    own = "/api/brands/lantern-line/sources"
    assert client.get(f"{own}/profiles/{profile.pk}").status_code == 404
    assert client.delete(f"{own}/profiles/{profile.pk}").status_code == 404
