"""Texts with places to fill in: a place is a name in braces, such as {day of opening}.

Braces that hold no name (none, several lines, braces, more than forty signs) are text like any other.

In the trade's words: placeholders, merge fields.
"""

import re
from collections.abc import Mapping

LONGEST_PLACE = 40
_PLACE = re.compile(rf"\{{\s*([^\W_][^{{}}\n\r]{{0,{LONGEST_PLACE - 1}}}?)\s*\}}")


def places_in(*texts: str) -> list[str]:
    """The places of texts in the order in which they come, each once; capitals make no difference."""
    found: dict[str, str] = {}
    for text in texts:
        for name in _PLACE.findall(text):
            found.setdefault(name.casefold(), name)
    return list(found.values())


def filled(text: str, values: Mapping[str, str]) -> str:
    """A text with its places filled in. A place without a value stays as it is, for all to see.

    What is filled in is not looked through for places again, so that no value can ask for another.
    """
    told = {name.casefold(): value for name, value in values.items() if value.strip()}
    return _PLACE.sub(lambda place: told.get(place[1].casefold(), place[0]), text)
