"""Promise: a workbook is opened by a worker alone, and costs no more than its table is worth, whatever it unpacks to."""

import io
import resource
import zipfile
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from openpyxl import Workbook

from dakika_server.jobs.forgotten import take_up_forgotten
from dakika_server.sources.files.looking import look_into
from dakika_server.sources.models import Import, ImportChunk
from dakika_server.sources.testing import FILES, brought, settle, upload

pytestmark = pytest.mark.django_db
ROWS = [("date", "text", "likes"), *((f"2026-10-{day:02d}", f"Post {day}", day) for day in range(1, 15))]


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    return client_of(editor)


def workbook(*rows: tuple[object, ...], sheets: tuple[str, ...] = ("Sheet",)) -> bytes:
    book, out = Workbook(), io.BytesIO()
    book.remove(book.active)
    for name in sheets:
        sheet = book.create_sheet(name)
        for row in rows:
            sheet.append(row)
    book.save(out)
    return out.getvalue()


def with_member(content: bytes, name: str, body: bytes) -> bytes:
    """A workbook with one of its members replaced."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(content)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for entry in old.infolist():
            new.writestr(entry.filename, body if entry.filename == name else old.read(entry.filename))
    return out.getvalue()


def many_fonts(count: int) -> bytes:
    return (
        b'<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><fonts>'
        + b"<font/>" * count + b"</fonts></styleSheet>"
    )  # fmt: skip


def far_away(row: int, column: str) -> bytes:
    return (
        '<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>'
        '<row r="1"><c r="A1" t="inlineStr"><is><t>date</t></is></c><c r="B1" t="inlineStr"><is><t>likes</t></is></c>'
        '</row><row r="2"><c r="A2" t="inlineStr"><is><t>2026-10-01</t></is></c><c r="B2"><v>3</v></c></row>'
        + "".join(f'<row r="{n}"><c r="{column}{n}"><v>1</v></c></row>' for n in (row,))
        + "</sheetData></worksheet>"
    ).encode()


def test_the_web_only_stores_it(client: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def never(*_: Any, **__: Any) -> None:
        raise AssertionError("opened in a web thread")

    for name in ("zipfile.ZipFile", "dakika_server.sources.files.tables.streamed", "openpyxl.load_workbook"):
        monkeypatch.setattr(name, never)
    answer = client.post(FILES, {"file": SimpleUploadedFile("a.xlsx", workbook(*ROWS, sheets=("a", "b")))})
    assert answer.status_code == 201
    told = answer.json()
    number = told["item"]["id"]
    assert (told["item"]["state"], told["header"]) == ("looking", [])
    monkeypatch.undo()
    look_into(number)
    for name in ("zipfile.ZipFile", "dakika_server.sources.files.tables.streamed"):
        monkeypatch.setattr(name, never)
    assert client.get(f"{FILES}/{number}").json()["readable"] == 14
    # Another sheet is looked into by the worker too; what needs no look is settled at once.
    asked = {"options": {"sheet": "b"}}
    told = client.put(f"{FILES}/{number}", asked, content_type="application/json").json()
    assert (told["item"]["state"], told["readable"]) == ("looking", 14)
    assert client.post(f"{FILES}/{number}", {}, content_type="application/json").status_code == 409
    monkeypatch.undo()
    look_into(number)
    told = client.get(f"{FILES}/{number}").json()
    assert (told["item"]["state"], told["options"]["sheet"]) == ("waiting", "b")
    told = settle(client, number, options={"zone": "Europe/Lisbon"}).json()
    assert (told["item"]["state"], told["options"]["zone"]) == ("waiting", "Europe/Lisbon")


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (with_member(workbook(*ROWS), "xl/styles.xml", many_fonts(8_000_000)), "far more"),
        (with_member(workbook(*ROWS), "xl/styles.xml", many_fonts(40_000)), ""),
        (with_member(workbook(*ROWS), "xl/worksheets/sheet1.xml", far_away(1_048_576, "XFD")), ""),
        (with_member(workbook(*ROWS), "xl/worksheets/sheet1.xml", b" " * (400 << 20)), "far more"),
    ],
    ids=["eight million fonts", "forty thousand fonts", "one cell at its end", "four hundred megabytes of nothing"],
)
def test_what_it_unpacks_to_costs_nobody_more_than_its_bounds(content: bytes, says: str, client: Any) -> None:
    assert len(content) < 1 << 20
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    answer = upload(client, content, "x.xlsx")
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 64 * 1024, "memory of this process, in KiB"
    if says:
        assert says in answer.json()["detail"]
        assert Import.objects.get().state == "failed"
        assert not ImportChunk.objects.exists()
    else:
        assert answer.status_code == 201, answer.json()
        assert answer.json()["readable"] >= 1


def test_one_that_takes_too_much_is_ended_and_said(client: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("dakika_server.sources.files.tables.MOST_MEGABYTES", 2)
    answer = upload(client, workbook(*ROWS), "x.xlsx")
    assert "far more time or memory" in answer.json()["detail"]


def test_a_look_whose_worker_died_is_taken_up(client: Any) -> None:
    number = client.post(FILES, {"file": SimpleUploadedFile("a.xlsx", workbook(*ROWS))}).json()["item"]["id"]
    from procrastinate.contrib.django.models import ProcrastinateJob

    jobs = ProcrastinateJob.objects.filter(task_name="sources.look_into_file", args__import_id=number)
    assert jobs.count() == 1
    take_up_forgotten()
    assert jobs.count() == 1
    from django.db import connection

    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM procrastinate_jobs")
    take_up_forgotten()
    assert jobs.count() == 1


def test_thrown_away_while_it_is_looked_into_it_stays_away(client: Any) -> None:
    number = client.post(FILES, {"file": SimpleUploadedFile("a.xlsx", workbook(*ROWS))}).json()["item"]["id"]
    assert client.delete(f"{FILES}/{number}").status_code == 204
    look_into(number)
    assert Import.objects.get().state == "discarded"
    assert not ImportChunk.objects.exists()


def test_its_rows_come_in_through_the_same_bounds(client: Any) -> None:
    item = brought(client, workbook(*ROWS), "2026-10-31.xlsx")
    assert (item.state, item.added) == ("done", 14)
