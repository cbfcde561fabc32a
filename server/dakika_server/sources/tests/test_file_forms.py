"""Promise: what is no table says what it is and what to do; our own exports are known by name; and figures follow by themselves."""

import io
import zipfile
from datetime import UTC, datetime
from typing import Any

import pytest
from openpyxl import Workbook

from dakika_server.jobs.forgotten import take_up_forgotten
from dakika_server.measures.testing import fill, make_profile
from dakika_server.shared import clock
from dakika_server.sources.files.confirming import LARGE_BYTES, lane_of
from dakika_server.sources.files.reading import read_into
from dakika_server.sources.models import Import, ImportChunk, Post, ProfileRebuild
from dakika_server.sources.rebuilding import rebuild
from dakika_server.sources.testing import FILES, bring_in, brought, settle, upload

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house"
ROWS = "date,text,likes\n" + "".join(
    f"2026-0{m}-0{d}T10:00Z,Post {m} {d},{m * d}\n" for m in range(1, 8) for d in range(1, 8)
)


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    return client_of(editor)


def compound(name: str) -> bytes:
    return b"\xd0\xcf\x11\xe0" + b"\x00" * 600 + name.encode("utf-16-le") + b"\x00" * 600


def archive(*names: str, mimetype: str = "") -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        if mimetype:
            made.writestr("mimetype", mimetype)
        for name in names:
            made.writestr(name, "x" * 40)
    return out.getvalue()


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (compound("EncryptedPackage"), "locked with a password"),
        (compound("Workbook"), "old binary kind"),
        (compound("WordDocument"), "text document"),
        (compound("PowerPoint Document"), "presentation"),
        (b"%PDF-1.7 x", "This is a PDF"),
        (b"{\\rtf1 x}", "text document"),
        (b"<!DOCTYPE html><table><tr><td>1", "web page"),
        (b"<?xml version='1.0'?><a/>", "This is XML"),
        (b"\x1f\x8b\x08 x", "compressed"),
        (b"\x89PNG\r\n\x1a\n", "picture"),
        (archive("word/document.xml", "[Content_Types].xml"), "text document"),
        (archive("ppt/presentation.xml"), "presentation"),
        (archive("xl/workbook.bin"), "binary kind"),
        (archive("Index/Document.iwa"), "another program's spreadsheet"),
        (archive("content.xml", mimetype="application/vnd.oasis.opendocument.text"), "text document"),
        (archive("content.xml", mimetype="application/vnd.oasis.opendocument.spreadsheet"), "broken"),
        (archive("picture.jpg"), "holds no table"),
    ],
)  # fmt: skip
def test_what_is_no_table_says_what_it_is_and_what_to_do(content: bytes, says: str, client: Any) -> None:
    answer = upload(client, content, "x.xlsx")
    assert answer.status_code == 400
    assert says in answer.json()["detail"]
    assert not Import.objects.exclude(state="failed").exists()
    assert not ImportChunk.objects.exists()


@pytest.mark.parametrize(
    "content",
    [b"date,text\n2026-10-01,a\rb\n", b'[{"date": "2026-10-01", "n": ' + b"9" * 6000 + b"}]",
     b'[{"date": "2026-10-01", "text": "\\ud800 \\u0000", "likes": 3}]', b'{"a": [' + b"[" * 5000, b'[{"\\ud800": 1, "date": "2026-10-01"}]',
     b"date,text\n2026-10-01," + "\ufeff\u202e".encode() + b"\n"],
)  # fmt: skip
def test_hostile_files_are_read_or_refused_in_words(content: bytes, client: Any) -> None:
    answer = upload(client, content, "x.json")
    assert answer.status_code in (201, 400)
    if answer.status_code == 400:
        assert answer.json()["detail"]


