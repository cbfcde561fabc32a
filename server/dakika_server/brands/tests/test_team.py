"""Promise: people are asked in by letter, may what their role lets them, and leave nothing without somebody who has it."""

from concurrent.futures import ThreadPoolExecutor
from datetime import date, timedelta
from typing import Any

import pytest
from django.apps import apps
from django.db import connection
from django.test import Client
from rest_framework.exceptions import ValidationError

from dakika_server.accounts.models import User
from dakika_server.brands.belongings import BELONGINGS
from dakika_server.brands.models import Brand, Campaign, Invitation, Membership
from dakika_server.brands.team import invite, join, leave
from dakika_server.shared import clock
from dakika_server.shared.errors import Problem
from dakika_server.shared.models import AuditEntry

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/team"
PASSWORD = "kettle bridge orchard nine"


def send(client: Client, path: str, method: str = "post", **body: Any) -> Any:
    path = path if path.startswith("/") else f"{BASE}{path and '/'}{path}"
    return getattr(client, method)(path, body, content_type="application/json")


def asked(client: Client, email: str = "Toma@NinthBell.example", role: str = "author") -> str:
    answer = send(client, "invitations", email=email, role=role)
    assert answer.status_code == 201, answer.json()
    return str(answer.json()["address"]).partition("#")[2]


@pytest.fixture
def admin(editor: User, client_of: Any) -> Client:
    made: Client = client_of(editor)
    return made


def test_a_new_person_comes_by_letter(mails: Any, admin: Client, brand: Brand) -> None:
    key = asked(admin)
    assert key in mails.get(to="toma@ninthbell.example").text
    visitor = Client()
    seen = send(visitor, "/api/invitations/seen", key=key).json()
    assert seen == {
        "brand": "Orrery House", "role": "author", "email": "toma@ninthbell.example", "by": "Ed", "has_account": False,
    }  # fmt: skip
    wrong = send(visitor, "/api/invitations/taken", key=key, name=" ", password="short").json()["errors"]
    assert {*wrong} == {"name", "password"}
    taken = send(visitor, "/api/invitations/taken", key=key, name="Toma", password=PASSWORD)
    assert taken.json()["brands"] == [{"slug": "orrery-house", "name": "Orrery House", "role": "author"}]
    assert visitor.get("/api/brands/orrery-house").json()["role"] == "author"
    assert send(Client(), "/api/invitations/taken", key=key, name="X", password=PASSWORD).status_code == 404
    assert admin.get(BASE).json()["invitations"] == []


def test_who_is_here_already_comes_with_the_account_they_have(admin: Client, stranger: User, client_of: Any) -> None:
    key = asked(admin, stranger.email)
    assert send(Client(), "/api/invitations/seen", key=key).json()["has_account"] is True
    answer = send(Client(), "/api/invitations/taken", key=key, name="St", password=PASSWORD)
    assert answer.json()["type"].endswith("sign_in_first")
    theirs = client_of(stranger)
    assert [one["slug"] for one in send(theirs, "/api/invitations/taken", key=key).json()["brands"]] == [
        "lantern-line", "orrery-house",
    ]  # fmt: skip


def test_an_invitation_ends_with_a_week_with_another_and_by_being_withdrawn(admin: Client) -> None:
    first = asked(admin)
    again = asked(admin, role="viewer")
    assert send(Client(), "/api/invitations/seen", key=first).status_code == 404
    assert send(Client(), "/api/invitations/seen", key=again).json()["role"] == "viewer"
    (one,) = admin.get(BASE).json()["invitations"]
    third = send(admin, f"invitations/{one['id']}").json()
    assert send(Client(), "/api/invitations/seen", key=again).status_code == 404
    pk = third["invitation"]["id"]
    Invitation.objects.update(until=clock.now() - timedelta(seconds=1))
    assert admin.get(BASE).json()["invitations"][0]["is_over"] is True
    assert send(Client(), "/api/invitations/seen", key=third["address"].partition("#")[2]).status_code == 404
    assert send(admin, f"invitations/{pk}", "delete").status_code == 204
    assert send(admin, f"invitations/{pk}", "delete").status_code == 404


