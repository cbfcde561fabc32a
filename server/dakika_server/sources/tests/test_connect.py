"""Promise: a profile is connected through the network's own consent page, only what may be, and its tokens stay here."""

import logging
from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx
import pytest

from dakika_server.brands.models import Brand, Membership
from dakika_server.shared.vault import unseal
from dakika_server.sources.erase import erase
from dakika_server.sources.models import CollectionRun, Connection, Credential, Post, Profile
from dakika_server.sources.testing import run_to_end

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/sources"


def consent(address: str, answer: str = "allow", *, may: list[str] | None = None) -> str:
    """Say yes (or no) on the stand-in's page; returns where it sends the browser."""
    asked = {k: v[0] for k, v in parse_qs(urlsplit(address).query).items()}
    assert asked["code_challenge_method"] == "S256"
    page = httpx.get(address)
    assert "asks to" in page.text
    form: dict[str, Any] = {**asked, "owner": "orrery", "answer": answer}
    if may is not None:
        form |= {"chosen": "1", "may": may}
    return httpx.post(address.split("?")[0], data=form).headers["location"]


def begin(client: Any, network: str = "commons", **more: Any) -> str:
    body = {"network": network, **more}
    return str(client.post(f"{HOME}/connections", body, content_type="application/json").json()["address"])


def come_back(client: Any, address: str) -> Any:
    back = urlsplit(address)
    return client.get(f"{back.path}?{back.query}")


