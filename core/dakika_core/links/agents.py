"""What a request says of the program and the person behind it, roughly: device, browser, language.

In the trade's words: user agent parsing.
"""

from functools import lru_cache

OTHER = "other"
LONGEST_FAMILY = 40


def device_of(agent: str) -> str:
    """Kind of device by the agent string: phone, tablet, computer or other. A rough reading, and meant as one."""
    low = agent.lower()
    if "ipad" in low or "tablet" in low or ("android" in low and "mobile" not in low):
        return "tablet"
    if "mobi" in low or "iphone" in low:
        return "phone"
    if any(word in low for word in ("windows", "macintosh", "x11", "linux", "cros")):
        return "computer"
    return OTHER


@lru_cache(maxsize=8192)
def browser_of(agent: str) -> str:
    """The browser's family by the published expressions of ua-parser, without its version; `other` when unknown."""
    from ua_parser import parse_user_agent

    found = parse_user_agent(agent)
    return found.family[:LONGEST_FAMILY] if found is not None else OTHER


def language_of(accepted: str) -> str:
    """The language that is liked best (RFC 9110, 12.5.4), its primary subtag in lower case; empty when none is said.

    Of equal weights the first counts; weight 0 means "not acceptable"; `*` names no language.
    """
    best, weight = "", 0.0
    for part in accepted[:500].split(","):
        tag, *parameters = (piece.strip() for piece in part.split(";"))
        primary = tag.partition("-")[0].lower()
        if not (2 <= len(primary) <= 3 and primary.isalpha() and primary.isascii()):
            continue
        quality = _quality(parameters)
        if quality > weight:
            best, weight = primary, quality
    return best


def _quality(parameters: list[str]) -> float:
    for parameter in parameters:
        name, _, value = parameter.partition("=")
        if name.strip().lower() == "q":
            try:
                return min(1.0, max(0.0, float(value)))
            except ValueError:
                return 0.0
    return 1.0
