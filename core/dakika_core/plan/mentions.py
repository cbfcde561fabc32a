"""Whom does a post name, and are they called so on the network that it goes to?

A mention is an at sign and a handle behind a space or a sign, as common use has it: an address of mail is none. Handles
are held together whatever their case.

In the trade's words: handles, tagging people.
"""

import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

_MENTION = re.compile(r"(?<![\w@/.])@(\w[\w.\-]*(?:@[\w\-]+(?:\.[\w\-]+)+(?::\d+)?)?)")


@dataclass(frozen=True, kw_only=True)
class Known:
    """A profile that is known. owner: whose it is, so that profiles of one owner on several networks go together."""

    network: str
    handle: str
    owner: str


@dataclass(frozen=True, kw_only=True)
class Elsewhere:
    """A mention that leads to nobody we know on this network. here: what its owner is called there; "" if unknown."""

    handle: str
    owner: str
    here: str


def mentions_in(text: str) -> list[str]:
    """Handles that a text names, each once, in their order, without the at sign."""
    return list(dict.fromkeys(found.rstrip(".-") for found in _MENTION.findall(text)))


def mentions_elsewhere(texts: Iterable[str], network: str, profiles: Iterable[Known]) -> Iterator[Elsewhere]:
    """Mentions of profiles that are known on other networks alone, with what the same owner is called on this one."""
    on: dict[str, list[Known]] = {}
    called: dict[tuple[str, str], str] = {}
    for one in profiles:
        on.setdefault(one.handle.casefold(), []).append(one)
        called.setdefault((one.owner, one.network), one.handle)
    for handle in dict.fromkeys(handle for text in texts for handle in mentions_in(text)):
        known = on.get(handle.casefold(), [])
        owners = {one.owner for one in known}
        # A handle that belongs to several is nobody's for sure.
        if len(owners) != 1 or any(one.network == network for one in known):
            continue
        (owner,) = owners
        yield Elsewhere(handle=handle, owner=owner, here=called.get((owner, network), ""))
