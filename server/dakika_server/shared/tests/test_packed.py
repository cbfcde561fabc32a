"""Promise: what is large goes out packed: answers as they are made, scripts as they were packed at the build."""

import gzip
import json
from typing import Any

import pytest
from django.conf import settings
from django.test import Client

pytestmark = pytest.mark.django_db


def test_answers_go_out_packed_to_those_who_take_it(editor: Any, client_of: Any) -> None:
    client: Client = client_of(editor)
    plain = client.get("/api/networks")
    packed = client.get("/api/networks", headers={"accept-encoding": "gzip"})
    assert packed["Content-Encoding"] == "gzip"
    assert "Content-Encoding" not in plain
    assert json.loads(gzip.decompress(packed.content)) == plain.json()
    assert len(packed.content) < len(plain.content) / 2


def test_what_did_not_change_is_told_without_a_byte() -> None:
    script = next((settings.DIST / "assets").glob("*.js"))
    asked = {"accept-encoding": "gzip"}
    sent = Client().get(f"/assets/{script.name}", headers=asked)
    known = {**asked, "if-none-match": sent.get("ETag", ""), "if-modified-since": sent.get("Last-Modified", "")}
    sent.close()
    again = Client().get(f"/assets/{script.name}", headers=known)
    assert again.status_code == 304
    assert b"".join(again.streaming_content) == b""  # type: ignore[arg-type]


def test_scripts_stand_packed_beside_themselves_and_are_sent_so() -> None:
    scripts = [path for path in (settings.DIST / "assets").glob("*.js") if path.stat().st_size > 4000]
    assert scripts
    for path in scripts:
        sent = Client().get(f"/assets/{path.name}", headers={"accept-encoding": "gzip, br"})
        assert sent["Content-Encoding"] == "br"
        assert int(sent["Content-Length"]) < path.stat().st_size / 2
        sent.close()
        zipped = Client().get(f"/assets/{path.name}", headers={"accept-encoding": "gzip"})
        assert gzip.decompress(b"".join(zipped.streaming_content)) == path.read_bytes()  # type: ignore[arg-type]
        zipped.close()
