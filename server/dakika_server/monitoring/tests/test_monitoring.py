"""Promise: whoever runs an installation sees how it is, by machines and by eye, and no secret of anybody is told on the way.

Metrics are held against the reference parser of the format (prometheus_client's own, OpenMetrics 1.0); errors against
a server that takes them as one of the usual kind does.
"""

import gzip
import io
import json
import logging
import os
import subprocess
import sys
import threading
from collections.abc import Iterator
from http.server import BaseHTTPRequestHandler, HTTPServer
from pathlib import Path
from typing import Any

import pytest
from django.apps import apps
from django.db import connection
from django.test import Client
from procrastinate.exceptions import JobAborted
from prometheus_client.openmetrics.parser import text_string_to_metric_families
from structlog.contextvars import bound_contextvars

from dakika_server.brands.models import Membership
from dakika_server.monitoring import gauges, slow_queries
from dakika_server.monitoring.logs import HIDDEN, hide, logging_of
from dakika_server.monitoring.status import PARTS, Part, Standing, for_how_long, in_bytes, look_at
from dakika_server.monitoring.work import note_job
from dakika_server.shared import clock

SECRET = "dakika_" + "Ab1_" * 11
HOME = "/api/brands/orrery-house/status"


@pytest.fixture
def written() -> Iterator[Any]:
    """What is logged meanwhile, as lines of JSON."""
    out = io.StringIO()
    formatter = logging.Formatter()
    told = logging_of("json")["formatters"]["told"]
    formatter = told["()"](foreign_pre_chain=told["foreign_pre_chain"], processors=told["processors"])
    handler = logging.StreamHandler(out)
    handler.setFormatter(formatter)
    root = logging.getLogger()
    level, _ = root.level, root.addHandler(handler)
    root.setLevel(logging.INFO)
    yield lambda: [json.loads(line) for line in out.getvalue().splitlines()]
    root.removeHandler(handler)
    root.setLevel(level)


# -- logs


@pytest.mark.django_db
def test_a_request_has_one_line_with_its_number_brand_and_person(
    editor: Any, client_of: Any, written: Any, brand: Any
) -> None:
    answer = client_of(editor).get("/api/brands/orrery-house?key=quiet")
    (line,) = [one for one in written() if one["logger"] == "dakika.request"]
    assert line["request"] == answer["X-Request-ID"]
    assert (line["brand"], line["person"], line["status"], line["method"]) == ("orrery-house", editor.pk, 200, "GET")
    assert line["route"] == "api/brands/<slug:brand>", "the form of the address, never the address"
    assert "quiet" not in str(written())
    assert line["timestamp"].endswith("Z")
    assert line["level"] == "info"


@pytest.mark.django_db
def test_what_one_request_was_about_is_not_said_of_the_next(editor: Any, client_of: Any, written: Any) -> None:
    client_of(editor).get("/api/brands/orrery-house")
    Client().get("/api/session")
    first, second = [one for one in written() if one["logger"] == "dakika.request"]
    assert "brand" in first
    assert "brand" not in second
    assert "person" not in second


@pytest.mark.parametrize(
    ("told", "is_taken"),
    [("abc-123-def", True), ("x" * 65, False), ("a b", False), ("<script>1", False), ("short", False)],
)
@pytest.mark.django_db
def test_a_proxys_number_is_taken_if_it_is_one(told: str, is_taken: bool) -> None:
    assert (Client().get("/api/session", headers={"x-request-id": told})["X-Request-ID"] == told) == is_taken


def test_a_strangers_number_is_not_taken(settings: Any, db: Any) -> None:
    settings.TRUSTED_PROXIES, settings.TRUSTED_HOPS = frozenset({"10.0.0.0/8"}), None
    assert Client().get("/api/session", headers={"x-request-id": "abc-123-def"})["X-Request-ID"] != "abc-123-def"


