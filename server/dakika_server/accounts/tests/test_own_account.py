"""Promise: people change their own account alone, see where they are signed in, and end it there."""

import importlib
from datetime import timedelta
from typing import Any

import pytest
from django.contrib.sessions.models import Session
from django.test import Client

from dakika_server.accounts.jobs import forget_old_sign_ins
from dakika_server.accounts.models import User, UserSession
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
PASSWORD = "a good long password"
NEW = "kettle bridge orchard nine"


def send(client: Client, path: str, method: str = "post", **body: Any) -> Any:
    return getattr(client, method)(f"/api/{path}", body, content_type="application/json")


def signed_in(person: User, agent: str = "A Browser/1.0", address: str = "127.0.0.1") -> Client:
    client = Client(headers={"user-agent": agent}, REMOTE_ADDR=address)
    assert send(client, "session", email=person.email, password=PASSWORD).status_code == 200
    return client


def key_in(mail: Any) -> str:
    (line,) = [line for line in mail.text.splitlines() if "#" in line]
    return line.partition("#")[2]


def test_sessions_are_seen_and_ended(editor: User) -> None:
    firefox = "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"
    here, there = signed_in(editor, firefox), signed_in(editor, "Another/2 \u202e\x1b[31m", "203.0.113.9")
    seen = here.get("/api/account").json()["sessions"]
    assert [(one["is_this"], one["device"], one["address"]) for one in sorted(seen, key=lambda one: one["id"])] == [
        (True, "Firefox on Linux", "127.0.0.1"), (False, "", "203.0.113.9"),
    ]  # fmt: skip
    (other,) = [one["id"] for one in seen if not one["is_this"]]
    assert here.delete(f"/api/account/sessions/{other}").status_code == 204
    assert there.get("/api/session").status_code == 401
    assert here.get("/api/session").status_code == 200
    third = signed_in(editor)
    assert here.delete("/api/account/sessions").status_code == 204
    assert third.get("/api/session").status_code == 401
    assert Session.objects.count() == UserSession.objects.count() == 1


def test_nobody_ends_another_ones_session(editor: User, stranger: User) -> None:
    theirs = signed_in(stranger)
    (their,) = UserSession.objects.filter(user=stranger)
    assert signed_in(editor).delete(f"/api/account/sessions/{their.pk}").status_code == 404
    assert theirs.get("/api/session").status_code == 200


def test_a_session_that_ran_out_is_none(editor: User) -> None:
    client, other = signed_in(editor), signed_in(editor)
    Session.objects.filter(session_key=other.session.session_key).update(expire_date=clock.now() - timedelta(days=1))
    assert len(client.get("/api/account").json()["sessions"]) == 1
    forget_old_sign_ins()
    assert UserSession.objects.count() == 1


def test_signing_out_forgets_the_session(editor: User) -> None:
    client = signed_in(editor)
    client.delete("/api/session")
    assert not UserSession.objects.exists()


def test_the_key_of_a_session_changes_with_signing_in(editor: User) -> None:
    """Session fixation (OWASP ASVS 5.0, 7.2.4): what somebody was made to have before is worth nothing after."""
    client = Client()
    send(client, "session/passkey/options")
    before = client.cookies.get("dakika_session") or client.cookies.get("sessionid")
    send(client, "session", email=editor.email, password=PASSWORD)
    after = client.session.session_key
    assert before is None or before.value != after


def test_another_password_ends_all_other_sessions(mails: Any, editor: User) -> None:
    here, there = signed_in(editor), signed_in(editor)
    assert send(here, "account/password", "put", current="wrong", password=NEW).json()["errors"]["current"]
    assert (
        "15"
        in send(here, "account/password", "put", current=PASSWORD, password="short").json()["errors"]["password"][0]
    )
    assert send(here, "account/password", "put", current=PASSWORD, password=NEW).status_code == 204
    assert here.get("/api/session").status_code == 200
    assert there.get("/api/session").status_code == 401
    assert len(here.get("/api/account").json()["sessions"]) == 1
    assert mails.filter(to=editor.email, subject="Your password was changed").count() == 1


def test_name_zone_and_theme_are_checked_and_kept(editor: User) -> None:
    client = signed_in(editor)
    chosen = {"name": " Mira  H. ", "language": "pt", "time_zone": "Africa/Nairobi", "theme": "dark"}
    assert send(client, "account", "put", **chosen).json()["name"] == "Mira H."
    session = client.get("/api/session").json()
    assert (session["language"], session["time_zone"], session["theme"]) == ("pt", "Africa/Nairobi", "dark")
    for wrong in ({"name": "  "}, {"language": "xx"}, {"time_zone": "Mars/North"}, {"theme": "blue"}):
        answer = send(client, "account", "put", **{**chosen, **wrong})
        assert list(answer.json()["errors"]) == list(wrong)


def test_one_sees_what_happened_to_ones_account(editor: User, stranger: User) -> None:
    client = signed_in(editor)
    send(client, "account/password", "put", current=PASSWORD, password=NEW)
    send(signed_in(stranger), "account/address", email="x@ninthbell.example")
    assert [(one["words"], one["address"]) for one in client.get("/api/account").json()["events"]] == [
        ("changed password", "127.0.0.1"), ("ended sessions", "127.0.0.1"),
    ]  # fmt: skip


# -- an address of one's own


