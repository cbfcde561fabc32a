"""Promise: who has codes set up comes in with password and code alone; each code counts once, and guessing ends.

Held against RFC 6238, appendix B (SHA-1, as published there with eight digits: ours are the last six of them), and
RFC 4226, section 4, R6 (160 bits).
"""

import base64
import io
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any

import pyotp
import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.test import Client

from dakika_server.accounts import second_factor
from dakika_server.accounts.models import RecoveryCode, TotpSecret, User, WrongCode
from dakika_server.shared import clock
from dakika_server.shared.errors import Problem
from dakika_server.shared.vault import seal

pytestmark = pytest.mark.django_db
PASSWORD = "a good long password"
# RFC 6238, appendix B: the secret is the ASCII string "12345678901234567890".
RFC_SECRET = base64.b32encode(b"12345678901234567890").decode()
RFC_CODES = [
    (59, "94287082"), (1111111109, "07081804"), (1111111111, "14050471"), (1234567890, "89005924"),
    (2000000000, "69279037"), (20000000000, "65353130"),
]  # fmt: skip


def at(monkeypatch: pytest.MonkeyPatch, seconds: float) -> None:
    monkeypatch.setattr(clock, "now", lambda: datetime.fromtimestamp(seconds, UTC))


def send(client: Client, path: str, method: str = "post", **body: Any) -> Any:
    return getattr(client, method)(f"/api/{path}", body, content_type="application/json")


def with_codes(person: User, client: Client) -> tuple[pyotp.TOTP, list[str]]:
    """Have codes set up over HTTP, as a person does."""
    secret = send(client, "account/totp").json()["secret"]
    totp = pyotp.TOTP(secret)
    answer = send(client, "account/totp", "put", code=totp.at(clock.now() - timedelta(seconds=30)))
    assert answer.status_code == 200, answer.json()
    return totp, answer.json()["codes"]


def signed_in(person: User) -> Client:
    client = Client()
    assert send(client, "session", email=person.email, password=PASSWORD).status_code == 200
    return client


@pytest.mark.parametrize(("seconds", "code"), RFC_CODES)
def test_codes_are_those_of_the_standard(
    monkeypatch: pytest.MonkeyPatch, editor: User, seconds: int, code: str
) -> None:
    at(monkeypatch, seconds)
    TotpSecret.objects.create(user=editor, sealed=seal(RFC_SECRET), confirmed_at=clock.now())
    second_factor.check_code(editor, code[2:])


@pytest.mark.parametrize(("aside", "is_taken"), [(-60, False), (-30, True), (0, True), (30, True), (60, False)])
def test_a_clock_may_be_wrong_by_one_step(
    monkeypatch: pytest.MonkeyPatch, editor: User, aside: int, is_taken: bool
) -> None:
    at(monkeypatch, 1_800_000_015)
    TotpSecret.objects.create(user=editor, sealed=seal(RFC_SECRET), confirmed_at=clock.now())
    code = pyotp.TOTP(RFC_SECRET).at(1_800_000_015 + aside)
    if is_taken:
        second_factor.check_code(editor, code)
    else:
        with pytest.raises(Problem):
            second_factor.check_code(editor, code)


def test_signing_in_takes_both(editor: User) -> None:
    totp, _ = with_codes(editor, signed_in(editor))
    client = Client()
    answer = send(client, "session", email=editor.email, password=PASSWORD)
    assert (answer.status_code, answer.json()) == (202, {"ways": ["code"]})
    assert client.get("/api/session").status_code == 401
    assert client.get("/api/brands/orrery-house").status_code == 401
    assert send(client, "session/second", code="000000").json()["type"].endswith("wrong_code")
    answer = send(client, "session/second", code=totp.now())
    assert answer.json()["email"] == editor.email
    assert client.get("/api/session").status_code == 200
    # The session of a person is one of days again, not of the minutes that the second factor had.
    assert client.session.get_expiry_age() > 24 * 3600


def test_a_code_without_a_password_opens_nothing(editor: User) -> None:
    totp, _ = with_codes(editor, signed_in(editor))
    assert send(Client(), "session/second", code=totp.now()).json()["type"].endswith("password_first")


def test_half_signed_in_ends_after_ten_minutes_and_with_another_password(
    monkeypatch: pytest.MonkeyPatch, editor: User
) -> None:
    totp, _ = with_codes(editor, signed_in(editor))
    first, second = Client(), Client()
    for client in (first, second):
        send(client, "session", email=editor.email, password=PASSWORD)
    editor.refresh_from_db()
    editor.set_password("kettlebridgeorchardnine")
    editor.save()
    assert send(first, "session/second", code=totp.now()).json()["type"].endswith("password_first")
    later = clock.now() + timedelta(minutes=11)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert send(second, "session/second", code=totp.at(later)).json()["type"].endswith("password_first")


def test_a_code_counts_once(editor: User) -> None:
    totp, _ = with_codes(editor, signed_in(editor))
    code = totp.now()
    second_factor.check_code(editor, code)
    with pytest.raises(Problem):
        second_factor.check_code(editor, code)


def test_guessing_ends_and_the_owner_is_told(mails: Any, editor: User) -> None:
    totp, codes = with_codes(editor, signed_in(editor))
    client = Client()
    send(client, "session", email=editor.email, password=PASSWORD)
    statuses = [send(client, "session/second", code=f"{n:06}").status_code for n in range(7)]
    assert statuses == [400] * 5 + [429] * 2
    assert send(client, "session/second", code=totp.now()).status_code == 429
    assert send(client, "session/second", code=codes[0]).status_code == 429
    assert mails.filter(subject__contains="has your password but not your codes", to=editor.email).count() == 1
    WrongCode.objects.update(at=clock.now() - timedelta(minutes=16))
    assert send(client, "session/second", code=totp.now()).status_code == 200


