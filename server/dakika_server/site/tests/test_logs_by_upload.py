"""Promise: a log brought in by the browser is read once whatever is killed, bounded, and says what it left out."""

import gzip
import io
from datetime import timedelta
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.shared import clock
from dakika_server.site import logs
from dakika_server.site.actions.logs import read_uploaded
from dakika_server.site.models import AccessLog, AccessLogChunk, Site, Visit

pytestmark = pytest.mark.django_db
BASE = "/api/brands/orrery-house/site/sites"
PERSON = "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0"
LINE = '{address} - - [10/Oct/2026:{time} +0000] "GET {path} HTTP/1.1" 200 512 "-" "{agent}"'


def log_of(count: int, *, agent: str = PERSON, path: str = "/tickets") -> bytes:
    """One page each of so many visitors, a minute apart."""
    lines = [
        LINE.format(
            address=f"192.0.{i // 250}.{i % 250}", time=f"{9 + i // 60:02}:{i % 60:02}:00", path=path, agent=agent
        )
        for i in range(count)
    ]
    return ("\n".join(lines) + "\n").encode()


@pytest.fixture
def site(brand: Brand) -> Site:
    return Site.objects.create(
        brand=brand, name="House", hosts=["orrery.example"], key="k" * 20, created_at=clock.now()
    )


def bring(client: Client, site: Site, content: bytes, name: str = "access.log") -> Any:
    return client.post(f"{BASE}/{site.pk}/logs", {"file": SimpleUploadedFile(name, content)})


def test_a_log_is_read_by_a_worker_and_told_on_the_page(client: Client, site: Site) -> None:
    content = log_of(4) + log_of(2, path="/style.css") + log_of(1, agent="curl/8.5.0") + b"nonsense\n"
    answer = bring(client, site, content)
    assert answer.status_code == 201, answer.json()
    assert answer.json()["state"] == "waiting"
    assert Visit.objects.count() == 0
    read_uploaded(answer.json()["id"])
    (log,) = client.get(BASE).json()["logs"]
    assert (log["state"], log["lines"], log["visits"], log["new_visits"]) == ("done", 8, 4, 4)
    assert (log["not_pages"], log["bots"], log["unreadable"]) == (2, 1, 1)
    # The bytes hold addresses: they go once they are read.
    assert not AccessLogChunk.objects.exists()


def test_packed_by_gzip_and_again_adds_nothing(client: Client, site: Site) -> None:
    for name, content in (("a.log.gz", gzip.compress(log_of(5))), ("a.log", log_of(5))):
        read_uploaded(bring(client, site, content, name).json()["id"])
    assert Visit.objects.count() == 5
    assert list(AccessLog.objects.order_by("pk").values_list("new_visits", flat=True)) == [5, 0]


def test_a_worker_killed_in_the_middle_is_followed_by_another(
    client: Client, site: Site, monkeypatch: pytest.MonkeyPatch
) -> None:
    pk = bring(client, site, log_of(300)).json()["id"]
    monkeypatch.setattr(logs, "VISITS_AT_ONCE", 10)
    took = logs.take_visits
    calls = []

    def dying(*args: Any) -> int:
        calls.append(1)
        if len(calls) == 3:
            raise KeyboardInterrupt
        return took(*args)

    monkeypatch.setattr(logs, "take_visits", dying)
    with pytest.raises(KeyboardInterrupt):
        read_uploaded(pk)
    assert AccessLog.objects.get(pk=pk).state == "reading"
    monkeypatch.setattr(logs, "take_visits", took)
    read_uploaded(pk)
    log = AccessLog.objects.get(pk=pk)
    assert (log.state, log.visits, Visit.objects.count()) == ("done", 300, 300)
    assert log.new_visits == 300
    read_uploaded(pk)  # and once more does nothing
    assert Visit.objects.count() == 300


@pytest.mark.parametrize(
    ("name", "content", "words"),
    [
        ("notes.txt", b"dear diary\nnothing today\n", "is no access log"),
        ("empty.log", b"\n", "is no access log"),
        ("broken.gz", b"\x1f\x8bnot packed at all", "broken"),
        ("picture.png", b"\x89PNG\r\n\x1a\n" + bytes(range(256)) * 40, "is no access log"),
    ],
)
def test_what_is_no_log_is_refused_in_words(client: Client, site: Site, name: str, content: bytes, words: str) -> None:
    answer = bring(client, site, content, name)
    assert answer.status_code == 400
    assert words in answer.json()["detail"]
    assert not AccessLog.objects.exists()


def test_a_log_that_breaks_later_keeps_what_came(client: Client, site: Site) -> None:
    """The beginning can be unpacked, the end cannot."""
    packed = gzip.compress(b"".join(log_of(200, path=f"/news/{i}") for i in range(60)), compresslevel=1)
    pk = bring(client, site, packed[: len(packed) - 40], "cut.gz").json()["id"]
    read_uploaded(pk)
    log = AccessLog.objects.get(pk=pk)
    assert log.state == "failed"
    assert "What was read before is kept" in log.message


