"""Which hashtags to take: those that fit the text, did well for us or in the field, or go with those chosen."""

import hashlib
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.competitors.terms import words_of
from dakika_core.metrics.catalogue import CATALOGUE
from dakika_core.plan.hashtags import Wear, for_text, similar, wear_of
from dakika_core.results.groups import GroupResult
from django.core.cache import cache

from dakika_server.brands.models import Brand
from dakika_server.competitors.works import stop_words_in
from dakika_server.figures.study import Study, study_of
from dakika_server.plan.hashtags.seen import ask_for, latest
from dakika_server.plan.hashtags.sets import tag_of
from dakika_server.plan.models import HashtagReading
from dakika_server.results.groups import compare
from dakika_server.results.queries import measures_in
from dakika_server.sources.models import Profile

DAYS = 365
MOST_POSTS = 5_000
MOST_EACH = 8
KEPT_SECONDS = 300
INDEX = CATALOGUE["index"]
Results = Mapping[str, GroupResult]


@dataclass(frozen=True, kw_only=True)
class Posts:
    """Posts with hashtags of a year, ours and the field's, in the order in which they were published."""

    texts: list[str]
    hashtags: list[list[str]]
    index: list[float | None]
    is_own: list[bool]
    languages: set[str]


def proposals(
    brand: Brand, now: datetime, *, text: str, profiles: Sequence[int] = (), chosen: Sequence[str] = ()
) -> dict[str, Any]:
    """Hashtags by why they are proposed, each with what is known of it.

    profiles: own ones that the post is for; their results and the field's on their networks are looked at. chosen: what
    stands in the tray already. What networks tell is what was read last; what is not known yet is asked for by the
    worker, and is_asked says so.
    """
    own, field = studies(brand, now, profiles)
    ours, theirs = results_of(own), results_of(field)
    posts = posts_of((own, field))
    wanted = list(dict.fromkeys(filter(None, (tag_of(one).casefold() for one in chosen))))
    stop_words = stop_words_in(posts.languages)(words_of(text)) if text.strip() else frozenset()
    fitting = for_text(text, posts.texts, posts.hashtags, stop_words=stop_words, most=MOST_EACH)
    known = latest(brand, wanted)
    near = [one.tag for one in similar(wanted, posts.hashtags, MOST_EACH)]
    told_near = [word for tag in wanted for row in known.get(tag, []) for word in row.related]
    by_why = {
        "text": [one.tag for one in fitting],
        "own": _best(ours),
        "field": _best(theirs),
        "similar": list(dict.fromkeys([*near, *told_near]))[:MOST_EACH],
    }
    by_why = {why: [tag for tag in tags if tag not in wanted] for why, tags in by_why.items()}
    every = list(dict.fromkeys([*wanted, *(tag for tags in by_why.values() for tag in tags)]))
    known = latest(brand, every)
    is_asked = ask_for(brand, every, known)
    likeness = {one.tag: one.likeness for one in fitting}
    return {
        "by_why": by_why, "days": DAYS, "posts": sum(posts.is_own),
        "posts_of_field": len(posts.texts) - sum(posts.is_own), "is_asked": is_asked,
        "tags": details(every, ours, theirs, wear(posts, every), known, likeness),
    }  # fmt: skip


def studies(brand: Brand, now: datetime, profiles: Sequence[int] = ()) -> tuple[Study, Study]:
    """Our posts of a year and the field's, each at the age that they allow; of some profiles and their networks."""
    today = now.astimezone(brand.zone).date()
    values = {"first": today - timedelta(days=DAYS), "last": today, "compare": "previous"}
    networks = set(Profile.objects.filter(brand=brand, kind="own", pk__in=profiles).values_list("network", flat=True))

    def of(kind: str) -> Study:
        found = study_of(brand, values, now, kind=kind)
        kept = tuple(p for p in found.profiles if not networks or p.network in networks)
        return replace(found, profiles=kept)

    return of("own"), of("competitor")


