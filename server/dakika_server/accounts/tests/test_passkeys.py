"""Promise: a passkey lets its owner in at this address alone, each answer once, and a copy of it is found out.

Held against Web Authentication, Level 3: the steps of sections 7.1 and 7.2, each left undone once by a device that
lies. In the browser Chromium's virtual authenticator does the same (tests/e2e/test_people.py).
"""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from hypothesis import HealthCheck, given
from hypothesis import settings as bounds
from hypothesis import strategies as st

from dakika_server.accounts.models import Passkey, User
from dakika_server.accounts.passkeys import relying_party
from dakika_server.accounts.tests.device import PRESENT, Device, b64
from dakika_server.shared import clock
from dakika_server.shared.models import CallCount

pytestmark = pytest.mark.django_db
PASSWORD = "a good long password"
ORIGIN = "https://dakika.ninthbell.example"


@pytest.fixture(autouse=True)
def _at_a_name(settings: Any) -> None:
    settings.PUBLIC_ADDRESS = ORIGIN


@pytest.fixture
def device() -> Device:
    return Device(origin=ORIGIN, party="dakika.ninthbell.example")


def send(client: Client, path: str, method: str = "post", **body: Any) -> Any:
    return getattr(client, method)(f"/api/{path}", body, content_type="application/json")


def options(client: Client, path: str) -> dict[str, Any]:
    answer = send(client, path)
    assert answer.status_code == 200, answer.json()
    told: dict[str, Any] = answer.json()["options"]
    return told


def signed_in(person: User) -> Client:
    client = Client()
    assert send(client, "session", email=person.email, password=PASSWORD).status_code == 200
    return client


def add(person: User, device: Device) -> Any:
    client = signed_in(person)
    asked = options(client, "account/passkeys/options")
    return send(client, "account/passkeys", name=" My \x0b desk ", credential=device.made(asked))


def come(device: Device, client: Client | None = None) -> Any:
    client = client or Client()
    return send(client, "session/passkey", credential=device.signed(options(client, "session/passkey/options")))


def test_a_passkey_lets_its_owner_in_without_a_password(editor: User, device: Device) -> None:
    assert [one["name"] for one in add(editor, device).json()["passkeys"]] == ["My desk"]
    answer = come(device)
    assert answer.json()["email"] == editor.email
    assert Passkey.objects.get().used_at


def test_it_is_a_second_factor_after_the_password(editor: User, stranger: User, device: Device) -> None:
    add(editor, device)
    client = Client()
    assert send(client, "session", email=editor.email, password=PASSWORD).json() == {"ways": ["passkey"]}
    asked = options(client, "session/passkey/options")
    assert [one["id"] for one in asked["allowCredentials"]] == [b64(device.credential_id)]
    assert send(client, "session/passkey", credential=device.signed(asked)).status_code == 200


def test_somebody_elses_passkey_is_no_second_factor(editor: User, stranger: User, device: Device) -> None:
    other = Device(origin=ORIGIN, party=device.party, credential_id=b"another credential of them")
    assert add(editor, device).status_code == add(stranger, other).status_code == 200
    client = Client()
    send(client, "session", email=editor.email, password=PASSWORD)
    assert "somebody else" in come(other, client).json()["detail"]
    assert client.get("/api/session").status_code == 401


@pytest.mark.parametrize(
    "lie",
    [{"origin": "https://dakika.ninthbell.example.evil.example"}, {"origin": ORIGIN.replace("https", "http")},
     {"party": "ninthbell.example"}, {"flags": PRESENT}, {"flags": 0}],
)  # fmt: skip
def test_a_device_that_answers_for_another_place_or_without_its_owner_is_refused(
    editor: User, device: Device, lie: dict[str, Any]
) -> None:
    liar = Device(**{**vars(device), **lie})
    assert add(editor, liar).json()["errors"]["credential"]
    assert add(editor, device).status_code == 200
    assert come(liar).json()["type"].endswith("wrong_passkey")


def test_another_key_and_another_challenge_are_refused(editor: User, device: Device) -> None:
    add(editor, device)
    other_key = Device(origin=ORIGIN, party=device.party)
    assert come(other_key).status_code == 400
    client, other = Client(), Client()
    asked = options(other, "session/passkey/options")
    options(client, "session/passkey/options")
    assert send(client, "session/passkey", credential=device.signed(asked)).status_code == 400


