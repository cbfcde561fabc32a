"""A first wording for a subject, from what the brand's own posts did well with.

Nothing is written that the brand did not write: an opening is the beginning that its posts share, a call to act one of
their last lines, hashtags are theirs. Each part is held against the other posts as any group is (results.groups), and
says how sure it is; what is not told apart from the others is offered as usual, not as better.

In the trade's words: copywriting suggestions.
"""

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from dakika_core.results.groups import FEWEST, GroupResult, compare_groups

Array = NDArray[np.float64]
Kind = Literal["opening", "close", "hashtag"]

MOST_WORDINGS = 4
MOST_HASHTAGS = 3
# Of a group's posts so many share what is taken as its beginning.
SHARED = 0.5
LONGEST_OPENING_WORDS = 5
# Characters of the middle half of the posts that did best.
BEST_SHARE = 0.25

_ADDRESS = re.compile(r"https?://\S+")
_TAG = re.compile(r"#\w+")
_WORD = re.compile(r"\w[\w'\u2019-]*")
_SENTENCE = re.compile(r"[^.!?\u2026\n]+[.!?\u2026]*")


@dataclass(frozen=True, kw_only=True)
class Pattern:
    """What posts of a brand have in common, and how they did beside its others.

    words: as it is put in. index: of these posts, as times the usual; result: the group held against the rest.
    """

    kind: Kind
    words: str
    ends: str
    result: GroupResult


@dataclass(frozen=True, kw_only=True)
class Patterns:
    """All of a brand's. characters: between which the middle half of its best posts are long; None: too few posts."""

    openings: tuple[Pattern, ...]
    closes: tuple[Pattern, ...]
    hashtags: tuple[Pattern, ...]
    characters: tuple[int, int] | None
    posts: int


@dataclass(frozen=True, kw_only=True)
class Wording:
    """A text to go on from, and the patterns that it is made of. An ellipsis marks where to write on."""

    text: str
    patterns: tuple[Pattern, ...]


def plain(text: str) -> str:
    """A post without addresses and hashtags."""
    return _TAG.sub("", _ADDRESS.sub("", text))


def opening_of(text: str) -> str:
    """The first two words in small letters, after whatever signs; nothing where there are fewer."""
    words = _WORD.findall(plain(text))
    return " ".join(words[:2]).casefold() if len(words) > 1 else ""


def close_of(text: str) -> str:
    """The last sentence, without addresses and hashtags; nothing where it is the first one, too."""
    sentences = [" ".join(one.split()) for one in _SENTENCE.findall(plain(text)) if _WORD.search(one)]
    return sentences[-1].strip(" :.\u2192-") if len(sentences) > 1 else ""


def learn(texts: Sequence[str], hashtags: Sequence[Sequence[str]], index: Array, controls: Array) -> Patterns:
    """Patterns of a brand's posts.

    texts, hashtags: of each post; index: shape (n,), as times what is usual for its profile, nan where unknown;
    controls: shape (n, k), what is held the same. Patterns of fewer than five posts are none. The best come first:
    by the low end of the interval, so that three lucky posts do not lead.
    """
    known = np.isfinite(index) & (index > 0)
    openings = _groups([opening_of(text) for text in texts], known)
    closes = _groups([close_of(text).casefold() for text in texts], known)
    tags: dict[str, list[int]] = {}
    for i, given in enumerate(hashtags):
        for tag in {one.casefold() for one in given}:
            tags.setdefault(tag, []).append(i)
    sets = {tag: _mask(rows, len(texts)) for tag, rows in tags.items() if known[rows].sum() >= FEWEST}
    return Patterns(
        openings=tuple(
            Pattern(kind="opening", words=beginning, ends=end, result=result)
            for result, mask in _judged(openings, index, controls)
            for beginning, end in [_beginning(_of(texts, mask))]
        ),
        closes=tuple(
            Pattern(kind="close", words=_most_common([close_of(text) for text in _of(texts, mask)]), ends="",
                    result=result)
            for result, mask in _judged(closes, index, controls)
        ),
        hashtags=tuple(
            Pattern(kind="hashtag", words=f"#{result.name}", ends="", result=result)
            for result, _ in _judged(sets, index, controls)
        ),
        characters=_lengths(texts, index, known), posts=int(known.sum()),
    )  # fmt: skip


