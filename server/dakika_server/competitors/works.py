"""What works in the field: which kinds of the others' posts do better than their own usual, and how we use them."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import timedelta
from typing import NamedTuple

import numpy as np
from dakika_core.competitors.terms import Topic, topics_of, words_of
from dakika_core.metrics.catalogue import CATALOGUE
from dakika_core.results.groups import GroupResult, Moments, compare_moments, indicators
from django.db import connection
from django.db.models import QuerySet
from numpy.typing import NDArray

from dakika_server.figures.study import Study
from dakika_server.measures.models import PostMeasure
from dakika_server.results.groups import compare
from dakika_server.results.queries import measures_in
from dakika_server.results.tables import counted

GROUPINGS = ("hashtag", "format", "topic", "length", "link", "weekday")
# Texts are read for topics in the server: so many of the newest, and it says so.
MOST_TEXTS = 6000
MOST_TOPICS = 25
INDEX = CATALOGUE["index"]


@dataclass(frozen=True, kw_only=True)
class Work:
    """A group of the others' posts against their other posts, and our own use of it.

    ours, ours_of: our posts in it, and of how many; our_index: what they get against our own usual, None for none.
    """

    key: str
    result: GroupResult
    ours: int
    our_index: float | None
    terms: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Works:
    """All groups of a grouping. posts, left_out: of the others. not_read: texts beyond the newest that were read."""

    by: str
    groups: list[Work]
    posts: int
    left_out: int
    ours_of: int
    held: tuple[str, ...]
    not_read: int = 0


def works_of(study: Study, by: str) -> Works:
    """Groups of what the others of the set published, the best first; Benjamini and Hochberg over those shown."""
    others, own = (
        replace(study, profiles=tuple(p for p in study.profiles if (p.kind == "own") == is_own))
        for is_own in (False, True)
    )
    if by == "topic":
        return _topics(others, own)
    theirs, ours = compare(others, by, INDEX), compare(own, by, INDEX)
    used = {group.key: group for group in ours.groups}
    return Works(
        by=by, posts=theirs.posts, left_out=theirs.left_out, ours_of=ours.posts, held=theirs.held,
        groups=[
            Work(key=group.key, result=group.result, ours=used[group.key].result.n if group.key in used else 0,
                 our_index=used[group.key].result.index if group.key in used else None)
            for group in theirs.groups
        ],
    )  # fmt: skip


class _Text(NamedTuple):
    profile: int
    format: str
    text: str
    language: str
    profile_index: float | None


def _texts(study: Study) -> list[_Text]:
    """The newest posts, as far as they are read."""
    rows = (
        _newest(study).order_by("-published_at")
        .values_list("profile_id", "format", "post__text", "post__language", "profile_index")[:MOST_TEXTS]
    )  # fmt: skip
    return [_Text(*row) for row in rows]


def _newest(study: Study) -> QuerySet[PostMeasure]:
    """Measures of the newest posts of a period: of so many days that there are enough, counted by the index alone."""
    found, days = measures_in(study, study.period), study.period.days // 16
    while 0 < days < study.period.days:
        newest = measures_in(study, replace(study.period, first=study.period.last - timedelta(days=days - 1)))
        if newest.count() >= MOST_TEXTS:
            return newest
        days *= 2
    return found


# Words of the language alone, as PostgreSQL's own dictionaries list them: a stop word has no lexeme there.
_STOPPED = """
SELECT DISTINCT word FROM unnest(%(words)s::text[]) AS word CROSS JOIN unnest(%(dictionaries)s::regdictionary[]) AS d
WHERE ts_lexize(d, word) = '{}'
"""
# ISO 639 to the dictionary of its language; those that come with a list of stop words.
DICTIONARIES = {
    "da": "danish", "nl": "dutch", "en": "english", "fi": "finnish", "fr": "french", "de": "german",
    "hu": "hungarian", "it": "italian", "ne": "nepali", "no": "norwegian", "pt": "portuguese", "ru": "russian",
    "es": "spanish", "sv": "swedish", "tr": "turkish",
}  # fmt: skip


def stop_words_in(languages: Iterable[str]) -> Callable[[Sequence[str]], frozenset[str]]:
    """Which words mean nothing by themselves in some languages, English among them; others have no list here."""
    used = sorted({f"{DICTIONARIES[one]}_stem" for one in {*languages, "en"} if one in DICTIONARIES})

    def found(words: Sequence[str]) -> frozenset[str]:
        with connection.cursor() as cursor:
            cursor.execute(_STOPPED, {"words": list(words), "dictionaries": used})
            return frozenset(word for (word,) in cursor.fetchall())

    return found


def _topics(others: Study, own: Study) -> Works:
    rows, ours = _texts(others), _texts(own)
    topics = topics_of(
        [row.text for row in rows], [row.profile for row in rows],
        stop_words=stop_words_in({row.language for row in rows}),
    )[:MOST_TOPICS]  # fmt: skip
    judged = _judged(rows, topics) if topics else []
    total = counted(others, measures_in(others, others.period), "")["total"]
    words = [set(words_of(row.text)) for row in ours]
    return Works(
        by="topic", posts=total, left_out=sum(not row.profile_index for row in rows), ours_of=len(ours),
        held=("profile", "format"), not_read=total - len(rows),
        groups=[_topic(topics[int(r.name)], r, words, ours) for r in judged],
    )  # fmt: skip


def _judged(rows: Sequence[_Text], topics: Sequence[Topic]) -> list[GroupResult]:
    """Each topic against the posts outside of it, by cells of profile and format."""
    index = np.array([row.profile_index or np.nan for row in rows], dtype=float)
    usable = index > 0
    cells = sorted({(row.profile, row.format) for row in rows})
    place = {cell: i for i, cell in enumerate(cells)}
    at = np.array([place[row.profile, row.format] for row in rows])
    logs = np.log(np.where(usable, index, 1.0))

    def moments(mask: NDArray[np.bool_]) -> Moments:
        inside = mask & usable
        n, total, squares = (
            np.bincount(at[inside], weights, len(cells)).astype(float)
            for weights in (np.ones(int(inside.sum())), logs[inside], logs[inside] ** 2)
        )
        return Moments(n=n, total=total, squares=squares)

    groups = {}
    for i, topic in enumerate(topics):
        mask = np.zeros(len(rows), dtype=bool)
        mask[topic.posts] = True
        groups[str(i)] = moments(mask)
    controls = np.column_stack(
        [indicators([str(profile) for profile, _ in cells]), indicators([kind for _, kind in cells])]
    )
    return compare_moments(moments(np.ones(len(rows), dtype=bool)), groups, controls)


def _topic(topic: Topic, result: GroupResult, words: Sequence[set[str]], ours: Sequence[_Text]) -> Work:
    terms = set(topic.terms)
    inside = [row for row, held in zip(ours, words, strict=True) if terms & held]
    logs = [np.log(row.profile_index) for row in inside if row.profile_index]
    return Work(
        key=topic.terms[0], result=replace(result, name=" ".join(topic.terms[:4])), ours=len(inside),
        our_index=float(np.exp(np.mean(logs))) if logs else None, terms=topic.terms,
    )  # fmt: skip
