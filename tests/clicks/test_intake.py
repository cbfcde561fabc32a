"""Promise: what stands in the journal reaches the database once, whoever offers it, and nothing is dropped in silence."""

import asyncio
import threading
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4

import pytest
from dakika_redirect.copy_of_links import CopyOfLinks, Page
from dakika_redirect.following import Follower, connected
from dakika_redirect.intake import Intake
from dakika_redirect.journal import PAGE_VIEW, Journal, Written, as_line, segments
from dakika_redirect.places import lock
from dakika_redirect.salts import Salts
from dakika_server.brands.models import Brand
from dakika_server.links.models import (
    Click,
    ClickHour,
    LinkDomain,
    LinkPage,
    LinkPageEntry,
    LinkSettings,
    PageView,
    TrackedLink,
    VisitorSalt,
)
from django.db import connection

from clicks.processes import PERSON

NOW = datetime(2026, 11, 25, 12, 0, tzinfo=UTC)
MICROSECONDS = 1_000_000


@pytest.fixture
def brand(transactional_db: Any) -> Brand:
    return Brand.objects.create(name="Orrery House", slug="orrery-house", time_zone="Europe/Lisbon")


@pytest.fixture
def link(brand: Brand) -> TrackedLink:
    page = "https://orrery.example/tickets"
    return TrackedLink.objects.create(
        brand=brand, code="open", name="Open", destination=page, target=page, created_at=NOW
    )