@pytest.mark.parametrize(
    ("network", "refused"), [("commons", "mirela.duarte"), ("pictor", "mirela.duarte"), ("vignette", "mirela.duarte")]
)
def test_consent_choice_and_first_run(network: str, refused: str, editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    answer = come_back(client, consent(begin(client, network)))
    assert answer.status_code == 302
    connection = Connection.objects.get()
    assert answer["Location"] == f"/orrery-house/sources?connection={connection.pk}"
    base = f"{HOME}/connections/{connection.pk}"
    offered = {o["handle"]: o for o in client.get(base).json()["offered"]}
    assert "accounts" in offered[refused]["refusal"]
    assert offered["orreryhouse"]["followers"] > 1000
    assert offered["orreryhouse"]["picture"].startswith("http")
    wrong = client.post(base, {"external_ids": [offered[refused]["external_id"]]}, content_type="application/json")
    assert wrong.status_code == 400
    body = {"external_ids": [offered["orreryhouse"]["external_id"]]}
    assert client.post(base, body, content_type="application/json").status_code == 201
    assert Profile.objects.get().kind == "own"
    assert CollectionRun.objects.get().state == "waiting"
    assert Brand.objects.get().picture == Profile.objects.get().picture


def test_cancelling_connects_nothing(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    assert come_back(client, consent(begin(client), "cancel"))["Location"].endswith("consent=cancelled")
    assert not Profile.objects.exists()


def test_leaving_reading_unticked_says_what_to_do(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    location = come_back(client, consent(begin(client, "guildhall"), may=["org.write"]))["Location"]
    assert "unticked" in location
    assert not Credential.objects.exists()


def test_leaving_publishing_unticked_connects_and_says_so(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    come_back(client, consent(begin(client), may=["read"]))
    base = f"{HOME}/connections/{Connection.objects.get().pk}"
    assert client.get(base).json()["may_publish"] is False
    client.post(base, {"external_ids": ["pg-orreryhouse"]}, content_type="application/json")
    health = client.get(f"{HOME}/health").json()["profiles"][0]
    assert [t["kind"] for t in health["troubles"]] == ["scope"]


def test_an_account_of_another_brand_is_refused_and_named_to_its_members_only(
    editor: Any, stranger: Any, client_of: Any, world: Any
) -> None:
    other = Brand.objects.get(slug="lantern-line")
    from django.utils import timezone

    Profile.objects.create(
        brand=other, network="commons", external_id="pg-orreryhouse", handle="orreryhouse", name="Orrery House",
        kind="own", added_at=timezone.now(),
    )  # fmt: skip
    client = client_of(editor)
    come_back(client, consent(begin(client)))
    base = f"{HOME}/connections/{Connection.objects.get().pk}"

    def refusal() -> str:
        offered = client.get(base).json()["offered"]
        return str(next(o["refusal"] for o in offered if o["handle"] == "orreryhouse"))

    assert "another brand" in refusal()
    assert "Lantern" not in refusal()
    answer = client.post(base, {"external_ids": ["pg-orreryhouse"]}, content_type="application/json")
    assert answer.status_code == 400
    Membership.objects.create(user=editor, brand=other, role="viewer")
    assert "Lantern Line" in refusal()


def test_a_code_serves_only_who_asked_for_it(editor: Any, stranger: Any, client_of: Any, world: Any) -> None:
    location = consent(begin(client_of(editor)))
    assert "not+known" in come_back(client_of(stranger), location)["Location"]
    assert Connection.objects.get().credential is None


def test_renewing_takes_one_consent_and_collects_again(
    editor: Any, client_of: Any, own_profile: Any, world: Any
) -> None:
    profile = own_profile("brevi")
    Credential.objects.update(is_lapsed=True)
    client = client_of(editor)
    assert client.get(f"{HOME}/health").json()["profiles"][0]["troubles"][0]["act"] == "renew"
    location = come_back(client, consent(begin(client, "brevi", renews=profile.pk)))["Location"]
    assert "renewed=Orrery+House" in location
    profile.refresh_from_db()
    assert not profile.credential.is_lapsed
    assert CollectionRun.objects.get().profile_id == profile.pk
    assert client.get(f"{HOME}/health").json()["profiles"][0]["profile"]["authorisation"] == "valid"


def test_renewing_with_other_accounts_is_refused(editor: Any, client_of: Any, own_profile: Any, world: Any) -> None:
    profile = own_profile("brevi")
    Profile.objects.update(external_id="bsomebodyelse")
    client = client_of(editor)
    location = come_back(client, consent(begin(client, "brevi", renews=profile.pk)))["Location"]
    assert "other+accounts" in location


def test_disconnecting_gives_the_token_back_and_keeps_the_history_unless_told(
    editor: Any, client_of: Any, own_profile: Any, world: Any
) -> None:
    profile = own_profile("corkboard")
    run_to_end(profile)
    refresh = unseal(profile.credential.refresh)
    assert refresh in world.state.data["refresh"]
    client = client_of(editor)
    assert client.delete(f"{HOME}/profiles/{profile.pk}").status_code == 204
    assert refresh not in world.state.data["refresh"]
    assert not Credential.objects.exists()
    assert Post.objects.exists()
    assert client.get(HOME).json()["profiles"] == []
    Profile.objects.update(is_followed=True)
    assert client.delete(f"{HOME}/profiles/{profile.pk}?erase=true").status_code == 204
    erase(profile.pk)
    assert not Post.objects.exists()
    assert not Profile.objects.exists()


def test_no_token_enters_a_log_or_an_answer(
    editor: Any, client_of: Any, world: Any, caplog: pytest.LogCaptureFixture
) -> None:
    caplog.set_level(logging.DEBUG)
    client = client_of(editor)
    come_back(client, consent(begin(client, "pictor")))
    connection = Connection.objects.get()
    secrets = [unseal(connection.credential.access), unseal(connection.credential.refresh), unseal(connection.verifier)]
    answers = client.get(f"{HOME}/connections/{connection.pk}").content.decode() + client.get(HOME).content.decode()
    ours = "\n".join(r.getMessage() for r in caplog.records if not r.name.startswith(("httpx", "httpcore", "asyncio")))
    for secret in secrets:
        assert secret not in answers
        assert secret not in ours
    # Libraries that log whole requests are silenced in the settings.
    from django.conf import settings

    assert settings.LOGGING["loggers"]["httpcore"]["level"] == "WARNING"


def test_the_brands_picture_follows_the_profile_it_is_taken_from(
    editor: Any, client_of: Any, own_profile: Any, world: Any
) -> None:
    profile = own_profile("longplay")
    client = client_of(editor)
    answer = client.put(f"{HOME}/picture", {"profile_id": profile.pk}, content_type="application/json")
    assert answer.status_code == 204
    run_to_end(profile)
    assert Brand.objects.get().picture == "/pictures/longplay-orreryhouse.svg"
    strange = client.put(f"{HOME}/picture", {"profile_id": 999999}, content_type="application/json")
    assert strange.status_code == 400