def test_a_line_without_end_and_a_bomb_cost_bounded_memory(
    client: Client, site: Site, monkeypatch: pytest.MonkeyPatch
) -> None:
    endless = log_of(2) + b"x" * 3_000_000 + b"\n" + log_of(3)[log_of(2).__len__() :]
    read = list(logs.lines_in(io.BufferedReader(io.BytesIO(endless))))  # type: ignore[arg-type]
    assert max(map(len, read)) <= logs.LONGEST_LINE + 1
    assert len(read) == 4
    monkeypatch.setattr(logs, "MOST_CHARACTERS", 100_000)
    bomb = gzip.compress(b"0" * 10_000_000)
    with pytest.raises(logs.LogError, match="grows beyond"):
        list(logs.lines_in(io.BufferedReader(io.BytesIO(bomb))))  # type: ignore[arg-type]


def test_a_file_too_large_is_refused_before_it_is_stored(client: Client, site: Site, settings: Any) -> None:
    settings.IMPORT_MAX_BYTES = 100
    assert "larger than" in bring(client, site, log_of(9)).json()["detail"]
    assert not AccessLogChunk.objects.exists()


def test_nobody_else_brings_logs_in_or_sees_them(
    client_of: Any, viewer: Any, stranger: Any, editor: Any, site: Site
) -> None:
    assert bring(client_of(viewer), site, log_of(1)).status_code == 403
    assert bring(client_of(stranger), site, log_of(1)).status_code == 404
    other = Brand.objects.create(name="Other", slug="other", time_zone="UTC")
    theirs = Site.objects.create(brand=other, name="S", hosts=["x.example"], key="z" * 20, created_at=clock.now())
    assert bring(client_of(editor), theirs, log_of(1)).status_code == 404
    AccessLog.objects.create(brand=other, site=theirs, created_at=clock.now(), file_name="theirs.log", size=1)
    assert client_of(editor).get(BASE).json()["logs"] == []


def test_two_workers_never_read_the_same_log(client: Client, site: Site) -> None:
    """The second finds the lock taken on another connection and leaves."""
    import psycopg
    from django.db import connection
    from procrastinate.contrib.django.models import ProcrastinateJob

    from dakika_server.shared.locks import Lock, key_of
    from dakika_server.site.jobs import read_access_log

    pk = bring(client, site, log_of(3)).json()["id"]
    told = connection.get_connection_params()
    keys = {k: told[k] for k in ("dbname", "user", "password", "host", "port") if told.get(k)}
    with psycopg.connect(**keys) as other:
        other.execute("SELECT pg_advisory_lock(%s)", [key_of(Lock.ACCESS_LOG, pk)])
        assert not read_uploaded(pk)
        assert Visit.objects.count() == 0
        waiting = ProcrastinateJob.objects.filter(task_name="site.read_access_log", scheduled_at__isnull=False)
        read_access_log.func.__wrapped__(pk)
        assert waiting.count() == 1, "whoever finds it taken looks again later"
        other.execute("SELECT pg_advisory_unlock(%s)", [key_of(Lock.ACCESS_LOG, pk)])
    assert read_uploaded(pk)
    assert Visit.objects.count() == 3


def test_the_command_says_what_is_broken(site: Site, tmp_path: Any) -> None:
    broken = tmp_path / "cut.gz"
    broken.write_bytes(gzip.compress(log_of(850))[:-600])
    with pytest.raises(CommandError, match="broken"):
        call_command("read_access_log", site.key, str(broken))


def test_visits_of_a_log_begin_when_they_began(client: Client, site: Site) -> None:
    read_uploaded(bring(client, site, log_of(1)).json()["id"])
    visit = Visit.objects.get()
    assert visit.started_at.isoformat() == "2026-10-10T09:00:00+00:00"
    assert visit.ended_at - visit.started_at == timedelta(0)


def test_a_defect_of_ours_is_told_to_whoever_waits(client: Client, site: Site, monkeypatch: pytest.MonkeyPatch) -> None:
    pk = bring(client, site, log_of(3)).json()["id"]

    def broken(*_: Any) -> int:
        raise ZeroDivisionError

    with monkeypatch.context() as patched:
        patched.setattr(logs, "take_visits", broken)
        with pytest.raises(ZeroDivisionError):
            read_uploaded(pk)
    (told,) = client.get(BASE).json()["logs"]
    assert told["state"] == "failed"
    assert "bring it in again" in told["message"]
    read_uploaded(bring(client, site, log_of(3)).json()["id"])
    assert Visit.objects.count() == 3
