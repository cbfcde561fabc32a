"""Promise: a day without data is seen as a hole, and a day before anything was known is not."""

from collections.abc import Iterable
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.coverage import DayState, coverage_of

FIRST = date(2026, 11, 1)


def marks(days: Iterable[int], count: int) -> str:
    chosen = set(days)
    return "".join("1" if n in chosen else "0" for n in range(count))


def states(readings: list[int], runs: dict[int, bool], *, since: int = 0, known: int | None = 0, days: int = 10) -> str:
    return coverage_of(
        first=FIRST, readings=marks(readings, days), runs=marks(runs, days),
        whole_runs=marks((n for n, is_whole in runs.items() if is_whole), days),
        followed_since=FIRST + timedelta(days=since), known_since=None if known is None else FIRST + timedelta(days=known),
    ).strip  # fmt: skip


def test_a_hand_worked_strip() -> None:
    # Followed from day 4 on; history from day 2. Day 6: only a broken run. Day 7: nothing. Day 8: a reading, no whole run.
    strip = states([2, 3, 4, 5, 8, 9], {4: True, 5: True, 6: False, 8: False, 9: True}, since=4, known=2)
    assert strip == "bbccccpmpc"


def test_today_is_not_yet_missing() -> None:
    assert states([0], {0: True}, days=3) == "cmp"


def test_nothing_known_is_no_hole() -> None:
    assert states([], {}, known=None) == "b" * 10


@given(st.lists(st.integers(0, 9)), st.dictionaries(st.integers(0, 9), st.booleans()))
def test_every_day_has_one_state(readings: list[int], runs: dict[int, bool]) -> None:
    assert len(states(readings, runs)) == 10


def test_days_are_counted_by_state() -> None:
    found = coverage_of(
        first=FIRST, readings="100001", runs="000000", whole_runs="000000", followed_since=date.max, known_since=FIRST
    )
    assert [found.count(state) for state in DayState] == [2, 0, 4, 0]


def test_a_profile_followed_before_the_first_day_or_after_the_last() -> None:
    assert states([0, 1], {}, since=-5, days=3) == "ppp"
    assert states([0, 1], {}, since=99, days=3) == "ccp"
    assert states([0, 1], {}, known=99, days=3) == "bbb"
    assert states([0, 1], {}, known=-9, since=99, days=3) == "ccp"