@pytest.mark.parametrize(
    ("said", "shown"),
    [
        (f"asked with {SECRET}", f"asked with dakika_{HIDDEN}"),
        (f"secret dakika_hook_{'x' * 43}!", f"secret dakika_hook_{HIDDEN}!"),
        ("Authorization: Bearer abc.def-1", f"Authorization: Bearer {HIDDEN}"),
        ("at postgres://mira:word@db:5432/x", f"at postgres://{HIDDEN}@db:5432/x"),
        ("/in?code=12&state=ab&page=3", f"/in?code={HIDDEN}&state={HIDDEN}&page=3"),
        ("/reset#key=ab_c", f"/reset#key={HIDDEN}"),
        ("the dakika_redirect went on", "the dakika_redirect went on"),
        ("Zwölf Schläge um Mitternacht: 12 %", "Zwölf Schläge um Mitternacht: 12 %"),
    ],
)
def test_what_opens_something_is_hidden(said: str, shown: str) -> None:
    assert hide(said) == shown


def test_traces_and_extras_hide_it_too(written: Any) -> None:
    log = logging.getLogger("tests.somewhere")
    try:
        raise RuntimeError(f"refused {SECRET}")
    except RuntimeError:
        log.exception("with %s", SECRET, extra={"sql": f"SELECT '{SECRET}'", "password": "half past nine"})
    (line,) = written()
    assert SECRET not in str(line)
    assert "half past nine" not in str(line), "what nobody asked for stays out"
    assert "RuntimeError" in line["exception"]


def test_a_line_for_people_holds_the_same(capsys: pytest.CaptureFixture[str]) -> None:
    told = logging_of("text")["formatters"]["told"]
    formatter = told["()"](foreign_pre_chain=told["foreign_pre_chain"], processors=told["processors"])
    record = logging.LogRecord("dakika.job", logging.WARNING, "", 1, "a file\nin two lines", (), None)
    with bound_contextvars(job=7):
        line = formatter.format(record)
    assert line.endswith("WARNING dakika.job a file\\nin two lines job=7"), "one line is one event"


# -- jobs


class _Context:
    """What the queue hands to who stands around a job."""

    def __init__(self, **arguments: Any) -> None:
        self.job = type("Job", (), {"id": 41, "task_kwargs": arguments, "attempts": 1})
        self.task = type("Task", (), {"name": "plan.publish"})


def test_a_job_has_its_number_in_all_it_says(written: Any) -> None:
    assert note_job(lambda: logging.getLogger("tests.job").info("within") or 3, _Context(brand_id=5), None) == 3
    within, after = written()
    assert (within["job"], within["brand"]) == (41, 5)
    assert (after["task"], after["outcome"], after["attempt"]) == ("plan.publish", "done", 2)


@pytest.mark.parametrize(("error", "outcome"), [(ValueError("x"), "failed"), (JobAborted(), "put off")])
def test_a_job_that_fails_says_so_and_still_fails(written: Any, error: Exception, outcome: str) -> None:
    def fails() -> None:
        raise error

    with pytest.raises(type(error)):
        note_job(fails, _Context(), None)
    assert written()[-1]["outcome"] == outcome


# -- slow queries


@pytest.mark.django_db
def test_a_slow_query_is_told_without_what_it_was_asked_with(settings: Any, written: Any) -> None:
    settings.SLOW_QUERY_MS = 20
    with connection.cursor() as cursor:
        assert slow_queries.note_if_slow in connection.execute_wrappers, "around every query of every connection"
        cursor.execute("SELECT pg_sleep(0.03), %s", ["half past nine"])
        cursor.execute("SELECT 1")
    # On a slow machine others may be slow as well.
    (line,) = [one for one in written() if "pg_sleep" in one.get("sql", "")]
    assert line["event"] == "slow query"
    assert line["ms"] >= 30
    assert line["sql"] == "SELECT pg_sleep(0.03), %s"


# -- metrics


def asked(**headers: str) -> Any:
    return Client().get("/metrics", headers=headers)


