"""Promise: what an address answers to a whole request hangs on whether one may, and on nothing else of who one is.

Refused, nothing is written. Let through, all roles that may get the same answer.
"""

import re
from typing import Any

import pytest
from django.db import connection, transaction
from django.test.utils import CaptureQueriesContext

from dakika_server.accounts.models import User
from dakika_server.accounts.permissions import Role, permissions_of
from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.tests.bodies import body_for
from dakika_server.brands.tests.bodies import description as whole
from dakika_server.brands.tests.test_roles import CHANGING, described, filled, needed

pytestmark = pytest.mark.django_db
# What a refusal may write all the same: who was last seen where, and how often somebody asked.
_OWN = re.compile(r"django_session|accounts_|SAVEPOINT|procrastinate", re.IGNORECASE)
_WRITES = re.compile(r"^\s*(INSERT|UPDATE|DELETE)\b", re.IGNORECASE)


ASKED = sorted(
    (
        (path, method, view)
        for path, view in described()
        for method in CHANGING
        if hasattr(view, method) and method in view.http_method_names
    ),
    key=lambda one: (one[0].endswith("/team/leaving"), one[0], one[1]),
)


def asked(client: Any, path: str, method: str) -> Any:
    body = body_for(path, method)
    return getattr(client, method)(filled(path), body if body is not None else {}, "application/json")


def member(role: str, brand: Brand) -> User:
    person = User.objects.create(email=f"{role}@ninthbell.example", name=role)
    Membership.objects.create(user=person, brand=brand, role=role)
    return person


def test_there_is_a_whole_body_for_what_takes_one() -> None:
    taking = [
        (path, method) for path, method, _ in ASKED if whole()["paths"].get(path, {}).get(method, {}).get("requestBody")
    ]
    assert len(taking) > 70
    empty = [one for one in taking if body_for(*one) == {}]
    assert empty == []


@pytest.mark.parametrize("role", [role.value for role in Role])
def test_who_may_not_is_refused_and_nothing_is_written(role: str, brand: Brand, client_of: Any) -> None:
    client = client_of(member(role, brand))
    wrong = []
    for path, method, view in ASKED:
        if needed(view, method) in permissions_of(role):
            continue
        with CaptureQueriesContext(
            connection,
        ) as seen:
            answer = asked(client, path, method)
        written = [q["sql"][:120] for q in seen if _WRITES.match(q["sql"]) and not _OWN.search(q["sql"])]
        if answer.status_code != 403 or written:
            wrong.append((method, path, answer.status_code, written))
    assert wrong == []


@pytest.mark.parametrize("role", ["analyst", "author", "approver"])
def test_all_who_may_get_one_answer(role: str, brand: Brand, client_of: Any) -> None:
    # But for leaving: the last admin has to stay.
    theirs = [
        one for one in ASKED if not one[0].endswith("/team/leaving") and needed(one[2], one[1]) in permissions_of(role)
    ]
    told: dict[str, list[int]] = {}
    for who in ("admin", role):
        client = client_of(member(who, brand))
        for path, method, _ in theirs:
            # Each request meets the brand as it was at first.
            with transaction.atomic():
                told.setdefault(f"{method} {path}", []).append(asked(client, path, method).status_code)
                transaction.set_rollback(True)
    assert {
        name: codes for name, codes in told.items() if len(set(codes)) > 1 or codes[0] in (401, 403) or codes[0] >= 500
    } == {}
    # A body that every address refuses would prove nothing.
    assert sum(codes[0] < 300 for codes in told.values()) > 10
