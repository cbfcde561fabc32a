"""Promise: a template's places are filled with what was given for them and nothing else; the rest stays to be seen."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.templates import LONGEST_PLACE, filled, places_in


@pytest.mark.parametrize(("text", "wanted"), [
    ("{what} opens on {day of opening}.", ["what", "day of opening"]),
    ("{Day} and {day} and { day }", ["Day"]),
    ("no { } place, nor {\n}, {a{b}, {_x}, " + "{" + "a" * 41 + "}", ["b"]),
    ("{größe} {Ώρα} {日付} {2 rooms}", ["größe", "Ώρα", "日付", "2 rooms"]),
    ("{" + "a" * LONGEST_PLACE + "}", ["a" * LONGEST_PLACE]),
    ("{}", []),
])  # fmt: skip
def test_places_are_names_in_braces(text: str, wanted: list[str]) -> None:
    assert places_in(text) == wanted


def test_a_place_without_a_value_stays() -> None:
    assert filled("{What} on {day}", {"what": "The clock", "day": "  "}) == "The clock on {day}"


def test_what_is_filled_in_asks_for_nothing() -> None:
    assert filled("{a} {b}", {"a": "{b}", "b": "{a}"}) == "{b} {a}"
    assert filled("{a}", {"a": r"\1 \g<0>"}) == r"\1 \g<0>"


@given(st.text(max_size=80), st.dictionaries(st.text(max_size=6), st.text(max_size=6), max_size=3))
def test_text_outside_of_places_is_never_touched(text: str, values: dict[str, str]) -> None:
    assert places_in(text) or filled(text, values) == text
