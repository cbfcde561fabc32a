"""Findings of a brand: put together from what the core says of groups, days, trends and posts, and kept.

In the trade's words: insights, highlights.
"""

import itertools
from dataclasses import replace
from datetime import date, datetime, timedelta
from typing import Any
from urllib.parse import urlencode

import numpy as np
from dakika_core.metrics.catalogue import CATALOGUE
from dakika_core.results.findings import (
    DayOut,
    Statement,
    group_statements,
    ranked,
    spike_statements,
    trend_statements,
    unusual_statements,
    without_format,
)
from dakika_core.results.groups import GroupResult
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.figures.study import Study, study_of
from dakika_server.measures.models import PostMeasure
from dakika_server.networks.definitions import network_name
from dakika_server.results.groups import Comparison, compare
from dakika_server.results.models import Finding
from dakika_server.results.spikes import OF_FOLLOWERS, behind, far_out_of
from dakika_server.shared.hooks import Hook
from dakika_server.shared.locks import Lock, wait_within_transaction
from dakika_server.sources.health import holes_in
from dakika_server.webhooks.events import EventKind, happened, page

FOUND = "finding.made"
TOLD = {
    FOUND: EventKind(words="Something was found for the first time", about={
        "finding": "its number", "kind": "what it is about", "text": "what is said", "detail": "how sure it is",
        "posts": "numbers of its posts in Results", "page": "the page in Dakika",
    })
}  # fmt: skip
STUDIED_DAYS = 90
RECENT_DAYS = 28
NEW_DAYS = 7
AGE_HOURS = 72
MOST_POSTS = 20
GROUPINGS = ("tag", "format", "hashtag", "campaign", "weekday", "length", "language")
METRICS = ("interactions", "reach", "impressions", "gained_followers", "lost_followers")
# Areas above say what they find; a hook returns statements with a step of their own.
finders: Hook[[Brand, datetime], list[tuple[Statement, dict[str, str]]]] = Hook("what else is found")

Found = tuple[Statement, dict[str, str]]


def find(brand: Brand, now: datetime) -> int:
    """Compute the brand's findings anew; returns how many there are. What people did with them stays."""
    found = _all(brand, now)
    with transaction.atomic():
        # One at a time per brand: the morning's job and somebody who will not wait for it.
        wait_within_transaction(Lock.BRAND_FINDINGS, brand.pk)
        Finding.objects.filter(brand=brand, is_current=True).update(is_current=False)
        for statement, step in found:
            kept: dict[str, Any] = {
                "kind": statement.kind, "text": statement.text[:400], "detail": statement.detail[:600],
                "weight": statement.weight, "evidence": dict(statement.evidence),
                "posts": list(statement.posts)[:MOST_POSTS], "step": step, "is_current": True, "found_at": now,
            }  # fmt: skip
            finding, is_new = Finding.objects.update_or_create(
                brand=brand, key=f"{statement.kind}:{statement.subject}"[:160], defaults=kept,
                create_defaults={**kept, "first_found_at": now},
            )  # fmt: skip
            if is_new:
                _tell_of(finding)
    return len(found)


def _tell_of(finding: Finding) -> None:
    happened(finding.brand_id, FOUND, key=str(finding.pk), about=lambda: {
        "finding": finding.pk, "kind": finding.kind, "text": finding.text, "detail": finding.detail,
        "posts": finding.posts, "page": page(finding.brand, "results/findings"),
    })  # fmt: skip


def _all(brand: Brand, now: datetime) -> list[Found]:
    today = now.astimezone(brand.zone).date()
    values = {"first": today - timedelta(days=STUDIED_DAYS), "last": today - timedelta(days=1),
              "compare": "previous", "age": AGE_HOURS}  # fmt: skip
    study = study_of(brand, values, now)
    if not study.profiles:
        return []
    found = [*_groups(study), *_spikes(study, now), *_of_posts(study, now), *_holes(study, now)]
    found += itertools.chain(*finders(brand, now))
    by_key = {(s.kind, s.subject): (s, step) for s, step in found}
    return [by_key[(s.kind, s.subject)] for s in ranked([s for s, _ in by_key.values()])]


def _address(study: Study, **query: Any) -> str:
    days = {"first": study.period.first.isoformat(), "last": study.period.last.isoformat()}
    return urlencode({**days, **query})


