"""Promise: a large file comes in parts, goes on where it broke off, and is one file in the end, nobody else's."""

import hashlib
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest

from dakika_server.brands.models import Brand, Membership
from dakika_server.media import checking, storage, uploads
from dakika_server.media.models import Asset, Upload
from dakika_server.media.testing import picture
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/media/uploads"
JSON, BYTES = "application/json", "application/octet-stream"
CONTENT = picture(700, 500)


@pytest.fixture(autouse=True)
def folder(media_folder: Path) -> Path:
    return media_folder


@pytest.fixture
def client(editor: Any, client_of: Any) -> Any:
    return client_of(editor)


def begin(client: Any, size: int = len(CONTENT)) -> dict[str, Any]:
    told: dict[str, Any] = client.post(BASE, {"name": "clock.jpg", "size": size}, content_type=JSON).json()
    return told


def send(client: Any, number: int, start: int, content: bytes) -> Any:
    return client.put(f"{BASE}/{number}?start={start}", content, content_type=BYTES)


def test_parts_become_the_file_and_nothing_is_left(client: Any, folder: Path) -> None:
    number = begin(client)["id"]
    middle = len(CONTENT) // 2
    assert send(client, number, 0, CONTENT[:middle]).json()["received"] == middle
    # The connection broke off: the same file goes on, and what came already is not taken twice.
    again = begin(client)
    assert (again["id"], again["received"]) == (number, middle)
    refused = send(client, number, 0, CONTENT[:middle])
    assert refused.status_code == 409
    told = send(client, number, middle, CONTENT[middle:]).json()
    assert told["asset"]["state"] == "checking"
    asset = Asset.objects.get(pk=told["asset"]["id"])
    assert bytes(asset.digest) == hashlib.sha256(CONTENT).digest()
    assert Upload.objects.count() == 0
    assert sum(path.is_file() for path in folder.rglob("*")) == 1
    checking.check(asset.pk)
    asset.refresh_from_db()
    assert (asset.state, asset.width) == ("ready", 700)


def test_a_kill_between_the_last_part_and_the_file_loses_nothing(client: Any, monkeypatch: Any) -> None:
    number = begin(client)["id"]

    class Killed(BaseException):
        pass

    def die(*_: Any) -> None:
        raise Killed

    with monkeypatch.context() as patched:
        patched.setattr(uploads, "_whole", die)
        with pytest.raises(Killed):
            send(client, number, 0, CONTENT)
    told = client.get(f"{BASE}/{number}").json()
    assert told["asset"]["name"] == "clock.jpg"


@pytest.mark.parametrize(
    ("start", "content", "status"), [(0, b"", 400), (5, b"x", 409), (0, CONTENT + b"x", 400), (-1, b"x", 400)]
)
def test_what_is_no_next_part_is_refused_and_leaves_no_bytes(
    start: int, content: bytes, status: int, client: Any, folder: Path
) -> None:
    number = begin(client)["id"]
    assert send(client, number, start, content).status_code == status
    assert not any(path.is_file() for path in folder.rglob("*"))


def test_sizes_are_bounded_and_so_are_unfinished_ones(client: Any, settings: Any) -> None:
    assert (
        client.post(BASE, {"name": "x", "size": settings.MEDIA_LARGEST_BYTES + 1}, content_type=JSON).status_code == 400
    )
    for size in range(1, uploads.MOST_AT_ONCE + 1):
        assert begin(client, size)["received"] == 0
    assert client.post(BASE, {"name": "clock.jpg", "size": 999}, content_type=JSON).status_code == 409


def test_an_upload_is_its_persons_alone(client: Any, brand: Brand, stranger: Any, client_of: Any) -> None:
    number = begin(client)["id"]
    Membership.objects.create(user=stranger, brand=brand, role="author")
    assert client_of(stranger).get(f"{BASE}/{number}").status_code == 404
    assert send(client_of(stranger), number, 0, CONTENT).status_code == 404


def test_what_nobody_goes_on_with_is_forgotten_and_what_goes_on_is_not_swept(client: Any, folder: Path) -> None:
    number = begin(client)["id"]
    send(client, number, 0, CONTENT[:100])
    # The sweep of nobody's files leaves parts alone that somebody is sending.
    for path in folder.rglob("*"):
        if path.is_file():
            import os

            os.utime(path, (1, 1))
    assert checking.take_away_nobodys() == 0
    assert uploads.forget_unfinished() == 0
    Upload.objects.update(touched_at=clock.now() - timedelta(days=2))
    assert uploads.forget_unfinished() == 1
    assert not any(path.is_file() for path in folder.rglob("*"))
    assert timedelta(hours=24) <= storage.LEFT_ALONE
