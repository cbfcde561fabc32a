"""Which posts would a tag's rule catch?"""

import re
from dataclasses import dataclass
from enum import StrEnum

LONGEST_WORDS = 200


class RuleKind(StrEnum):
    """What a rule looks at."""

    TEXT = "text"
    HASHTAG = "hashtag"
    FORMAT = "format"
    CAMPAIGN = "campaign"


@dataclass(frozen=True, kw_only=True)
class TagRule:
    """A rule: text holds these words, one of the hashtags, a format's key, or a campaign's number as text."""

    kind: RuleKind
    value: str

    @property
    def cleaned(self) -> str:
        """The value as it is looked for. Raises ValueError where there is nothing to look for."""
        value = " ".join(self.value.split())
        if self.kind is RuleKind.HASHTAG:
            value = value.removeprefix("#").casefold()
        if not value:
            raise ValueError("Say what the rule looks for.")
        if len(value) > LONGEST_WORDS:
            raise ValueError(f"A rule looks for at most {LONGEST_WORDS} characters.")
        return value

    def pattern(self) -> str:
        """For rules on text, a regular expression that finds the words whole and in any case.

        "sun" must not catch "Sunday", but "night opening" may stand across a line break.
        """
        words = [re.escape(word) for word in self.cleaned.split()]
        first = r"\m" if re.match(r"\w", self.cleaned) else ""
        last = r"\M" if re.search(r"\w$", self.cleaned) else ""
        return first + r"\s+".join(words) + last
