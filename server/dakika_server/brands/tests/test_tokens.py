"""Promise: a program does what its token was made for, within its person's role and brand, until its end; once by a key.

Held against RFC 6750 (2.1, 3), draft-ietf-httpapi-ratelimit-headers and draft-ietf-httpapi-idempotency-key-header.
"""

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta
from typing import Any

import pytest
from django.db import connection
from django.test import Client

from dakika_server.accounts.models import User
from dakika_server.brands import authentication
from dakika_server.brands.jobs import forget_old_answers
from dakika_server.brands.models import ApiToken, Brand, Campaign, KeptAnswer, Membership
from dakika_server.brands.tokens import PREFIX, make_program, make_token
from dakika_server.shared import clock
from dakika_server.shared.models import AuditEntry

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house"
CAMPAIGN = {"name": "Night Openings", "first_day": "2026-11-01", "last_day": "2026-11-30"}
ALL = ["brand.read", "brand.campaigns"]


def program(told: str, **headers: str) -> Client:
    return Client(headers={"authorization": f"Bearer {told}", **headers})


def post(client: Client, path: str = "/campaigns", **body: Any) -> Any:
    return client.post(f"{BASE}{path}", body or CAMPAIGN, content_type="application/json")


@pytest.fixture
def told(editor: User, brand: Brand) -> str:
    return make_token(editor, name="Night job", scopes=ALL, days=30, brand=None)[1]


def test_a_program_acts_as_its_person(told: str, editor: User) -> None:
    client = program(told)
    assert client.get("/api/session").json()["email"] == editor.email
    assert client.get(BASE).status_code == 200
    assert post(client).status_code == 201, "no token of a form is wanted: no cookie is sent along"
    entry = AuditEntry.objects.get(action="add_campaign")
    assert entry.actor_id == editor.pk


def test_what_is_told_once_is_kept_as_a_digest(told: str, editor: User, client_of: Any) -> None:
    assert told.startswith(PREFIX)
    assert len(told) >= len(PREFIX) + 43, "256 bits"
    kept = ApiToken.objects.get()
    assert told not in str(vars(kept))
    listed = client_of(editor).get("/api/account/tokens").json()
    assert [(one["name"], one["hint"], one["is_over"]) for one in listed] == [("Night job", told[-4:], False)]
    assert told not in str(listed)
    assert told not in str(list(AuditEntry.objects.values()))


def test_it_does_what_it_was_made_for_and_no_more(editor: User, brand: Brand) -> None:
    _, told = make_token(editor, name="Reader", scopes=["brand.read"], days=30, brand=None)
    client = program(told)
    assert client.get(f"{BASE}/campaigns").status_code == 200
    answer = post(client)
    assert (answer.status_code, answer.json()["detail"]) == (
        403, "This token was not made to make campaigns: it lacks brand.campaigns.",
    )  # fmt: skip
    assert not Campaign.objects.exists()
    assert post(program(told), "/team/leaving", to=None).status_code == 403, "what is one's own choice is a person's"


def test_what_an_action_asks_for_besides_is_held_against_the_token_too(editor: User, brand: Brand) -> None:
    """A view's permission is not all that its action wants: the token narrows both."""
    from dakika_server.brands.permissions import can, token_scopes

    reset = token_scopes.set(frozenset({"plan.write"}))
    try:
        assert can(editor, brand, "plan.write")
        assert not can(editor, brand, "plan.publish")
    finally:
        token_scopes.reset(reset)
    assert can(editor, brand, "plan.publish")
    _, told = make_token(editor, name="Reader", scopes=["brand.read"], days=30, brand=None)
    post(program(told))
    assert token_scopes.get() is None, "nothing of it is left for the next request"


def test_a_role_that_shrinks_shrinks_the_token(told: str, editor: User, brand: Brand) -> None:
    Membership.objects.update(role="viewer")
    assert post(program(told)).status_code == 403
    Membership.objects.all().delete()
    assert program(told).get(BASE).status_code == 404


def test_a_token_of_one_brand_opens_no_other(editor: User, brand: Brand) -> None:
    other = Brand.objects.create(name="Lantern Line", slug="lantern-line")
    Membership.objects.create(user=editor, brand=other, role="admin")
    _, told = make_token(editor, name="One", scopes=ALL, days=30, brand=brand)
    assert program(told).get(BASE).status_code == 200
    assert program(told).get("/api/brands/lantern-line").status_code == 404


