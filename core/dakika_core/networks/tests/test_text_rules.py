"""Promise: what a network counts is counted as it does, and what it would refuse is said beforehand."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.networks.definition import CountUnit, NetworkDefinition, TextRule
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