def test_a_workbook_with_a_cell_at_its_end_costs_no_more_than_its_rows(client: Any) -> None:
    book, out = Workbook(), io.BytesIO()
    book.active.append(["date", "text", "likes"])
    book.active.append(["2026-10-01", "x", 3])
    book.active.cell(row=1_048_576, column=16_384, value="end")
    book.save(out)
    preview = upload(client, out.getvalue(), "x.xlsx").json()
    assert (preview["item"]["row_count"] >= 1, preview["readable"]) == (True, 1)


# -- our own exports


def exported(client: Any, path: str, **query: str) -> bytes:
    answer = client.get(f"{HOME}/{path}", query)
    assert answer.status_code == 200
    return b"".join(answer.streaming_content) if answer.streaming else answer.content


@pytest.mark.parametrize(
    ("path", "query", "says"),
    [
        ("sources/export", {"what": "comments", "form": "csv"}, "own export of comments"),
        ("sources/export", {"what": "profiles", "form": "csv"}, "own export of profiles"),
        ("sources/export", {"what": "comments", "form": "jsonl"}, "own export of comments"),
        ("sources/export", {"what": "profiles", "form": "xlsx"}, "own export of profiles"),
        ("figures/results.posts/table", {"form": "csv"}, "own export of results"),
        ("figures/results.course/table", {"form": "xlsx"}, "own export of results"),
    ],
)  # fmt: skip
def test_an_export_that_is_no_way_in_is_refused_by_name(
    path: str, query: dict[str, str], says: str, client: Any, brand: Any
) -> None:
    fill(make_profile(brand), 12)
    answer = upload(client, exported(client, path, **query), f"x.{query['form']}")
    assert answer.status_code == 400
    assert says in answer.json()["detail"]


@pytest.mark.parametrize("form", ["csv", "xlsx"])
def test_everything_in_one_file_comes_back_table_by_table(form: str, client: Any, brand: Any) -> None:
    fill(make_profile(brand), 12)
    before = Post.objects.count()
    content = exported(client, "sources/export", what="all", form=form)
    preview = upload(client, content, "all.zip" if form == "csv" else "all.xlsx").json()
    assert (preview["item"]["kind"], preview["detected"]["own_table"]) == ("posts", "posts")
    sheets = preview["detected"]["sheets"]
    assert len(sheets) > 5
    number = preview["item"]["id"]
    readings = next(sheet for sheet in sheets if "post_readings" in sheet)
    other = settle(client, number, options={"sheet": readings}).json()
    assert other["item"]["kind"] == "post_readings", other
    comments = next(sheet for sheet in sheets if "comments" in sheet)
    refused = settle(client, number, options={"sheet": comments})
    assert "own export of comments" in refused.json()["detail"]
    # It stands as it stood, and may still come in.
    assert client.get(f"{FILES}/{number}").json()["item"]["kind"] == "post_readings"
    done = bring_in(client, number, is_per_row=True)
    assert (done.added, done.refused, Post.objects.count()) == (0, 0, before)


@pytest.mark.parametrize("form", ["csv", "jsonl"])
def test_instants_go_out_by_the_brands_clock_with_its_offset_and_come_back(form: str, client: Any, brand: Any) -> None:
    """Lisbon puts its clocks back at 01:00 UTC on 25 October 2026 (tz database): the hour from one to two comes twice."""
    fill(make_profile(brand), 3)
    instants = [datetime(2026, 10, 25, hour, 30, tzinfo=UTC) for hour in (0, 1, 2)]
    for post, at in zip(Post.objects.order_by("pk"), instants, strict=True):
        Post.objects.filter(pk=post.pk).update(published_at=at)
    text = exported(client, "sources/export", what="posts", form=form).decode()
    for written in ("2026-10-25T01:30:00+01:00", "2026-10-25T01:30:00+00:00", "2026-10-25T02:30:00+00:00"):
        assert text.count(written) == 1
    bring_in(client, upload(client, text.encode(), f"x.{form}").json()["item"]["id"], is_per_row=True)
    assert list(Post.objects.order_by("pk").values_list("published_at", flat=True)) == instants


