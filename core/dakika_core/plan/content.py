"""One text for many networks: what is common, what a version has of its own, and which links stand in it.

A version has its own of a field only where somebody changed it there; everything else follows what is common. Addresses
in the common text are those of the pages; each version shows its own tracked link instead, so that the text stays one.

In the trade's words: cross-posting, per-network variant, override.
"""

from collections.abc import Iterable, Mapping
from typing import Any

from dakika_core.networks.text_rules import ADDRESS

# What a version may have of its own.
FIELDS = ("text", "headline", "first_comment", "media")


def with_links(text: str, links: Mapping[str, str]) -> str:
    """A text in which whole addresses of pages are replaced: page to short address."""
    return ADDRESS.sub(lambda found: links.get(found.group(0), found.group(0)), text) if links else text


def effective(common: Mapping[str, Any], own: Mapping[str, Any], links: Mapping[str, str]) -> dict[str, Any]:
    """All of FIELDS as a version has them: its own where it has, else the common ones, with its links in both texts."""
    found = {name: own.get(name, common[name]) for name in FIELDS}
    for name in ("text", "first_comment"):
        found[name] = with_links(found[name], links)
    return found


def own_of(common: Mapping[str, Any], written: Mapping[str, Any], links: Mapping[str, str]) -> dict[str, Any]:
    """What of a version, written out whole, is its own: what differs from the common field once links are put in."""
    plain = effective(common, {}, links)
    return {name: value for name, value in written.items() if name in FIELDS and value != plain[name]}


def common_of(versions: Iterable[str]) -> str:
    """The common text behind versions that were written out whole: the first that is not empty."""
    return next((text for text in versions if text), "")
