"""Promise: whoever asks gets everything about themselves and nobody else's; and goes for good, if a brand can do without."""

import json
from typing import Any

import pytest

from dakika_server.accounts.models import User
from dakika_server.brands.models import Membership
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
HERE = "/api/account/everything"


def sure(client: Any) -> Any:
    session = client.session
    session["sure_since"] = clock.now().timestamp()
    session.save()
    return client


def test_one_gets_ones_own_and_nobody_elses(editor: User, viewer: User, client_of: Any) -> None:
    answer = client_of(viewer).get(HERE)
    told = json.loads(answer.content)
    assert answer["Content-Disposition"] == 'attachment; filename="everything-about-you.json"'
    assert told["of"]["email"] == viewer.email
    assert editor.email not in answer.content.decode()
    assert "argon2" not in answer.content.decode()


@pytest.mark.usefixtures("within_a_minute")
def test_it_is_not_asked_for_endlessly(viewer: User, client_of: Any) -> None:
    client = client_of(viewer)
    statuses = [client.get(HERE).status_code for _ in range(12)]
    assert statuses[:9] == [200] * 9
    assert statuses[-1] == 429


def test_one_goes_if_it_is_sure_who_asks(editor: User, viewer: User, client_of: Any) -> None:
    client = client_of(viewer)
    assert client.delete(HERE).status_code == 409
    assert sure(client).delete(HERE).status_code == 204
    assert client.get("/api/account").status_code == 401
    assert not User.objects.filter(email=viewer.email).exists()
    assert Membership.objects.count() == 1


def test_the_last_admin_stays_and_stays_signed_in(editor: User, client_of: Any) -> None:
    client = sure(client_of(editor))
    answer = client.delete(HERE)
    assert answer.status_code == 400
    assert answer.json()["errors"]["to"] == ["Orrery House has no other admin. Make somebody else one first."]
    assert client.get("/api/account").status_code == 200
    editor.refresh_from_db()
    assert editor.name == "Ed"


def test_a_program_does_neither(editor: User, brand: Any, client_of: Any) -> None:
    from django.test import Client

    from dakika_server.brands.tokens import make_token

    _, told = make_token(editor, name="Night", scopes=["brand.read"], days=1, brand=None)
    client = Client(headers={"authorization": f"Bearer {told}"})
    assert client.get(HERE).status_code == 403
    assert client.delete(HERE).status_code == 403
