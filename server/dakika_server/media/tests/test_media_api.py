"""Promise: files come in by one guarded way and go out by one, are nobody else's, and none is lost or doubled."""

import os
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from dakika_server.brands.models import Brand
from dakika_server.media import actions, checking, serving, storage
from dakika_server.media.models import Asset, Rendition
from dakika_server.media.testing import PDF, picture, video
from dakika_server.shared import apart, clock

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/media"


@pytest.fixture(autouse=True)
def folder(media_folder: Path) -> Path:
    return media_folder


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    return client_of(editor)


def bring(client: Any, content: bytes, name: str = "clock.jpg") -> Any:
    return client.post(BASE, {"file": SimpleUploadedFile(name, content)})


def ready(client: Any, content: bytes, name: str = "clock.jpg") -> dict[str, Any]:
    """Brought, and looked into as the worker would."""
    number = bring(client, content, name).json()["id"]
    checking.check(number)
    found: dict[str, Any] = client.get(f"{BASE}/{number}").json()
    return found


def files_in(folder: Path) -> int:
    return sum(path.is_file() for path in folder.rglob("*"))


def test_a_picture_is_brought_looked_into_and_given_out(client: Any) -> None:
    said = bring(client, picture(800, 600), "The repaired hour.jpg")
    assert (said.status_code, said.json()["state"], said.json()["kind"]) == (201, "checking", "")
    number = said.json()["id"]
    assert client.get(f"{BASE}/{number}/original").status_code == 404  # not before it was looked into
    checking.check(number)
    asset = client.get(f"{BASE}/{number}").json()
    assert (asset["state"], asset["kind"], asset["width"], asset["height"]) == ("ready", "picture", 800, 600)
    assert [one["purpose"] for one in asset["renditions"]] == ["full", "preview"]
    shown = client.get(f"{BASE}/{number}/preview")
    assert shown["Content-Type"] == "image/jpeg"
    assert b"".join(shown.streaming_content)[:3] == b"\xff\xd8\xff"


def test_what_is_given_out_is_never_run(client: Any) -> None:
    """The type that we found, no guessing, nothing loaded; an original is a download without a type."""
    for content, name in ((picture(), "x.html"), (PDF, "x.svg")):
        asset = ready(client, content, name)
        for purpose in ("original", *[one["purpose"] for one in asset["renditions"]]):
            answer = client.get(f"{BASE}/{asset['id']}/{purpose}")
            assert answer["X-Content-Type-Options"] == "nosniff"
            assert answer["Content-Security-Policy"].endswith("sandbox")
            assert "text" not in answer["Content-Type"]
            if purpose == "original":
                assert answer["Content-Type"] == "application/octet-stream"
                assert answer["Content-Disposition"].startswith("attachment")
            # Read to its end: closing it by hand would close the test's connection with it.
            b"".join(answer.streaming_content)
    film = ready(client, video(), "film.mp4")
    shown = client.get(f"{BASE}/{film['id']}/original")
    assert shown["Content-Type"] == "video/mp4"
    assert b"".join(shown.streaming_content) == video()


# RFC 9110, 14.1.2 and 14.4: what is asked for, and which bytes of ten thousand are given (from, to); the examples
# are the standard's own. None: the whole.
PARTS = [
    ("bytes=0-499", (0, 499)), ("bytes=500-999", (500, 999)), ("bytes=-500", (9500, 9999)), ("bytes=9500-", (9500, 9999)),
    ("bytes=0-", (0, 9999)), ("bytes=9999-20000", (9999, 9999)), ("bytes=-20000", (0, 9999)),
    ("", None), ("bytes=0-0,-1", None), ("bytes=500-499", None), ("bytes=", None), ("bytes=-", None), ("lines=0-5", None),
    ("bytes=٣-٩", None), ("bytes=0-4999999999999999999999", None), ("bytes=-1-5", None),
]  # fmt: skip


@pytest.mark.parametrize(("asked", "given"), PARTS)
def test_a_film_is_given_in_parts(
    asked: str, given: tuple[int, int] | None, client: Any, rf: Any, folder: Path
) -> None:
    del folder
    whole = bytes(number % 251 for number in range(10_000))
    name = storage.keep(1, whole)
    answer: Any = serving.shown(rf.get("/", headers={"Range": asked}), name, "video/mp4")
    sent = b"".join(answer.streaming_content)
    assert (answer["Accept-Ranges"], answer["Content-Type"]) == ("bytes", "video/mp4")
    assert int(answer["Content-Length"]) == len(sent)
    assert answer["Content-Security-Policy"].endswith("sandbox")
    if given is None:
        answer.file_to_stream.close()
        assert (answer.status_code, sent) == (200, whole)
    else:
        assert (answer.status_code, sent) == (206, whole[given[0] : given[1] + 1])
        assert answer["Content-Range"] == f"bytes {given[0]}-{given[1]}/10000"


