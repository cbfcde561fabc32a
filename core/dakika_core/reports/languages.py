"""Languages of reports: labels and sentences from gettext catalogues, numbers and dates by CLDR (both through Babel).

Catalogues are PO files beside this one, with the English words as their keys; what a catalogue does not have stays
English. They are read when a language is first asked for.
"""

import re
from collections.abc import Mapping
from datetime import date
from functools import lru_cache
from pathlib import Path

# What people choose by, and the locale whose conventions hold.
LANGUAGES: Mapping[str, str] = {"en": "English", "pt": "Português", "el": "Ελληνικά", "sw": "Kiswahili"}
LOCALES: Mapping[str, str] = {"en": "en_GB", "pt": "pt_PT", "el": "el_GR", "sw": "sw_KE"}
_HERE = Path(__file__).parent / "locale"
MISSING = "\u2013"
_BY = re.compile(r"(.+) by ([a-z ]+)")
# Where names or numbers stand in a phrase: "Hours of {x}".
_PLACES = ("x", "y")


@lru_cache(maxsize=8)
def catalogue(language: str) -> Mapping[str, str]:
    """A language's words by the English ones; none for English itself. Raises KeyError for a language there is not."""
    if language not in LANGUAGES:
        raise KeyError(language)
    if language == "en":
        return {}
    from babel.messages.pofile import read_po

    with (_HERE / f"{language}.po").open("rb") as file:
        read = read_po(file, locale=language)
    return {str(one.id): str(one.string) for one in read if one.id and one.string and not one.fuzzy}


@lru_cache(maxsize=8)
def _phrases(language: str) -> list[tuple[re.Pattern[str], str]]:
    """Phrases with a place in them, the longest first, each with its words in the language."""
    found = [one for one in catalogue(language).items() if "{x}" in one[0]]
    read: list[tuple[re.Pattern[str], str]] = []
    for english, told in sorted(found, key=lambda one: -len(one[0])):
        pattern = re.escape(english)
        for place in _PLACES:
            pattern = pattern.replace(re.escape(f"{{{place}}}"), f"(?P<{place}>.+)")
        read.append((re.compile(pattern), told))
    return read


@lru_cache(maxsize=8192)
def translated(text: str, language: str) -> str:
    """A label in a language, else as it is. One of several parts ("Reach, Brevi", "Reach by day") is taken apart, and
    so is a phrase about something ("Hours of Brevi").
    """
    known = catalogue(language)
    if not known or not text:
        return text
    first, rest = text[:1], text[1:]
    if found := known.get(text) or known.get(first.lower() + rest):
        return found[:1].upper() + found[1:] if first.isupper() else found
    if found := known.get(first.upper() + rest):
        return found[:1].lower() + found[1:]
    for phrase, told in _phrases(language):
        if match := phrase.fullmatch(text):
            return told.format(**{place: translated(words, language) for place, words in match.groupdict().items()})
    by = _BY.fullmatch(text)
    if by and by[2] in known:
        return known["{name} by {what}"].format(name=translated(by[1], language), what=known[by[2]])
    head, comma, rest = text.partition(", ")
    return f"{translated(head, language)}, {translated(rest, language)}" if comma else text


def number_text(value: float | None, unit: str, language: str) -> str:
    """A figure as a language writes it; rates with two or three significant digits, missing as a dash, never zero."""
    from babel.numbers import format_decimal, format_percent

    locale = LOCALES[language]
    if value is None or value != value:
        return MISSING
    if unit in ("rate", "change"):
        # Three digits from ten per cent on, two below.
        text: str = format_percent(value, format=_percent(locale, "@@#" if abs(value) >= 0.1 else "@@"), locale=locale)
        return f"+{text}" if unit == "change" and value > 0 else text.replace("-", "\u2212")
    pattern = {
        "index": "0.00", "per_1000": "#,##0.0", "per_week": "#,##0.0", "per_post": "#,##0.0", "seconds": "#,##0.0",
        "number": "@@#", "money": "#,##0.00" if abs(value) < 1000 else "#,##0",
    }.get(unit, "#,##0")  # fmt: skip
    told: str = format_decimal(value, format=pattern, locale=locale)
    return (told + " s" if unit == "seconds" else told).replace("-", "\u2212")


@lru_cache(maxsize=64)
def _percent(locale: str, digits: str) -> str:
    """A locale's way of writing per cent, with other digits: the sign stands before, after, with or without a space."""
    from babel import Locale

    pattern: str = Locale.parse(locale).percent_formats[None].pattern
    return pattern.replace("#,##0", digits)


def day_text(day: date, language: str) -> str:
    """A day as a language writes it: 3 October 2026."""
    from babel.dates import format_date

    text: str = format_date(day, format="long", locale=LOCALES[language])
    return text


def days_text(first: date, last: date, language: str) -> str:
    """Days from one to another as a language writes them: 1 to 28 October 2026 becomes 1–28 October 2026."""
    from babel.dates import format_date, format_interval

    if first == last:
        return day_text(first, language)
    locale = LOCALES[language]
    if (first.year, first.month) != (last.year, last.month):
        # Not every locale's data has intervals over two months.
        return " \u2013 ".join(format_date(day, format="long", locale=locale) for day in (first, last))
    text: str = format_interval(first, last, skeleton="yMMMMd", locale=locale)
    return text
