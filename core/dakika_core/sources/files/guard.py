"""Cells of exports, guarded against spreadsheets that would run them as formulas."""

from dakika_core.sources.files.numbers import parse_number


def neutralise(value: object) -> object:
    """A cell for export: texts that a spreadsheet would take for a formula get a leading apostrophe.

    Numbers stay numbers (common practice, from memory of a security guide).
    """
    if isinstance(value, str) and value[:1] in ("=", "+", "-", "@", "\t", "\r") and parse_number(value) is None:
        return "'" + value
    return value


def restore(text: str) -> str:
    """A text that `neutralise` guarded, as it was."""
    return text[1:] if text[:1] == "'" and text[1:2] in ("=", "+", "-", "@", "\t", "\r") else text
