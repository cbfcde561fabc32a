"""Promise: a log becomes its visits, twice is once, and a folder reads as its files."""

import gzip
from io import StringIO
from pathlib import Path

import pytest
from django.core.management import CommandError, call_command

from dakika_server.brands.models import Brand
from dakika_server.shared import clock
from dakika_server.site.models import Conversion, Goal, Site, Visit

pytestmark = pytest.mark.django_db
PERSON = "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101"


def line(address: str, minute: int, target: str, agent: str = PERSON, referrer: str = "-", status: int = 200) -> str:
    return (
        f'{address} - - [01/Nov/2026:{10 + minute // 60:02d}:{minute % 60:02d}:00 +0000] "GET {target} HTTP/1.1" {status} 5 '
        f'"{referrer}" "{agent}"\n'
    )


LOG = [
    line("192.0.2.1", 0, "/", referrer="https://commons.example/x"), line("192.0.2.1", 1, "/style.css"),
    line("192.0.2.1", 2, "/tickets"), line("192.0.2.2", 3, "/?utm_source=letter"), line("192.0.2.1", 5, "/thanks"),
    line("192.0.2.3", 6, "/", agent="curl/8.5.0"), line("192.0.2.1", 50, "/"), line("192.0.2.2", 51, "/x", status=404), "nonsense\n",
]  # fmt: skip


@pytest.fixture
def site(brand: Brand) -> Site:
    Goal.objects.create(brand=brand, name="Ticket", kind="page", pattern="/thanks", cents=1400)
    return Site.objects.create(
        brand=brand, name="House", hosts=["orrery.example"], key="k" * 20, created_at=clock.now()
    )


def read(*paths: Path) -> str:
    out = StringIO()
    call_command("read_access_log", "k" * 20, *map(str, paths), stdout=out)
    return out.getvalue()


def test_a_log_becomes_visits_and_twice_is_once(site: Site, tmp_path: Path) -> None:
    whole = tmp_path / "access.log"
    whole.write_text("".join(LOG))
    said = read(whole)
    assert "3 new visits of 3" in said
    assert "1 of bots" in said
    assert "1 that cannot be read" in said
    visits = list(Visit.objects.order_by("started_at").values_list("channel", "pages", "paths", "origin", "device"))
    assert visits == [
        ("commons", 3, ["/", "/tickets", "/thanks"], "log", "computer"), ("letter", 1, ["/"], "log", "computer"),
        ("direct", 1, ["/"], "log", "computer"),
    ]  # fmt: skip
    assert Conversion.objects.get().visit == Visit.objects.order_by("started_at").first()
    assert "192.0.2" not in str(list(Visit.objects.values()))
    assert "0 new visits of 3" in read(whole)
    assert Conversion.objects.count() == 1


def test_a_folder_with_rotated_and_packed_files_reads_as_one(site: Site, tmp_path: Path) -> None:
    (tmp_path / "access.1.gz").write_bytes(gzip.compress("".join(LOG[:4]).encode()))
    (tmp_path / "access.2").write_text("".join(LOG[4:]))
    assert "3 new visits of 3" in read(tmp_path)


def test_what_is_not_there_is_said(site: Site, tmp_path: Path) -> None:
    with pytest.raises(CommandError, match="There is no"):
        read(tmp_path / "none")
    with pytest.raises(CommandError, match="no site"):
        call_command("read_access_log", "wrong", str(tmp_path))