@pytest.mark.parametrize(
    "email", ["", "nobody", "a@b", "x" * 300 + "@ninthbell.example", "a@ninthbell.example\r\nBcc: b@c.example"]
)
def test_what_is_no_address_is_told_beside_its_field(mails: Any, admin: Client, email: str) -> None:
    assert "email" in send(admin, "invitations", email=email, role="viewer").json()["errors"]
    assert not mails.exists()


def test_who_is_of_the_team_is_not_asked_again(admin: Client, viewer: User) -> None:
    said = send(admin, "invitations", email="VIEWER@ninthbell.example", role="admin").json()["errors"]["email"]
    assert said == ["Vi works for Orrery House already, as viewer."]


def test_keys_are_kept_as_digests(admin: Client) -> None:
    key = asked(admin)
    assert key not in str(list(Invitation.objects.values()))
    assert key not in str(list(AuditEntry.objects.values()))


@pytest.mark.django_db(transaction=True)
def test_of_two_who_come_with_one_key_one_comes_in(editor: User, brand: Brand) -> None:
    _, address = invite(editor, brand, email="toma@ninthbell.example", role="viewer")
    key = address.partition("#")[2]
    people = [User.objects.create(email=f"p{n}@ninthbell.example", name=f"P{n}") for n in range(4)]

    def come(person: User) -> bool:
        try:
            join(key, user=person)
        except Problem:
            return False
        finally:
            connection.close()
        return True

    with ThreadPoolExecutor(4) as pool:
        assert sorted(pool.map(come, people)) == [False, False, False, True]


# -- roles


def test_the_team_is_seen_by_all_and_addresses_by_those_who_decide(admin: Client, viewer: User, client_of: Any) -> None:
    asked(admin)
    told = client_of(viewer).get(BASE).json()
    assert [(one["name"], one["email"]) for one in told["members"]] == [("Ed", ""), ("Vi", viewer.email)]
    assert told["invitations"] == []
    assert {row["name"] for row in told["permissions"]} >= {"brand.people", "plan.publish"}
    full = admin.get(BASE).json()
    assert [one["email"] for one in full["members"]] == ["editor@ninthbell.example", viewer.email]
    assert full["members"][0]["seen_at"]


def test_a_role_counts_at_once(admin: Client, viewer: User, client_of: Any) -> None:
    theirs = client_of(viewer)
    assert send(admin, f"{viewer.pk}", "put", role="analyst").json()["role"] == "analyst"
    assert "results.tag" in theirs.get("/api/brands/orrery-house").json()["may"]
    assert AuditEntry.objects.filter(action="change_role", detail={"name": "Vi"}).exists()


def test_there_is_always_an_admin(admin: Client, editor: User, viewer: User) -> None:
    said = send(admin, f"{editor.pk}", "put", role="viewer").json()["errors"]["role"]
    assert said == ["Orrery House has no other admin. Make somebody else one first."]
    assert send(admin, "leaving").json()["errors"]["to"] == said
    send(admin, f"{viewer.pk}", "put", role="admin")
    assert send(admin, f"{editor.pk}", "put", role="viewer").status_code == 200
    assert send(admin, f"{viewer.pk}", "put", role="viewer").status_code == 403, "no admin any more"


@pytest.mark.django_db(transaction=True)
def test_two_last_admins_do_not_both_go(editor: User, brand: Brand) -> None:
    other = User.objects.create(email="other@ninthbell.example", name="Other")
    Membership.objects.create(user=other, brand=brand, role="admin")

    def go(person: User) -> bool:
        try:
            leave(person, brand, person.pk, None)
        except ValidationError:
            return False
        finally:
            connection.close()
        return True

    with ThreadPoolExecutor(2) as pool:
        assert sorted(pool.map(go, [editor, other])) == [False, True]