def wordings(subject: str, page: str, patterns: Patterns) -> list[Wording]:
    """First wordings for a subject: one for each of the best openings, and one that simply begins with it.

    Hashtags that do worse than the brand's other posts are not put in. page: an address for the end, may be empty.
    """
    subject = " ".join(subject.split()).rstrip(".")
    close = next((one for one in patterns.closes if one.result.verdict != "worse"), None)
    tags = tuple(one for one in patterns.hashtags if one.result.verdict != "worse")[:MOST_HASHTAGS]
    good = [one for one in patterns.openings if one.result.verdict != "worse"]
    found = []
    for opening in [*good[: MOST_WORDINGS - 1], None]:
        plainest = f"{subject[:1].upper()}{subject[1:]}: \u2026"
        lines = [f"{opening.words} {subject} \u2026{opening.ends}" if opening else plainest]
        if close or page:
            lines.append(_closed(close.words, page) if close else page)
        if tags:
            lines.append(" ".join(tag.words for tag in tags))
        used = (*([opening] if opening else []), *([close] if close else []), *tags)
        found.append(Wording(text="\n\n".join(lines), patterns=used))
    return found


def _closed(words: str, page: str) -> str:
    """A last line with the page behind it; one that ends as a sentence of its own keeps its sign."""
    end = "" if words[-1:] in "?!\u2026" else ":" if page else "."
    return f"{words}{end} {page}".strip()


def _groups(names: Sequence[str], known: NDArray[np.bool_]) -> dict[str, NDArray[np.bool_]]:
    counts = Counter(name for name, is_known in zip(names, known, strict=True) if name and is_known)
    kept = {name for name, n in counts.items() if n >= FEWEST}
    return {name: np.array([one == name for one in names]) for name in sorted(kept)}


def _of(texts: Sequence[str], mask: NDArray[np.bool_]) -> list[str]:
    return [text for text, is_in in zip(texts, mask, strict=True) if is_in]


def _mask(rows: Sequence[int], n: int) -> NDArray[np.bool_]:
    mask = np.zeros(n, bool)
    mask[list(rows)] = True
    return mask


def _judged(
    groups: dict[str, NDArray[np.bool_]], index: Array, controls: Array
) -> list[tuple[GroupResult, NDArray[np.bool_]]]:
    """Groups with how they did, by the low end of the comparison's interval."""
    if not groups:
        return []
    found = compare_groups(index, groups, controls)
    found.sort(key=lambda one: -_low(one))
    return [(one, groups[one.name]) for one in found]


def _low(result: GroupResult) -> float:
    held = result.adjusted or result.raw
    return held.interval.low if held else 0.0


def _beginning(texts: Sequence[str]) -> tuple[str, str]:
    """The longest beginning of words that half of the texts share, and the sign that ends their first sentence."""
    firsts = [_first_sentence(text) for text in texts]
    words = [_WORD.findall(first) for first in firsts]
    shared = _most_common([" ".join(one[:2]) for one in words])
    for size in range(3, LONGEST_OPENING_WORDS + 1):
        longer = [one[:size] for one in words if len(one) > size]
        if not longer:
            break
        small = [" ".join(one).casefold() for one in longer]
        most = _most_common(small)
        if small.count(most) < SHARED * len(words):
            break
        shared = _most_common([" ".join(one) for one, key in zip(longer, small, strict=True) if key == most])
    asks = sum(first.endswith("?") for first in firsts)
    return shared, "?" if asks > len(firsts) / 2 else ""


def _first_sentence(text: str) -> str:
    found = _SENTENCE.search(plain(text).strip())
    return " ".join(found[0].split()) if found else ""


def _most_common(words: Sequence[str]) -> str:
    return Counter(words).most_common(1)[0][0]


def _lengths(texts: Sequence[str], index: Array, known: NDArray[np.bool_]) -> tuple[int, int] | None:
    """Lower and upper quartile of the characters of the best quarter of posts."""
    rows = np.flatnonzero(known)
    if len(rows) < 4 * FEWEST:
        return None
    best = rows[np.argsort(-index[rows], kind="stable")[: max(FEWEST, int(len(rows) * BEST_SHARE))]]
    low, high = np.quantile([len(texts[i]) for i in best], [0.25, 0.75])
    return round(float(low)), round(float(high))
