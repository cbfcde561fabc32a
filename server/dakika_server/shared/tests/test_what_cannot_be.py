"""Promise: whatever is sent, the answer is a problem document that says what is wrong, and never a defect of ours."""

import json
from typing import Any

import pytest
from django.db import OperationalError
from django.test import Client

from dakika_server.shared.parsers import read_json

pytestmark = pytest.mark.django_db
BRAND = "/api/brands/orrery-house"
JSON = "application/json"
HALF = '"\\ud800"'


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    # Defects come as answers here, as they do to people.
    found.raise_request_exception = False
    return found


def told(answer: Any, status: int) -> dict[str, Any]:
    assert answer.status_code == status, answer.content[:400]
    assert answer["Content-Type"] == "application/problem+json"
    body: dict[str, Any] = answer.json()
    assert body["status"] == status
    assert body["detail"]
    return body


@pytest.mark.parametrize(
    "body",
    [
        "[" * 200_000,
        '{"a":' * 200_000,
        '{"name": ' + "9" * 6000 + "}",
        '{"name": NaN}',
        f'{{"name": {HALF}}}',
        '{"name": "a\\u0000b"}',
        '{"\\u0000": 1}',
        b"\xff\xfe",
        "",
        "[1, 2",
    ],
    ids=lambda body: repr(body[:12]),
)
@pytest.mark.parametrize("place", [f"{BRAND}/campaigns", "/api/session", f"{BRAND}/preferences/line"])
def test_json_that_no_text_can_hold_is_refused(client: Client, place: str, body: str | bytes) -> None:
    ask = client.put if "preferences" in place else client.post
    told(ask(place, body, content_type=JSON), 400)


def test_more_than_is_taken_at_once_is_413(client: Client, settings: Any) -> None:
    settings.DATA_UPLOAD_MAX_MEMORY_SIZE = 1000
    assert told(client.post(f"{BRAND}/campaigns", '"' + "a" * 1000 + '"', content_type=JSON), 413)["type"].endswith(
        "large"
    )


@pytest.mark.parametrize("text", ['"\\ud83d\\ude00"', '"😀"', "1e5", '{"a": [{"b": "\\u00e9"}]}'])
def test_json_that_is_right_is_read(text: str) -> None:
    assert read_json(text) == json.loads(text)


@pytest.mark.parametrize(
    "path",
    [
        "/collect/%00", "/api/connections/return?state=%00", f"{BRAND}/results/summary?profile=999999999",
        f"{BRAND}/results/summary?profile=%00", "/api/nothing/here", "/hooks/commons/%00", "/l/%00",
        f"{BRAND}/plan/99999999999999999999999", f"{BRAND}/results/posts/99999999999999999999999",
    ],
)  # fmt: skip
def test_addresses_that_lead_nowhere_are_told(client: Client, path: str) -> None:
    answer = client.get(path)
    assert answer.status_code in (400, 404), answer.content[:300]
    assert answer["Content-Type"] == "application/problem+json"


@pytest.mark.parametrize(
    "what", ["summary", "export", "groups?by=tag", "groups?by=format", "posts", "basis?metric=reach"]
)
def test_a_profile_that_is_not_there_is_told_and_no_defect(client: Client, what: str) -> None:
    sign = "&" if "?" in what else "?"
    answer = client.get(f"{BRAND}/results/{what}{sign}profile=999999999")
    assert answer.status_code in (200, 400, 404), answer.content[:300]


@pytest.mark.parametrize("name", ["x" * 41, "x" * 500, "a%2Fb", "%F0%9F%98%80" * 60])
def test_names_of_choices_are_bounded(client: Client, name: str) -> None:
    assert client.put(f"{BRAND}/preferences/{name}", {"value": 1}, content_type=JSON).status_code in (
        200,
        204,
        400,
        404,
    )


def test_a_host_that_is_not_ours_is_told(client: Client) -> None:
    told(client.get("/api/session", headers={"host": "elsewhere.example"}), 400)


def test_a_defect_is_a_problem_document_that_tells_nothing_of_the_inside(
    client: Client, monkeypatch: pytest.MonkeyPatch
) -> None:
    def broken(*_: Any) -> None:
        raise ZeroDivisionError("inside")

    monkeypatch.setattr("dakika_server.accounts.api.session.session_of", broken)
    assert "inside" not in json.dumps(told(client.get("/api/session"), 500))


def test_without_the_database_it_is_503_with_a_time_and_one_line(
    client: Client, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    def away(*_: Any, **__: Any) -> None:
        raise OperationalError("connection refused\nIs the server running?")

    monkeypatch.setattr("dakika_server.accounts.api.session.session_of", away)
    monkeypatch.setattr("dakika_server.site.collecting.Site.objects.select_related", away)
    for answer in (client.get("/api/session"), client.post("/collect/k", "{}", content_type="text/plain")):
        told(answer, 503)
        assert answer["Retry-After"] == "5"
    # Beside the line that every request has.
    ours = [one for one in caplog.records if one.name.startswith("dakika") and one.name != "dakika.request"]
    assert [record.getMessage() for record in ours] == ["the database does not answer: connection refused"] * 2
    assert not any(record.exc_info for record in ours)
