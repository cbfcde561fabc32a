"""Promise: a post that names somebody by the handle of another network says so, and how they are called here."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.mentions import Elsewhere, Known, mentions_elsewhere, mentions_in

PROFILES = [
    Known(network="commons", handle="halfmoon@commons.example", owner="Halfmoon"),
    Known(network="brevi", handle="HalfMoonPl", owner="Halfmoon"),
    Known(network="pictor", handle="gnomon", owner="Gnomon Gallery"),
    Known(network="brevi", handle="same", owner="One"),
    Known(network="pictor", handle="same", owner="Another"),
]


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("With @gnomon and @halfmoonpl.", ["gnomon", "halfmoonpl"]),
        ("(@gnomon) @gnomon, @a.b-c", ["gnomon", "a.b-c"]),
        ("mira@ninthbell.example writes", []),
        ("@halfmoon@commons.example!", ["halfmoon@commons.example"]),
        ("https://pictor.example/@gnomon", []),
        ("@", []),
        ("\u201c@\u03b3\u03bd\u03ce\u03bc\u03c9\u03bd\u201d", ["\u03b3\u03bd\u03ce\u03bc\u03c9\u03bd"]),
    ],
)
def test_what_is_a_mention(text: str, found: list[str]) -> None:
    assert mentions_in(text) == found


def elsewhere(text: str, network: str) -> list[Elsewhere]:
    return list(mentions_elsewhere([text], network, PROFILES))


def test_whoever_is_called_otherwise_here_is_told() -> None:
    assert elsewhere("Thanks, @HALFMOONPL", "commons") == [
        Elsewhere(handle="HALFMOONPL", owner="Halfmoon", here="halfmoon@commons.example")
    ]
    assert elsewhere("Thanks, @gnomon", "brevi") == [Elsewhere(handle="gnomon", owner="Gnomon Gallery", here="")]


def test_nothing_is_said_of_those_who_are_here_of_strangers_and_of_handles_of_several() -> None:
    assert elsewhere("@halfmoonpl @nobody @same", "brevi") == []
    assert elsewhere("@same", "commons") == []


@given(st.text(), st.sampled_from(["commons", "brevi"]))
def test_any_text_can_be_asked(text: str, network: str) -> None:
    for handle in mentions_in(text):
        assert f"@{handle}" in text
    assert all(one.here != one.handle for one in elsewhere(text, network))
