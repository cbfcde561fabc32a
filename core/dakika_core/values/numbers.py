"""Whole numbers as they may be written in addresses, headers and words of strangers."""

# Eighteen figures fit every whole number of a database (64 bits); str.isdigit also takes ², which int does not.
MOST_FIGURES = 18


def whole_number(text: str) -> int | None:
    """The number that plain figures (0-9) write; None for anything else, and for more than eighteen figures."""
    return int(text) if text.isascii() and text.isdigit() and len(text) <= MOST_FIGURES else None
