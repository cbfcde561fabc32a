"""Promise: a page is printed by the worker in its turn, told how far it is, and seen by whoever asked for it alone."""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client
from procrastinate.contrib.django.models import ProcrastinateJob

from dakika_server.brands.models import Membership
from dakika_server.jobs.forgotten import take_up_forgotten
from dakika_server.printing import actions, chromium
from dakika_server.printing.models import PrintedPage
from dakika_server.shared import clock
from dakika_server.shared.errors import Unavailable

pytestmark = pytest.mark.django_db
ASKED = "/api/brands/orrery-house/results/audience/pdf?first=2026-10-01&last=2026-10-28"
PRINTED = "/api/brands/orrery-house/printed"


@pytest.fixture
def paper(monkeypatch: pytest.MonkeyPatch) -> list[tuple[Any, str]]:
    """A printer that prints at once; whom it printed for, and what."""
    seen: list[tuple[Any, str]] = []
    monkeypatch.setattr(chromium, "print_page", lambda person, path: seen.append((person, path)) or b"%PDF")
    return seen


def waiting(brand: Any, person: Any, **more: Any) -> PrintedPage:
    """A page that waits."""
    values = {"path": "/orrery-house", "file_name": "a.pdf", "asked_at": clock.now()} | more
    return PrintedPage.objects.create(brand=brand, person=person, **values)


def test_it_is_asked_for_told_of_and_fetched(viewer: Any, client_of: Any, paper: list[tuple[Any, str]]) -> None:
    client = client_of(viewer)
    answer = client.post(f"{ASKED}&network=brevi&evil=//elsewhere.example")
    assert answer.status_code == 202
    page = answer.json()
    assert (page["state"], page["before"]) == ("waiting", 0)
    assert client.get(f"{PRINTED}/{page['id']}/file").status_code == 409
    actions.make(page["id"])
    assert client.get(f"{PRINTED}/{page['id']}").json()["state"] == "done"
    file = client.get(f"{PRINTED}/{page['id']}/file")
    assert file.content == b"%PDF"
    assert 'filename="orrery-house-audience-2026-10-01-2026-10-28.pdf"' in file["Content-Disposition"]
    # Made of checked values alone.
    person, path = paper[0]
    assert person == viewer
    assert path.startswith("/orrery-house/results/audience/sheet?")
    assert "network=brevi" in path
    assert "evil" not in path
    assert client.post(f"{ASKED}&first=soon").status_code == 400


def test_others_see_nothing_of_it(viewer: Any, editor: Any, stranger: Any, brand: Any, client_of: Any) -> None:
    page = waiting(brand, viewer, state="done", content=b"%PDF")
    for path in (f"{PRINTED}/{page.pk}", f"{PRINTED}/{page.pk}/file"):
        assert client_of(viewer).get(path).status_code == 200
        assert client_of(editor).get(path).status_code == 404
        assert client_of(stranger).get(path).status_code == 404
        assert Client().get(path).status_code == 401
    assert client_of(stranger).post(ASKED).status_code == 404
    assert Client().post(ASKED).status_code == 401


def test_each_waits_its_turn_and_hears_of_it(editor: Any, viewer: Any, brand: Any, client_of: Any) -> None:
    for path in ("/a", "/b"):
        waiting(brand, editor, path=path)
    own = client_of(viewer).post(ASKED).json()
    assert own["before"] == 2
    assert client_of(viewer).post(ASKED).json()["id"] == own["id"], "the same page once"
    assert ProcrastinateJob.objects.filter(task_name="printing.print_one").count() == 1


def test_nobody_fills_the_line(editor: Any, brand: Any, client_of: Any) -> None:
    for number in range(actions.MOST_WAITING):
        waiting(brand, editor, path=f"/{number}")
    answer = client_of(editor).post(ASKED)
    assert answer.status_code == 409
    assert "still to come" in answer.json()["detail"]


def test_what_fails_says_why(editor: Any, brand: Any, client_of: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def failing(*_: Any) -> bytes:
        raise Unavailable("This server has no Chromium to make a PDF with.")

    monkeypatch.setattr(chromium, "print_page", failing)
    page = waiting(brand, editor)
    actions.make(page.pk)
    told = client_of(editor).get(f"{PRINTED}/{page.pk}").json()
    assert (told["state"], told["detail"]) == ("failed", "This server has no Chromium to make a PDF with.")

    def broken(*_: Any) -> bytes:
        raise RuntimeError("a defect")

    monkeypatch.setattr(chromium, "print_page", broken)
    page = waiting(brand, editor)
    with pytest.raises(RuntimeError):
        actions.make(page.pk)
    page.refresh_from_db()
    assert page.state == "failed"
    assert "Try again" in page.detail


def test_who_left_the_brand_gets_nothing_of_it(editor: Any, brand: Any, paper: list[tuple[Any, str]]) -> None:
    page = waiting(brand, editor)
    Membership.objects.filter(user=editor).delete()
    actions.make(page.pk)
    page.refresh_from_db()
    assert (page.state, page.content, paper) == ("failed", None, [])


def test_one_that_a_worker_died_over_is_printed_after_all(
    editor: Any, brand: Any, paper: list[tuple[Any, str]]
) -> None:
    page = waiting(brand, editor, state="printing")
    assert take_up_forgotten() == 1
    actions.make(ProcrastinateJob.objects.get(task_name="printing.print_one").args["page_id"])
    page.refresh_from_db()
    assert page.state == "done"
    actions.make(page.pk)
    assert len(paper) == 1, "one that is there is not printed again"


def test_it_goes_after_its_day(editor: Any, brand: Any) -> None:
    waiting(brand, editor, state="done", content=b"%PDF", asked_at=clock.now() - timedelta(hours=25))
    waiting(brand, editor, state="done", content=b"%PDF", asked_at=clock.now() - timedelta(hours=23))
    assert actions.forget_old() == 1
    assert PrintedPage.objects.count() == 1
