"""Promise: words of strangers are numbers only where plain figures stand, and never break the reading."""

import pytest

from dakika_core.values.numbers import whole_number


@pytest.mark.parametrize("text", ["", "²", "１２", "٣", "-1", "1.0", " 1", "9" * 19, "9" * 6000, "1_000"])
def test_what_is_no_whole_number(text: str) -> None:
    assert whole_number(text) is None


def test_what_is_one() -> None:
    assert whole_number("007") == 7
    assert whole_number("9" * 18) == 10**18 - 1
