"""First wordings for a subject, learnt from the brand's own posts of a year."""

from collections import Counter
from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.plan.wording import Pattern, Wording, learn, wordings
from dakika_core.results.groups import indicators
from dakika_core.values.choice import Choice

from dakika_server.brands.models import Brand
from dakika_server.figures.study import study_of
from dakika_server.results.queries import measures_in
from dakika_server.sources.models import Profile

DAYS = 365
MOST_POSTS = 3_000


def first_wordings(
    brand: Brand, now: datetime, *, subject: str, page: str = "", profiles: Sequence[int] = (), language: str = ""
) -> dict[str, Any]:
    """Wordings with what each part of them rests on.

    profiles: whose posts are learnt from; none asks for all own ones. Where posts are in several languages, those of
    the most frequent one are learnt from, or of the one that is asked for, and those that say none.
    """
    own = Profile.objects.filter(brand=brand, kind="own")
    asked = list((own.filter(pk__in=list(profiles)) if profiles else own).order_by("pk").values_list("pk", flat=True))
    rows = _posts(brand, now, asked) if asked else []
    languages = Counter(row["post__language"] for row in rows if row["post__language"])
    chosen = language or (languages.most_common(1)[0][0] if languages else "")
    rows = [row for row in rows if row["post__language"] in ("", chosen)]
    columns = [
        indicators([str(row[name]) for row in rows]) for name in ("profile_id", "format") if rows
    ]  # fmt: skip
    found = learn(
        [row["post__text"] for row in rows], [row["post__hashtags"] for row in rows],
        np.array([row["profile_index"] or np.nan for row in rows], dtype=float),
        np.column_stack(columns) if columns else np.empty((0, 0)),
    )  # fmt: skip
    return {
        "language": chosen, "languages": [name for name, _ in languages.most_common()], "posts": found.posts,
        "days": DAYS, "characters": found.characters,
        "wordings": [_told(one) for one in wordings(subject, page, found)],
    }  # fmt: skip


def _posts(brand: Brand, now: datetime, profiles: Sequence[int]) -> list[dict[str, Any]]:
    today = now.astimezone(brand.zone).date()
    values = {"first": today - timedelta(days=DAYS), "last": today, "compare": "previous",
              "profile": Choice(values=tuple(profiles))}  # fmt: skip
    study = study_of(brand, values, now)
    found = measures_in(study, study.period).filter(profile_index__gt=0).exclude(post__text="")
    columns = ("profile_id", "format", "profile_index", "post__text", "post__hashtags", "post__language")
    return [dict(row) for row in found.order_by("-published_at").values(*columns)[:MOST_POSTS]]


def _told(wording: Wording) -> dict[str, Any]:
    return {"text": wording.text, "patterns": [_pattern(one) for one in wording.patterns]}


def _pattern(pattern: Pattern) -> dict[str, Any]:
    """A pattern with its comparison: the adjusted one where there is one."""
    result = pattern.result
    held = result.adjusted or result.raw
    return {
        "kind": pattern.kind, "words": pattern.words, "posts": result.n, "verdict": result.verdict,
        "times": held.value if held else None, "low": held.interval.low if held else None,
        "high": held.interval.high if held else None,
    }  # fmt: skip
