"""Promise: a file comes in as it was meant, once, and a wrong one gets a clear answer and changes nothing."""

import io
import zipfile
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from openpyxl import Workbook

from dakika_server.sources.models import Import, Post, PostReading

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/sources/imports"
GOOD = "Post date;Message;Likes;Comments;Reach\n01/10/2026 10:00;A clock;12;3;400\n02/10/2026 11:00;A star;5;;\n03/10/2026;x;-4;1;1\n"


def upload(client: Any, content: bytes | str, name: str = "posts.csv") -> Any:
    data = content.encode() if isinstance(content, str) else content
    return client.post(PATH, {"file": SimpleUploadedFile(name, data)})


def workbook(rows: list[list[object]]) -> bytes:
    book, out = Workbook(), io.BytesIO()
    for row in rows:
        book.active.append(row)
    book.save(out)
    return out.getvalue()


def test_preview_correction_and_import(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    preview = upload(client, GOOD).json()
    assert preview["mapping"] == {"published_at": 0, "text": 1, "reactions": 2, "comments": 3, "reach": 4}
    assert (preview["readable"], preview["problem_count"]) == (2, 1)
    assert preview["problems"][0] == {"row": 4, "column": "Likes", "message": "is negative"}
    assert not Post.objects.exists()
    item = f"{PATH}/{preview['item']['id']}"
    corrected = client.put(
        item,
        {"mapping": {**preview["mapping"], "shares": 2, "reactions": 3, "comments": 4}},
        content_type="application/json",
    )
    assert "used twice" in corrected.json()["mapping_problems"][0]
    client.put(item, {"mapping": preview["mapping"]}, content_type="application/json")
    into = {"new_profile": "Old page", "network": "commons"}
    done = client.post(item, into, content_type="application/json").json()
    assert (done["accepted"], done["refused"], done["added"]) == (2, 1, 2)
    reading = PostReading.objects.get(post__text="A star")
    assert (reading.reactions, reading.comments, reading.reach) == (5, None, None)
    assert client.post(item, into, content_type="application/json").status_code == 409


def test_the_same_file_again_adds_nothing(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    first = upload(client, GOOD).json()["item"]["id"]
    client.post(f"{PATH}/{first}", {"new_profile": "Old", "network": "brevi"}, content_type="application/json")
    profile = Post.objects.first().profile_id
    posts, readings = Post.objects.count(), PostReading.objects.count()
    second = upload(client, GOOD).json()["item"]["id"]
    done = client.post(f"{PATH}/{second}", {"profile_id": profile}, content_type="application/json").json()
    assert done["added"] == 0
    assert (Post.objects.count(), PostReading.objects.count()) == (posts, readings)


def test_a_workbook(editor: Any, client_of: Any) -> None:
    rows: list[list[object]] = [
        ["Date", "Text", "Reactions"],
        ["2026-10-01T10:00", "One", 3],
        ["2026-10-02", "Two", "=A1+1"],
    ]
    preview = upload(client_of(editor), workbook(rows), "posts.xlsx").json()
    assert preview["readable"] == 1
    assert "formula" in preview["problems"][0]["message"]


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
        (bomb, "unpacks to more"),
        (lambda: b"Date,Likes\n" + b"2026-01-01,1\n" * 1_000_000, "more than 100,000 rows"),
    ],
)
def test_wrong_files_get_a_clear_answer_and_change_nothing(
    content: Any, says: str, editor: Any, client_of: Any
) -> None:
    answer = upload(client_of(editor), content() if callable(content) else content)
    assert answer.status_code == 400
    assert says in answer.json()["detail"]
    assert not Import.objects.exists()


def test_no_date_column_is_said_before_anything_comes_in(editor: Any, client_of: Any) -> None:
    client = client_of(editor)
    preview = upload(client, "Name,Likes\nA,1\nB,2\n").json()
    assert "date of publishing" in preview["mapping_problems"][0]
    item = f"{PATH}/{preview['item']['id']}"
    refused = client.post(item, {"new_profile": "X", "network": "brevi"}, content_type="application/json")
    assert refused.status_code == 400
    assert not Post.objects.exists()


def test_hostile_cells_are_kept_as_text(editor: Any, client_of: Any) -> None:
    rows = "Date,Text,Likes\n2026-10-01,<script>alert(1)</script> \u202e👩‍👩‍👧,3\n2026-10-02,x,9223372036854775808\n0001-01-01,x,1\n"
    preview = upload(client_of(editor), rows).json()
    assert preview["posts"][0]["text"].startswith("<script>")
    assert preview["problem_count"] == 2
