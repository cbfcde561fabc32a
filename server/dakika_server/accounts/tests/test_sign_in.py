"""Promise: one signs in with address and password, guessing is slowed down, and requests prove where they come from."""

from typing import Any

import pytest
from django.test import Client

from dakika_server.accounts.jobs import forget_old_sign_ins

pytestmark = pytest.mark.django_db


def sign_in(client: Client, password: str) -> Any:
    return client.post(
        "/api/session", {"email": "Editor@ninthbell.example", "password": password}, content_type="application/json"
    )


def test_signing_in_and_out(editor: Any) -> None:
    client = Client()
    assert client.get("/api/session").status_code == 401
    answer = sign_in(client, "a good long password")
    assert answer.json()["brands"] == [{"slug": "orrery-house", "name": "Orrery House", "role": "admin"}]
    assert client.get("/api/session").status_code == 200
    assert client.delete("/api/session").status_code == 204
    assert client.get("/api/session").status_code == 401


def test_a_wrong_password_is_a_problem_document(editor: Any) -> None:
    answer = sign_in(Client(), "wrong")
    assert answer.status_code == 400
    assert answer["Content-Type"] == "application/problem+json"
    assert answer.json()["type"].endswith("wrong_credentials")


def test_guessing_is_stopped(editor: Any) -> None:
    client = Client()
    codes = [sign_in(client, "wrong").status_code for _ in range(6)]
    assert codes[-1] == 429
    answer = sign_in(client, "wrong")
    assert answer["Content-Type"] == "application/problem+json"
    assert answer.json()["detail"].startswith("Too many attempts.")
    locked = sign_in(client, "a good long password")
    assert (locked.status_code, locked["Retry-After"]) == (429, "900")


def test_passwords_are_kept_as_argon2(editor: Any) -> None:
    assert editor.password.startswith("argon2")


def test_changes_without_the_token_are_refused(editor: Any) -> None:
    client = Client(enforce_csrf_checks=True)
    answer = sign_in(client, "a good long password")
    assert answer.status_code == 403
    assert answer["Content-Type"] == "application/problem+json"


def guess(name: str, *, from_: str = "198.51.100.7", password: str = "wrong") -> int:
    return Client(headers={"x-forwarded-for": from_}).post(
        "/api/session", {"email": name, "password": password}, content_type="application/json"
    ).status_code  # fmt: skip


def test_the_spelling_of_a_name_goes_round_no_lock(editor: Any) -> None:
    spellings = [
        "editor@ninthbell.example", "EDITOR@ninthbell.example", "Editor@NinthBell.example", " editor@ninthbell.example",
        "\uff25ditor@ninthbell.example", "eDITOR@ninthbell.example ",
    ]  # fmt: skip
    codes = [guess(spellings[n % len(spellings)]) for n in range(40)]
    assert codes[:4] == [400] * 4
    assert set(codes[5:]) == {429}
    assert guess("editor@ninthbell.example", password="a good long password") == 429


def test_nobody_locks_another_out_from_elsewhere(editor: Any) -> None:
    """Behind a proxy everybody has one direct address: who guesses is told apart by what the proxy says."""
    assert {guess("editor@ninthbell.example") for _ in range(8)} == {400, 429}
    assert guess("editor@ninthbell.example", from_="203.0.113.4", password="a good long password") == 200
    # What a client writes before the proxy's own word makes nobody else of it.
    assert guess("editor@ninthbell.example", from_="203.0.113.4, 198.51.100.7") == 429


def test_an_address_that_goes_through_many_names_waits(editor: Any, settings: Any) -> None:
    settings.SIGN_IN_MOST_FAILURES = 12
    codes = [guess(f"person{n}@ninthbell.example") for n in range(14)]
    assert codes == [400] * 12 + [429] * 2
    assert guess("editor@ninthbell.example", password="a good long password") == 429
    assert guess("editor@ninthbell.example", from_="203.0.113.4", password="a good long password") == 200


@pytest.mark.parametrize("name", ["x@y\x00.example", "a" * 255, ""])
def test_what_is_no_name_is_refused(editor: Any, name: str) -> None:
    assert guess(name) == 400


def test_what_is_kept_of_signing_in_has_an_end(editor: Any) -> None:
    from datetime import timedelta

    from axes.models import AccessAttempt, AccessLog
    from django.contrib.sessions.models import Session
    from django.utils import timezone

    guess("editor@ninthbell.example")
    assert sign_in(Client(), "a good long password").status_code == 200
    AccessLog.objects.create(username="x", ip_address="192.0.2.1", user_agent="x", path_info="/")
    guess("nobody@ninthbell.example")
    assert forget_old_sign_ins() == 0
    AccessLog.objects.update(attempt_time=timezone.now() - timedelta(days=91))
    AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
    Session.objects.update(expire_date=timezone.now() - timedelta(seconds=1))
    assert forget_old_sign_ins() >= 3
    assert [kept.objects.count() for kept in (AccessLog, AccessAttempt, Session)] == [0, 0, 0]


def test_browsers_are_told_of_tls_where_that_is_set(editor: Any, settings: Any) -> None:
    settings.SECURE_HSTS_SECONDS = 31_536_000
    assert Client().get("/api/session", secure=True)["Strict-Transport-Security"] == "max-age=31536000"
    assert "Strict-Transport-Security" not in Client().get("/api/session")
