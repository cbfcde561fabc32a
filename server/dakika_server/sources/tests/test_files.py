"""Promise: a file comes in as it was meant, once, is undone as a whole, and a wrong one changes nothing."""

import io
import json
import zipfile
from typing import Any

import pytest
from openpyxl import Workbook, load_workbook

from dakika_server.measures.models import PostMeasure
from dakika_server.sources.files import reading
from dakika_server.sources.files.reading import read_into
from dakika_server.sources.files.undoing import take_out
from dakika_server.sources.models import (
    AudienceReading,
    Import,
    ImportChunk,
    ImportProblem,
    Post,
    PostReading,
    Profile,
    ProfileReading,
)
from dakika_server.sources.testing import FILES, INTO, bring_in, brought, taken_out, upload

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/sources"
PATH = FILES
GOOD = "Post date;Message;Likes;Comments;Reach\n01/10/2026 10:00;A clock;12;3;400\n02/10/2026 11:00;A star;5;;\n03/10/2026;x;-4;1;1\nsoon;y;1;1;1\n"


def settle(client: Any, number: int, **what: Any) -> Any:
    return client.put(f"{PATH}/{number}", what, content_type="application/json")


def workbook(rows: list[list[object]]) -> bytes:
    book, out = Workbook(), io.BytesIO()
    for row in rows:
        book.active.append(row)
    book.save(out)
    return out.getvalue()


