"""Is this request a person's? Bots are counted apart, with the reason, and never dropped."""

import re
from collections.abc import Iterable, Mapping
from enum import StrEnum


class BotReason(StrEnum):
    """Why a click is not counted among people's."""

    NONE = ""
    AGENT = "agent"
    NO_AGENT = "no_agent"
    METHOD = "method"
    PREFETCH = "prefetch"
    BURST = "burst"


class AgentPatterns:
    """Published patterns of crawlers' agent strings, compiled once into one expression."""

    def __init__(self, patterns: Iterable[str]) -> None:
        """Raises re.error when a pattern is not a regular expression."""
        self._any = re.compile("|".join(f"(?:{pattern})" for pattern in patterns))

    def match(self, agent: str) -> bool:
        """Whether the agent string is a known crawler's."""
        return self._any.search(agent) is not None


def classify(method: str, headers: Mapping[str, str], patterns: AgentPatterns) -> BotReason:
    """Reason to count a request apart; headers by lower-case name."""
    if method == "HEAD":
        return BotReason.METHOD
    purpose = f"{headers.get('sec-purpose', '')} {headers.get('purpose', '')} {headers.get('x-moz', '')}".lower()
    if "prefetch" in purpose or "prerender" in purpose or "preview" in purpose:
        return BotReason.PREFETCH
    agent = headers.get("user-agent", "").strip()
    if not agent:
        return BotReason.NO_AGENT
    return BotReason.AGENT if patterns.match(agent) else BotReason.NONE


def device_of(agent: str) -> str:
    """Kind of device by the agent string: phone, tablet, computer or other. A rough reading, and meant as one."""
    low = agent.lower()
    if "ipad" in low or "tablet" in low or ("android" in low and "mobile" not in low):
        return "tablet"
    if "mobi" in low or "iphone" in low:
        return "phone"
    if any(word in low for word in ("windows", "macintosh", "x11", "linux", "cros")):
        return "computer"
    return "other"
