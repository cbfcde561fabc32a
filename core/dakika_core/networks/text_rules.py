"""How long is this text by the network's own count, and what is wrong with it?

User-perceived characters are extended grapheme clusters of UAX #29.
"""

import re
from dataclasses import dataclass

import regex

from dakika_core.networks.definition import CountUnit, NetworkDefinition
from dakika_core.values.text import GRAPHEME

ADDRESS = re.compile(r"https?://[^\s<>\"]+[^\s<>\".,;:!?)\]'»”’]", re.IGNORECASE)


@dataclass(frozen=True, kw_only=True)
class Problem:
    """Something about a post: `is_blocking` means that the network would refuse it. part: which field it is of."""

    code: str
    message: str
    is_blocking: bool
    part: str = "text"


@dataclass(frozen=True, kw_only=True)
class TextCheck:
    """A text held against a network's rules; `count` and `limit` in the network's unit."""

    count: int
    limit: int
    problems: tuple[Problem, ...]

    @property
    def is_publishable(self) -> bool:
        """Whether the network would take it."""
        return not any(problem.is_blocking for problem in self.problems)


def count_graphemes(text: str) -> int:
    """Number of user-perceived characters (UAX #29)."""
    return sum(1 for _ in GRAPHEME.finditer(text))


def count_text(text: str, network: NetworkDefinition) -> int:
    """Length of a text as the network counts it."""
    rule = network.text
    count = count_graphemes if rule.unit is CountUnit.GRAPHEMES else len
    if rule.link_length is None:
        return count(text)
    links = len(ADDRESS.findall(text))
    return count(ADDRESS.sub("", text)) + links * rule.link_length


def check_text(text: str, network: NetworkDefinition) -> TextCheck:
    """Count a text and list its problems, the blocking ones first."""
    rule = network.text
    count = count_text(text, network)
    problems = []
    if rule.needs_text and not text.strip():
        problems.append(Problem(code="empty", message="Write something first.", is_blocking=True))
    if "\x00" in text:
        problems.append(Problem(code="nul", message="The text holds a NUL character. Take it out.", is_blocking=True))
    if count > rule.limit:
        over = count - rule.limit
        problems.append(
            Problem(
                code="too_long",
                message=f"{over} {'character' if over == 1 else 'characters'} too long for {network.name}.",
                is_blocking=True,
            )
        )
    elif rule.room_to_pass_on and count > rule.limit - rule.room_to_pass_on:
        problems.append(
            Problem(
                code="little_room",
                message=f"Leaves {rule.limit - count} characters for people who pass it on; "
                f"{rule.room_to_pass_on} are usual.",
                is_blocking=False,
            )
        )
    problems += _other_problems(text, network)
    return TextCheck(count=count, limit=rule.limit, problems=tuple(sorted(problems, key=lambda p: not p.is_blocking)))


def _other_problems(text: str, network: NetworkDefinition) -> list[Problem]:
    """What a network asks for beside a length."""
    rule, found = network.text, []
    tags = len(hashtags_of(text))
    if rule.most_hashtags is not None and tags > rule.most_hashtags:
        message = f"{tags} hashtags; {network.name} takes {rule.most_hashtags}."
        found.append(Problem(code="too_many_hashtags", message=message, is_blocking=True))
    if not rule.has_links and ADDRESS.search(text):
        message = f"{network.name} takes no links in a text; name the page of your profile instead."
        found.append(Problem(code="no_links", message=message, is_blocking=True))
    return found


def hashtags_of(text: str) -> tuple[str, ...]:
    """Hashtags in order of appearance, lower case, without the sign, each once."""
    found = (tag.lower() for tag in regex.findall(r"(?<![\p{L}\p{N}_&/])#([\p{L}\p{N}_]*\p{L}[\p{L}\p{N}_]*)", text))
    return tuple(dict.fromkeys(found))
