"""Cells of exports, guarded against spreadsheets that would run them as formulas."""

from dakika_core.sources.files.numbers import parse_number

# Also behind blanks, and in the full width that some programs fold to the plain signs.
_SIGNS = ("=", "+", "-", "@", "\uff1d", "\uff0b", "\uff0d", "\uff20")
_BREAKS = ("\t", "\r")


def _is_formula(text: str) -> bool:
    return text[:1] in _BREAKS or text.lstrip()[:1] in _SIGNS


def neutralise(value: object) -> object:
    """A cell for export: texts that a spreadsheet would take for a formula get a leading apostrophe.

    Numbers stay numbers (common practice, from memory of a security guide).
    """
    if isinstance(value, str) and _is_formula(value) and parse_number(value) is None:
        return "'" + value
    return value


def restore(text: str) -> str:
    """A text that `neutralise` guarded, as it was."""
    return text[1:] if text[:1] == "'" and text[1:] and _is_formula(text[1:]) else text