@pytest.mark.parametrize(
    "path", ["/api/account", "/api/account/tokens", "/api/account/sessions", f"{BASE}/team/programs"]
)
def test_accounts_and_keys_are_for_people(told: str, path: str) -> None:
    for method in ("get", "post", "put", "delete"):
        answer = getattr(program(told), method)(path)
        assert answer.status_code in (403, 405), method
    assert ApiToken.objects.count() == 1


@pytest.mark.parametrize(
    "wrong", ["", "x", "dakika_x", "dakika_" + "A" * 43, "dakika_" + "A" * 4000, "dakika_\u00e9", "a b"]
)
def test_a_token_that_is_none_is_refused(told: str, wrong: str) -> None:
    answer = program(wrong.encode().decode("latin-1")).get(BASE)
    assert answer.status_code == 401
    assert answer["Content-Type"] == "application/problem+json"


def test_it_ends_by_its_day_by_being_taken_away_and_with_its_person(told: str, editor: User, client_of: Any) -> None:
    ApiToken.objects.update(until=clock.now() - timedelta(seconds=1))
    assert program(told).get(BASE).status_code == 401
    ApiToken.objects.update(until=clock.now() + timedelta(days=1))
    User.objects.filter(pk=editor.pk).update(is_active=False)
    assert program(told).get(BASE).status_code == 401
    User.objects.filter(pk=editor.pk).update(is_active=True)
    pk = ApiToken.objects.get().pk
    assert client_of(editor).delete(f"/api/account/tokens/{pk}").status_code == 204
    assert program(told).get(BASE).status_code == 401
    assert client_of(editor).delete(f"/api/account/tokens/{pk}").status_code == 404


def test_nobody_takes_away_another_ones_token(told: str, stranger: User, client_of: Any) -> None:
    pk = ApiToken.objects.get().pk
    assert client_of(stranger).delete(f"/api/account/tokens/{pk}").status_code == 404


def test_making_one_over_http_is_checked_and_told_once(editor: User, client_of: Any) -> None:
    client = client_of(editor)
    body = {"name": "Night job", "scopes": ALL, "days": 30, "brand": "orrery-house"}

    def make(**changed: Any) -> Any:
        return client.post("/api/account/tokens", {**body, **changed}, content_type="application/json")

    assert make().json()["type"].endswith("confirm_first"), "a screen that was left open makes no keys"
    session = client.session
    session["sure_since"] = clock.now().timestamp()
    session.save()
    made = make().json()
    assert program(made["told"]).get(BASE).status_code == 200
    assert make(scopes=["everything"]).json()["errors"]["scopes"] == ["There is no permission everything."]
    assert make(scopes=[]).json()["errors"]["scopes"] == ["Say what it may do."]
    assert make(days=400).status_code == make(name=" ").status_code == 400
    assert make(brand="lantern-line").status_code == 404


# -- programs of a brand


def test_a_program_is_nobodys_and_stays_when_its_maker_leaves(editor: User, brand: Brand, client_of: Any) -> None:
    _, told = make_program(editor, brand, name="Shop", role="analyst", scopes=ALL, days=90)
    other = User.objects.create(email="other@ninthbell.example", name="Other")
    Membership.objects.create(user=other, brand=brand, role="admin")
    Membership.objects.filter(user=editor).delete()
    assert post(program(told)).status_code == 201
    members = client_of(other).get(f"{BASE}/team").json()["members"]
    assert [(one["name"], one["is_program"], one["email"]) for one in members] == [
        ("Other", False, other.email), ("Shop", True, ""),
    ]  # fmt: skip
    assert [one["name"] for one in client_of(other).get(f"{BASE}/people").json()] == ["Other"]
    (listed,) = client_of(other).get(f"{BASE}/team/programs").json()
    assert (listed["role"], listed["name"]) == ("analyst", "Shop")
    assert client_of(other).delete(f"{BASE}/team/programs/{listed['id']}").status_code == 204
    assert program(told).get(BASE).status_code == 401
    assert not Membership.objects.filter(user__is_program=True).exists()


def test_a_program_cannot_sign_in_and_takes_nothing_over(editor: User, brand: Brand, mails: Any) -> None:
    from dakika_server.accounts.reset import write_reset

    made, _ = make_program(editor, brand, name="Shop", role="analyst", scopes=ALL, days=90)
    assert not made.user.has_usable_password()
    assert not write_reset(made.user.email)
    answer = Client().post("/api/session", {"email": made.user.email, "password": ""}, content_type="application/json")
    assert answer.status_code == 400
    assert not mails.exists()


