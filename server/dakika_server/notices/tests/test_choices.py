"""Promise: people are told as they chose: here, by letter at once or once a day, never in their quiet hours, none twice."""

from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from email.message import EmailMessage
from html.parser import HTMLParser
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from hypothesis import given
from hypothesis import strategies as st

from dakika_server.brands.models import Brand, Membership
from dakika_server.notices.actions import notify
from dakika_server.notices.choices import KINDS
from dakika_server.notices.html import as_html
from dakika_server.notices.models import Mail, Notification
from dakika_server.notices.outbox import deliver
from dakika_server.notices.telling import write_due
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/notifications"
NOBODYS_HOURS = {"quiet_from": None, "quiet_to": None, "digest_at": "08:00"}


@pytest.fixture
def admin(editor: Any, client_of: Any) -> Client:
    made: Client = client_of(editor)
    return made


def choose(client: Client, hours: dict[str, Any] | None = None, **kinds: tuple[bool, str]) -> Any:
    body = {
        "kinds": [{"kind": key, "is_shown": shown, "by_mail": by_mail} for key, (shown, by_mail) in kinds.items()],
        "hours": hours or NOBODYS_HOURS,
    }
    return client.put(f"{BASE}/choices", body, content_type="application/json")


def at(monkeypatch: pytest.MonkeyPatch, text: str) -> None:
    instant = datetime.fromisoformat(text).replace(tzinfo=UTC)
    monkeypatch.setattr(clock, "now", lambda: instant)


def test_nobody_gets_letters_who_did_not_choose_them(brand: Brand, admin: Client) -> None:
    told = admin.get(f"{BASE}/choices").json()
    assert {one["kind"]: one["by_mail"] for one in told["kinds"]} == dict.fromkeys(KINDS, "never")
    assert (told["zone"], told["hours"]) == (
        "Europe/Lisbon", {"quiet_from": None, "quiet_to": None, "digest_at": "08:00:00"},
    )  # fmt: skip
    notify(brand, kind="task", key="a", text="Something to do")
    assert write_due() == 0
    assert not Mail.objects.exists()


def test_a_kind_is_told_here_by_letter_or_not_at_all(brand: Brand, admin: Client, viewer: Any) -> None:
    assert choose(admin, task=(False, "soon"), review=(True, "never")).status_code == 200
    assert notify(brand, kind="task", key="a", text="Something to do", detail="Until Friday", path="plan/tasks") == 2
    notify(brand, kind="review", key="b", text="A post waits")
    assert [one["text"] for one in admin.get(BASE).json()["notifications"]] == ["A post waits"]
    assert admin.get(BASE).json()["unread"] == 1
    assert write_due() == 1
    mail = Mail.objects.get()
    assert (mail.to, mail.subject) == ("editor@ninthbell.example", "Orrery House: Something to do")
    assert mail.text.split("\n")[:3] == [
        "Something to do", "Until Friday", "http://127.0.0.1:8000/orrery-house/plan/tasks",
    ]  # fmt: skip
    assert write_due() == 0