def results_of(study: Study) -> dict[str, GroupResult]:
    """How posts with each hashtag did against the others of the same profiles and formats; the forty most used.

    Kept for some minutes: while somebody writes they are asked for again and again.
    """
    profiles = "-".join(map(str, study.profile_ids))
    key = f"hashtag-results-{study.brand.pk}-{study.today}-{hashlib.sha256(profiles.encode()).hexdigest()[:24]}"
    kept: dict[str, GroupResult] | None = cache.get(key)
    if kept is None:
        kept = {group.key.casefold(): group.result for group in compare(study, "hashtag", INDEX).groups}
        cache.set(key, kept, KEPT_SECONDS)
    return kept


def posts_of(of: Iterable[Study]) -> Posts:
    """The newest posts with hashtags of some studies; a query each."""
    rows: list[tuple[Any, ...]] = []
    for study in of:
        found = measures_in(study, study.period).exclude(post__hashtags=[])
        columns = ("published_at", "post__text", "post__hashtags", "profile_index", "post__language", "profile__kind")
        rows += found.order_by("-published_at").values_list(*columns)[:MOST_POSTS]
    rows.sort(key=lambda row: row[0])
    return Posts(
        texts=[row[1] for row in rows], hashtags=[row[2] for row in rows], index=[row[3] for row in rows],
        is_own=[row[5] == "own" for row in rows], languages={row[4] for row in rows if row[4]},
    )  # fmt: skip


def wear(posts: Posts, tags: Iterable[str]) -> dict[str, Wear]:
    """Which of some hashtags have worn out for us."""
    wanted: dict[str, list[float]] = {tag: [] for tag in tags}
    for given, index, is_own in zip(posts.hashtags, posts.index, posts.is_own, strict=True):
        if is_own:
            for tag in {one.casefold() for one in given} & wanted.keys():
                wanted[tag].append(index or np.nan)
    return wear_of({tag: np.array(values, dtype=float) for tag, values in wanted.items()})


def details(
    tags: Sequence[str], ours: Results, theirs: Results, worn: Mapping[str, Wear],
    known: Mapping[str, Sequence[HashtagReading]], likeness: Mapping[str, float] | None = None,
) -> list[dict[str, Any]]:  # fmt: skip
    """What is known of hashtags: our results, the field's, whether they have worn out, and what networks tell."""
    return [
        {
            "tag": tag, "own": _result(ours.get(tag)), "of_field": _result(theirs.get(tag)),
            "wear": _wear(worn.get(tag)), "likeness": (likeness or {}).get(tag),
            "seen": [
                {"network": row.network, "at": row.taken_at, "uses": row.uses, "week": row.week, "warm": row.warm,
                 "cold": row.cold, "is_restricted": row.is_restricted, "problem": row.problem}
                for row in known.get(tag, ())
            ],
        }
        for tag in tags
    ]  # fmt: skip


def _best(results: Results) -> list[str]:
    """Those that do better, then those not told apart, by the low end of their interval; none that do worse."""
    judged = [(tag, one) for tag, one in results.items() if one.verdict in ("better", "open")]
    judged.sort(key=lambda pair: (pair[1].verdict != "better", -_low(pair[1])))
    return [tag for tag, _ in judged[:MOST_EACH]]


def _low(result: GroupResult) -> float:
    held = result.adjusted or result.raw
    return held.interval.low if held else 0.0


def _result(result: GroupResult | None) -> dict[str, Any] | None:
    if result is None:
        return None
    held = result.adjusted or result.raw
    return {
        "posts": result.n, "index": result.index, "verdict": result.verdict, "times": held.value if held else None,
        "low": held.interval.low if held else None, "high": held.interval.high if held else None,
    }  # fmt: skip


def _wear(found: Wear | None) -> dict[str, Any] | None:
    if found is None:
        return None
    return {
        "times": found.ratio.value, "low": found.ratio.interval.low, "high": found.ratio.interval.high,
        "recent": found.recent, "earlier": found.earlier, "is_worn": found.is_worn,
    }  # fmt: skip
