"""Promise: a post comes again when its rule says, by the clock of those who wrote it, and wears out only where it shows."""

from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest
from dateutil.rrule import rrulestr
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.repetition import RuleError, by_time, occurrences, too_soon, turned

LISBON, NEW_YORK = ZoneInfo("Europe/Lisbon"), ZoneInfo("America/New_York")
SEEDS = 1_000


def days(rule: str, first: str, last: str, zone: ZoneInfo = NEW_YORK) -> list[str]:
    return [
        f"{one:%Y-%m-%d}"
        for one in occurrences(rule, date.fromisoformat(first), date.fromisoformat(last), time(9), zone)
    ]


def test_the_printed_examples_of_the_standard() -> None:
    """RFC 5545, 3.8.5.3: every other week on Tuesday and Thursday; the second to last weekday; Friday the 13th."""
    assert days("FREQ=WEEKLY;INTERVAL=2;WKST=SU;BYDAY=TU,TH", "1997-09-02", "1997-10-16") == [
        "1997-09-02", "1997-09-04", "1997-09-16", "1997-09-18", "1997-09-30", "1997-10-02", "1997-10-14", "1997-10-16",
    ]  # fmt: skip
    assert days("FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2", "1997-09-29", "1998-03-30") == [
        "1997-09-29", "1997-10-30", "1997-11-27", "1997-12-30", "1998-01-29", "1998-02-26", "1998-03-30",
    ]  # fmt: skip
    assert days("FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13", "1997-09-02", "1998-09-01") == ["1998-02-13", "1998-03-13"]
    assert days("FREQ=MONTHLY;BYMONTHDAY=31", "2007-01-31", "2007-05-31") == ["2007-01-31", "2007-03-31", "2007-05-31"]


@given(
    st.builds("FREQ={};INTERVAL={}{}".format, st.sampled_from(["DAILY", "WEEKLY", "MONTHLY"]), st.integers(4, 9),
              st.sampled_from(["", ";BYDAY=MO", ";BYMONTHDAY=1,15"])),
    st.dates(date(2024, 1, 1), date(2027, 1, 1)), st.integers(0, 366), st.times(),
)  # fmt: skip
def test_days_are_those_of_the_reference_and_hours_stay(rule: str, first: date, span: int, at: time) -> None:
    at = at.replace(second=0, microsecond=0)
    last = first + timedelta(days=span)
    found = occurrences(rule, first, last, at, LISBON)
    begin = datetime.combine(first, at)
    wanted = rrulestr(rule, dtstart=begin).between(begin, datetime.combine(last, at), inc=True)
    assert [one.astimezone(UTC) for one in found] == [one.replace(tzinfo=LISBON).astimezone(UTC) for one in wanted]


def test_an_hour_stays_as_the_clocks_change() -> None:
    found = occurrences("FREQ=DAILY", date(2026, 10, 24), date(2026, 10, 26), time(9, 30), LISBON)
    assert [f"{one:%d %H:%M %z}" for one in found] == ["24 09:30 +0100", "25 09:30 +0000", "26 09:30 +0000"]
    skipped = occurrences("FREQ=DAILY", date(2026, 3, 29), date(2026, 3, 29), time(1, 30), LISBON)
    assert f"{skipped[0]:%H:%M}" == "02:30"


@pytest.mark.parametrize("rule", [
    "", "FREQ=HOURLY", "FREQ=DAILY;COUNT=3", "FREQ=DAILY;UNTIL=20270101", "daily", "FREQ=DAILY;BYDAY=XX", "FREQ=DAILY;;",
    "FREQ=DAILY;INTERVAL=0", "FREQ=DAILY;INTERVAL=999999", "RRULE:FREQ=DAILY", "FREQ=DAILY\nDTSTART:19970101", "BYDAY=MO",
])  # fmt: skip
def test_what_is_no_rule_is_refused(rule: str) -> None:
    with pytest.raises(RuleError):
        occurrences(rule, date(2026, 1, 1), date(2026, 2, 1), time(9), LISBON)


def test_too_many_times_too_long_and_backwards_are_refused() -> None:
    for last in (date(2026, 6, 1), date(2027, 6, 1), date(2025, 1, 1)):
        with pytest.raises(RuleError):
            occurrences("FREQ=DAILY", date(2026, 1, 1), last, time(9), LISBON)
    assert days("FREQ=MONTHLY;BYMONTHDAY=31", "2026-02-01", "2026-02-28") == []
    # The 31st of February never comes: nobody looks for it for ever.
    assert days("FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31", "2026-01-01", "2026-12-31") == []


def test_texts_take_turns() -> None:
    assert [turned(("a", "b", "c"), n) for n in range(5)] == ["a", "b", "c", "a", "b"]


def test_the_same_words_too_soon_are_found_whatever_their_address() -> None:
    at = datetime(2026, 11, 1, 9, tzinfo=UTC)
    others = [(at - timedelta(days=6), "The BELL rings! https://a.example/1"), (at + timedelta(days=2), "Another")]
    assert too_soon(at, "The bell rings https://a.example/2", others, 7) == others[0][0]
    assert too_soon(at, "The bell rings", others, 6) is None
    assert too_soon(at, "The bell rings", others, 0) is None
    assert too_soon(at, "\U0001f319 https://a.example", [(at, "\U0001f31a")], 7) is None


def series(seed: int, fall: float, chosen: bool = False) -> tuple[list[str], np.ndarray]:  # type: ignore[type-arg]
    """Sixty texts, three times each. fall: each time costs so much (log). chosen: only those that did well come again."""
    rng = np.random.default_rng(seed)
    rows = []
    for text in range(60):
        own = rng.normal(0, 0.2)
        got = [own + rng.normal(0, 0.6) - fall * k for k in range(3)]
        times = 3 if not chosen or got[0] > 0.5 else 1
        rows += [(k, text, got[k]) for k in range(times)]
    rows.sort()
    return [f"text {t}" for _, t, _ in rows], np.exp(np.array([value for *_, value in rows]))


def test_in_a_world_where_nothing_wears_out_hardly_anything_is_said_to() -> None:
    claims = sum(any(one.is_worn for one in by_time(*series(seed, 0.0))) for seed in range(SEEDS))
    assert claims / SEEDS < 0.06


def test_repeating_what_did_well_is_not_taken_for_wear() -> None:
    """The second time of what was chosen for its luck falls back to the usual, and that is no wear."""
    told = [by_time(*series(seed, 0.0, chosen=True)) for seed in range(SEEDS)]
    assert np.mean([one[0].index / one[1].index for one in told if one[0].index and one[1].index]) > 1.5
    assert sum(any(one.is_worn for one in times) for times in told) / SEEDS < 0.06


def test_wear_is_found_and_the_interval_holds() -> None:
    fall, told = 0.25, [by_time(*series(seed, 0.25)) for seed in range(SEEDS)]
    assert sum(times[2].is_worn for times in told) / SEEDS > 0.8
    held = sum(
        times[2].interval.low <= np.exp(-2 * fall) <= times[2].interval.high for times in told if times[2].interval
    )
    assert held / SEEDS > 0.93


def test_what_came_once_says_nothing() -> None:
    assert [one.posts for one in by_time(["a", "b", ""], np.array([1.0, 2.0, 3.0]))] == [0, 0, 0, 0]
    assert [one.posts for one in by_time([], np.empty(0))] == [0, 0, 0, 0]
    twice = by_time(["a", "A!", "a", "a", "a"], np.array([1.0, np.nan, 2.0, 3.0, 4.0]))
    assert [one.posts for one in twice] == [1, 0, 1, 2]
