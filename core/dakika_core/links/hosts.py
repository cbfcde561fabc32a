"""Internationalised host names shown honestly: what they look like, what they are, and whether scripts are mixed.

In the trade's words: homograph attack, punycode, internationalised domain name.
"""

from dataclasses import dataclass
from urllib.parse import urlsplit

import idna
import regex

# Scripts that are written together (Unicode UTS #39, 5.2, "highly restrictive"); Latin may stand with each.
TOGETHER = (
    frozenset({"Latin", "Han", "Hiragana", "Katakana"}), frozenset({"Latin", "Han", "Bopomofo"}),
    frozenset({"Latin", "Han", "Hangul"}),
)  # fmt: skip
SCRIPTS = ("Latin", "Cyrillic", "Greek", "Armenian", "Hebrew", "Arabic", "Devanagari", "Thai", "Georgian", "Han",
           "Hiragana", "Katakana", "Hangul", "Bopomofo", "Cherokee", "Coptic")  # fmt: skip
_SCRIPT = {name: regex.compile(rf"\p{{Script={name}}}") for name in SCRIPTS}


@dataclass(frozen=True, kw_only=True)
class ShownHost:
    """A host as people read it and as machines call it; `warning` says why it may mislead."""

    shown: str
    ascii: str
    warning: str = ""


def shown_host(address: str) -> ShownHost:
    """The host of a cleaned address (its host in ASCII)."""
    host = urlsplit(address).hostname or ""
    labels = []
    for label in host.split("."):
        try:
            labels.append(idna.decode(label) if label.startswith("xn--") else label)
        except idna.IDNAError:
            labels.append(label)
    shown = ".".join(labels)
    mixed = next(
        (label for label in labels if len(scripts_of(label)) > 1 and not _go_together(scripts_of(label))), None
    )
    if mixed is not None:
        scripts = " and ".join(sorted(scripts_of(mixed)))
        return ShownHost(
            shown=host, ascii=host, warning=f"“{mixed}” mixes {scripts} letters; it is shown as it is called."
        )
    warning = f"The host is written {host} for machines." if shown != host else ""
    return ShownHost(shown=shown, ascii=host, warning=warning)


def scripts_of(label: str) -> frozenset[str]:
    """Scripts whose letters stand in a label."""
    return frozenset(name for name, pattern in _SCRIPT.items() if pattern.search(label))


def _go_together(scripts: frozenset[str]) -> bool:
    return any(scripts <= together for together in TOGETHER)