@pytest.mark.django_db
def test_metrics_are_there_for_who_has_the_token_alone(settings: Any) -> None:
    assert asked().status_code == 404, "nothing is there where no token is set"
    settings.METRICS_TOKEN = "a long token"
    assert asked().status_code == 401
    assert asked(authorization="Bearer another").status_code == 401
    assert asked(authorization="Bearer zwölf").status_code == 401
    assert asked(authorization="Bearer a long token").status_code == 200


@pytest.mark.django_db
def test_metrics_are_read_by_the_formats_own_parser(settings: Any, editor: Any, client_of: Any) -> None:
    settings.METRICS_TOKEN = "a long token"
    client_of(editor).get("/api/brands/orrery-house")
    Client().generic("MADE-UP", "/api/session")
    apps.get_model("notices.Mail").objects.create(key="k", to="a@b.example", subject="s", text="t", made_at=clock.now(), next_at=clock.now(),
                        state="failed", ended_at=clock.now())  # fmt: skip
    answer = asked(authorization="Bearer a long token")
    assert answer["Content-Type"].startswith("application/openmetrics-text")
    families = {one.name: one for one in text_string_to_metric_families(answer.content.decode())}
    assert {*gauges.GAUGES} <= {*families}
    assert all(families[name].documentation for name in gauges.GAUGES)
    counted = {
        (one.labels["area"], one.labels["method"], one.labels["status"])
        for one in families["dakika_request_seconds"].samples if one.name.endswith("_count")
    }  # fmt: skip
    assert ("brands", "GET", "2xx") in counted
    assert "MADE-UP" not in answer.content.decode(), "a label is none that strangers make up"
    (failed,) = families["dakika_mail_failed"].samples
    assert failed.value == 1
    assert families["dakika_database_bytes"].samples[0].value > 1_000_000


