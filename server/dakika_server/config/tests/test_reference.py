"""Promise: what the reference of the API shows can be sent as it stands, with a token, by curl or the small client."""

import importlib.util
import json
import time
from functools import lru_cache
from pathlib import Path
from typing import Any

import pytest
from dakika_core.webhooks.signing import signed_headers
from django.test import Client

from dakika_server.accounts.models import User
from dakika_server.brands.models import Brand
from dakika_server.brands.tokens import make_program
from dakika_server.shared.describing import committed, whole_of
from dakika_server.shared.reference import EXAMPLES, Example
from dakika_server.sources.files.reading import read_into
from dakika_server.sources.models import Import
from dakika_server.sources.testing import worked_out
from scripts.paths import ROOT

SCOPES = ["brand.read", "brand.campaigns", "sources.files"]


@pytest.fixture
def told(editor: User, brand: Brand) -> str:
    return make_program(editor, brand, name="Examples", role="analyst", scopes=SCOPES, days=1)[1]


@lru_cache(maxsize=1)
def operations() -> dict[str, tuple[str, str]]:
    return {
        operation["operationId"]: (path, method)
        for path, methods in whole_of(committed())["paths"].items() for method, operation in methods.items()
    }  # fmt: skip


@pytest.mark.django_db
@pytest.mark.parametrize("example", EXAMPLES, ids=lambda one: one.words)
def test_every_example_does_what_it_says(told: str, example: Example) -> None:
    path, method = operations()[example.operation]
    assert method == example.method.lower()
    assert example.path.partition("?")[0] == path.replace("{brand}", "orrery-house").replace("{kind}", "results.course")
    client = Client(headers={"authorization": f"Bearer {told}"})
    sent = [json.dumps(example.body), "application/json"] if example.body is not None else []
    answer = getattr(client, method)(example.path, *sent)
    assert answer.status_code in (200, 201, 202), answer.content


@pytest.mark.django_db
def test_the_page_tells_of_every_address_and_shows_the_examples(client: Client) -> None:
    page = client.get("/api/reference")
    text = page.content.decode()
    assert page["Content-Type"].startswith("text/html")
    assert [name for name in operations() if f'id="{name}"' not in text] == []
    assert text.count("<pre>") == len(EXAMPLES)
    assert "<script" not in text
    whole = client.get("/api/description").json()
    assert whole["openapi"].startswith("3.0")
    assert whole["components"]["securitySchemes"]["token"] == {"type": "http", "scheme": "bearer"}


def client_of_examples() -> Any:
    spec = importlib.util.spec_from_file_location("dakika_client", ROOT / "examples" / "dakika_client.py")
    assert spec is not None
    assert spec.loader is not None
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


@pytest.mark.django_db(transaction=True)
def test_the_small_client_sends_and_reads(
    told: str, live_server: Any, settings: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    module = client_of_examples()
    dakika = module.Client(live_server.url, told)
    rows = [{"published_at": "2026-11-02T09:00:00+00:00", "external_id": "n-41", "text": "Two moons", "reach": 900}]
    of = {"kind": "posts", "channel": "Night letter", "network": "newsletter"}
    item = dakika.send_rows("orrery-house", rows=rows, wait=False, **of)
    read_into(item["id"])
    worked_out(item["id"])
    assert dakika.send_rows("orrery-house", rows=rows, wait=False, **of)["state"] == "running"
    assert Import.objects.get(pk=item["id"]).posts_added == 1
    found = list(dakika.posts("orrery-house", first="2026-11-01", last="2026-11-28"))
    assert [post["text"] for post in found] == ["Two moons"]
    course = dakika.figure("orrery-house", "results.course", first="2026-11-01", last="2026-11-28", metrics="reach")
    assert course["cells"][0]["name"] == "Reach"
    with pytest.raises(module.Refused) as refused:
        dakika.send_rows("orrery-house", rows=[{"likes": 3}], **of)
    assert (refused.value.status, "rows" in refused.value.fields) == (400, True)
    with pytest.raises(module.Refused, match="401"):
        module.Client(live_server.url, "dakika_nothing").ask("GET", "brands/orrery-house")


def test_the_small_client_asks_again_under_the_same_key(monkeypatch: pytest.MonkeyPatch) -> None:
    module = client_of_examples()
    keys: list[str] = []

    def away(request: Any, timeout: float) -> Any:
        keys.append(request.headers["Idempotency-key"])
        raise module.urllib.error.URLError("broken off")

    monkeypatch.setattr(module.urllib.request, "urlopen", away)
    monkeypatch.setattr(module.time, "sleep", lambda seconds: None)
    with pytest.raises(module.urllib.error.URLError):
        module.Client("http://127.0.0.1:1", "dakika_x", tries=3).ask("POST", "brands/x/campaigns", {})
    assert len(keys) == 3
    assert len(set(keys)) == 1


def test_the_small_client_knows_who_told_it() -> None:
    module, address, now = client_of_examples(), "https://till.example/in", int(time.time())

    def told(secrets: list[str], created: int = now, body: bytes = b'{"id": "7"}') -> dict[str, str]:
        return {k.lower(): v for k, v in signed_headers(secrets, address=address, body=body, created=created).items()}

    assert module.event_of("ours", address, told(["ours"]), b'{"id": "7"}') == {"id": "7"}
    assert module.event_of("new", address, told(["new", "old"]), b'{"id": "7"}') == {"id": "7"}
    assert module.event_of("old", address, told(["new", "old"]), b'{"id": "7"}') == {"id": "7"}
    lies = [
        ("ours", address, told(["theirs"]), b'{"id": "7"}'), ("ours", address, told(["ours"]), b'{"id": "8"}'),
        ("ours", "https://till.example/out", told(["ours"]), b'{"id": "7"}'), ("ours", address, {}, b'{"id": "7"}'),
        ("ours", address, told(["ours"], now - 3600), b'{"id": "7"}'),
        ("ours", address, {**told(["ours"]), "signature": "sig1=:AAAA:"}, b'{"id": "7"}'),
        ("ours", address, {**told(["ours"]), "@target-uri": "https://x.example/"}, b"{}"),
    ]  # fmt: skip
    for lie in lies:
        with pytest.raises(ValueError, match=r"sign|not what"):
            module.event_of(*lie)


def test_the_client_stands_on_the_standard_library_alone() -> None:
    import ast
    import sys

    tree = ast.parse(Path(ROOT / "examples" / "dakika_client.py").read_text())
    named = {
        name.partition(".")[0]
        for node in ast.walk(tree)
        for name in ([a.name for a in node.names] if isinstance(node, ast.Import) else
                     [node.module or ""] if isinstance(node, ast.ImportFrom) else [])
    }  # fmt: skip
    assert named <= sys.stdlib_module_names