@pytest.fixture(autouse=True)
def reached(transactional_db: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    """The redirect's own connections lead to the tests' database."""
    s = connection.settings_dict
    for name, value in {"HOST": s["HOST"], "PORT": s["PORT"], "USER": s["USER"], "PASSWORD": s["PASSWORD"],
                        "DATABASE": s["NAME"]}.items():  # fmt: skip
        monkeypatch.setenv(f"PG{name}", str(value))


@pytest.fixture
def intake(tmp_path: Path) -> Iterator[Intake]:
    """Takes in all that lies in the folder: no segment is its own."""
    made = Intake(tmp_path, own=lambda: None)
    yield made
    made._close()


def a_click(link: TrackedLink | None, **changes: Any) -> Written:
    """On a link; without one a view of a page."""
    values = {
        "key": uuid4().hex, "link": link.pk if link else PAGE_VIEW, "page": 0, "at": int(NOW.timestamp()) * MICROSECONDS,
        "referrer": "brevi.example", "agent": PERSON, "visitor": "ab" * 16, "reason": "", "country": "PT",
        "language": "pt", "is_over": False,
    }  # fmt: skip
    return Written(**(values | changes))


def left_behind(folder: Path, *lines: bytes, name: str = "00000000000000000001-1.clicks") -> Path:
    """A segment of a process that is gone."""
    path = folder / name
    path.write_bytes(b"".join(lines))
    return path


def test_a_segment_that_is_taken_in_is_gone_with_its_mark(intake: Intake, link: TrackedLink, tmp_path: Path) -> None:
    clicks = [a_click(link, at=int(NOW.timestamp() + n) * MICROSECONDS) for n in range(250)]
    left_behind(tmp_path, *map(as_line, clicks))
    assert intake.take_all() == 250
    assert set(Click.objects.values_list("key", flat=True)) == {UUID(c.key) for c in clicks}
    assert segments(tmp_path) == []
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM links_journal")
        assert cursor.fetchone() == (0,)
    assert intake.take_all() == 0


def test_views_of_a_page_are_counted_once_by_the_quarter_hour(
    intake: Intake, link: TrackedLink, tmp_path: Path
) -> None:
    """People and bots apart, and none of them a click; what is offered again adds nothing."""
    page = LinkPage.objects.create(brand=link.brand, slug="orrery", title="Orrery House", created_at=NOW)
    at = int(NOW.timestamp())
    lines = [
        as_line(a_click(None, page=page.pk, at=(at + seconds) * MICROSECONDS, agent=agent))
        for seconds, agent in ((0, PERSON), (899, PERSON), (900, PERSON), (5, "curl/8.5.0"))
    ]
    path = left_behind(tmp_path, *lines, as_line(a_click(link, page=page.pk)))
    own = Intake(tmp_path, own=lambda: path)
    assert own.take_all() == 5
    assert own.take_all() == 0
    own._close()
    found = PageView.objects.order_by("at").values_list("brand_id", "page_id", "at", "people", "bots")
    assert list(found) == [
        (link.brand_id, page.pk, NOW, 2, 1), (link.brand_id, page.pk, NOW + timedelta(minutes=15), 1, 0)
    ]  # fmt: skip
    assert Click.objects.count() == 1


def test_ones_own_segment_is_read_on_where_it_stopped_and_kept(link: TrackedLink, tmp_path: Path) -> None:
    path = left_behind(tmp_path, as_line(a_click(link)))
    own = Intake(tmp_path, own=lambda: path)
    assert own.take_all() == 1
    assert own.take_all() == 0
    with path.open("ab") as file:
        file.write(as_line(a_click(link)))
        file.write(as_line(a_click(link))[:-5])  # a click that is just being written
    assert own.take_all() == 1
    assert path.exists()
    assert Click.objects.count() == 2
    own._close()


def test_offered_again_after_a_kill_between_taking_in_and_putting_away(
    intake: Intake, link: TrackedLink, tmp_path: Path
) -> None:
    lines = [as_line(a_click(link)) for _ in range(20)]
    left_behind(tmp_path, *lines)
    intake._put_away = lambda path: None  # type: ignore[method-assign]  # killed here
    assert intake.take_all() == 20
    again = Intake(tmp_path, own=lambda: None)
    assert again.take_all() == 0
    assert Click.objects.count() == 20
    assert segments(tmp_path) == []
    # And even where the mark was lost with the database's last minutes, the keys are there once.
    left_behind(tmp_path, *lines)
    assert again.take_all() == 20
    assert Click.objects.count() == 20
    assert ClickHour.objects.get(link_id=link.pk).people == 20
    again._close()


def test_two_who_find_the_same_segment_bring_it_once(link: TrackedLink, tmp_path: Path) -> None:
    left_behind(tmp_path, *(as_line(a_click(link)) for _ in range(2000)))
    both = [Intake(tmp_path, own=lambda: None) for _ in range(2)]
    threads = [threading.Thread(target=one.take_all) for one in both]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert Click.objects.count() == 2000
    assert sum(one.taken for one in both) == 2000
    for one in both:
        one._close()


def test_what_another_process_still_writes_is_left_to_it(intake: Intake, link: TrackedLink, tmp_path: Path) -> None:
    path = left_behind(tmp_path, as_line(a_click(link)))
    held = lock(path)
    assert held is not None
    assert intake.take_all() == 0
    assert Click.objects.count() == 0


def test_a_click_that_the_database_refuses_is_set_aside_and_holds_up_nobody(
    intake: Intake, link: TrackedLink, tmp_path: Path
) -> None:
    refused = a_click(link, referrer="nul\x00.example")  # PostgreSQL keeps no NUL in its texts
    lines = [as_line(a_click(link)), as_line(refused), as_line(a_click(link)), b'00000000 ["cut"]\n']
    path = left_behind(tmp_path, *lines)
    assert intake.take_all() == 3
    assert Click.objects.count() == 2
    assert path.with_name(f"{path.name}.damaged").read_bytes() == lines[3] + lines[1]


def test_a_click_on_a_link_that_was_thrown_away_goes_with_it(intake: Intake, link: TrackedLink, tmp_path: Path) -> None:
    left_behind(tmp_path, as_line(a_click(link)), as_line(a_click(TrackedLink(pk=999_999))))
    intake.take_all()
    assert list(Click.objects.values_list("link_id", flat=True)) == [link.pk]


@pytest.mark.parametrize(
    ("agent", "reason", "told"),
    [(PERSON, "", ""), ("curl/8.5.0", "", "agent"), (PERSON, "burst", "burst"),
     ("Examplebot/2.1 (+https://bots.example/about)", "method", "method")],
)  # fmt: skip
def test_whose_agent_is_a_crawlers_is_marked_unless_more_is_known(
    agent: str, reason: str, told: str, intake: Intake, link: TrackedLink, tmp_path: Path
) -> None:
    left_behind(tmp_path, as_line(a_click(link, agent=agent, reason=reason)))
    intake.take_all()
    assert Click.objects.get().bot_reason == told


def test_while_the_database_is_away_the_journal_waits(
    link: TrackedLink, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = left_behind(tmp_path, as_line(a_click(link)))
    right = connection.settings_dict["PORT"]
    monkeypatch.setenv("PGPORT", "1")
    intake = Intake(tmp_path, own=lambda: None)
    waits = [intake._round(0.5)]
    for _ in range(5):
        waits.append(intake._round(waits[-1]))
    assert waits == [1.0, 2.0, 4.0, 5.0, 5.0, 5.0]
    assert (intake.is_connected, path.exists()) == (False, True)
    monkeypatch.setenv("PGPORT", str(right))
    assert intake._round(5.0) == 0.5
    assert intake.is_connected
    assert Click.objects.count() == 1
    intake._close()


def test_what_is_written_until_the_last_moment_comes_in_when_it_stops(link: TrackedLink, tmp_path: Path) -> None:
    journal = Journal(tmp_path)
    intake = Intake(tmp_path, own=lambda: journal.path)
    intake.start()
    asyncio.run(_append(journal, [a_click(link) for _ in range(10)]))
    intake.stop()
    intake.join(timeout=20)
    assert Click.objects.count() == 10
    journal.close()
    intake._close()


async def _append(journal: Journal, clicks: list[Written]) -> None:
    await asyncio.gather(*(journal.append(click) for click in clicks))


async def true_of(told: Callable[[], bool]) -> None:
    """Until it is; AssertionError when it never becomes so."""
    for _ in range(1000):
        if told():
            return
        await asyncio.sleep(0.02)
    raise AssertionError("it did not come about within 20 s")


def followed(folder: Path, work: Any) -> Any:
    """What `work` finds beside a follower that runs."""

    async def run() -> Any:
        copy = CopyOfLinks(folder / "copy.sqlite")
        follower = Follower(copy, Salts(folder))
        task = asyncio.create_task(follower.run())
        try:
            await true_of(lambda: follower.is_connected)
            return await work(follower, copy)
        finally:
            task.cancel()
            await asyncio.gather(task, return_exceptions=True)
            await follower.close()
            copy.close()

    return asyncio.run(run())


def test_the_copy_holds_all_there_is_and_forgets_what_is_gone(link: TrackedLink, brand: Brand, tmp_path: Path) -> None:
    ends = datetime(2026, 12, 24, 18, tzinfo=UTC)
    TrackedLink.objects.filter(pk=link.pk).update(ends_at=ends, keeps_query=False)
    LinkSettings.objects.update_or_create(
        brand=brand, defaults={"home": "https://orrery.example/", "over_words": "Come by."}
    )
    LinkDomain.objects.create(brand=brand, host="clock.example", created_at=NOW)
    page = LinkPage.objects.create(brand=brand, slug="now", title="Now", created_at=NOW)
    other = TrackedLink.objects.create(
        brand=brand, code="also", name="Also", destination=link.target, target=link.target, created_at=NOW
    )
    for position, title, leads_to in ((2, "Second", link), (1, "First", other)):
        LinkPageEntry.objects.create(page=page, link=leads_to, title=title, position=position)
    old = CopyOfLinks(tmp_path / "copy.sqlite")
    old.put("page", "gone", Page(id=9, brand=brand.pk, title="Gone"), 1)
    old.close()

    async def work(follower: Follower, copy: CopyOfLinks) -> None:
        found = copy.link("open")
        assert found is not None
        assert (found.id, found.ends, found.keeps_query) == (link.pk, ends.timestamp(), False)
        assert copy.brand_of_host("clock.example") == brand.pk
        face = copy.face(brand.pk)
        assert face is not None
        assert (face.name, face.home, face.words) == ("Orrery House", "https://orrery.example/", "Come by.")
        shown = copy.page("now")
        assert shown is not None
        assert [title for _, title in shown.entries] == ["First", "Second"]
        assert copy.page("gone") is None
        assert await follower.ask("never-made") is None

    followed(tmp_path, work)


def test_todays_and_tomorrows_key_are_made_once_for_all_processes(link: TrackedLink, tmp_path: Path) -> None:
    async def nothing(follower: Follower, copy: CopyOfLinks) -> None:
        """It has read everything when it follows."""

    made = []
    for process in ("a", "b"):
        (tmp_path / process).mkdir()
        followed(tmp_path / process, nothing)
        made.append({row.day: bytes(row.salt) for row in VisitorSalt.objects.all()})
    assert len(made[0]) == 2
    assert made[1] == made[0]


def test_who_asks_while_the_database_is_away_is_told_so(
    link: TrackedLink, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("PGPORT", "1")

    async def work() -> None:
        copy = CopyOfLinks(tmp_path / "copy.sqlite")
        follower = Follower(copy, Salts(tmp_path))
        follower._has_tried.set()
        with pytest.raises(ConnectionError):
            await follower.ask("open")
        copy.close()

    asyncio.run(work())


def test_a_follower_that_was_cut_off_follows_again(link: TrackedLink, tmp_path: Path) -> None:
    async def work(follower: Follower, copy: CopyOfLinks) -> None:
        async with await connected() as other:
            await other.execute(
                "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'dakika-redirect' "
                "AND datname = current_database() AND pid <> pg_backend_pid()"
            )
            await true_of(lambda: not follower.is_connected)
            await other.execute("UPDATE links_trackedlink SET is_paused = true")
        await true_of(lambda: follower.is_connected)
        found = copy.link("open")
        assert found is not None
        assert found.is_paused

    followed(tmp_path, work)
