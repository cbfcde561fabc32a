"""Promise: a file is lent to a network by an address that nobody can guess or change, for an hour, and no other file."""

import time
from typing import Any

import pytest
from django.core import signing
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.media.lending import GOOD_SECONDS, SALT, address_of
from dakika_server.media.models import Asset
from dakika_server.media.testing import brought, video

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]


@pytest.fixture
def film(editor: Any, brand: Brand) -> Asset:
    found: Asset = brought(editor, brand, video(), name="film.mp4")
    return found


def path(asset: Asset) -> str:
    return "/api" + address_of(asset).partition("/api")[2]


def test_whoever_has_the_address_gets_the_bytes(film: Asset) -> None:
    got = Client().get(path(film))
    assert (got.status_code, got["Content-Type"]) == (200, "video/mp4")
    assert b"".join(got.streaming_content) == video()  # type: ignore[arg-type]
    assert "attachment" in got["Content-Disposition"]


def test_another_number_another_purpose_and_a_changed_address_open_nothing(film: Asset) -> None:
    whole = path(film)
    for wrong in (
        f"{whole[:-1]}x", "/api/media/lent/1", f"/api/media/lent/{signing.dumps(film.pk, salt='another')}",
        f"/api/media/lent/{signing.dumps(film.pk + 1, salt=SALT)}", f"/api/media/lent/{signing.dumps('x', salt=SALT)}",
    ):  # fmt: skip
        assert Client().get(wrong).status_code == 404, wrong


def test_after_an_hour_it_is_over(film: Asset, monkeypatch: pytest.MonkeyPatch) -> None:
    whole = path(film)
    now = time.time()
    monkeypatch.setattr(signing.time, "time", lambda: now + GOOD_SECONDS + 1)
    assert Client().get(whole).status_code == 404
