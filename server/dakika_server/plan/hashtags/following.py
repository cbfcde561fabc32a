"""Followed hashtags: how they stand, and how one did over time."""

from datetime import datetime
from typing import Any

import numpy as np
from dakika_core.results.groups import compare_groups

from dakika_server.brands.models import Brand
from dakika_server.figures.study import Study
from dakika_server.plan.hashtags.proposals import details, posts_of, results_of, studies, wear
from dakika_server.plan.hashtags.seen import ask_for, latest
from dakika_server.plan.hashtags.sets import followed_of, tag_of
from dakika_server.plan.models import HashtagReading
from dakika_server.results.queries import measures_in

MOST_READINGS = 2_000


def followed(brand: Brand, now: datetime) -> dict[str, Any]:
    """All that are followed with their results of a year, and what networks tell of them."""
    tags = list(followed_of(brand).values_list("tag", flat=True))
    if not tags:
        return {"is_asked": False, "tags": []}
    own, field = studies(brand, now)
    known = latest(brand, tags)
    worn = wear(posts_of([own]), tags)
    return {
        "is_asked": ask_for(brand, tags, known),
        "tags": details(tags, results_of(own), results_of(field), worn, known),
    }  # fmt: skip


def course_of(brand: Brand, now: datetime, tag: str) -> dict[str, Any]:
    """How a hashtag did: by month of a year, ours and in the field, and how much it was used as networks told.

    Each month has its posts, their index as a geometric mean, and its 95 % interval (t on the logs); one post has none.
    """
    word = tag_of(tag).casefold()
    own, field = studies(brand, now)
    readings = HashtagReading.objects.filter(brand=brand, tag=word, uses__isnull=False).order_by("-taken_at")
    return {
        "tag": word, "own": _months(own, word), "field": _months(field, word),
        "readings": [
            {"network": row.network, "at": row.taken_at, "uses": row.uses, "week": row.week}
            for row in reversed(readings[:MOST_READINGS])
        ],
    }  # fmt: skip


def posts_with(study: Study, word: str) -> list[tuple[int, datetime, float]]:
    """Posts that carry a hashtag: number, when they were published by the brand's clock, and index."""
    return [
        (pk, at.astimezone(study.brand.zone), index)
        for pk, at, index, given in measures_in(study, study.period).exclude(post__hashtags=[])
        .values_list("post_id", "published_at", "profile_index", "post__hashtags")
        if index and word in {one.casefold() for one in given}
    ]  # fmt: skip


def _months(study: Study, word: str) -> list[dict[str, Any]]:
    """Months with posts that carry a hashtag, in their order."""
    rows = posts_with(study, word)
    if not rows:
        return []
    of = np.array([f"{at:%Y-%m-01}" for _, at, _ in rows])
    found = compare_groups(np.array([index for *_, index in rows]), {month: of == month for month in np.unique(of)})
    return [
        {"month": one.name, "posts": one.n, "index": one.index,
         "low": one.interval.low if one.interval else None, "high": one.interval.high if one.interval else None}
        for one in sorted(found, key=lambda one: one.name)
    ]  # fmt: skip
