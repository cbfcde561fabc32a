"""Promise: a team adds a network by docs/connectors.md alone, touching nothing else."""

import re
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Thread
from typing import Any
from urllib.parse import parse_qs, urlsplit

import pytest
from django.conf import settings as django_settings

from dakika_server.networks.connectors.base import Refused
from dakika_server.networks.connectors.registry import (
    authorise_address,
    connected,
    revoke_tokens,
    tokens_for_code,
)
from dakika_server.networks.definitions import DefinitionError, all_networks, forget_definitions
from dakika_server.sources.models import Competitor, Post, PostReading, Profile
from dakika_server.sources.testing import run_to_end

TEXT = (Path(django_settings.ROOT) / "docs" / "connectors.md").read_text()
NOW = datetime.now(tz=UTC)
LETTERS = {f"l{i}": NOW - timedelta(days=i) for i in range(45)}
PER_SHELF = 20
ASKED: list[tuple[str, dict[str, str]]] = []


class Pigeonhole(BaseHTTPRequestHandler):
    """The network that the document speaks of: 45 letters on three shelves."""

    def do_GET(self) -> None:
        import json

        parts = urlsplit(self.path.removeprefix("/pigeonhole"))
        body = json.dumps(self.answer(parts.path.strip("/").split("/"), parse_qs(parts.query))).encode()
        self.send_response(200)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def do_POST(self) -> None:
        """Its authorisation, which notes who asked."""
        sent = parse_qs(self.rfile.read(int(self.headers["Content-Length"])).decode())
        ASKED.append((self.path, {name: values[0] for name, values in sent.items()}))
        body = b'{"access_token": "a", "refresh_token": "r", "expires_in": 3600}'
        self.send_response(200)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def answer(self, path: list[str], query: dict[str, list[str]]) -> dict[str, Any]:
        at = int(NOW.timestamp())
        box = {"id": "box-7", "box": "seven", "name": "Box Seven", "readers": 77, "at": at}
        counts = {"opened": 900, "stamps": 30, "answers": 4}
        if path[0] == "letters":
            return {"at": at, "letters": dict.fromkeys(query["nos"][0].split(","), counts)}
        if path == ["boxes"]:
            return {"boxes": [box]}
        if len(path) == 2:
            return box
        shelf = int(path[3])
        part = list(LETTERS.items())[shelf * PER_SHELF : shelf * PER_SHELF + PER_SHELF]
        letters = [{"no": no, "t": int(t.timestamp()), "words": f"Letter {no}", "counts": counts} for no, t in part]
        return {"at": at, "letters": letters, "more": (shelf + 1) * PER_SHELF < len(LETTERS)}

    def log_message(self, *_: Any) -> None:
        """Quiet."""


@pytest.fixture
def pigeonhole(tmp_path: Path, settings: Any) -> Iterator[None]:
    """The two blocks of the document in a folder of their own, and the network behind them."""
    blocks = {kind: re.search(rf"```{kind}\n(.*?)```", TEXT, re.DOTALL)[1] for kind in ("toml", "python")}
    (tmp_path / "pigeonhole.toml").write_text(blocks["toml"])
    (tmp_path / "pigeonhole.py").write_text(blocks["python"])
    server = ThreadingHTTPServer(("127.0.0.1", 0), Pigeonhole)
    thread = Thread(target=server.serve_forever, daemon=True)
    thread.start()
    settings.NETWORK_FOLDERS = [str(tmp_path)]
    settings.STANDINS_ADDRESS = f"http://127.0.0.1:{server.server_port}"
    forget_definitions()
    yield
    server.shutdown()
    server.server_close()
    thread.join()
    settings.NETWORK_FOLDERS = []
    forget_definitions()


@pytest.mark.django_db
def test_a_network_added_by_the_text_alone_is_collected(pigeonhole: None, brand: Any) -> None:
    competitor = Competitor.objects.create(brand=brand, name="Seven")
    profile = Profile.objects.create(
        brand=brand, network="pigeonhole", external_id="box-7", handle="seven", name="", kind="competitor",
        competitor=competitor, added_at=NOW,
    )  # fmt: skip
    run = run_to_end(profile)
    assert run.state == "complete", run.message
    assert Post.objects.count() == len(LETTERS)
    reading = PostReading.objects.first()
    assert (reading.impressions, reading.reactions, reading.comments, reading.reach) == (900, 30, 4, None)
    profile.refresh_from_db()
    assert profile.name == "Box Seven"
    with connected("pigeonhole") as api:
        assert [a.handle for a in api.search("sev")] == ["seven"]