def test_no_program_decides_who_is_of_the_team(editor: User, brand: Brand, client_of: Any, mails: Any) -> None:
    made, _ = make_program(editor, brand, name="Shop", role="analyst", scopes=ALL, days=90)
    client, path = client_of(editor), f"{BASE}/team/{made.user_id}"
    said = client.put(path, {"role": "admin"}, content_type="application/json").json()["errors"]["role"]
    assert said == ["Shop is a program, and no program is admin."]
    assert client.post(f"{path}/leaving", {}, content_type="application/json").status_code == 204
    assert not mails.exists(), "nobody reads what is written to a program"


def test_a_program_may_no_more_than_its_role(editor: User, brand: Brand, viewer: User) -> None:
    from django.core.exceptions import PermissionDenied
    from rest_framework.exceptions import ValidationError

    with pytest.raises(ValidationError, match="does not let anybody make campaigns"):
        make_program(editor, brand, name="Shop", role="viewer", scopes=ALL, days=90)
    with pytest.raises(ValidationError, match="There is no permission 2E"):
        make_program(editor, brand, name="Shop", role="viewer", scopes=["2E"], days=90)
    with pytest.raises(PermissionDenied):
        make_program(viewer, brand, name="Shop", role="viewer", scopes=["brand.read"], days=90)


# -- how often, and once


def test_a_program_is_told_how_often_it_may_ask(told: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(authentication, "CALLS_A_MINUTE", 3)
    instant = clock.now().replace(second=20)
    monkeypatch.setattr(clock, "now", lambda: instant)
    answers = [program(told).get(BASE) for _ in range(4)]
    assert [answer.status_code for answer in answers] == [200, 200, 200, 429]
    assert answers[0]["RateLimit-Policy"] == '"minute";q=3;w=60'
    assert [answer["RateLimit"] for answer in answers[:3]] == [
        '"minute";r=2;t=40',
        '"minute";r=1;t=40',
        '"minute";r=0;t=40',
    ]
    assert answers[3]["Retry-After"] == "40"
    assert answers[3].json()["detail"] == "More than 3 calls a minute. Go on in 40 seconds."


def test_the_same_key_does_nothing_once_more(told: str) -> None:
    client = program(told, **{"idempotency-key": '"8e03978e-40d5-43dd-bc93-6894a57f9324"'})
    first, again = post(client), post(client)
    assert (first.status_code, again.status_code) == (201, 201)
    assert first.json() == again.json()
    assert again["Idempotency-Replayed"] == "true"
    assert b"Night Openings" not in bytes(KeptAnswer.objects.get().sealed or b""), "what is told once is not left lying"
    assert Campaign.objects.count() == 1
    other = post(client, **{**CAMPAIGN, "name": "Another"})
    assert (other.status_code, other.json()["type"].rpartition(":")[2]) == (409, "key_used")
    wrong = program(told, **{"idempotency-key": "k2"})
    assert post(wrong, **{**CAMPAIGN, "last_day": "1999-01-01"}).status_code == 400
    assert post(wrong, **{**CAMPAIGN, "last_day": "1999-01-01"})["Idempotency-Replayed"] == "true"
    KeptAnswer.objects.update(at=clock.now() - timedelta(hours=25))
    forget_old_answers()
    assert not KeptAnswer.objects.exists()


@pytest.mark.django_db(transaction=True)
def test_of_many_at_once_with_one_key_one_is_done(told: str) -> None:
    def ask(n: int) -> int:
        try:
            return int(post(program(told, **{"idempotency-key": "k"})).status_code)
        finally:
            connection.close()

    with ThreadPoolExecutor(6) as pool:
        codes = list(pool.map(ask, range(6)))
    assert Campaign.objects.count() == 1
    assert codes.count(201) >= 1
    assert set(codes) <= {201, 409}


def test_what_was_no_answer_may_be_asked_again(told: str, monkeypatch: pytest.MonkeyPatch) -> None:
    from django.db import OperationalError

    client = program(told, **{"idempotency-key": "k"})

    def away(*args: Any, **kwargs: Any) -> None:
        raise OperationalError("gone")

    with monkeypatch.context() as broken:
        broken.setattr("dakika_server.brands.api.brands.keep_campaign", away)
        assert post(client).status_code == 503
    assert post(client).status_code == 201


def test_when_and_from_where_a_token_was_used_is_seen(told: str) -> None:
    program(told).get(BASE)
    kept = ApiToken.objects.get()
    assert kept.used_at is not None
    assert kept.used_from == "127.0.0.1"