def test_people_of_other_brands_are_not_there(admin: Client, stranger: User, client_of: Any) -> None:
    assert send(admin, f"{stranger.pk}", "put", role="admin").status_code == 404
    assert send(admin, f"{stranger.pk}/leaving").status_code == 404
    theirs = client_of(stranger)
    key = asked(admin)
    pk = Invitation.objects.get().pk
    assert send(theirs, f"invitations/{pk}", "delete").status_code == 404
    other = "/api/brands/lantern-line/team"
    assert send(theirs, f"{other}/invitations/{pk}", "delete").status_code == 404
    assert send(Client(), "/api/invitations/seen", key=key).status_code == 200


# -- leaving


def test_what_is_somebodys_goes_to_who_takes_over(
    mails: Any, admin: Client, editor: User, brand: Brand, client_of: Any
) -> None:
    notices = apps.get_model("notices", "Notification")
    leaver = User.objects.create(email="leaver@ninthbell.example", name="Lea")
    heir = User.objects.create(email="heir@ninthbell.example", name="Hei")
    for person in (leaver, heir):
        Membership.objects.create(user=person, brand=brand, role="author")
    campaign = Campaign.objects.create(
        brand=brand, name="Night Openings", first_day=date(2026, 11, 1), last_day=date(2026, 11, 30), owner=leaver
    )
    notices.objects.create(brand=brand, person=leaver, at=clock.now(), key="k", kind="task", text="t")
    seen = admin.get(f"{BASE}/{leaver.pk}/leaving").json()
    assert [(one["words"], one["is_personal"]) for one in seen] == [("1 campaign", False), ("1 notice", True)]
    assert send(admin, f"{leaver.pk}/leaving").json()["errors"]["to"] == ["Say who takes over 1 campaign."]
    for wrong in (leaver.pk, 10**9):
        assert send(admin, f"{leaver.pk}/leaving", to=wrong).json()["errors"]["to"]
    assert send(admin, f"{leaver.pk}/leaving", to=heir.pk).status_code == 204
    campaign.refresh_from_db()
    assert campaign.owner == heir
    assert client_of(leaver).get("/api/brands/orrery-house").status_code == 404
    assert not notices.objects.filter(person=leaver).exists()
    assert notices.objects.get(person=heir).text.endswith("you have what was theirs: 1 campaign")
    assert mails.filter(to=leaver.email, subject__startswith="You no longer work on").exists()


def test_a_viewer_takes_nothing_over_and_may_leave(admin: Client, viewer: User, brand: Brand, client_of: Any) -> None:
    other = User.objects.create(email="other@ninthbell.example", name="Other")
    Membership.objects.create(user=other, brand=brand, role="author")
    said = send(admin, f"{other.pk}/leaving", to=viewer.pk).json()["errors"]["to"]
    assert said == ["Vi may only look: choose somebody who may work with it."]
    theirs = client_of(viewer)
    assert theirs.get(f"{BASE}/leaving").json() == []
    assert send(theirs, "leaving").status_code == 204
    assert theirs.get("/api/brands/orrery-house").status_code == 404
    assert theirs.get("/api/session").json()["brands"] == []


def test_every_kind_of_belonging_says_what_it_is_and_whose(brand: Brand, viewer: User) -> None:
    """Each can be asked for and handed over; a test of its area would not see one that names a field there is not."""
    assert {"brands.campaigns", "plan.posts", "plan.tasks", "links.links", "reports.deliveries"} <= {*BELONGINGS}
    for kind in BELONGINGS.values():
        rows = kind.rows(brand, viewer)
        assert rows.count() == 0
        assert kind.field in {field.name for field in rows.model._meta.get_fields()}
        assert rows.delete()[0] == 0 if kind.is_personal else rows.update(**{kind.field: viewer}) == 0