def test_another_address_counts_once_its_letter_was_read(mails: Any, editor: User) -> None:
    client = signed_in(editor)
    assert send(client, "account/address", email="New@NinthBell.example").status_code == 204
    editor.refresh_from_db()
    assert editor.email == "editor@ninthbell.example"
    mail = mails.get(to="new@ninthbell.example")
    key = key_in(mail)
    assert send(Client(), "account/address/taken", key=key[:-2] + "xx").status_code == 400
    assert send(Client(), "account/address/taken", key=key).json() == {"email": "new@ninthbell.example"}
    assert send(Client(), "account/address/taken", key=key).status_code == 400, "once"
    assert mails.filter(to="editor@ninthbell.example", subject__contains="another address").exists()
    signed_in(User.objects.get(pk=editor.pk))


def test_a_mistyped_address_is_corrected_at_once(mails: Any, editor: User) -> None:
    client = signed_in(editor)
    for address in ("nwe@ninthbell.example", "new@ninthbell.example", "new@ninthbell.example"):
        assert send(client, "account/address", email=address).status_code == 204
    assert sorted(mails.values_list("to", flat=True)) == ["new@ninthbell.example", "nwe@ninthbell.example"]


def test_asking_for_an_address_tells_nobody_that_it_is_taken(mails: Any, editor: User, stranger: User) -> None:
    client = signed_in(editor)
    assert send(client, "account/address", email=stranger.email).status_code == 204
    assert "#" not in mails.get(to=stranger.email).text


# -- a password that was forgotten


def ask_for_reset(email: str, run_jobs: Any) -> Any:
    answer = send(Client(), "password-reset", email=email)
    run_jobs()
    return answer


@pytest.fixture
def run_jobs(monkeypatch: pytest.MonkeyPatch) -> Any:
    """Jobs that are asked for are run at the end of the request, by hand."""
    from dakika_server.accounts.api import reset as api
    from dakika_server.accounts.reset import write_reset

    asked: list[str] = []
    monkeypatch.setattr(api, "ask", lambda name, email: asked.append(email))

    def run() -> None:
        while asked:
            write_reset(asked.pop())

    return run


def test_a_forgotten_password_is_set_anew_by_letter_once(mails: Any, editor: User, run_jobs: Any) -> None:
    client = signed_in(editor)
    assert ask_for_reset(" EDITOR@ninthbell.example", run_jobs).status_code == 204
    key = key_in(mails.get(to=editor.email))
    assert send(Client(), "password-reset/new", key=key, password="short").json()["errors"]["password"]
    assert send(Client(), "password-reset/new", key=key, password=NEW).json() == {"email": editor.email}
    assert client.get("/api/session").status_code == 401, "wherever they were signed in"
    assert send(Client(), "password-reset/new", key=key, password=NEW + "2").json()["type"].endswith("key_over")
    assert send(Client(), "session", email=editor.email, password=NEW).status_code == 200


def test_asking_tells_nobody_whether_an_address_is_known(mails: Any, editor: User, run_jobs: Any) -> None:
    """The same answer, and the same work: a job is asked for whatever the address is."""
    known, unknown = ask_for_reset(editor.email, run_jobs), ask_for_reset("nobody@ninthbell.example", run_jobs)
    assert (known.status_code, known.content) == (unknown.status_code, unknown.content)
    assert list(mails.values_list("to", flat=True)) == [editor.email]


def test_a_letter_comes_at_most_every_five_minutes(mails: Any, editor: User, run_jobs: Any, monkeypatch: Any) -> None:
    instant = clock.now().replace(minute=2, second=0)
    monkeypatch.setattr(clock, "now", lambda: instant)
    for _ in range(4):
        ask_for_reset(editor.email, run_jobs)
    assert mails.count() == 1


def test_an_hour_later_and_after_signing_in_the_letter_is_worth_nothing(
    mails: Any, editor: User, run_jobs: Any, settings: Any
) -> None:
    ask_for_reset(editor.email, run_jobs)
    key = key_in(mails.get())
    settings.PASSWORD_RESET_TIMEOUT = -1
    assert send(Client(), "password-reset/new", key=key, password=NEW).json()["type"].endswith("key_over")
    settings.PASSWORD_RESET_TIMEOUT = 3600
    signed_in(editor)
    assert send(Client(), "password-reset/new", key=key, password=NEW).json()["type"].endswith("key_over")


@pytest.mark.parametrize("key", ["", "x", "\x00", "a:b:c", "🐢" * 500, "WzEsMl0:1:1"])
def test_keys_that_are_none_are_refused_in_words(key: str, db: Any) -> None:
    for path in ("password-reset/new", "account/address/taken", "invitations/seen"):
        answer = send(Client(), path, key=key, password=NEW)
        assert answer.status_code in (400, 404), path
        assert answer.json()["detail"]


def test_a_second_factor_is_asked_for_after_a_reset_all_the_same(mails: Any, editor: User, run_jobs: Any) -> None:
    from dakika_server.accounts.models import TotpSecret
    from dakika_server.shared.vault import seal

    TotpSecret.objects.create(user=editor, sealed=seal("A" * 32), confirmed_at=clock.now())
    ask_for_reset(editor.email, run_jobs)
    send(Client(), "password-reset/new", key=key_in(mails.get()), password=NEW)
    assert send(Client(), "session", email=editor.email, password=NEW).status_code == 202


def test_a_key_does_not_stay_in_the_outbox(mails: Any, editor: User, run_jobs: Any, mailoutbox: Any) -> None:
    ask_for_reset(editor.email, run_jobs)
    mail = mails.get()
    assert "#" in mail.text
    deliver = importlib.import_module("dakika_server.notices.outbox").deliver
    assert deliver(mail.pk)
    mail.refresh_from_db()
    assert (mail.text, "#" in mailoutbox[0].body) == ("", True)
