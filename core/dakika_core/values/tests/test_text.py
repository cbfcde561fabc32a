"""Promise: a text is cut at the end of a word, or of a sign, and says that it was."""

from dakika_core.values.text import cut, opening_words


def test_cutting() -> None:
    assert cut("one two three", 40) == "one two three"
    assert cut("one two three", 9) == "one two\u2026"
    assert cut("oneverylongword", 5) == "onev\u2026"
    assert cut("one two", 0) == " "
    family = "\U0001f468\u200d\U0001f469\u200d\U0001f467"
    assert cut(family * 3, 12) == family * 2 + "\u2026"
    assert cut(family * 3, 9) == family + "\u2026"


def test_how_a_text_begins_stands_on_one_line() -> None:
    assert opening_words(" Late opening,\n low\tlight\x00 ", 40) == "Late opening, low light"
    assert opening_words("Every clock in the house strikes ten", 20) == "Every clock in the\u2026"
    assert opening_words("", 20) == ""