@pytest.mark.django_db(transaction=True)
def test_guesses_at_once_are_counted_like_guesses_in_a_row(editor: User) -> None:
    with_codes(editor, signed_in(editor))

    def guess(n: int) -> str:
        try:
            second_factor.check_code(editor, f"{n:06}")
        except Problem as error:
            return error.kind
        finally:
            connection.close()
        return "in"

    with ThreadPoolExecutor(8) as pool:
        kinds = list(pool.map(guess, range(16)))
    assert kinds.count("wrong_code") == 5
    assert kinds.count("throttled") == 11


def test_recovery_codes_count_once_each_and_are_kept_as_digests(editor: User) -> None:
    _, codes = with_codes(editor, signed_in(editor))
    assert len(set(codes)) == 10
    assert all(len(code.replace("-", "")) * 5 == 120 for code in codes), "120 bits: a plain digest is enough"
    kept = " ".join(RecoveryCode.objects.values_list("digest", flat=True))
    assert not any(code.replace("-", "") in kept for code in codes)
    client = Client()
    send(client, "session", email=editor.email, password=PASSWORD)
    assert send(client, "session/second", code=f" {codes[3].upper()} ").status_code == 200
    again = Client()
    send(again, "session", email=editor.email, password=PASSWORD)
    assert send(again, "session/second", code=codes[3]).status_code == 400
    assert send(client, "account/recovery-codes").status_code == 200
    assert send(again, "session/second", code=codes[4]).status_code == 400, "those before are worth nothing"


def test_the_secret_is_sealed_and_told_once(editor: User) -> None:
    client = signed_in(editor)
    totp, _ = with_codes(editor, client)
    assert totp.secret.encode() not in bytes(TotpSecret.objects.get().sealed)
    assert len(base64.b32decode(totp.secret)) * 8 == 160
    assert totp.secret not in client.get("/api/account").content.decode()
    assert "errors" in send(client, "account/totp").json(), "another device does not take the place of one unasked"


def test_codes_are_not_asked_for_before_one_was_right(editor: User) -> None:
    client = signed_in(editor)
    send(client, "account/totp")
    assert send(client, "account/totp", "put", code="000000").json()["errors"]["code"]
    signed_in(editor)


def test_taking_codes_away_takes_the_recovery_codes_along(editor: User) -> None:
    client = signed_in(editor)
    with_codes(editor, client)
    assert client.delete("/api/account/totp").status_code == 204
    assert not RecoveryCode.objects.exists()
    signed_in(editor)
    assert send(client, "account/recovery-codes").status_code == 400


@pytest.mark.parametrize(
    ("path", "method"),
    [("account/totp", "post"), ("account/totp", "put"), ("account/totp", "delete"), ("account/recovery-codes", "post"),
     ("account/passkeys", "post"), ("account/passkeys/options", "post"), ("account/passkeys/1", "delete"),
     ("account/address", "post")],
)  # fmt: skip
def test_a_screen_that_was_left_open_changes_no_keys(
    monkeypatch: pytest.MonkeyPatch, editor: User, path: str, method: str
) -> None:
    client = signed_in(editor)
    later = clock.now() + timedelta(minutes=11)
    monkeypatch.setattr(clock, "now", lambda: later)
    answer = send(client, path, method)
    assert (answer.status_code, answer.json()["type"].rpartition(":")[2]) == (409, "confirm_first")
    assert send(client, "session/confirm", password="wrong").status_code == 400
    assert send(client, "session/confirm", password=PASSWORD).status_code == 204
    assert send(client, path, method).status_code != 409


def test_showing_that_it_is_you_takes_the_second_factor_too(monkeypatch: pytest.MonkeyPatch, editor: User) -> None:
    client = signed_in(editor)
    totp, _ = with_codes(editor, client)
    later = clock.now() + timedelta(minutes=11)
    monkeypatch.setattr(clock, "now", lambda: later)
    assert send(client, "session/confirm", password=PASSWORD).status_code == 400
    assert send(client, "session/confirm", password=PASSWORD, code=totp.at(later)).status_code == 204


def test_what_changed_is_told_by_letter(mails: Any, editor: User) -> None:
    client = signed_in(editor)
    with_codes(editor, client)
    client.delete("/api/account/totp")
    subjects = list(mails.filter(to=editor.email).order_by("pk").values_list("subject", flat=True))
    assert subjects == ["Codes are asked for at your sign-in", "Codes are no longer asked for at your sign-in"]


def test_who_lost_device_and_codes_is_let_in_by_who_runs_it(editor: User, mails: Any) -> None:
    client = signed_in(editor)
    with_codes(editor, client)
    out = io.StringIO()
    call_command("let_in", "EDITOR@ninthbell.example", stdout=out)
    key = out.getvalue().strip().partition("#")[2]
    assert client.get("/api/session").status_code == 401
    assert send(Client(), "session", email=editor.email, password=PASSWORD).status_code == 400
    new = "kettle bridge orchard nine"
    assert send(Client(), "password-reset/new", key=key, password=new).status_code == 200
    assert send(Client(), "session", email=editor.email, password=new).status_code == 200
    assert mails.filter(to=editor.email, subject="Your account was opened anew").count() == 1
    with pytest.raises(CommandError, match="Nobody signs in"):
        call_command("let_in", "nobody@ninthbell.example")
