"""Campaign parameters by their open convention, filled from a brand's rules.

Values are lower case with one separator, since tools compare them by letter (common practice, no
source). A rule is a text with places in braces: "{network}", "{campaign}-{year}". A place for which
nothing is known is left out together with the separators around it.

In the trade's words: UTM tagging, campaign parameters.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from anyascii import anyascii

PARTS = ("source", "medium", "campaign", "term", "content")
LONGEST_VALUE = 100
_PLACE = re.compile(r"\{([a-z_]*)\}")
_BRACES = re.compile(r"[{}]")

PLACES = {
    "network": "the network's own name for sources, such as commons",
    "medium": "the network's medium, such as social",
    "profile": "the profile's handle",
    "campaign": "the campaign's name",
    "post": "the post's title, or the link's name",
    "brand": "the brand's name",
    "year": "the year, as 2026",
    "month": "the month, as 2026-11",
    "week": "the week (ISO 8601), as 2026-w48",
}


class Existing(StrEnum):
    """What happens to a parameter that the destination has already."""

    KEEP = "keep"
    REPLACE = "replace"


class RuleError(ValueError):
    """A rule that cannot be filled; `part` names the parameter it belongs to, the text says what is wrong."""

    def __init__(self, part: str, text: str) -> None:
        super().__init__(text)
        self.part = part


@dataclass(frozen=True, kw_only=True)
class UtmRules:
    """A brand's rules: a template for each parameter, how values are written, and who wins over whom.

    Raises RuleError for places that do not exist and braces without their other half.
    """

    templates: Mapping[str, str] = field(
        default_factory=lambda: {
            "source": "{network}",
            "medium": "{medium}",
            "campaign": "{campaign}",
            "term": "",
            "content": "",
        }
    )
    separator: str = "-"
    is_lower: bool = True
    is_transliterated: bool = True
    existing: Existing = Existing.KEEP

    def __post_init__(self) -> None:
        if self.separator not in ("-", "_", "."):
            raise RuleError("separator", "The separator is one of - _ .")
        for part, template in self.templates.items():
            if part not in PARTS:
                raise RuleError(part, f"There is no parameter {part}.")
            for name in _PLACE.findall(template):
                if name not in PLACES:
                    known = ", ".join("{" + place + "}" for place in PLACES)
                    raise RuleError(part, f"There is no place {{{name}}}. There are {known}.")
            if _BRACES.search(_PLACE.sub("", template)):
                raise RuleError(part, "A brace stands without its other half.")


@dataclass(frozen=True, kw_only=True)
class Utm:
    """The five parameters; empty ones are left out of an address."""

    source: str = ""
    medium: str = ""
    campaign: str = ""
    term: str = ""
    content: str = ""

    def as_parameters(self) -> dict[str, str]:
        """Names and values as they stand in an address, in the usual order."""
        return {f"utm_{part}": getattr(self, part) for part in PARTS}


def written(text: str, rules: UtmRules) -> str:
    """A value as the rules want it: 'The Repaired Hour' gives 'the-repaired-hour', 'Ώρα' gives 'ora'.

    Letters of other scripts are transliterated (the package anyascii) or kept as they are; whatever
    is neither letter nor digit becomes one separator.
    """
    plain = anyascii(text) if rules.is_transliterated else text
    plain = plain.lower() if rules.is_lower else plain
    pieces = re.split(r"[^0-9A-Za-z]+" if rules.is_transliterated else r"[\W_]+", plain)
    return rules.separator.join(piece for piece in pieces if piece)[:LONGEST_VALUE].rstrip(rules.separator)


def filled(rules: UtmRules, known: Mapping[str, str]) -> Utm:
    """The parameters for a link, from what is known of it (by the names of PLACES)."""
    values = {}
    for part, template in rules.templates.items():
        text = _PLACE.sub(lambda place: known.get(place[1], ""), template)
        values[part] = written(text, rules)
    return Utm(**values)


def slug(text: str) -> str:
    """Lower-case letters, digits and single hyphens, by the ordinary rules."""
    return written(text, UtmRules())
