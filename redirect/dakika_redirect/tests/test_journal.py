"""Promise: a click that was answered is on disk, half a line never spoils another, and nothing is read twice or lost."""

import asyncio
import os
from pathlib import Path
from uuid import uuid4

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_redirect.intake import Intake
from dakika_redirect.journal import Journal, Written, as_line, from_line, read_pieces, segments
from dakika_redirect.places import lock, take_place


def click(**changes: object) -> Written:
    values = {
        "key": uuid4().hex, "link": 1, "page": 0, "at": 1_764_000_000_000_000, "referrer": "brevi.example",
        "agent": "Mozilla/5.0", "visitor": "00" * 16, "reason": "", "country": "PT", "language": "pt", "is_over": False,
    }  # fmt: skip
    return Written(**(values | changes))  # type: ignore[arg-type]


def read_all(path: Path, start: int = 0, most: int = 1_000_000) -> list[Written]:
    return [c for piece in read_pieces(path, start, most_bytes=most) for c in piece.clicks]


@given(st.text(max_size=60), st.text(max_size=60))
def test_any_text_comes_back_on_one_line(agent: str, referrer: str) -> None:
    made = click(agent=agent, referrer=referrer)
    line = as_line(made)
    assert line.count(b"\n") == 1
    assert from_line(line) == made


def test_many_who_wait_are_served_by_few_writings(tmp_path: Path) -> None:
    async def work() -> int:
        journal = Journal(tmp_path)
        writings = 0
        write = journal._write

        def counted(lines: bytes) -> None:
            nonlocal writings
            writings += 1
            write(lines)

        journal._write = counted  # type: ignore[method-assign]
        made = [click() for _ in range(500)]
        await asyncio.gather(*(journal.append(c) for c in made))
        assert {c.key for c in read_all(journal.path)} == {c.key for c in made}
        journal.close()
        return writings

    assert asyncio.run(work()) < 50


def test_a_line_without_its_end_waits_and_a_damaged_one_is_named(tmp_path: Path) -> None:
    path = tmp_path / "1-1.clicks"
    good = [as_line(click()) for _ in range(3)]
    damaged = good[1][:20] + b"X" + good[1][21:]
    path.write_bytes(good[0] + damaged + good[2] + as_line(click())[:30])
    pieces = list(read_pieces(path, 0))
    assert [len(p.clicks) for p in pieces] == [2]
    assert pieces[0].damaged == [damaged]
    assert pieces[0].end == sum(map(len, good))


@pytest.mark.parametrize("most", [400, 1000, 1_000_000])
def test_reading_on_from_where_one_stopped_finds_each_click_once(tmp_path: Path, most: int) -> None:
    path = tmp_path / "1-1.clicks"
    made = [click(link=i) for i in range(40)]
    path.write_bytes(b"".join(map(as_line, made)))
    assert [c.link for c in read_all(path, most=most)] == list(range(40))
    first = next(read_pieces(path, 0, most_bytes=most))
    assert [c.link for c in first.clicks + read_all(path, first.end)] == list(range(40))


def test_a_full_disk_answers_those_who_wait_and_spoils_nothing(tmp_path: Path) -> None:
    async def work() -> list[str]:
        journal = Journal(tmp_path)
        await journal.append(click(agent="before"))
        real = os.fdatasync
        os.fdatasync = lambda handle: (_ for _ in ()).throw(OSError(28, "No space left on device"))
        try:
            with pytest.raises(OSError, match="No space"):
                await journal.append(click(agent="refused"))
        finally:
            os.fdatasync = real
        await journal.append(click(agent="after"))
        found = [c.agent for c in read_all(journal.path)]
        journal.close()
        return found

    assert asyncio.run(work()) == ["before", "after"]


def test_a_segment_that_is_full_gives_way_and_its_lock_is_free(tmp_path: Path) -> None:
    async def work() -> None:
        journal = Journal(tmp_path, segment_bytes=500)
        for i in range(10):
            await journal.append(click(link=i))
        found = segments(tmp_path)
        assert len(found) > 2
        assert sorted(c.link for path in found for c in read_all(path)) == list(range(10))
        assert lock(journal.path) is None
        for path in found[:-1]:
            handle = lock(path)
            assert handle is not None
            os.close(handle)
        journal.close()

    asyncio.run(work())


def test_processes_that_share_a_folder_have_places_of_their_own(tmp_path: Path) -> None:
    first, handle = take_place(tmp_path)
    second, other = take_place(tmp_path)
    assert (first, second) == (0, 1)
    os.close(handle)
    assert take_place(tmp_path)[0] == 0
    os.close(other)


def test_whatever_goes_wrong_in_taking_in_the_journal_waits_and_is_tried_again(tmp_path: Path) -> None:
    intake, tries = Intake(tmp_path, own=lambda: None), []

    def fail() -> int:
        tries.append(1)
        raise ValueError("nobody thought of this")

    intake.take_all = fail  # type: ignore[method-assign]
    first = intake._round(0.5)
    assert (intake._round(first) > first, len(tries), intake.is_connected) == (True, 2, False)
    intake.take_all = lambda: 0  # type: ignore[method-assign]
    assert (intake._round(4.0), intake.is_connected) == (0.5, True)
