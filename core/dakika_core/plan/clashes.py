"""What of a plan gets in its own way: two posts at once, the same link or text again too soon, a campaign's gap.

How near is too near is common practice, no source: ten minutes between two posts of a profile, a day for the same link,
two weeks for the same words, a week of silence within a campaign.

In the trade's words: scheduling conflict, duplicate content.
"""

from collections import defaultdict
from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import lru_cache
from itertools import pairwise

import regex

AT_ONCE = timedelta(minutes=10)
SAME_LINK = timedelta(days=1)
SAME_TEXT = timedelta(days=14)
LONG_GAP = timedelta(days=7)
FEWEST_WORDS = 3


@dataclass(frozen=True, kw_only=True)
class Planned:
    """A version with its minute. post: the planned post's number."""

    post: int
    profile: int
    at: datetime
    text: str = ""
    link: int | None = None
    campaign: int | None = None


@dataclass(frozen=True, kw_only=True)
class Clash:
    """Two planned posts that get in each other's way; of a gap, those before and after it."""

    kind: str
    first: int
    second: int
    apart: timedelta
    campaign: int | None = None


def clashes(plan: Iterable[Planned]) -> list[Clash]:
    """All clashes of a plan, by time; each pair once for each kind."""
    rows = sorted(plan, key=lambda one: (one.at, one.post, one.profile))
    found: dict[tuple[str, int, int], tuple[datetime, Clash]] = {}

    def note(kind: str, first: Planned, second: Planned) -> None:
        clash = Clash(kind=kind, first=first.post, second=second.post, apart=second.at - first.at,
                      campaign=first.campaign if kind == "gap" else None)  # fmt: skip
        found.setdefault((kind, first.post, second.post), (first.at, clash))

    keys: dict[str, tuple[timedelta, Callable[[Planned], Hashable]]] = {
        "at_once": (AT_ONCE, lambda _: 0), "same_link": (SAME_LINK, lambda one: one.link),
        "same_text": (SAME_TEXT, lambda one: _words(one.text)),
    }  # fmt: skip
    for kind, (near, key) in keys.items():
        for first, second in _neighbours(rows, key, within=lambda one: one.profile):
            if first.post != second.post and second.at - first.at < near:
                note(kind, first, second)
    for first, second in _neighbours(rows, lambda one: one.campaign):
        if second.at - first.at > LONG_GAP:
            note("gap", first, second)
    return [clash for _, clash in sorted(found.values(), key=lambda one: (one[0], one[1].kind, one[1].first))]


def _neighbours(
    rows: Sequence[Planned], key: Callable[[Planned], Hashable], within: Callable[[Planned], Hashable] = lambda _: 0
) -> Iterable[tuple[Planned, Planned]]:
    """Each with the next of the same key within the same; what has no key is left out."""
    together: dict[Hashable, list[Planned]] = defaultdict(list)
    for one in rows:
        found = key(one)
        if found is not None:
            together[within(one), found].append(one)
    for group in together.values():
        yield from pairwise(group)


_ADDRESS = regex.compile(r"https?://\S+")
_WORD = regex.compile(r"[\p{L}\p{N}]+")


@lru_cache(maxsize=4096)
def _words(text: str) -> tuple[str, ...] | None:
    """The words of a text without addresses and signs; None where they are too few to say anything."""
    words = tuple(_WORD.findall(_ADDRESS.sub(" ", text).casefold()))
    return words if len(words) >= FEWEST_WORDS else None