@pytest.mark.django_db
def test_one_that_cannot_be_read_leaves_the_others(settings: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    settings.METRICS_TOKEN = "a long token"

    def broken() -> Any:
        return gauges.rows("SELECT 1 / 0")

    monkeypatch.setitem(gauges.GAUGES._values, "dakika_aaa", gauges.Gauge(words="x", read=broken))
    text = asked(authorization="Bearer a long token").content.decode()
    assert "dakika_aaa" not in text
    assert "dakika_queue_jobs" in text


_COUNT = """
import os, sys
from prometheus_client import CollectorRegistry
from dakika_server.monitoring.metrics import REQUESTS
REQUESTS.labels("brands", "GET", "2xx").observe(0.2)
"""


def test_processes_of_a_machine_are_counted_together(tmp_path: Path) -> None:
    environment = {**os.environ, "PROMETHEUS_MULTIPROC_DIR": str(tmp_path),
                   "DJANGO_SETTINGS_MODULE": "dakika_server.config.settings"}  # fmt: skip
    for _ in range(2):
        subprocess.run([sys.executable, "-c", _COUNT], env=environment, check=True)
    read = (
        "from prometheus_client import CollectorRegistry, generate_latest\n"
        "from prometheus_client.multiprocess import MultiProcessCollector\n"
        "one = CollectorRegistry(); MultiProcessCollector(one); print(generate_latest(one).decode())"
    )
    told = subprocess.run([sys.executable, "-c", read], env=environment, check=True, capture_output=True, text=True)
    assert 'dakika_request_seconds_count{area="brands",method="GET",status="2xx"} 2.0' in told.stdout


# -- errors

_FAIL = """
import os, sys
import django
django.setup()
import sentry_sdk
from structlog.contextvars import bound_contextvars
from dakika_server.monitoring.errors import tell_of
with bound_contextvars(request="r-1", brand="orrery-house"):
    try:
        password = "half past nine"
        raise RuntimeError("asked with dakika_" + "Ab1_" * 11)
    except RuntimeError as error:
        tell_of(error)
sentry_sdk.flush(10)
"""


def test_an_error_is_told_to_the_address_that_is_set_and_nothing_else_with_it() -> None:
    taken: list[bytes] = []

    class Taker(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            body = self.rfile.read(int(self.headers["Content-Length"]))
            taken.append(gzip.decompress(body) if self.headers.get("Content-Encoding") == "gzip" else body)
            self.send_response(200)
            self.end_headers()

        def log_message(self, *_: Any) -> None:
            pass

    server = HTTPServer(("127.0.0.1", 0), Taker)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    environment = {**os.environ, "DAKIKA_ERRORS_ADDRESS": f"http://public@127.0.0.1:{server.server_port}/7",
                   "DJANGO_SETTINGS_MODULE": "dakika_server.config.settings"}  # fmt: skip
    subprocess.run([sys.executable, "-c", _FAIL], env=environment, check=True)
    server.shutdown()
    server.server_close()
    told = b"\n".join(taken).decode()
    events = [json.loads(line) for line in told.splitlines() if line.startswith("{") and '"exception"' in line]
    (event,) = events
    assert event["exception"]["values"][0]["value"] == f"asked with dakika_{HIDDEN}"
    assert event["tags"] == {"request": "r-1", "brand": "orrery-house"}
    assert "half past nine" not in told
    assert SECRET not in told


# -- status


@pytest.mark.django_db
def test_an_admin_sees_part_by_part_how_it_stands(editor: Any, client_of: Any) -> None:
    told = client_of(editor).get(HOME).json()
    parts = {one["name"]: one for one in told["parts"]}
    assert [*parts] == [*PARTS]
    assert {"database", "worker", "queue", "disk", "redirect", "mail", "collecting"} <= {*parts}
    assert (parts["worker"]["is_down"], parts["worker"]["told"]) == (True, "None runs.")
    assert parts["worker"]["advice"].startswith("Start it: ./dakika serve worker.")
    assert parts["database"]["is_well"]
    assert told["version"]


@pytest.mark.parametrize("role", ["analyst", "author", "approver", "viewer", "guest"])
@pytest.mark.django_db
def test_nobody_but_an_admin_does(editor: Any, client_of: Any, role: str) -> None:
    Membership.objects.update(role=role)
    assert client_of(editor).get(HOME).status_code == 403


@pytest.mark.django_db
def test_letters_that_do_not_go_out_are_said(editor: Any) -> None:
    apps.get_model("notices.Mail").objects.create(key="k", to="a@b.example", subject="s", text="t", made_at=clock.now(), next_at=clock.now(),
                        state="failed", ended_at=clock.now())  # fmt: skip
    ((_, _, standing),) = look_at(["mail"])
    assert not standing.is_well
    assert not standing.is_down, "people may still be sent here"
    assert standing.told == "0 wait for more than a quarter of an hour; 1 failed within a day."


@pytest.mark.django_db
def test_a_part_that_cannot_be_looked_at_does_not_stand_well(monkeypatch: pytest.MonkeyPatch) -> None:
    def broken() -> Standing:
        gauges.rows("SELECT 1 / 0")
        raise AssertionError

    monkeypatch.setitem(PARTS._values, "mail", Part(words="Letters", look=broken))
    found = {name: standing for name, _, standing in look_at()}
    assert found["mail"].told == "It does not answer."
    assert found["database"].is_well


@pytest.mark.parametrize(
    ("count", "words"), [(0, "0 bytes"), (999, "999 bytes"), (1500, "1.5 kB"), (25e6, "25 MB"), (3.2e12, "3.2 TB")]
)
def test_sizes_for_people(count: float, words: str) -> None:
    assert in_bytes(count) == words


@pytest.mark.parametrize(
    ("seconds", "words"), [(-1, "0 s"), (119, "119 s"), (3600, "60 min"), (3 * 3600, "3 h"), (3 * 86400, "3 days")]
)
def test_spans_for_people(seconds: float, words: str) -> None:
    assert for_how_long(seconds) == words
