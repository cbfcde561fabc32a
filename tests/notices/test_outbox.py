"""Promise: a letter goes out once at most, is never lost without a word, and says nothing that it was not given."""

import asyncio
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand, Membership
from dakika_server.notices.models import Mail, Notification
from dakika_server.notices.outbox import deliver, take_up_mail, write_mail
from dakika_server.shared import clock
from dakika_standins.mail import Catcher, catching
from django.db import connection

pytestmark = pytest.mark.django_db
NOW = datetime(2026, 11, 9, 7, tzinfo=UTC)


class Server:
    """The stand-ins' mail server in a thread of its own."""

    def __init__(self, port: int) -> None:
        self.catcher, self.port = Catcher(), port
        self._loop = asyncio.new_event_loop()
        self._stop, started = asyncio.Event(), threading.Event()

        async def serve() -> None:
            async with catching(self.catcher, port):
                started.set()
                await self._stop.wait()

        self._thread = threading.Thread(target=self._loop.run_until_complete, args=(serve(),), daemon=True)
        self._thread.start()
        assert started.wait(10)

    def end(self) -> None:
        self._loop.call_soon_threadsafe(self._stop.set)
        self._thread.join(10)
        self._loop.close()


@pytest.fixture
def server(settings: Any, monkeypatch: pytest.MonkeyPatch) -> Iterator[Server]:
    import socket

    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    monkeypatch.setenv("DAKIKA_FIXED_NOW", NOW.isoformat())
    settings.EMAIL_BACKEND = "django.core.mail.backends.smtp.EmailBackend"
    settings.EMAIL_HOST, settings.EMAIL_PORT, settings.EMAIL_TIMEOUT = "127.0.0.1", port, 5
    made = Server(port)
    yield made
    made.end()


def write(key: str = "a", **more: Any) -> Mail:
    mail = write_mail(key=key, to="mira@ninthbell.example", subject="Three findings", text="Até já.\n", **more)
    assert mail is not None
    return mail


def state(mail: Mail) -> tuple[str, int]:
    mail.refresh_from_db()
    return mail.state, mail.attempts


def test_a_letter_arrives_as_it_was_written(server: Server) -> None:
    mail = write()
    assert deliver(mail.pk)
    (letter,) = server.catcher.letters
    assert letter["to"] == ["mira@ninthbell.example"]
    assert (letter["subject"], letter["text"].strip(), letter["id"]) == ("Three findings", "Até já.", mail.message_id)
    assert state(mail) == ("sent", 1)


def test_the_same_letter_is_written_once_and_sent_once(server: Server) -> None:
    mail = write()
    assert write_mail(key="a", to="x@ninthbell.example", subject="again", text="again") is None
    assert [deliver(mail.pk) for _ in range(3)] == [True, False, False]
    assert len(server.catcher.letters) == 1


@pytest.mark.django_db(transaction=True)
def test_two_at_once_send_one(server: Server) -> None:
    # Not asked for by a job: what is committed here would stay in the queue of the tests after this one.
    mail = Mail.objects.create(key="a", to="mira@ninthbell.example", subject="s", text="t", made_at=NOW, next_at=NOW,
                               message_id="<a@ninthbell.example>")  # fmt: skip

    def one(_: int) -> bool:
        try:
            return deliver(mail.pk)
        finally:
            connection.close()

    with ThreadPoolExecutor(4) as pool:
        assert sorted(pool.map(one, range(4))) == [False, False, False, True]
    assert len(server.catcher.letters) == 1


def test_a_server_that_breaks_off_may_have_it_so_it_is_told_and_not_sent_again(server: Server) -> None:
    server.catcher.refusals = ["drop"]
    mail = write()
    assert not deliver(mail.pk)
    assert state(mail)[0] == "unsure"
    assert len(server.catcher.letters) == 1, "it had it"
    assert take_up_mail() == 0
    assert not deliver(mail.pk)


def test_whoever_is_killed_while_sending_leaves_a_word(server: Server, monkeypatch: pytest.MonkeyPatch) -> None:
    mail = write()
    Mail.objects.filter(pk=mail.pk).update(state="sending", next_at=clock.now() + timedelta(minutes=10))
    take_up_mail()
    assert state(mail)[0] == "sending", "it may still be at it"
    monkeypatch.setenv("DAKIKA_FIXED_NOW", (NOW + timedelta(minutes=11)).isoformat())
    assert take_up_mail() == 0
    assert state(mail)[0] == "unsure"
    assert "may have arrived" in mail.detail


def test_those_who_look_after_a_brand_hear_of_a_letter_that_did_not_go_out(
    server: Server,
) -> None:
    brand = Brand.objects.create(name="Orrery House", slug="orrery-house", time_zone="Europe/Lisbon")
    for role in ("admin", "viewer"):
        person = User.objects.create(email=f"{role}@ninthbell.example", name=role)
        Membership.objects.create(user=person, brand=brand, role=role)
    server.catcher.refusals = ["550 5.1.1 No such person"]
    deliver(write(brand=brand).pk)
    told = Notification.objects.get()
    assert told.person.name == "admin"
    assert "did not go out: Three findings" in told.text


def test_no_such_person_is_final_and_come_again_is_not(server: Server, monkeypatch: pytest.MonkeyPatch) -> None:
    server.catcher.refusals = ["550 5.1.1 No such person", "451 4.3.0 Come again"]
    gone, later = write("gone"), write("later")
    assert not deliver(gone.pk)
    assert state(gone) == ("failed", 1)
    assert "No such person" in gone.detail
    assert not deliver(later.pk)
    assert state(later) == ("waiting", 1)
    assert not deliver(later.pk), "not before its time"
    monkeypatch.setenv("DAKIKA_FIXED_NOW", (NOW + timedelta(minutes=2)).isoformat())
    assert take_up_mail() == 1
    assert deliver(later.pk)
    assert [letter["subject"] for letter in server.catcher.letters] == ["Three findings"]


def test_a_server_that_is_away_is_tried_for_some_hours_and_then_told(
    server: Server, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings.EMAIL_PORT = 1
    mail, now = write(), NOW
    for _ in range(6):
        deliver(mail.pk)
        now += timedelta(hours=5)
        monkeypatch.setenv("DAKIKA_FIXED_NOW", now.isoformat())
    assert state(mail) == ("failed", 6)
    assert "cannot be reached" in mail.detail


def test_a_subject_cannot_bring_heads_of_its_own(server: Server) -> None:
    mail = write_mail(key="b", to="mira@ninthbell.example", subject="One\r\nBcc: all@x.example", text="t")
    assert mail is not None
    assert deliver(mail.pk)
    assert server.catcher.letters[0]["to"] == ["mira@ninthbell.example"]
    assert server.catcher.letters[0]["subject"] == "One Bcc: all@x.example"
