"""Promise: what a network counts is counted as it does, and what it would refuse is said beforehand."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.networks.definition import CountUnit, MediaRule, Need, NetworkDefinition, TextRule
from dakika_core.networks.text_rules import check_text, count_graphemes, count_text, hashtags_of

BREVI = NetworkDefinition(
    key="brevi", name="Brevi", monogram="Br", half_life_hours=0.75,
    text=TextRule(limit=300, unit=CountUnit.GRAPHEMES, link_length=24, room_to_pass_on=30),
)  # fmt: skip
BREAKS = Path("/usr/share/unicode/auxiliary/GraphemeBreakTest.txt")


def test_user_perceived_characters_as_the_unicode_standard_breaks_them() -> None:
    """UAX #29, GraphemeBreakTest of Debian's unicode-data: all lines but at most one, for the version of Unicode."""
    wrong = total = 0
    for line in BREAKS.read_text().splitlines():
        rule = line.split("#")[0].strip()
        if not rule:
            continue
        total += 1
        clusters = [part for part in rule.split("÷") if part.strip()]
        text = "".join(chr(int(code, 16)) for part in clusters for code in part.replace("×", " ").split())
        wrong += count_graphemes(text) != len(clusters)
    assert total > 500
    assert wrong <= 1


@pytest.mark.parametrize(
    ("text", "count"), [("👩‍👩‍👧‍👦", 1), ("é", 1), ("e\u0301", 1), ("🇵🇹🇧🇷", 2), ("", 0), ("שלום", 4)]
)
def test_emoji_and_accents_count_as_people_see_them(text: str, count: int) -> None:
    assert count_text(text, BREVI) == count


def test_a_link_counts_24_whatever_its_length() -> None:
    assert count_text("See https://a.example/" + "x" * 400, BREVI) == 28
    assert count_text("https://a.example/x, and http://b.example", BREVI) == 24 + 6 + 24


def test_too_long_is_refused_and_little_room_is_only_said() -> None:
    assert not check_text("x" * 301, BREVI).is_publishable
    tight = check_text("x" * 290, BREVI)
    assert tight.is_publishable
    assert tight.problems[0].code == "little_room"
    assert check_text("x" * 270, BREVI).problems == ()


@pytest.mark.parametrize("text", ["", "  \n ", "a\x00b"])
def test_empty_and_broken_texts_are_refused(text: str) -> None:
    assert not check_text(text, BREVI).is_publishable


def test_hashtags_in_any_script_once_each() -> None:
    assert hashtags_of("#Night #night #été2026 a#no #123 https://a.example/#part #夜") == ("night", "été2026", "夜")


@given(st.text(max_size=400))
def test_any_text_can_be_checked(text: str) -> None:
    assert check_text(text, BREVI).count >= 0


def a_network(*, need: Need = Need.NOTHING, **rule: object) -> NetworkDefinition:
    values = {"limit": 100, "unit": CountUnit.CODE_POINTS} | rule
    return NetworkDefinition(
        key="made", name="Made up", monogram="Mu", half_life_hours=5.0, text=TextRule(**values),  # type: ignore[arg-type]
        media=MediaRule(need=need),
    )  # fmt: skip


def codes(text: str, network: NetworkDefinition) -> list[tuple[str, bool]]:
    return [(problem.code, problem.is_blocking) for problem in check_text(text, network).problems]


def test_more_hashtags_than_a_network_takes_are_counted_and_named() -> None:
    network = a_network(most_hashtags=2)
    assert codes("#one #two #ONE", network) == []
    told = check_text("#one #two #three", network)
    assert not told.is_publishable
    assert told.problems[0].message == "3 hashtags; Made up takes 2."


def test_a_link_that_a_network_does_not_take_is_refused() -> None:
    network = a_network(has_links=False)
    assert codes("See https://orrery.example/tickets", network) == [("no_links", True)]
    assert codes("See our page", network) == []


def test_what_is_refused_stands_before_what_is_only_said() -> None:
    network = a_network(room_to_pass_on=10, most_hashtags=0, limit=20)
    told = codes("Fifteen long #one", network)
    assert told == [("too_many_hashtags", True), ("little_room", False)]
    assert "16 characters too long" in check_text("x" * 36, network).problems[0].message
    assert "1 character too long" in check_text("x" * 21, network).problems[0].message


def test_code_points_are_counted_as_code_points() -> None:
    assert count_text("👩‍👩‍👧‍👦", a_network()) == 7
    assert count_text("👩‍👩‍👧‍👦", a_network(unit=CountUnit.GRAPHEMES)) == 1
