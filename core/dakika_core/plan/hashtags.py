"""Which hashtags go with a text and with each other, and which have worn out.

In the trade's words: hashtag research, lift.
"""

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import sparse

from dakika_core.competitors.terms import term_weights, words_of
from dakika_core.results.groups import Ratio, benjamini_hochberg, compare_groups

Array = NDArray[np.float64]

# Posts that must carry a hashtag before it says anything of a text, and two hashtags before they are alike.
FEWEST = 3
# The latest uses that are held against those before them, and how many there must be of either.
RECENT, FEWEST_USES = 10, 5
FDR = 0.05
# Below this likeness (cosine) a text has nothing to do with a hashtag's posts.
LEAST_LIKENESS = 0.05


@dataclass(frozen=True, kw_only=True)
class Likeness:
    """A hashtag and how like its posts are to a text (cosine, 0 to 1), or how often it goes with others (Jaccard)."""

    tag: str
    likeness: float
    posts: int


@dataclass(frozen=True, kw_only=True)
class Wear:
    """The latest uses of a hashtag against those before them. is_worn: they do worse, and chance is unlikely.

    ratio: of geometric means, with its interval; recent, earlier: how many posts.
    """

    ratio: Ratio
    recent: int
    earlier: int
    is_worn: bool


def for_text(
    text: str, texts: Sequence[str], hashtags: Sequence[Sequence[str]], *, stop_words: frozenset[str] = frozenset(),
    most: int = 20,
) -> list[Likeness]:  # fmt: skip
    """Hashtags whose posts speak of what a text speaks of, the likeliest first.

    Each hashtag is the mean of its posts' term weights; the likeness is the cosine of the text's weights with it
    (J. J. Rocchio 1971, "Relevance feedback in information retrieval", as nearest centroids). A word of the text that
    is a hashtag itself counts as certain. texts, hashtags: of each post; stop_words: of the text, those that mean
    nothing by themselves.
    """
    spoken = [word for word in words_of(text) if word not in stop_words]
    named = set(spoken)
    tags = [sorted({tag.casefold() for tag in given}) for given in hashtags]
    counts = Counter(tag for given in tags for tag in given)
    kept = sorted(tag for tag, n in counts.items() if n >= FEWEST)
    found = {tag: 0.0 for tag in counts if tag in named or _joined_in(tag, text)}
    found = dict.fromkeys(found, 1.0)
    if kept and named:
        weights, vocabulary = _weights([*texts, " ".join(spoken)])
        if vocabulary:
            own, of_posts = weights[-1], weights[:-1]
            place = {tag: i for i, tag in enumerate(kept)}
            pairs = [(place[tag], row) for row, given in enumerate(tags) for tag in given if tag in place]
            member = sparse.csr_matrix(
                (np.ones(len(pairs)), ([i for i, _ in pairs], [row for _, row in pairs])), shape=(len(kept), len(texts))
            )
            means = member @ of_posts
            lengths = np.sqrt(np.asarray(means.multiply(means).sum(axis=1)).ravel())
            cosines = np.asarray((means @ own.T).todense()).ravel() / np.maximum(lengths, 1e-12)
            for tag, cosine in zip(kept, cosines, strict=True):
                if cosine >= LEAST_LIKENESS:
                    found[tag] = max(found.get(tag, 0.0), float(cosine))
    rows = [Likeness(tag=tag, likeness=value, posts=counts[tag]) for tag, value in found.items()]
    return sorted(rows, key=lambda one: (-one.likeness, -one.posts, one.tag))[:most]


def _joined_in(tag: str, text: str) -> bool:
    """Whether a text holds the words that a hashtag writes together: "sky tonight" for skytonight."""
    words = words_of(text)
    return any(words[i] + words[i + 1] == tag for i in range(len(words) - 1))


def _weights(texts: Sequence[str]) -> tuple[sparse.csr_matrix, dict[str, int]]:
    vocabulary: dict[str, int] = {}
    rows, columns = [], []
    for row, text in enumerate(texts):
        for word in words_of(text):
            rows.append(row)
            columns.append(vocabulary.setdefault(word, len(vocabulary)))
    shape = (len(texts), max(1, len(vocabulary)))
    counts = sparse.csr_matrix((np.ones(len(rows)), (rows, columns)), shape=shape)
    return term_weights(counts), vocabulary


def similar(asked: Iterable[str], hashtags: Sequence[Sequence[str]], most: int = 10) -> list[Likeness]:
    """Hashtags that stand in the same posts as those asked for: the Jaccard index of their posts (P. Jaccard 1901).

    Of several that are asked for the nearest one counts. Those that are asked for are left out.
    """
    wanted = {tag.casefold() for tag in asked}
    counts: Counter[str] = Counter()
    together: Counter[tuple[str, str]] = Counter()
    for given in hashtags:
        tags = {tag.casefold() for tag in given}
        counts.update(tags)
        for a in tags & wanted:
            together.update((a, b) for b in tags - wanted)
    best: dict[str, Likeness] = {}
    for (a, b), n in together.items():
        value = n / (counts[a] + counts[b] - n)
        if n >= FEWEST and (b not in best or value > best[b].likeness):
            best[b] = Likeness(tag=b, likeness=value, posts=n)
    return sorted(best.values(), key=lambda one: (-one.likeness, -one.posts, one.tag))[:most]


def wear_of(uses: Mapping[str, Array]) -> dict[str, Wear]:
    """Whether hashtags have worn out: the last ten uses of each against those before them.

    uses: of each hashtag its posts' indices in the order in which they were published, shape (n,), > 0; nan is unknown.
    Several are judged at once, so that the false discovery rate is kept over all of them (Benjamini and Hochberg 1995).
    Those with fewer than five uses on either side are left out.
    """
    found: dict[str, Ratio] = {}
    sizes: dict[str, tuple[int, int]] = {}
    for tag, index in uses.items():
        known = index[np.isfinite(index) & (index > 0)]
        recent = min(RECENT, len(known) // 2)
        if recent < FEWEST_USES:
            continue
        is_recent = np.arange(len(known)) >= len(known) - recent
        ratio = next(one.raw for one in compare_groups(known, {"recent": is_recent}))
        if ratio is not None:
            found[tag], sizes[tag] = ratio, (recent, len(known) - recent)
    qs = benjamini_hochberg(np.array([one.p for one in found.values()]))
    return {
        tag: Wear(ratio=ratio, recent=sizes[tag][0], earlier=sizes[tag][1], is_worn=bool(q <= FDR and ratio.value < 1))
        for (tag, ratio), q in zip(found.items(), qs, strict=True)
    }