@pytest.mark.django_db
def test_it_is_in_the_interface_like_any_other(pigeonhole: None, editor: Any, client_of: Any) -> None:
    found = {n["key"]: n for n in client_of(editor).get("/api/networks").json()}
    assert found["pigeonhole"]["own_metrics"] == ["impressions", "reactions", "comments"]
    assert found["pigeonhole"]["public_metrics"] == ["reactions"]


@pytest.mark.django_db
def test_its_mark_has_a_shape_and_its_pictures_are_let_in(pigeonhole: None, editor: Any, client_of: Any) -> None:
    said = client_of(editor).get("/api/networks")
    assert {n["key"]: n["shape"] for n in said.json()}["pigeonhole"] == "corner"
    sources = next(part for part in said["Content-Security-Policy"].split("; ") if part.startswith("img-src"))
    assert "https://pictures.pigeonhole.example" in sources.split()


def test_it_knows_us_by_what_the_installation_was_told(pigeonhole: None, settings: Any, caplog: Any) -> None:
    settings.NETWORK_CLIENTS = {"pigeonhole": ("our-name", "our-secret")}
    address = authorise_address("pigeonhole", state="s", verifier="v" * 43, redirect="https://dakika.example/back")
    assert urlsplit(address).path == "/pigeonhole/consent"
    assert parse_qs(urlsplit(address).query)["client_id"] == ["our-name"]
    assert "our-secret" not in address
    ASKED.clear()
    tokens_for_code("pigeonhole", code="c", verifier="v" * 43, redirect="https://dakika.example/back")
    revoke_tokens("pigeonhole", "r")
    (path, form), (gone, _) = ASKED
    assert (path, form["client_id"], form["client_secret"]) == ("/pigeonhole/consent/token", "our-name", "our-secret")
    assert gone == "/pigeonhole/oauth/revoke"
    assert "our-secret" not in caplog.text


def test_without_a_registration_it_says_who_does_what(pigeonhole: None, tmp_path: Path) -> None:
    file = next(tmp_path.glob("*.toml"))
    file.write_text(file.read_text().replace('path = "/pigeonhole"', 'path = "https://api.pigeonhole.example"'))
    forget_definitions()
    with pytest.raises(Refused, match="DAKIKA_NETWORK_PIGEONHOLE_ID and DAKIKA_NETWORK_PIGEONHOLE_SECRET"):
        authorise_address("pigeonhole", state="s", verifier="v" * 43, redirect="https://dakika.example/back")


@pytest.mark.parametrize("host", ["x; script-src *", "https://x.example", "X.example", "x", "", "a.example *"])
def test_what_is_no_host_gets_into_no_header(host: str, tmp_path: Path, settings: Any) -> None:
    text = re.search(r"```toml\n(.*?)```", TEXT, re.DOTALL)[1]
    (tmp_path / "p.toml").write_text(text.replace("pictures.pigeonhole.example", host))
    settings.NETWORK_FOLDERS = [str(tmp_path)]
    forget_definitions()
    with pytest.raises(DefinitionError, match="no name of a host"):
        all_networks()
    settings.NETWORK_FOLDERS = []
    forget_definitions()


def test_a_broken_definition_names_its_file(tmp_path: Path, settings: Any) -> None:
    (tmp_path / "broken.toml").write_text('key = "x"\n[text]\nlimit = 3\n[api]\npath = ""\n[public]\nmetrics = []\n')
    settings.NETWORK_FOLDERS = [str(tmp_path)]
    forget_definitions()
    with pytest.raises(DefinitionError, match=r"broken\.toml"):
        all_networks()
    settings.NETWORK_FOLDERS = []
    forget_definitions()


def test_every_definition_maps_to_metrics_that_there_are() -> None:
    from dakika_core.metrics.observed import AUDIENCE_DIMENSIONS, OBSERVED

    for definition in all_networks().values():
        assert definition.own_metrics <= set(OBSERVED), definition.key
        assert definition.public_metrics <= definition.own_metrics, definition.key
        assert set(definition.offer.audience) <= set(AUDIENCE_DIMENSIONS), definition.key
