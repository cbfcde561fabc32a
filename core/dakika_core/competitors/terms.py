"""Which words do posts of a field turn on, and which belong together?

In the trade's words: topic analysis, keywords, co-occurrence.
"""

import re
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy import sparse
from scipy.cluster.hierarchy import fcluster, linkage

Array = NDArray[np.float64]
# Letters of any script, and marks within a word; addresses, mentions and hashtags are told apart from words.
_WORD = re.compile(r"[^\W\d_]+(?:['\u2019\u00b7-][^\W\d_]+)*")
_NO_WORDS = re.compile(r"https?://\S+|[#@]\w+")
SHORTEST = 3
FEWEST_POSTS = 5
FEWEST_PROFILES = 2
# A word of more posts than this is of the language, not of a subject.
MOST_COMMON = 0.4
# Words whose posts are as alike as this belong to one topic (cosine).
ALIKE = 0.35
MOST_TERMS = 60


def words_of(text: str) -> list[str]:
    """The words of a post in small letters, without addresses, mentions and hashtags."""
    plain = _NO_WORDS.sub(" ", text.casefold())
    return [word for word in _WORD.findall(plain) if len(word) >= SHORTEST]


def term_weights(counts: sparse.csr_matrix) -> sparse.csr_matrix:
    """Term frequency x inverse document frequency, each row of length one: shape (posts, terms) as the counts.

    idf = ln((1 + n) / (1 + df)) + 1: as if one more post held every term (G. Salton and C. Buckley 1988,
    "Term-weighting approaches in automatic text retrieval", Information Processing and Management 24, 513-523, with
    the smoothing of common libraries).
    """
    n = counts.shape[0]
    frequency = np.bincount(counts.indices, minlength=counts.shape[1])
    idf = np.log((1 + n) / (1 + frequency)) + 1
    weighted = counts.multiply(idf[None, :]).tocsr()
    lengths = np.sqrt(np.asarray(weighted.multiply(weighted).sum(axis=1)).ravel())
    scale = np.divide(1.0, lengths, out=np.zeros_like(lengths), where=lengths > 0)
    return sparse.csr_matrix(sparse.diags(scale) @ weighted)


@dataclass(frozen=True, kw_only=True)
class Topic:
    """Words that stand in the same posts. terms: the weightiest first. posts: places of the posts that hold any."""

    terms: tuple[str, ...]
    weight: float
    posts: NDArray[np.int64]


def no_stop_words(words: Sequence[str]) -> frozenset[str]:
    """Where nobody says which words are of the language alone."""
    del words
    return frozenset()


def topics_of(
    texts: Sequence[str], profiles: Sequence[int], *, most: int = MOST_TERMS,
    stop_words: Callable[[Sequence[str]], frozenset[str]] = no_stop_words,
) -> list[Topic]:  # fmt: skip
    """The topics of a field's posts, the weightiest first.

    stop_words says which of some words mean nothing by themselves. A term counts where at least five posts of two
    profiles hold it, and not more than two in five of all. Its weight is the mean of its term weights over all posts.
    Terms are joined by average linkage on the cosine of their posts.
    """
    found = [Counter(words_of(text)) for text in texts]
    in_posts: Counter[str] = Counter()
    whose: dict[str, set[int]] = {}
    for words, profile in zip(found, profiles, strict=True):
        in_posts.update(words.keys())
        for word in words:
            whose.setdefault(word, set()).add(profile)
    usable = sorted(
        word for word, n in in_posts.items()
        if n >= FEWEST_POSTS and n <= MOST_COMMON * len(texts) and len(whose[word]) >= FEWEST_PROFILES
    )  # fmt: skip
    stopped = stop_words(usable)
    usable = [word for word in usable if word not in stopped]
    if not usable:
        return []
    place = {word: i for i, word in enumerate(usable)}
    cells = [(i, place[word], n) for i, words in enumerate(found) for word, n in words.items() if word in place]
    rows, columns, counts = (np.array(column) for column in zip(*cells, strict=True))
    table = sparse.csr_matrix((counts.astype(float), (rows, columns)), shape=(len(texts), len(usable)))
    weights = term_weights(table)
    mean = np.asarray(weights.mean(axis=0)).ravel()
    kept = np.argsort(-mean, kind="stable")[:most]
    held = (table[:, kept] > 0).tocsc()
    topics = []
    for group in _joined(held):
        order = group[np.argsort(-mean[kept][group], kind="stable")]
        posts = np.unique(np.concatenate([held.indices[held.indptr[i] : held.indptr[i + 1]] for i in group]))
        topics.append(
            Topic(terms=tuple(usable[kept[i]] for i in order), weight=float(mean[kept][group].sum()),
                  posts=posts.astype(np.int64))
        )  # fmt: skip
    return sorted(topics, key=lambda topic: (-topic.weight, topic.terms))


def _joined(held: sparse.csc_matrix) -> list[NDArray[np.int64]]:
    """Columns whose posts are alike, as places: a list of groups."""
    many = held.shape[1]
    if many == 1:
        return [np.array([0])]
    table = held.astype(float)
    both = np.asarray((table.T @ table).todense())
    own = np.sqrt(np.diag(both))
    distance = np.clip(1 - both / np.outer(own, own), 0.0, 1.0)
    labels = fcluster(linkage(distance[np.triu_indices(many, 1)], "average"), 1 - ALIKE, "distance")
    return [np.flatnonzero(labels == label) for label in np.unique(labels)]
