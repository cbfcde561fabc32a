"""Texts made shorter for people: at the end of a word, and said to be so.

In the trade's words: truncation, ellipsis, excerpt.
"""

import regex

# What is seen as one sign, however many characters it is written with (Unicode UAX #29).
GRAPHEME = regex.compile(r"\X")


def opening_words(text: str, most: int) -> str:
    """How a text begins, on one line, in at most so many characters."""
    return cut(" ".join(text.replace("\x00", "").split()), most)


def cut(text: str, most: int) -> str:
    """A text of at most so many characters, cut at the end of a word and said to be so."""
    if len(text) <= most:
        return text
    if most < 1:
        return " "
    words = text[: most - 1]
    if not text[most - 1].isspace():
        # Where no blanks are written, at the end of what is seen as one sign.
        words = words.rpartition(" ")[0] or words[: _last_sign(text, most - 1)]
    return words.rstrip(" ,;:.\u2013-") + "\u2026"


def _last_sign(text: str, most: int) -> int:
    ends = (found.end() for found in GRAPHEME.finditer(text, 0, most + 64))
    return max((end for end in ends if end <= most), default=0)
