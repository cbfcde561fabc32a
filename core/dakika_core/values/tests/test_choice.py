"""Promise: a choice reads back as it was written, and takes what is meant and nothing else."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.values.choice import Choice, read_choice

KEYS = st.lists(st.integers(0, 2**63 - 1), min_size=1, max_size=9)


@given(KEYS, st.booleans())
def test_what_is_written_is_read(values: list[int], is_not: bool) -> None:
    choice = Choice(tuple(values), is_not)
    assert read_choice(str(choice), int) == choice
    assert choice.values == tuple(sorted(set(values)))


@given(KEYS, st.one_of(st.none(), st.integers(0, 20)))
def test_any_of_and_not_leave_nothing_out_and_nothing_twice(values: list[int], value: int | None) -> None:
    assert Choice(tuple(values)).takes(value) is not Choice(tuple(values), is_not=True).takes(value)


def test_what_has_no_value_is_none_of_any() -> None:
    assert not Choice((1,)).takes(None)
    assert Choice((1,), is_not=True).takes(None)


@pytest.mark.parametrize("text", ["", "!", ",", "!,,", " "])
def test_a_choice_of_nothing_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match="at least one"):
        read_choice(text, str)


def test_the_single_one_is_told() -> None:
    assert read_choice("brevi", str).single == "brevi"
    assert read_choice("!brevi", str).single is None
    assert read_choice("a,b,a", str).values == ("a", "b")