def test_the_days_letter_holds_what_was_not_read(brand: Brand, admin: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    choose(admin, {**NOBODYS_HOURS, "digest_at": "17:30"}, task=(True, "daily"))
    at(monkeypatch, "2026-11-25T09:00")
    for number in range(3):
        notify(brand, kind="task", key=str(number), text=f"Task {number}")
    assert write_due() == 0
    (read, *_) = admin.get(BASE).json()["notifications"]
    admin.post(BASE, {"ids": [read["id"]]}, content_type="application/json")
    at(monkeypatch, "2026-11-25T17:30")
    assert write_due() == 1
    mail = Mail.objects.get()
    assert mail.subject == "Orrery House: 2 notices"
    assert "Task 0" in mail.text
    assert "Task 2" not in mail.text, "it was read"


def test_no_letter_comes_in_quiet_hours(brand: Brand, admin: Client, monkeypatch: pytest.MonkeyPatch) -> None:
    choose(admin, {"quiet_from": "21:00", "quiet_to": "07:00", "digest_at": "08:00"}, task=(True, "soon"))
    at(monkeypatch, "2026-11-25T23:00")
    notify(brand, kind="task", key="a", text="Late")
    notify(brand, kind="task", key="b", text="Later")
    assert [one["text"] for one in admin.get(BASE).json()["notifications"]] == ["Later", "Late"], "here at once"
    at(monkeypatch, "2026-11-26T06:59")
    assert write_due() == 0
    at(monkeypatch, "2026-11-26T07:00")
    assert write_due() == 1
    assert Mail.objects.get().subject == "Orrery House: 2 notices"


def test_hours_are_those_of_ones_own_clock(brand: Brand, editor: Any, admin: Client, monkeypatch: Any) -> None:
    editor.time_zone = "America/Sao_Paulo"
    editor.save()
    choose(admin, {"quiet_from": "21:00", "quiet_to": "07:00", "digest_at": "08:00"}, task=(True, "soon"))
    at(monkeypatch, "2026-11-26T08:00")
    notify(brand, kind="task", key="a", text="Five in the morning there")
    assert Notification.objects.get().mail_at == datetime(2026, 11, 26, 10, tzinfo=UTC)


def test_who_has_left_gets_no_letter(brand: Brand, admin: Client, editor: Any) -> None:
    choose(admin, task=(True, "soon"))
    notify(brand, kind="task", key="a", text="Something to do")
    Membership.objects.filter(user=editor).delete()
    assert write_due() == 0
    assert not Mail.objects.exists()


@pytest.mark.django_db(transaction=True)
def test_two_workers_write_one_letter(brand: Brand, admin: Client) -> None:
    choose(admin, task=(True, "soon"))
    for number in range(20):
        notify(brand, kind="task", key=str(number), text=f"Task {number}")

    def work(_: int) -> int:
        try:
            return write_due()
        finally:
            connection.close()

    with ThreadPoolExecutor(4) as pool:
        list(pool.map(work, range(8)))
    assert sum(mail.text.count("\nTask ") + mail.text.startswith("Task ") for mail in Mail.objects.all()) == 20
    assert Mail.objects.count() == 1


def test_choices_are_ones_own_and_checked(brand: Brand, admin: Client, viewer: Any, client_of: Any) -> None:
    choose(admin, task=(False, "soon"))
    theirs = client_of(viewer).get(f"{BASE}/choices").json()
    assert next(one for one in theirs["kinds"] if one["kind"] == "task")["is_shown"] is True
    assert "nothing called" in str(choose(admin, nothing=(True, "soon")).json()["errors"])
    assert choose(admin, task=(True, "hourly")).status_code == 400
    assert choose(admin, {"quiet_from": "21:00", "quiet_to": None, "digest_at": "08:00"}).status_code == 400
    assert choose(admin, {"quiet_from": "25:00", "quiet_to": "07:00", "digest_at": "08:00"}).status_code == 400


def test_a_kind_that_is_none_is_told_of_nobody(brand: Brand) -> None:
    with pytest.raises(KeyError):
        notify(brand, kind="nothing", key="a", text="x")


# -- letters as text and as HTML


class Reader(HTMLParser):
    """What a program shows of a letter, and what it would fetch."""

    def __init__(self) -> None:
        super().__init__()
        self.text, self.links, self.tags = "", [], set[str]()

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.add(tag)
        self.links += [value for name, value in attrs if name in ("href", "src")]

    def handle_data(self, data: str) -> None:
        self.text += data


def shown(text: str) -> Reader:
    reader = Reader()
    reader.feed(as_html(text))
    return reader


def test_a_letter_goes_out_as_text_and_as_html(brand: Brand, admin: Client, mailoutbox: list[Any]) -> None:
    choose(admin, task=(True, "soon"))
    notify(brand, kind="task", key="a", text="<b>Two & three</b>", path="plan/tasks")
    write_due()
    assert deliver(Mail.objects.get().pk)
    message: EmailMessage = mailoutbox[0].message()
    kinds = [part.get_content_type() for part in message.walk() if not part.is_multipart()]
    assert kinds == ["text/plain", "text/html"]
    html = next(part for part in message.walk() if part.get_content_type() == "text/html")
    reader = Reader()
    reader.feed(html.get_payload(decode=True).decode())  # type: ignore[union-attr]
    assert "<b>Two & three</b>" in reader.text
    assert not reader.tags & {"img", "link", "script", "style", "iframe", "b"}
    assert all(link.startswith("http://127.0.0.1:8000/orrery-house/") for link in reader.links)


def test_addresses_are_links_without_what_the_sentence_puts_behind_them() -> None:
    reader = shown("See https://a.example/x?y=1&z=(2). Or (https://b.example/#k), or javascript:alert(1).")
    assert reader.links == ["https://a.example/x?y=1&z=(2", "https://b.example/#k"]
    assert reader.text.startswith("See https://a.example/x?y=1&z=(2). Or")


@given(
    text=st.text(max_size=200) | st.from_regex(r"(- |\n|https?://[a-z.\"'<>&]{1,12}|[<>&\"']| ){1,20}", fullmatch=True)
)
def test_whatever_a_letter_says_is_shown_and_nothing_else(text: str) -> None:
    reader = shown(text)
    assert reader.tags <= {"html", "meta", "body", "div", "p", "br", "ul", "li", "a"}
    assert all(link.startswith(("http://", "https://")) for link in reader.links)

    def plain(said: str) -> str:
        return "".join(said.replace("\x00", "").split())

    dashes = plain("".join(line.removeprefix("- ") for line in text.split("\n")))
    assert plain(reader.text) in {plain(text), dashes} or len(plain(text)) - len(plain(reader.text)) <= text.count("- ")


def test_times_of_letters_lie_ahead(brand: Brand, admin: Client) -> None:
    choose(admin, task=(True, "daily"))
    notify(brand, kind="task", key="a", text="x")
    due = Notification.objects.get().mail_at
    assert due is not None
    assert timedelta(0) < due - clock.now() <= timedelta(hours=25)