def test_preview_correction_and_import(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    preview = upload(client, GOOD).json()
    number = preview["item"]["id"]
    assert preview["item"]["kind"] == "posts"
    assert preview["mapping"] == {"published_at": [0], "text": [1], "reactions": [2], "comments": [3], "reach": [4]}
    assert (preview["readable"], preview["problem_count"]) == (3, 1)
    assert preview["problems"][0]["row"] == 5
    assert "not a date" in preview["problems"][0]["message"]
    assert preview["notes"] == [
        {"column": "Likes", "message": "is negative; the cell is left empty", "count": 1, "row": 4}
    ]
    assert not Post.objects.exists()
    twice = settle(client, number, mapping={**preview["mapping"], "shares": [2]})
    assert "used twice" in twice.json()["mapping_problems"][0]
    settle(client, number, mapping=preview["mapping"])
    done = bring_in(client, number)
    assert (done.state, done.accepted, done.refused, done.posts_added) == ("done", 3, 1, 3)
    reading = PostReading.objects.get(post__text="A star")
    assert (reading.reactions, reading.comments, reading.reach) == (5, None, None)
    assert PostMeasure.objects.filter(age_hours=0).count() == 3
    assert not ImportChunk.objects.exists()
    assert client.post(f"{PATH}/{number}", INTO, content_type="application/json").status_code == 409
    refused = b"".join(client.get(f"{PATH}/{number}/refused").streaming_content).decode().splitlines()
    assert refused[0].endswith("row in the file,column,why it was left out")
    assert refused[1].split(",")[-3:] == ["5", "Post date", "“soon” is not a date that can be read"]


def test_the_same_file_again_adds_nothing(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    brought(client, GOOD)
    profile = Post.objects.first().profile_id
    before = (Post.objects.count(), PostReading.objects.count())
    again = brought(client, GOOD, profile_id=profile)
    assert (again.added, again.posts_added, again.accepted, again.known) == (0, 0, 3, 3)
    assert (Post.objects.count(), PostReading.objects.count()) == before


def test_undo_takes_out_all_of_it_and_nothing_else(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    first = brought(client, GOOD)
    profile = first.profile_id
    more = GOOD.replace("A star", "A moon") + "04/10/2026;New;1;1;1\n"
    second = brought(client, more, profile_id=profile)
    assert Post.objects.count() == 5
    taken_out(client, second.pk)
    assert sorted(Post.objects.values_list("text", flat=True)) == ["A clock", "A star", "x"]
    assert PostReading.objects.count() == 3
    assert PostMeasure.objects.filter(age_hours=0).count() == 3
    assert client.post(f"{PATH}/{second.pk}/undo").status_code == 409
    taken_out(client, first.pk)
    assert not Post.objects.exists()
    assert not Profile.objects.exists()
    assert Import.objects.get(pk=first.pk).state == "undone"


def test_what_somebody_told_is_remembered_for_the_next_file_of_its_kind(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    odd = "A;B;C\n2026-10-01;Words that are long enough;7\n"
    preview = upload(client, odd).json()
    number = preview["item"]["id"]
    settle(
        client, number, mapping={"published_at": [0], "text": [1], "saves": [2]}, options={"zone": "America/Sao_Paulo"}
    )
    bring_in(client, number)
    again = upload(client, odd.replace("10-01", "10-02")).json()
    assert again["mapping"] == {"published_at": [0], "text": [1], "saves": [2]}
    assert again["options"]["zone"] == "America/Sao_Paulo"
    assert again["detected"]["is_remembered"]


def test_how_a_file_is_written_is_found_shown_and_changeable(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    rows = "Date (UTC)\tText\tLikes\n10/25/2026 09:30\tMañana\t1.234.567\n10/26/2026 09:30\tx\t12\n"
    preview = upload(client, rows.encode("cp1252"), "a.tsv").json()
    found = preview["detected"]
    assert (found["encoding"], found["delimiter"], found["decimal"]) == ("windows-1252", "\t", ",")
    assert (found["date_order"], found["zone"]) == ("mdy", "UTC")
    assert preview["items"][0]["values"]["reactions"] == "1234567"
    assert preview["items"][0]["values"]["published_at"] == "2026-10-25T09:30:00+00:00"
    number = preview["item"]["id"]
    changed = settle(client, number, options={"zone": "America/New_York"}).json()
    assert changed["items"][0]["values"]["published_at"] == "2026-10-25T13:30:00+00:00"
    greek = settle(client, number, options={"encoding": "windows-1253"}).json()
    assert greek["columns"][1]["examples"][0] == "Maρana"
    assert settle(client, number, options={"zone": "Mars/Olympus"}).status_code == 400
    assert settle(client, number, options={"encoding": "utf-8"}).status_code == 400


def test_post_metrics_over_time(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    posts = brought(client, "post id,published at,text,likes\np1,2026-10-01T10:00Z,One,1\np2,2026-10-02T10:00Z,Two,2\n")
    rows = "post id,read at,impressions,likes\n" + "".join(
        f"p{i},2026-10-0{d}T12:00Z,{100 * d},{d}\n" for i in (1, 2) for d in (3, 4, 5)
    )
    preview = upload(client, rows + "p9,2026-10-03T12:00Z,1,1\n").json()
    assert preview["item"]["kind"] == "post_readings"
    done = bring_in(client, preview["item"]["id"], profile_id=posts.profile_id)
    assert (done.added, done.refused) == (6, 1)
    problem = ImportProblem.objects.get(item=done)
    assert (problem.row, problem.column) == (8, "post id")
    assert "bring the posts in first" in problem.message
    assert list(
        PostReading.objects.filter(post__external_id="p1", impressions__isnull=False).order_by("taken_at")
        .values_list("impressions", flat=True)
    ) == [300, 400, 500]  # fmt: skip


def test_profile_metrics_over_time_leave_known_days_alone(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    rows = "Date,Fans,New followers,Unfollows\n2026-10-01,1000,12,3\n2026-10-02,1009,,\n"
    preview = upload(client, rows).json()
    assert preview["item"]["kind"] == "profile_readings"
    done = bring_in(client, preview["item"]["id"])
    second = ProfileReading.objects.order_by("day").last()
    assert (second.followers, second.gained, second.lost) == (1009, None, None)
    again = brought(client, rows.replace("1000", "9999") + "2026-10-03,1010,1,0\n", profile_id=done.profile_id)
    assert again.added == 1
    assert ProfileReading.objects.order_by("day").first().followers == 1000


@pytest.mark.parametrize(
    "shares",
    [("0.25", "0.75"), ("25%", "75%"), ("25", "75"), ("300", "900")],
    ids=["shares", "percent", "hundredths", "people"],
)
def test_audiences_become_shares(shares: tuple[str, str], editor: Any, client_of: Any) -> None:
    rows = f"date,dimension,segment,share\n2026-10-01,Country,PT,{shares[0]}\n2026-10-01,Country,BR,{shares[1]}\n"
    client = client_of(editor)
    preview = upload(client, rows).json()
    assert preview["item"]["kind"] == "audience"
    bring_in(client, preview["item"]["id"])
    assert AudienceReading.objects.get().segments == {"PT": 0.25, "BR": 0.75}


@pytest.mark.parametrize("form", ["xlsx", "json", "jsonl"])
def test_other_forms(form: str, editor: Any, client_of: Any) -> None:
    rows: list[list[object]] = [
        ["Date", "Text", "Reactions"],
        ["2026-10-01T10:00", "One", 3],
        ["2026-10-02", "Two", "=A1+1"],
    ]
    objects = [dict(zip(map(str, rows[0]), row, strict=True)) for row in rows[1:]]
    content = {
        "xlsx": workbook(rows), "json": json.dumps(objects).encode(),
        "jsonl": "\n".join(map(json.dumps, objects)).encode(),
    }[form]  # fmt: skip
    client = client_of(editor)
    preview = upload(client, content, f"posts.{form}").json()
    assert preview["readable"] == 2
    assert "formula" in preview["notes"][0]["message"]
    done = bring_in(client, preview["item"]["id"])
    assert (done.accepted, done.refused, PostReading.objects.count()) == (2, 0, 1)


def test_rows_that_name_their_profile(editor: Any, client_of: Any, own_profile: Any, world: Any) -> None:
    profile = own_profile("brevi")
    rows = "network,handle,date,followers\nbrevi,@orreryhouse,2025-01-01,10\nbrevi,nobody,2025-01-01,10\n"
    client = client_of(editor)
    preview = upload(client, rows).json()
    assert [(a["handle"], a["rows"], a["profile_id"]) for a in preview["accounts"]] == [
        ("@orreryhouse", 1, profile.pk), ("nobody", 1, None),
    ]  # fmt: skip
    unsaid = client.post(f"{PATH}/{preview['item']['id']}", {"is_per_row": True}, content_type="application/json")
    assert unsaid.status_code == 400
    assert "nobody on brevi" in unsaid.json()["errors"]["accounts"][0]
    nobody = {"network": "brevi", "handle": "nobody"}
    done = bring_in(client, preview["item"]["id"], is_per_row=True, accounts=[{**nobody, "what": "leave"}])
    assert (done.added, done.refused) == (1, 0)
    assert "left out, as was said" in done.notes[0]["message"]
    assert ProfileReading.objects.get().profile_id == profile.pk
    made = brought(client, rows, is_per_row=True, accounts=[{**nobody, "what": "make"}])
    assert made.added == 1
    assert Profile.objects.get(handle="nobody").network == "brevi"


def test_a_killed_worker_is_followed_by_one_that_goes_on(editor: Any, client_of: Any, monkeypatch: Any) -> None:
    monkeypatch.setattr(reading, "ROWS_AT_FIRST", 10)
    monkeypatch.setattr(reading, "ROWS_AT_ONCE", 10)
    client = client_of(editor)
    rows = "date,id,likes\n" + "".join(f"2026-10-01T{i % 24:02d}:00Z,p{i},{i}\n" for i in range(95)) + "x,bad,1\n"
    number = upload(client, rows).json()["item"]["id"]
    client.post(f"{PATH}/{number}", INTO, content_type="application/json")
    commit, calls = reading._commit, []

    def dies(*args: Any) -> None:
        calls.append(1)
        if len(calls) == 4:
            raise KeyboardInterrupt
        commit(*args)

    monkeypatch.setattr(reading, "_commit", dies)
    with pytest.raises(KeyboardInterrupt):
        read_into(number)
    halfway = Import.objects.get(pk=number)
    assert (halfway.state, halfway.rows_read, Post.objects.count()) == ("running", 30, 30)
    monkeypatch.setattr(reading, "_commit", commit)
    read_into(number)
    done = Import.objects.get(pk=number)
    assert (done.state, done.rows_read, done.accepted, done.refused, done.added) == ("done", 96, 95, 1, 95)
    assert PostReading.objects.count() == 95
    read_into(number)
    assert Import.objects.get(pk=number).added == 95


def test_taken_back_while_it_runs_nothing_is_left(editor: Any, client_of: Any, monkeypatch: Any) -> None:
    monkeypatch.setattr(reading, "ROWS_AT_FIRST", 10)
    monkeypatch.setattr(reading, "ROWS_AT_ONCE", 10)
    client = client_of(editor)
    rows = "date,id,likes\n" + "".join(f"2026-10-01T{i % 24:02d}:00Z,p{i},{i}\n" for i in range(40))
    number = upload(client, rows).json()["item"]["id"]
    client.post(f"{PATH}/{number}", INTO, content_type="application/json")
    commit = reading._commit

    def somebody_undoes(*args: Any) -> None:
        commit(*args)
        client.post(f"{PATH}/{number}/undo")

    monkeypatch.setattr(reading, "_commit", somebody_undoes)
    read_into(number)
    take_out(number)
    assert not Post.objects.exists()
    assert Import.objects.get(pk=number).state == "undone"


def bomb() -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for i in range(3):
            archive.writestr(f"xl/worksheets/sheet{i}.xml", b"0" * (80 * 1024 * 1024))
    return out.getvalue()


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"", "empty"),
        (b"Date,Likes\n", "no rows"),
        ("Date,Likes\n2026-01-01,é".encode() + b"\xff\xfe", "broken"),
        (b"\x00\x01\x02binary", "not a text file"),
        (b"PK\x03\x04 not a workbook", "broken"),
        (b"\xd0\xcf\x11\xe0old", "old binary kind"),
        (b'[{"a": 1}, 2]', "objects"),
        (b'{"a": ', "not JSON"),
        (b"[" * 100_000, "no rows"),
        (b"Date,Text\n2026-01-01," + b"x" * 10_000_000 + b"\n", "field larger than"),
        (lambda: ",".join(f"c{i}" for i in range(2500)).encode() + b"\n" + b"1," * 2499 + b"1\n", "2,500 columns"),
        (bomb, "unpacks to"),
    ],
)
def test_wrong_files_get_a_clear_answer_and_change_nothing(
    content: Any, says: str, editor: Any, client_of: Any
) -> None:
    answer = upload(client_of(editor), content() if callable(content) else content)
    assert answer.status_code == 400
    assert says in answer.json()["detail"]
    assert not Import.objects.exclude(state="failed").exists()


def test_a_file_that_breaks_later_keeps_what_came_and_says_how_to_take_it_out(
    editor: Any, client_of: Any, monkeypatch: Any
) -> None:
    monkeypatch.setattr("dakika_server.sources.files.upload.COUNTED_BYTES", 0)
    client = client_of(editor)
    rows = b"date,id,likes\n" + b"".join(b"2026-10-01T10:00Z,p%d,1\n" % i for i in range(12_000))
    done = brought(client, rows + b"2026-10-01T10:00Z,\xff\xfe,1\n" + b"2026-10-01T10:00Z,q,1\n" * 9)
    assert done.state == "failed"
    assert "broken after line" in done.message
    assert "undo" in done.message
    assert Post.objects.count() == done.posts_added >= 2000


def test_no_date_column_is_said_before_anything_comes_in(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    preview = upload(client, "Name,Likes\nA,1\nB,2\n").json()
    assert "date of publishing" in preview["mapping_problems"][0]
    item = f"{PATH}/{preview['item']['id']}"
    assert client.post(item, INTO, content_type="application/json").status_code == 400
    assert not Post.objects.exists()
    assert client.delete(item).status_code == 204
    assert not ImportChunk.objects.exists()


def test_hostile_cells_are_kept_as_text_or_told_by_row(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    rows = (
        "Date,Text,Likes,Likes\n"
        "2026-10-01,<script>alert(1)</script> \u202e\u05e9\u05dc\u05d5\u05dd 👩‍👩‍👧,3,1\n"
        "2026-10-02,big,9223372036854775808,1\n0001-01-01,first year,1,1\n9999-12-31,last year,1,1\n"
        "2026-10-03,negative,-1,1\n2026-10-04,=HYPERLINK(1),2,1\n2026-10-05,nul\x00here,2,1\n"
    )
    preview = upload(client, rows.replace("\x00", "")).json()
    assert preview["problem_count"] == 2
    assert "has the same name as column 3" in [column["note"] for column in preview["columns"]]
    number = preview["item"]["id"]
    done = bring_in(client, number)
    assert (done.accepted, done.refused) == (5, 2)
    assert {note["message"].split(";")[0] for note in done.notes} >= {"is negative", "is larger than any count can be"}
    assert "<script>" in Post.objects.order_by("published_at").first().text
    out = b"".join(client.get(f"{HOME}/export?what=posts&form=csv").streaming_content).decode()
    assert "'=HYPERLINK(1)" in out
    assert "\n=HYPERLINK" not in out


@pytest.mark.parametrize("form", ["csv", "jsonl", "xlsx"])
def test_what_was_exported_changes_nothing_when_it_comes_back(
    form: str, editor: Any, client_of: Any, own_profile: Any, world: Any
) -> None:
    from dakika_server.sources.testing import run_to_end

    run_to_end(own_profile("corkboard"))
    client = client_of(editor)
    before = [m.objects.count() for m in (Post, PostReading, ProfileReading, AudienceReading)]
    for what in ("posts", "post_readings", "profile_readings", "audience"):
        answer = client.get(f"{HOME}/export", {"what": what, "form": form})
        assert answer.status_code == 200
        content = b"".join(answer.streaming_content)
        preview = upload(client, content, f"{what}.{form}").json()
        assert preview["item"]["kind"] == what, preview["mapping"]
        assert preview["mapping_problems"] == []
        done = bring_in(client, preview["item"]["id"], is_per_row=True)
        assert (done.refused, done.added) == (0, 0), list(done.problems.values("message")[:2])
        assert done.accepted > 0
    assert [m.objects.count() for m in (Post, PostReading, ProfileReading, AudienceReading)] == before


def test_everything_in_one_archive(editor: Any, client_of: Any, own_profile: Any, world: Any) -> None:
    own_profile("corkboard")
    client = client_of(editor)
    answer = client.get(f"{HOME}/export", {"what": "all", "form": "csv"})
    with zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content))) as archive:
        assert {"profiles.csv", "posts.csv", "post_readings.csv", "clicks.csv"} <= set(archive.namelist())
        assert archive.read("profiles.csv").decode().splitlines()[2].startswith("corkboard,orreryhouse")
    book = load_workbook(io.BytesIO(b"".join(client.get(f"{HOME}/export?what=all&form=xlsx").streaming_content)))
    assert "profiles" in book.sheetnames
    assert client.get(f"{HOME}/export?what=secrets").status_code == 400


def test_who_may_only_look_brings_nothing_in(viewer: Any, client_of: Any) -> None:
    assert upload(client_of(viewer), GOOD).status_code == 403
    assert client_of(viewer).get(f"{HOME}/export?what=posts").status_code == 200
