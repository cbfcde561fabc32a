"""Promise: what the API tells one person is kept by no cache on the way; what may be kept says so itself."""

from typing import Any

import pytest
from django.test import Client

pytestmark = pytest.mark.django_db


@pytest.mark.parametrize("path", ["/api/session", "/api/brands", "/api/brands/orrery-house", "/api/nowhere"])
def test_answers_are_nobody_elses(path: str, editor: Any, client_of: Any) -> None:
    for client in (client_of(editor), Client()):
        assert client.get(path)["Cache-Control"] == "private, no-store"


def test_pages_and_pictures_say_for_themselves() -> None:
    assert "no-store" not in Client().get("/")["Cache-Control"]
