"""The others' best posts: those that rise furthest above their own usual, whoever is larger."""

import re
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

from dakika_core.metrics.catalogue import CATALOGUE
from django.db.models import Count, F, Q, TextField
from django.db.models.functions import Cast

from dakika_server.competitors.models import LastLook
from dakika_server.figures.study import Study
from dakika_server.measures.models import PostMeasure
from dakika_server.results.queries import ordered, page_of
from dakika_server.results.tables import of_posts, table_of
from dakika_server.sources.models import PeerSet

SHOWN = "interactions,reactions,comments,shares,index"


@dataclass(frozen=True, kw_only=True)
class BestPosts:
    """A page of posts. since: when the person looked last; new: how many of all were published after that."""

    posts: list[PostMeasure]
    total: int
    new: int
    since: datetime | None
    following: str | None


def best_posts(
    study: Study, person: Any, peers: PeerSet | None, *, text: str = "", hashtag: str = "", sort: str = "-index",
    is_new: bool = False, cursor: str | None = None, limit: int = 60,
) -> BestPosts:  # fmt: skip
    """Posts of the set's competitors, the furthest above their own typical first; young ones by what they head for.

    is_new: only those that were published since the person looked last.
    """
    looked = LastLook.objects.filter(brand=study.brand, person=person, peers=peers).values_list("at", flat=True).first()
    others = replace(study, profiles=tuple(p for p in study.profiles if p.kind != "own"))
    found = table_of(others, text)
    if hashtag:
        word = hashtag.removeprefix("#").strip().lower()
        # Hashtags are kept as they were written.
        found = found.annotate(words=Cast(F("post__hashtags"), TextField())).filter(words__iregex=_in_array(word))
    counts = found.aggregate(total=Count("pk"), new=Count("pk", filter=Q(published_at__gt=looked) if looked else Q()))
    if is_new and looked:
        found = found.filter(published_at__gt=looked)
    measures = ordered(found, sort, CATALOGUE, young_of=study.brand.pk)
    rows, following = page_of(measures, sort, cursor, limit, of_posts(CATALOGUE, SHOWN))
    # The study knows its competitors: none is asked for by itself.
    whose = {p.pk: p.competitor.name if p.competitor else "" for p in others.profiles}
    for row in rows:
        row.owner = whose[row.profile_id]  # type: ignore[attr-defined]
    return BestPosts(posts=rows, total=counts["total"], new=counts["new"], since=looked, following=following)


def _in_array(word: str) -> str:
    """A pattern that finds a word in PostgreSQL's text of an array; the word may hold anything."""
    return r'[{,"]' + re.escape(word) + r'[},"]'