@pytest.mark.parametrize("asked", ["bytes=10000-", "bytes=10000-10001", "bytes=-0"])
def test_behind_its_end_there_is_nothing_to_give(asked: str, rf: Any, folder: Path) -> None:
    del folder
    answer = serving.shown(rf.get("/", headers={"Range": asked}), storage.keep(1, b"x" * 10_000), "video/mp4")
    assert (answer.status_code, answer["Content-Range"]) == (416, "bytes */10000")


def test_a_part_goes_out_as_it_is_whoever_takes_it_packed(client: Any) -> None:
    film = ready(client, video(), "film.mp4")
    asked = {"Accept-Encoding": "gzip", "Range": "bytes=10-1009"}
    part = client.get(f"{BASE}/{film['id']}/original", headers=asked)
    assert (part.status_code, part["Content-Length"]) == (206, "1000")
    assert "Content-Encoding" not in part
    assert b"".join(part.streaming_content) == video()[10:1010]
    # A mark that we never gave says nothing of what it was: the whole is given.
    whole = client.get(f"{BASE}/{film['id']}/original", headers=asked | {"If-Range": '"other"'})
    assert (whole.status_code, b"".join(whole.streaming_content)) == (200, video())
    # What is to be kept stays so in parts.
    kept = client.get(f"{BASE}/{ready(client, picture())['id']}/original", headers={"Range": "bytes=0-9"})
    assert kept["Content-Disposition"].startswith("attachment")
    assert (kept.status_code, len(b"".join(kept.streaming_content))) == (206, 10)


def test_what_is_refused_says_why_and_its_bytes_go(client: Any, folder: Path) -> None:
    asset = ready(client, b"<svg onload=alert(1)>", "logo.svg")
    assert asset["state"] == "refused"
    assert "Save it as a PNG or JPEG" in asset["message"]
    assert files_in(folder) == 0
    assert client.get(f"{BASE}/{asset['id']}/original").status_code == 404


