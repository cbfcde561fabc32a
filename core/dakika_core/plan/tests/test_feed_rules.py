"""Promise: items go out with their words whole, at no quiet hour, never closer or more often than was said."""

from collections import Counter
from datetime import UTC, datetime, time, timedelta
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.feed_rules import Quiet, is_wanted, next_time, words_of

BERLIN = ZoneInfo("Europe/Berlin")
NIGHT = Quiet(start=time(21), end=time(8), zone=BERLIN)
NEVER = Quiet(start=time(0), end=time(0), zone=BERLIN)
ITEM = {"title": "A comet", "summary": "Seen at dawn, low in the east.", "address": "https://a.example/comet"}


def berlin(*parts: int) -> datetime:
    return datetime(*parts, tzinfo=BERLIN).astimezone(UTC)  # type: ignore[misc, arg-type]


def test_quiet_hours_run_over_midnight() -> None:
    assert NIGHT.holds(berlin(2026, 11, 29, 23))
    assert NIGHT.holds(berlin(2026, 11, 30, 7, 59))
    assert not NIGHT.holds(berlin(2026, 11, 30, 8))
    assert not NIGHT.holds(berlin(2026, 11, 29, 20, 59))
    assert NIGHT.ends(berlin(2026, 11, 29, 23)) == berlin(2026, 11, 30, 8)
    assert NIGHT.ends(berlin(2026, 11, 30, 2)) == berlin(2026, 11, 30, 8)


def test_the_night_on_which_clocks_change() -> None:
    # In Berlin 02:30 does not exist on 29 March 2026, and comes twice on 25 October 2026.
    until = Quiet(start=time(22), end=time(2, 30), zone=BERLIN)
    for at in (berlin(2026, 3, 28, 23), berlin(2026, 10, 24, 23)):
        after = until.ends(at)
        assert after > at
        assert not until.holds(after)
    assert NIGHT.ends(berlin(2026, 3, 28, 23)) == berlin(2026, 3, 29, 8)
    # Its last hour comes twice: what lies in it is held twice, and the end still comes after.
    twice = berlin(2026, 10, 25, 2, 15) + timedelta(hours=1)
    assert until.ends(twice) > twice


def test_words_choose() -> None:
    assert is_wanted("A COMET at dawn", any_of=["comet"], none_of=[])
    assert not is_wanted("A comet at dawn", any_of=["comet"], none_of=["Dawn"])
    assert not is_wanted("Rain", any_of=["comet", "moon"], none_of=[])
    assert is_wanted("Rain", any_of=[], none_of=[])
    # Whole words: an ad is no admission, but for who says so.
    assert is_wanted("Free admission", any_of=[], none_of=["ad"])
    assert not is_wanted("Free admission", any_of=[], none_of=["ad*"])
    assert is_wanted("Night opening: the dome", any_of=["night opening"], none_of=[])
    assert is_wanted("(C++) and 100%", any_of=["c++", "x"], none_of=["100"]) is False
    assert is_wanted("\u660e\u65e5\u306f\u5f57\u661f\u3092\u898b\u308b", any_of=["\u5f57\u661f"], none_of=[])


def test_the_first_time_that_keeps_all_limits() -> None:
    now = berlin(2026, 11, 29, 20, 30)
    kept = {"quiet": NIGHT, "apart": timedelta(hours=1), "most_a_day": 2}
    assert next_time(now, now + timedelta(days=2), taken=[], **kept) == now  # type: ignore[arg-type]
    # An hour after the one before lies in the night: the morning.
    taken = [berlin(2026, 11, 29, 20, 10)]
    assert next_time(now, now + timedelta(days=2), taken=taken, **kept) == berlin(2026, 11, 30, 8)  # type: ignore[arg-type]
    # Two are there on that day: the next one.
    full = [*taken, berlin(2026, 11, 30, 8), berlin(2026, 11, 30, 9)]
    assert next_time(now, now + timedelta(days=3), taken=full, **kept) == berlin(2026, 12, 1, 8)  # type: ignore[arg-type]
    assert next_time(now, now + timedelta(days=1), taken=full, **kept) is None  # type: ignore[arg-type]


@given(
    st.lists(st.integers(0, 4 * 24 * 60), max_size=12), st.integers(0, 23), st.integers(0, 23), st.integers(1, 3),
    st.integers(0, 240), st.sampled_from([datetime(2026, 3, 27, tzinfo=UTC), datetime(2026, 10, 23, tzinfo=UTC)]),
)  # fmt: skip
def test_no_limit_is_ever_passed(
    offsets: list[int], start: int, end: int, most: int, apart: int, begin: datetime
) -> None:
    """Over both nights on which clocks change: items put one after another keep every limit among themselves."""
    quiet = Quiet(start=time(start), end=time(end), zone=BERLIN)
    taken: list[datetime] = []
    for offset in sorted(offsets):
        at = begin + timedelta(minutes=offset)
        found = next_time(at, at + timedelta(days=2), quiet=quiet, taken=taken, apart=timedelta(minutes=apart),
                          most_a_day=most)  # fmt: skip
        if found is not None:
            assert at <= found <= at + timedelta(days=2)
            assert not quiet.holds(found)
            assert all(abs(one - found) >= timedelta(minutes=apart) for one in taken)
            taken.append(found)
    assert all(count <= most for count in Counter(one.astimezone(BERLIN).date() for one in taken).values())


def test_words_are_filled_in_and_what_is_empty_leaves_no_trace() -> None:
    text = words_of("New: {Title}\n\n{summary}\n\n{address}", ITEM, fits=lambda _: True)
    assert text == "New: A comet\n\nSeen at dawn, low in the east.\n\nhttps://a.example/comet"
    bare = {"title": "A comet", "address": "https://a.example/comet"}
    assert words_of("{title}\n\n{summary}\n\n{address} by {author}", bare, fits=lambda _: True) == (
        "A comet\n\nhttps://a.example/comet by"
    )
    # What an item says is not asked for places again.
    assert words_of("{title}", {"title": "{address}", "address": "x"}, fits=lambda _: True) == "{address}"


@pytest.mark.parametrize("limit", [100, 140, 200, 400])
def test_a_long_summary_is_cut_at_a_word_to_what_fits(limit: int) -> None:
    item = ITEM | {"summary": "The comet was seen low in the east at dawn. " * 20}
    text = words_of("{title}: {summary} {address}", item, fits=lambda text: len(text) <= limit)
    assert limit - 12 < len(text) <= limit
    assert text.startswith("A comet: ")
    assert text.endswith(ITEM["address"])
    assert "\u2026" in text
    said = text.removeprefix("A comet: ").partition("\u2026")[0]
    assert item["summary"].startswith(said)
    assert item["summary"][len(said)] in " ,.;:"


def test_what_fits_in_no_way_is_given_whole() -> None:
    item = ITEM | {"title": "A very long title " * 20}
    text = words_of("{title} {summary}", item, fits=lambda text: len(text) <= 50)
    assert text.startswith("A very long title")
    assert text.endswith("in the east.")
    assert words_of("{title} {summary}", ITEM, fits=lambda text: len(text) <= 10) == "A comet"
