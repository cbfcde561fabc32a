"""Promise: one signs in with address and password, guessing is slowed down, and requests prove where they come from."""

from typing import Any

import pytest
from django.test import Client

pytestmark = pytest.mark.django_db


def sign_in(client: Client, password: str) -> Any:
    return client.post(
        "/api/session", {"email": "Editor@ninthbell.example", "password": password}, content_type="application/json"
    )


def test_signing_in_and_out(editor: Any) -> None:
    client = Client()
    assert client.get("/api/session").status_code == 401
    answer = sign_in(client, "a good long password")
    assert answer.json()["brands"] == [{"slug": "orrery-house", "name": "Orrery House", "role": "editor"}]
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
    assert sign_in(client, "a good long password").status_code == 429


def test_passwords_are_kept_as_argon2(editor: Any) -> None:
    assert editor.password.startswith("argon2")


def test_changes_without_the_token_are_refused(editor: Any) -> None:
    client = Client(enforce_csrf_checks=True)
    answer = sign_in(client, "a good long password")
    assert answer.status_code == 403
    assert answer["Content-Type"] == "application/problem+json"
