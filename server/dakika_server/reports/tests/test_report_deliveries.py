"""Promise: a report goes out when it was said, once to each, with the figures of that time; and whoever wants may stop it."""

from datetime import UTC, date, datetime, timedelta
from email import message_from_bytes
from typing import Any

import pytest
from django.core import mail
from django.test import Client

from dakika_server.brands.models import Brand, Membership
from dakika_server.notices.models import Mail
from dakika_server.notices.outbox import deliver as send_letter
from dakika_server.reports import deliveries
from dakika_server.reports.deliveries import deliver, sweep
from dakika_server.reports.models import Delivery, DeliveryReader, DeliveryRun, Report
from dakika_server.reports.testing import report
from dakika_server.shared import clock
from dakika_server.shared.errors import Unavailable

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/reports"
JSON = "application/json"
PDF = b"%PDF-1.7 pages"


@pytest.fixture(autouse=True)
def paper(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Printing is held against a browser elsewhere (tests/e2e)."""
    asked: list[str] = []

    def print_page(person: Any, path: str) -> bytes:
        asked.append(f"{person.email} {path}")
        return PDF

    monkeypatch.setattr(deliveries, "print_page", print_page)
    return asked


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def made(editor: Any, brand: Brand) -> Report:
    return report(editor, brand)


def asked(**more: Any) -> dict[str, Any]:
    usual = {"every": "week", "weekday": 0, "hour": 8, "to": ["cleo@client.example", "mira@ninthbell.example"]}
    return {**usual, **more}


def set_up(client: Client, made: Report, **more: Any) -> Delivery:
    answer = client.post(f"{HOME}/{made.pk}/deliveries", asked(**more), JSON)
    assert answer.status_code == 201, answer.json()
    return Delivery.objects.get(pk=answer.json()["id"])


def at(monkeypatch: pytest.MonkeyPatch, when: datetime) -> None:
    monkeypatch.setattr(clock, "now", lambda: when)


def run_due(delivery: Delivery, monkeypatch: pytest.MonkeyPatch) -> DeliveryRun:
    delivery.refresh_from_db()
    assert delivery.next_at is not None
    at(monkeypatch, delivery.next_at + timedelta(seconds=5))
    assert sweep(clock.now()) == 1
    return DeliveryRun.objects.latest("pk")


def test_it_is_sent_once_to_each_with_its_figures_and_its_pages(
    client: Client, made: Report, monkeypatch: pytest.MonkeyPatch, paper: list[str], editor: Any
) -> None:
    delivery = set_up(client, made, message="Good morning, Cleo.")
    run = run_due(delivery, monkeypatch)
    assert sweep(clock.now()) == 0
    for _ in range(3):
        deliver(run.pk)
    assert [one.rpartition("?")[2] for one in paper] == [f"run={run.pk}"]
    letters = list(Mail.objects.order_by("to"))
    assert [one.to for one in letters] == ["cleo@client.example", "mira@ninthbell.example"]
    for one in letters:
        send_letter(one.pk)
    assert len(mail.outbox) == 2
    # As any mail program reads it: the standard library's parser.
    read = message_from_bytes(mail.outbox[0].message().as_bytes())
    parts = {part.get_content_type(): part for part in read.walk()}
    assert parts["application/pdf"].get_payload(decode=True) == PDF
    assert parts["application/pdf"].get_filename() == "orrery-house-report.pdf"
    text = parts["text/plain"].get_payload(decode=True).decode()
    assert "Good morning, Cleo." in text
    assert read["List-Unsubscribe-Post"] == "List-Unsubscribe=One-Click"
    run.refresh_from_db()
    assert (run.state, run.letters) == ("sent", 2)
    assert letters[0].file == letters[1].file


@pytest.mark.parametrize("where", ["print_page", "_write_letters", "write_mail", "frozen"])
def test_a_kill_anywhere_neither_loses_nor_doubles_it(
    client: Client, made: Report, monkeypatch: pytest.MonkeyPatch, where: str
) -> None:
    run = run_due(set_up(client, made), monkeypatch)
    real, calls = getattr(deliveries, where), []

    def killed(*args: Any, **more: Any) -> Any:
        calls.append(1)
        if len(calls) == (2 if where == "write_mail" else 1):
            raise SystemExit
        return real(*args, **more)

    from django.db import transaction

    with monkeypatch.context() as patched:
        patched.setattr(deliveries, where, killed)
        with pytest.raises(SystemExit), transaction.atomic():
            deliver(run.pk)
    run.refresh_from_db()
    assert run.state == "waiting"
    deliver(run.pk)
    deliver(run.pk)
    assert Mail.objects.count() == 2
    run.refresh_from_db()
    assert run.state == "sent"


def test_it_keeps_its_hour_over_a_change_of_clocks_and_the_ends_of_months(
    client: Client, made: Report, brand: Brand, monkeypatch: pytest.MonkeyPatch
) -> None:
    # Lisbon's clocks go forward on 28 March 2027; 31 days are not in every month.
    at(monkeypatch, datetime(2027, 1, 30, 12, tzinfo=UTC))
    delivery = set_up(client, made, every="month", day=31)
    found = []
    for _ in range(5):
        found.append(delivery.next_at.astimezone(brand.zone).isoformat()[:16])  # type: ignore[union-attr]
        run_due(delivery, monkeypatch)
        delivery.refresh_from_db()
    assert found == [f"2027-{day}T08:00" for day in ("01-31", "02-28", "03-31", "04-30", "05-31")]
    # The brand moves: it stays at eight of its clock.
    client.patch("/api/brands/orrery-house", {"time_zone": "Asia/Tokyo"}, JSON)
    delivery.refresh_from_db()
    brand.refresh_from_db()
    assert delivery.next_at.astimezone(brand.zone).hour == 8  # type: ignore[union-attr]


def test_what_is_incomplete_waits_and_then_goes_out_saying_so(
    client: Client, made: Report, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(deliveries, "missing_in", lambda *_: "Brevi was not collected on 3 days")
    delivery = set_up(client, made, wait_hours=2)
    run = run_due(delivery, monkeypatch)
    deliver(run.pk)
    run.refresh_from_db()
    assert (run.state, Mail.objects.count()) == ("waiting", 0)
    assert run.waits_until == run.due_at + timedelta(hours=2)
    at(monkeypatch, run.due_at + timedelta(hours=2, minutes=1))
    deliver(run.pk)
    assert "Brevi was not collected on 3 days" in Mail.objects.first().text  # type: ignore[union-attr]
    run.refresh_from_db()
    assert run.missing == "Brevi was not collected on 3 days"
    # Whoever sends it by hand has decided that it goes out.
    sent = client.post(f"{HOME}/{made.pk}/deliveries/{delivery.pk}/send", {"to_myself": False}, JSON).json()
    deliver(sent["id"])
    assert DeliveryRun.objects.get(pk=sent["id"]).state == "sent"


def test_people_of_the_team_have_it_as_long_as_they_are_of_it(
    client: Client, made: Report, editor: Any, viewer: Any, stranger: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert client.post(f"{HOME}/{made.pk}/deliveries", asked(to=[], people=[stranger.pk]), JSON).status_code == 400
    assert client.post(f"{HOME}/{made.pk}/deliveries", asked(to=[]), JSON).status_code == 400
    # The same person by name and by address has it once.
    delivery = set_up(client, made, to=[viewer.email.upper(), "cleo@client.example"], people=[viewer.pk, editor.pk])
    assert DeliveryReader.objects.filter(delivery=delivery).count() == 3
    type(viewer).objects.filter(pk=viewer.pk).update(email="moved@ninthbell.example")
    deliver(run_due(delivery, monkeypatch).pk)
    assert {one.to for one in Mail.objects.all()} == {"moved@ninthbell.example", editor.email, "cleo@client.example"}
    Mail.objects.all().delete()
    Membership.objects.filter(user=viewer).delete()
    delivery.refresh_from_db()
    deliver(run_due(delivery, monkeypatch).pk)
    assert {one.to for one in Mail.objects.all()} == {editor.email, "cleo@client.example"}
    # Setting it up again leaves whoever stays, with the token that is in the letters they have.
    token = DeliveryReader.objects.get(delivery=delivery, person=editor).token
    again = asked(to=[], people=[editor.pk], edition=delivery.edition)
    assert client.put(f"{HOME}/{made.pk}/deliveries/{delivery.pk}", again, JSON).status_code == 200
    assert [(one.person_id, one.token) for one in DeliveryReader.objects.filter(delivery=delivery)] == [
        (editor.pk, token)
    ]


def test_it_waits_only_for_what_may_still_come(client: Client, made: Report, monkeypatch: pytest.MonkeyPatch) -> None:
    asked_from: list[date] = []

    def holes(brand: Brand, own: list[Any], first: date, last: date, now: datetime) -> str:
        asked_from.append(first)
        return "" if first > now.date() - timedelta(days=4) else "Brevi: 1 missing of 28 days"

    monkeypatch.setattr(deliveries, "holes_in", holes)
    run = run_due(set_up(client, made, wait_hours=2), monkeypatch)
    deliver(run.pk)
    run.refresh_from_db()
    # A hole of three weeks ago is told, and nobody waits for it.
    assert (run.state, run.missing) == ("sent", "Brevi: 1 missing of 28 days")
    assert asked_from[0] > asked_from[-1]


def test_a_reader_stops_it_alone_and_is_not_put_back_unawares(
    client: Client, made: Report, monkeypatch: pytest.MonkeyPatch
) -> None:
    delivery = set_up(client, made)
    reader = DeliveryReader.objects.get(address="cleo@client.example")
    stop = f"/api/report/stop/{reader.token}"
    outside = Client(enforce_csrf_checks=True)
    # Opening the address ends nothing: scanners do that.
    assert outside.get(stop).status_code == 200
    reader.refresh_from_db()
    assert reader.stopped_at is None
    done = outside.post(stop, "List-Unsubscribe=One-Click", "application/x-www-form-urlencoded")
    assert done.status_code == 200
    assert outside.post("/api/report/stop/nobody").status_code == 200
    again = asked(edition=delivery.edition)
    assert client.put(f"{HOME}/{made.pk}/deliveries/{delivery.pk}", again, JSON).status_code == 200
    run = run_due(delivery, monkeypatch)
    deliver(run.pk)
    assert [one.to for one in Mail.objects.all()] == ["mira@ninthbell.example"]


def test_it_is_tried_to_oneself_and_sent_again_to_all(
    client: Client, made: Report, editor: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    delivery = set_up(client, made)
    home = f"{HOME}/{made.pk}/deliveries/{delivery.pk}/send"
    tried = client.post(home, {"to_myself": True}, JSON).json()
    deliver(tried["id"])
    assert [one.to for one in Mail.objects.all()] == [editor.email]
    at(monkeypatch, clock.now() + timedelta(minutes=1))
    sent = client.post(home, {"to_myself": False}, JSON).json()
    deliver(sent["id"])
    assert Mail.objects.count() == 3
    told = client.get(f"{HOME}/{made.pk}/runs").json()
    assert [(one["test_to"], one["letters"]) for one in told] == [("", 2), (editor.email, 1)]


def test_what_was_sent_is_seen_as_it_was_and_what_changed_since(
    client: Client, made: Report, monkeypatch: pytest.MonkeyPatch, own_profile: Any
) -> None:
    own_profile()
    run = run_due(set_up(client, made), monkeypatch)
    deliver(run.pk)
    Report.objects.update(title="Another", pages=made.pages[:1])
    run.refresh_from_db()
    kept = run.shown
    cell = next(c for page in kept["shown"]["pages"] for item in page["items"] for c in item["cells"])
    cell["now"]["value"] = 987654.0
    DeliveryRun.objects.update(shown=kept)
    told = client.get(f"{HOME}/{made.pk}/runs/{run.pk}").json()
    assert (told["title"], len(told["pages"])) == ("Weekly review", 3)
    assert [one["sent"] for one in told["changed"]] == ["987,654"]


def test_without_a_browser_it_says_so_and_nothing_is_sent(
    client: Client, made: Report, monkeypatch: pytest.MonkeyPatch
) -> None:
    def nothing(*_: Any) -> bytes:
        raise Unavailable("This server has no Chromium to make a PDF with.")

    monkeypatch.setattr(deliveries, "print_page", nothing)
    run = run_due(set_up(client, made), monkeypatch)
    deliver(run.pk)
    run.refresh_from_db()
    assert (run.state, Mail.objects.count()) == ("failed", 0)
    assert "no Chromium" in run.detail


def test_what_was_missed_for_long_is_left_out_and_what_is_away_not_sent(
    client: Client, made: Report, monkeypatch: pytest.MonkeyPatch
) -> None:
    delivery = set_up(client, made, every="day")
    assert delivery.next_at is not None
    at(monkeypatch, delivery.next_at + timedelta(days=20, hours=1))
    # The worker stood still for twenty days: the last one is an hour old and would have been another day's.
    sweep(clock.now())
    assert DeliveryRun.objects.count() == 0
    delivery.refresh_from_db()
    assert delivery.next_at > clock.now()
    run = run_due(delivery, monkeypatch)
    Report.objects.update(removed_at=clock.now())
    deliver(run.pk)
    run.refresh_from_db()
    assert (run.state, Mail.objects.count()) == ("failed", 0)


def test_who_may_and_what_is_refused(client: Client, made: Report, viewer: Any, stranger: Any, client_of: Any) -> None:
    home = f"{HOME}/{made.pk}/deliveries"
    for more, field in (
        ({"to": []}, "to"), ({"to": ["nobody"]}, "to"), ({"to": ["a@b.example"] * 400}, "to"), ({"every": "hour"}, "every"),
        ({"every": "rule", "rule": "FREQ=HOURLY"}, "rule"), ({"every": "rule", "rule": "FREQ=NONSENSE"}, "rule"),
        ({"every": "rule", "rule": "FREQ=DAILY;COUNT=1", "begins": "2020-01-01"}, "rule"), ({"hour": 99}, "hour"),
        ({"day": "x"}, "day"), ({"to": "x"}, "to"), ({"begins": "never"}, "begins"),
        ({"to": ["a@b.example\nBcc: c@d.example"]}, "to"),
    ):  # fmt: skip
        answer = client.post(home, asked(**more), JSON)
        assert answer.status_code == 400, more
        assert field in answer.json()["errors"], answer.json()
    delivery = set_up(client, made)
    assert client.put(f"{home}/{delivery.pk}", asked(edition=7), JSON).status_code == 409
    for role in ("viewer", "author"):
        Membership.objects.filter(user=viewer).update(role=role)
        looks = client_of(viewer)
        assert looks.get(home).status_code == 403
        assert looks.post(home, asked(), JSON).status_code == 403
        assert looks.post(f"{home}/{delivery.pk}/send", {}, JSON).status_code == 403
    theirs = f"/api/brands/lantern-line/reports/{made.pk}/deliveries/{delivery.pk}"
    assert client_of(stranger).delete(theirs).status_code == 404
    assert client.delete(f"{home}/{delivery.pk}").status_code == 204
