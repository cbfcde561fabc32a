"""Promise: a day without data is seen as a hole, and a day before anything was known is not."""

from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from dakika_core.sources.coverage import DayState, coverage_of

FIRST = date(2026, 11, 1)


def states(readings: list[int], runs: dict[int, bool], *, since: int = 0, known: int | None = 0, days: int = 10) -> str:
    day = lambda n: FIRST + timedelta(days=n)  # noqa: E731
    found = coverage_of(
        first=FIRST, last=day(days - 1), reading_days=map(day, readings), run_days={day(n): w for n, w in runs.items()},
        followed_since=day(since), known_since=None if known is None else day(known),
    )  # fmt: skip
    return "".join(state.value[0] for state in found.states)


def test_a_hand_worked_strip() -> None:
    # Followed from day 4 on; history from day 2. Day 6: only a broken run. Day 7: nothing. Day 8: a reading, no whole run.
    strip = states([2, 3, 4, 5, 8, 9], {4: True, 5: True, 6: False, 8: False, 9: True}, since=4, known=2)
    assert strip == "bbccccpmpc"


def test_today_is_not_yet_missing() -> None:
    assert states([0], {0: True}, days=3) == "cmp"


def test_nothing_known_is_no_hole() -> None:
    assert states([], {}, known=None) == "b" * 10


def test_holes_are_told_as_spans() -> None:
    found = coverage_of(
        first=FIRST, last=FIRST + timedelta(days=5), reading_days=[FIRST, FIRST + timedelta(days=5)], run_days={},
        followed_since=date.max, known_since=FIRST,
    )  # fmt: skip
    assert found.holes == [(FIRST + timedelta(days=1), FIRST + timedelta(days=4), DayState.MISSING)]


@given(st.lists(st.integers(0, 9)), st.dictionaries(st.integers(0, 9), st.booleans()))
def test_every_day_has_one_state(readings: list[int], runs: dict[int, bool]) -> None:
    assert len(states(readings, runs)) == 10
