"""What planned posts will bring: each, and by week."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.foresight.level import Expectation, LevelModel, PostFeatures, expected_post, expected_sum
from dakika_core.values.period import start_of_day
from django.db.models import Count, Sum

from dakika_server.brands.models import Brand
from dakika_server.foresight.levels import METRICS, levels_of
from dakika_server.foresight.reading import hour_logs, labels_of
from dakika_server.measures.models import PostMeasure
from dakika_server.sources.models import Profile
from dakika_server.timing.planned import planned_between

FINAL_AGE_HOURS = 168


@dataclass(frozen=True, kw_only=True)
class Thought:
    """A post that is thought of: whose, when, of which format, with which campaign and tags."""

    profile_id: int
    at: datetime
    format: str = "text"
    campaign_id: int | None = None
    tags: frozenset[int] = frozenset()


@dataclass(frozen=True, kw_only=True)
class ExpectedPost:
    """What one brings by seven days, by metric; a metric that too few posts tell is not there. hour_index: Timing's
    index at its hour, missing where no effect of the hour may be claimed. posts: how many it rests on.
    """

    metrics: dict[str, Expectation]
    hour_index: float | None
    posts: int


@dataclass(frozen=True, kw_only=True)
class ExpectedWeek:
    """What a week brings. came: interactions of the posts of the week before, known ones, as far as they are grown."""

    monday: date
    posts: int
    told: int
    metrics: dict[str, Expectation]
    came: float | None
    came_posts: int


def expect(brand: Brand, thoughts: Sequence[Thought]) -> tuple[list[ExpectedPost], dict[str, Expectation]]:
    """What some posts will bring, each and together. Profiles that are not the brand's own bring nothing known."""
    logs, levels = _expected_logs(brand, thoughts)
    each = [
        ExpectedPost(
            metrics={
                m: expected_post(levels[thought.profile_id, m], logs[m][i]) for m in METRICS if not np.isnan(logs[m][i])
            },
            hour_index=float(np.exp(logs["hour"][i])) if logs["hour"][i] != 0 else None,
            posts=levels[thought.profile_id, METRICS[0]].posts if (thought.profile_id, METRICS[0]) in levels else 0,
        )
        for i, thought in enumerate(thoughts)
    ]  # fmt: skip
    return each, {m: found for m in METRICS if (found := _together(thoughts, logs[m], levels, m)) is not None}


def _expected_logs(
    brand: Brand, thoughts: Sequence[Thought]
) -> tuple[dict[str, Any], dict[tuple[int, str], LevelModel]]:
    asked = {thought.profile_id for thought in thoughts}
    profiles = Profile.objects.filter(brand=brand, kind="own").select_related("brand").in_bulk(asked)
    levels = levels_of(list(profiles))
    logs = {metric: np.full(len(thoughts), np.nan) for metric in METRICS} | {"hour": np.zeros(len(thoughts))}
    for pk, profile in profiles.items():
        places = [i for i, thought in enumerate(thoughts) if thought.profile_id == pk]
        mine = [thoughts[i] for i in places]
        hours = hour_logs(profile, [thought.at for thought in mine])
        features = PostFeatures(
            day=np.array([thought.at.timestamp() / 86400 for thought in mine]), hour=hours,
            formats=[thought.format for thought in mine],
            labels=[labels_of({f"tag {tag}" for tag in t.tags}, t.campaign_id) for t in mine],
        )  # fmt: skip
        logs["hour"][places] = hours
        for metric in METRICS:
            if (pk, metric) in levels:
                logs[metric][places] = levels[pk, metric].expected(features)
    return logs, levels


def _together(
    thoughts: Sequence[Thought], logs: Any, levels: dict[tuple[int, str], LevelModel], metric: str
) -> Expectation | None:
    parts = []
    for pk in sorted({t.profile_id for t in thoughts}):
        mine = np.array([logs[i] for i, t in enumerate(thoughts) if t.profile_id == pk and not np.isnan(logs[i])])
        if len(mine):
            parts.append((levels[pk, metric], mine))
    return expected_sum(parts) if parts else None


def planned_weeks(
    brand: Brand, first: date, last: date, now: datetime
) -> tuple[dict[int, list[tuple[int, ExpectedPost]]], list[ExpectedWeek]]:
    """Everything planned between two days: by planned post each of its profiles, and by week from Monday to Sunday."""
    zone = brand.zone
    own = list(Profile.objects.filter(brand=brand, kind="own").values_list("pk", flat=True))
    planned = planned_between(own, start_of_day(first, zone), start_of_day(last + timedelta(days=1), zone))
    thoughts = [
        Thought(profile_id=p.profile_id, at=p.at, format=p.format, campaign_id=p.campaign_id, tags=p.tags)
        for p in planned
    ]
    each, _ = expect(brand, thoughts)
    by_post: dict[int, list[tuple[int, ExpectedPost]]] = {}
    for one, found in zip(planned, each, strict=True):
        by_post.setdefault(one.id, []).append((one.profile_id, found))
    weeks = []
    for monday in sorted({_monday(thought.at.astimezone(zone).date()) for thought in thoughts}):
        mine = [t for t in thoughts if _monday(t.at.astimezone(zone).date()) == monday]
        told, together = expect(brand, mine)
        came, many = _came(brand, own, monday - timedelta(days=7), now)
        weeks.append(
            ExpectedWeek(
                monday=monday, posts=len(mine), told=sum(bool(one.metrics) for one in told), metrics=together,
                came=came, came_posts=many,
            )
        )  # fmt: skip
    return by_post, weeks


def _monday(day: date) -> date:
    return day - timedelta(days=day.weekday())


def _came(brand: Brand, own: Sequence[int], monday: date, now: datetime) -> tuple[float | None, int]:
    """Interactions of a week's posts at seven days, those that are so old; of how many."""
    start, end = start_of_day(monday, brand.zone), start_of_day(monday + timedelta(days=7), brand.zone)
    if start > now.astimezone(UTC):
        return None, 0
    found = PostMeasure.objects.filter(
        profile__in=own, age_hours=FINAL_AGE_HOURS, published_at__gte=start, published_at__lt=end,
        interactions__isnull=False,
    ).aggregate(total=Sum("interactions"), many=Count("pk"))  # fmt: skip
    return found["total"], found["many"]