# -- figures follow


def test_figures_are_worked_out_by_a_job_of_their_own_and_their_progress_is_told(client: Any) -> None:
    number = upload(client, ROWS).json()["item"]["id"]
    client.post(f"{FILES}/{number}", {"new_profile": "X", "network": "elsewhere"}, content_type="application/json")
    read_into(number)
    told = client.get(f"{FILES}/{number}").json()
    assert (told["item"]["state"], told["rebuild"]) == ("done", {"done": 0, "total": 0, "is_waiting": True})
    item = Import.objects.get(pk=number)
    rebuild(item.profile_id)
    assert client.get(f"{FILES}/{number}").json()["rebuild"] is None
    state = ProfileRebuild.objects.get()
    assert state.done == state.total > 40
    assert (item.first_day.isoformat(), item.last_day.isoformat()) == ("2026-01-01", "2026-07-07")


def test_what_was_asked_while_it_ran_is_done_after(client: Any) -> None:
    done = brought(client, ROWS)
    row = ProfileRebuild.objects.get()
    assert not row.is_open
    ProfileRebuild.objects.update(asked_at=clock.now())
    assert client.get(f"{FILES}/{done.pk}").json()["rebuild"]["is_waiting"]


def test_figures_whose_job_is_gone_are_asked_for_again(client: Any) -> None:
    from datetime import timedelta

    from procrastinate.contrib.django.models import ProcrastinateJob

    brought(client, ROWS)
    jobs = ProcrastinateJob.objects.filter(task_name="sources.rebuild_profile")
    before = jobs.count()
    assert take_up_forgotten() == 0
    ProfileRebuild.objects.update(asked_at=clock.now() - timedelta(minutes=2), ended_at=None)
    # One that still stands in the queue is not asked for twice.
    assert take_up_forgotten() == (0 if before else 1)


def test_a_small_file_never_stands_behind_a_large_one() -> None:
    from dakika_server.jobs.places import places

    small, large = Import(size=1000, row_count=10), Import(size=LARGE_BYTES + 1, row_count=10)
    taken = places("")
    lanes = {queue for queues in taken for queue in queues}
    assert {lane_of(small), lane_of(large), "measure"} <= lanes
    assert not any({lane_of(small), lane_of(large)} <= set(queues) for queues in taken)


def test_results_of_a_profile_that_was_removed_are_said_to_be_gone(client: Any) -> None:
    answer = client.get(f"{HOME}/results/summary?profile=987654")
    assert answer.status_code == 400
    assert "no such profile" in str(answer.json())


def test_as_of_is_settled_by_the_file_and_can_be_told(client: Any) -> None:
    preview = upload(client, ROWS, "posts 2026-08-15.csv").json()
    assert preview["options"]["as_of"].startswith("2026-08-15T23:59:59")
    assert preview["detected"]["as_of_why"] == "name"
    number = preview["item"]["id"]
    for wrong in ("soon", "2999-01-01T00:00:00+00:00", "2026-08-01T00:00:00"):
        answer = client.put(f"{FILES}/{number}", {"options": {"as_of": wrong}}, content_type="application/json")
        assert answer.status_code == 400, wrong
    told = client.put(
        f"{FILES}/{number}", {"options": {"as_of": "2026-09-01T12:00:00+00:00"}}, content_type="application/json"
    )
    assert told.status_code == 200
    done = bring_in(client, number)
    assert {r.taken_at.isoformat() for p in Post.objects.all() for r in p.readings.all()} == {
        "2026-09-01T12:00:00+00:00"
    }
    # The same file again says nothing new: it is taken as of when it came first.
    again = upload(client, ROWS, "another name.csv").json()
    assert (again["options"]["as_of"][:19], again["detected"]["as_of_why"]) == ("2026-09-01T12:00:00", "same file")
    assert bring_in(client, again["item"]["id"], profile_id=done.profile_id).added == 0
