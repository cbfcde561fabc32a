"""Is this request a person's? Bots are counted apart, with the reason, and never dropped.

In the trade's words: bot detection, crawler filter, invalid traffic.
"""

import re
from collections.abc import Iterable, Mapping
from enum import StrEnum
from functools import lru_cache

MOST_REMEMBERED = 8192


class BotReason(StrEnum):
    """Why a click is not counted among people's."""

    NONE = ""
    AGENT = "agent"
    NO_AGENT = "no_agent"
    METHOD = "method"
    PREFETCH = "prefetch"
    BURST = "burst"
    ROUND = "round"


# Words that programs call themselves by (a make of phone that ends in bot is none), and an address to ask at.
_WORDS = re.compile(
    r"(?<!cu)bot(?![a-z]{3})|crawl|spider|slurp|https?://|www\.|\+http|[\w.]+@[\w.-]+\.[a-z]{2}", re.IGNORECASE
)


def is_program(agent: str) -> bool:
    """Whether an agent string is a program's by its form: it says so, or is none such as browsers have.

    Every browser's begins with Mozilla (common practice, no source; Opera's once began with its own
    name) and says in brackets what it runs on; Java/11 does neither.
    """
    if _WORDS.search(agent):
        return True
    return not agent.startswith(("Mozilla/", "Opera/")) and "(" not in agent


class AgentPatterns:
    """Published patterns of crawlers' agent strings, compiled once into one expression."""

    def __init__(self, patterns: Iterable[str]) -> None:
        """Raises re.error when a pattern is not a regular expression."""
        self._any = re.compile("|".join(f"(?:{pattern})" for pattern in patterns))
        self._asked: dict[str, bool] = {}

    def match(self, agent: str) -> bool:
        """Whether the agent string is a program's. A person's takes half a millisecond: each is asked once."""
        found = self._asked.get(agent)
        if found is None:
            if len(self._asked) >= MOST_REMEMBERED:
                self._asked.clear()
            found = self._asked[agent] = is_program(agent) or self._any.search(agent) is not None
        return found


@lru_cache(maxsize=1)
def known_crawlers() -> AgentPatterns:
    """Published patterns of crawlers (the package crawler-user-agents), compiled once per process."""
    import crawleruseragents

    return AgentPatterns(entry["pattern"] for entry in crawleruseragents.CRAWLER_USER_AGENTS_DATA)


def purpose_of(method: str, headers: Mapping[str, str]) -> BotReason:
    """Reason to count a request apart that its head alone tells, without looking at known agents."""
    if method == "HEAD":
        return BotReason.METHOD
    purpose = f"{headers.get('sec-purpose', '')} {headers.get('purpose', '')} {headers.get('x-moz', '')}".lower()
    if "prefetch" in purpose or "prerender" in purpose or "preview" in purpose:
        return BotReason.PREFETCH
    return BotReason.NONE if headers.get("user-agent", "").strip() else BotReason.NO_AGENT


def classify(method: str, headers: Mapping[str, str], patterns: AgentPatterns) -> BotReason:
    """Reason to count a request apart; headers by lower-case name."""
    reason = purpose_of(method, headers)
    if reason is not BotReason.NONE:
        return reason
    return BotReason.AGENT if patterns.match(headers["user-agent"].strip()) else BotReason.NONE