def test_a_file_that_asks_too_much_is_refused(client: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    def too_much(*_: Any, **__: Any) -> None:
        raise apart.TooMuch

    monkeypatch.setattr(apart, "called_on", too_much)
    assert "more time or memory" in ready(client, picture())["message"]


def test_what_was_refused_by_a_busy_machine_is_taken_the_next_time(
    client: Any, monkeypatch: pytest.MonkeyPatch, folder: Path
) -> None:
    def defect(*_: Any, **__: Any) -> None:
        raise ZeroDivisionError

    with monkeypatch.context() as patched:
        patched.setattr(apart, "called_on", defect)
        refused = ready(client, picture())
    assert (refused["state"], "could not be looked into" in refused["message"]) == ("refused", True)
    asset = ready(client, picture())
    assert (asset["id"], asset["state"], asset["message"]) == (refused["id"], "ready", "")
    assert files_in(folder) == 3


def test_the_same_content_is_one_asset(client: Any, folder: Path) -> None:
    first = bring(client, picture())
    again = bring(client, picture(), "another name.jpg")
    assert (again.status_code, again.json()["id"]) == (200, first.json()["id"])
    assert files_in(folder) == 1


def test_two_at_once_bring_the_same(
    client: Any, brand: Brand, editor: Any, monkeypatch: pytest.MonkeyPatch, folder: Path
) -> None:
    """The other one's row comes between the look and the writing: one asset, one file."""
    content, kept = picture(), storage.keep

    def other_is_faster(brand_id: int, file: Any) -> str:
        monkeypatch.setattr(storage, "keep", kept)
        actions.add_asset(editor, brand, name="b.jpg", size=len(content), file=SimpleUploadedFile("b.jpg", content))
        return kept(brand_id, file)

    monkeypatch.setattr(storage, "keep", other_is_faster)
    assert bring(client, content).status_code == 200
    assert (Asset.objects.count(), files_in(folder)) == (1, 1)


def test_looking_twice_makes_nothing_twice(client: Any, folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A worker that was killed after the look is followed by another, or two look at once."""
    number = bring(client, picture()).json()["id"]
    called = apart.called_on

    def other_is_done(*given: Any, **more: Any) -> Any:
        monkeypatch.setattr(apart, "called_on", called)
        checking.check(number)
        return called(*given, **more)

    monkeypatch.setattr(apart, "called_on", other_is_done)
    checking.check(number)
    checking.check(number)
    assert (Rendition.objects.count(), files_in(folder)) == (2, 3)


def test_what_a_kill_left_goes_after_a_day_and_nothing_else(client: Any, brand: Brand, folder: Path) -> None:
    ready(client, picture())
    young = storage.keep(brand.pk, b"just being written")
    old = storage.keep(brand.pk, b"left by a kill")
    long_ago = (clock.now() - timedelta(days=2)).timestamp()
    for path in folder.rglob("*"):
        if path.is_file() and not str(path).endswith(young):
            os.utime(path, (long_ago, long_ago))
    assert checking.take_away_nobodys() == 1
    assert not (folder / old).exists()
    assert files_in(folder) == 4  # the asset, its two renditions, and the young one


def test_bounds_on_one_file_and_on_all(client: Any, settings: Any, folder: Path) -> None:
    settings.MEDIA_LARGEST_BYTES = 400
    assert bring(client, picture()).status_code == 400
    settings.MEDIA_LARGEST_BYTES = 10
    assert bring(client, b"x" * 70_000).status_code == 413
    settings.MEDIA_LARGEST_BYTES, settings.MEDIA_MOST_BYTES = 10_000, 10
    full = bring(client, picture())
    assert (full.status_code, full.json()["type"]) == (409, "urn:dakika:problem:media_full")
    assert bring(client, b"").status_code == 400
    assert client.post(BASE, {"file": "no file"}).status_code == 400
    assert files_in(folder) == 0


@pytest.mark.parametrize(
    ("name", "kept"),
    [("../../etc/passwd", "passwd"), ("C:\\Mira\\clock.jpg", "clock.jpg"), ("\u202egpj.exe\x07", "gpj.exe"), ("\n", "file"),
     ("a" * 500, "a" * 200), ("τικ τακ.jpg", "τικ τακ.jpg")],
)  # fmt: skip
def test_a_name_is_for_people_and_never_a_place(name: str, kept: str, brand: Brand, editor: Any, folder: Path) -> None:
    content = picture()
    file = SimpleUploadedFile("x", content)
    asset, _ = actions.add_asset(editor, brand, name=name, size=len(content), file=file)
    assert asset.name == kept
    assert asset.file.startswith(f"{brand.pk}/")
    assert (folder / asset.file).exists()


def test_names_and_words_are_changed_and_found(client: Any) -> None:
    number = ready(client, picture())["id"]
    said = client.patch(f"{BASE}/{number}", {"words": "The tower  clock at night"}, content_type="application/json")
    assert said.json()["words"] == "The tower clock at night"
    assert client.patch(f"{BASE}/{number}", {"name": " "}, content_type="application/json").status_code == 400
    assert len(client.get(BASE, {"text": "tower night"}).json()["assets"]) == 1
    assert client.get(BASE, {"text": "moon"}).json()["assets"] == []
    assert client.get(BASE, {"kind": "video"}).json()["assets"] == []


def test_taking_away_takes_the_bytes_unless_it_is_used(
    client: Any, folder: Path, django_capture_on_commit_callbacks: Any
) -> None:
    number = ready(client, picture())["id"]
    actions.used_for.add("a test", lambda _: [actions.Use(text="the post of Friday")])
    try:
        held = client.delete(f"{BASE}/{number}")
        assert (held.status_code, "the post of Friday" in held.json()["detail"]) == (409, True)
    finally:
        actions.used_for._answers.pop("a test")
    with django_capture_on_commit_callbacks(execute=True):
        assert client.delete(f"{BASE}/{number}").status_code == 204
    assert (Asset.objects.count(), Rendition.objects.count(), files_in(folder)) == (0, 0, 0)


def test_nobody_sees_or_changes_anothers(client: Any, stranger: Any, viewer: Any, client_of: Any) -> None:
    number = ready(client, picture())["id"]
    other = client_of(stranger)
    for odd, status in (("%00", 400), ("no-such", 404), ("preview%2F..", 404), ("\u202e", 404)):
        assert client.get(f"{BASE}/{number}/{odd}").status_code == status
    for path in ("", f"/{number}", f"/{number}/preview", f"/{number}/original"):
        assert other.get(f"{BASE}{path}").status_code == 404
        assert other.get(f"/api/brands/lantern-line/media{path}").status_code == (200 if path == "" else 404)
    looks = client_of(viewer)
    shown = looks.get(f"{BASE}/{number}/preview")
    assert (shown.status_code, b"".join(shown.streaming_content)[:2]) == (200, b"\xff\xd8")
    assert bring(looks, picture(9, 9)).status_code == 403
    assert looks.delete(f"{BASE}/{number}").status_code == 403


def test_a_list_goes_on_where_it_stopped_whatever_comes_in_between(
    client: Any, brand: Brand, django_assert_num_queries: Any
) -> None:
    now = clock.now()
    Asset.objects.bulk_create(
        Asset(brand=brand, created_at=now - timedelta(seconds=i // 3), name=str(i), file=f"f{i}", digest=bytes([i]), size=1)
        for i in range(130)
    )  # fmt: skip
    seen, cursor = [], None
    while True:
        page = client.get(BASE, {"cursor": cursor} if cursor else {}).json()
        seen += [asset["id"] for asset in page["assets"]]
        cursor = page["next"]
        if cursor is None:
            break
        Asset.objects.create(
            brand=brand, created_at=clock.now(), name="new", file=f"n{len(seen)}", digest=os.urandom(32), size=1
        )
    assert len(seen) == len(set(seen)) == 130
    for wrong in ("x", "W10", "eyJhIjoxfQ", "WzEsMl0", "é" * 10, "A" * 199):
        assert client.get(BASE, {"cursor": wrong}).status_code == 400, wrong