def _groups(study: Study) -> list[Found]:
    groupings: dict[str, list[GroupResult]] = {}
    held: dict[str, str] = {}
    keys: dict[tuple[str, str], str] = {}
    for by in GROUPINGS:
        comparison: Comparison = compare(study, by, CATALOGUE["index"])
        groupings[by] = [group.result for group in comparison.groups]
        held[by] = " and ".join(comparison.held)
        keys |= {(by, group.result.name): group.key for group in comparison.groups}
    found = []
    for statement in group_statements(groupings, held):
        by, name = str(statement.evidence["by"]), str(statement.evidence["name"])
        narrow = {by: keys[by, name]} if by in ("tag", "format", "campaign", "language") and keys[by, name] else {}
        step = {
            "words": "Write such a post" if statement.size > 0 else "Look at these posts",
            "path": "plan/new" if statement.size > 0 else f"results/posts?{_address(study, sort='index', **narrow)}",
            "posts": f"results/posts?{_address(study, sort='-index', **narrow)}",
            "more": f"results/groups?{_address(study, by=by)}", "more_words": "All groups",
        }  # fmt: skip
        found.append((statement, step))
    return found


def _spikes(study: Study, now: datetime) -> list[Found]:
    days: list[DayOut] = []
    keys = {CATALOGUE[key].name: key for key in METRICS}
    for name, key in keys.items():
        metric = CATALOGUE[key]
        new = far_out_of(study, metric, now, RECENT_DAYS)
        days += [(name, s.day, s.spike.value, s.spike.level, s.spike.z) for s in new]
    found: list[Found] = []
    for statement in spike_statements(days):
        day, key = str(statement.evidence["day"]), keys[str(statement.evidence["metric"])]
        cause = behind(study, CATALOGUE[key], date.fromisoformat(day), now)
        posts = tuple(share.post.pk for share in cause.posts[:MOST_POSTS])
        view = "results/followers" if key in OF_FOLLOWERS else "results"
        path = f"{view}?{_address(study, metric=key, day=day)}"
        found.append((replace(statement, posts=posts), {"words": "See what is behind it", "path": path}))
    return found


def _of_posts(study: Study, now: datetime) -> list[Found]:
    """Changes of trend and unusual posts, profile by profile, from one read."""
    first = now - timedelta(days=STUDIED_DAYS + RECENT_DAYS)
    rows = list(
        PostMeasure.objects.filter(
            profile__in=study.profile_ids, age_hours=study.age_hours, published_at__gte=first, interactions__gt=0
        )
        .order_by("published_at")
        .values_list("profile_id", "post_id", "published_at", "format", "interactions", "index")
    )
    trends, unusual = {}, {}
    for profile in study.profiles:
        own = [row for row in rows if row[0] == profile.pk]
        if not own:
            continue
        name = f"{profile.name} on {network_name(profile.network)}"
        left = without_format(np.log(np.array([row[4] for row in own], dtype=float)), [row[3] for row in own])
        recent = np.array([row[2] > now - timedelta(days=RECENT_DAYS) for row in own])
        trends[name] = (left[recent], left[~recent])
        judged = [row for row in own if row[5]]
        logs = np.log(np.array([row[5] for row in judged], dtype=float))
        new = np.array([row[2] > now - timedelta(days=NEW_DAYS) for row in judged], dtype=bool)
        unusual[name] = (logs, logs[new], [row[1] for row, is_new in zip(judged, new, strict=True) if is_new])
    found: list[Found] = []
    by_name = {f"{p.name} on {network_name(p.network)}": p.pk for p in study.profiles}
    for statement in trend_statements(trends):
        recent_first = study.period.last - timedelta(days=RECENT_DAYS - 1)
        query = urlencode({"first": recent_first, "last": study.period.last, "profile": by_name[statement.subject]})
        found.append((statement, {"words": "Compare the weeks", "path": f"results?{query}"}))
    for statement in unusual_statements(unusual):
        found.append((statement, {"words": "Open the post", "path": f"results/posts/{statement.posts[0]}"}))
    return found


def _holes(study: Study, now: datetime) -> list[Found]:
    """Days of the last four weeks that were not collected: a fact, so its certainty is one and its size small."""
    first = study.period.last - timedelta(days=RECENT_DAYS - 1)
    words = holes_in(study.brand, study.profiles, first, study.period.last, now)
    if not words:
        return []
    statement = Statement(
        kind="hole", subject=study.period.last.isoformat()[:7], text="Days are missing from the last four weeks",
        detail=f"{words}.", size=0.1, certainty=1.0,
    )  # fmt: skip
    return [(statement, {"words": "See what is missing", "path": "sources/health"})]