def test_an_answer_counts_once_and_for_five_minutes(
    editor: User, device: Device, monkeypatch: pytest.MonkeyPatch
) -> None:
    add(editor, device)
    client = Client()
    answer = device.signed(options(client, "session/passkey/options"))
    assert send(client, "session/passkey", credential=answer).status_code == 200
    assert send(client, "session/passkey", credential=answer).status_code == 400
    late = device.signed(options(client, "session/passkey/options"))
    later = clock.now() + timedelta(minutes=6)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert send(client, "session/passkey", credential=late).status_code == 400


def test_a_copy_is_found_out_by_its_counter(editor: User, device: Device) -> None:
    """Section 6.1.1: a counter that does not grow is that of a copy."""
    device.count = 5
    add(editor, device)
    device.count = 7
    assert come(device).status_code == 200
    assert come(device).status_code == 400
    device.count = 6
    assert come(device).status_code == 400


def test_who_may_not_sign_in_any_more_does_not(editor: User, device: Device) -> None:
    add(editor, device)
    User.objects.update(is_active=False)
    assert come(device).status_code == 400


def test_a_passkey_is_taken_away_by_its_owner_alone(editor: User, stranger: User, device: Device) -> None:
    add(editor, device)
    pk = Passkey.objects.get().pk
    assert signed_in(stranger).delete(f"/api/account/passkeys/{pk}").status_code == 404
    client = Client()
    come(device, client)
    assert client.delete(f"/api/account/passkeys/{pk}").status_code == 204
    assert come(device).status_code == 400


def test_it_shows_that_it_is_you(editor: User, device: Device, monkeypatch: pytest.MonkeyPatch) -> None:
    add(editor, device)
    client = Client()
    come(device, client)
    later = clock.now() + timedelta(minutes=11)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert send(client, "account/recovery-codes").status_code == 409
    asked = options(client, "session/passkey/options")
    assert send(client, "session/confirm", credential=device.signed(asked)).status_code == 204
    assert send(client, "account/recovery-codes").status_code == 200


@pytest.mark.parametrize(
    ("address", "party"),
    [("https://dakika.example", "dakika.example"), ("http://localhost:8000", "localhost"),
     ("http://dakika.example", None), ("https://192.0.2.7", None), ("https://[2001:db8::1]", None)],
)  # fmt: skip
def test_passkeys_are_offered_where_an_address_has_a_name_and_tls(
    settings: Any, address: str, party: str | None, editor: User
) -> None:
    settings.PUBLIC_ADDRESS = address
    assert relying_party() == party
    client = signed_in(editor)
    assert client.get("/api/account").json()["takes_passkeys"] is (party is not None)
    assert send(client, "account/passkeys/options").status_code == (200 if party else 400)


junk = st.recursive(
    st.none() | st.booleans() | st.integers() | st.text(max_size=40),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=6,
)
answers = st.fixed_dictionaries(
    {},
    optional={
        "id": junk | st.just(b64(b"a credential of sixteen+ bytes")), "rawId": junk, "type": junk | st.just("public-key"),
        "response": junk | st.fixed_dictionaries(
            {}, optional={name: junk | st.binary(max_size=90).map(b64) for name in (
                "clientDataJSON", "authenticatorData", "signature", "attestationObject", "userHandle", "transports")},
        ),
    },
)  # fmt: skip


@bounds(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(answer=answers | junk)
def test_whatever_is_sent_is_refused_in_words(editor: User, device: Device, answer: Any) -> None:
    CallCount.objects.all().delete()
    if not Passkey.objects.exists():
        add(editor, device)
    client = Client()
    options(client, "session/passkey/options")
    told = send(client, "session/passkey", credential=answer)
    assert (told.status_code, told["Content-Type"]) == (400, "application/problem+json")


@bounds(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(flip=st.integers(0, 400), value=st.integers(1, 255))
def test_a_changed_byte_is_refused_in_words(editor: User, device: Device, flip: int, value: int) -> None:
    """Of what a device made: the attestation's bytes are a stranger's until they are read."""
    import base64

    CallCount.objects.all().delete()
    client = Client()
    client.force_login(editor, backend="django.contrib.auth.backends.ModelBackend")
    session = client.session
    session["sure_since"] = clock.now().timestamp()
    session.save()
    made = device.made(options(client, "account/passkeys/options"))
    text = made["response"]["attestationObject"]
    data = bytearray(base64.urlsafe_b64decode(text + "=" * (-len(text) % 4)))
    data[flip % len(data)] ^= value
    made["response"]["attestationObject"] = b64(bytes(data))
    told = send(client, "account/passkeys", credential=made)
    assert told.status_code in (200, 400)
    Passkey.objects.all().delete()
