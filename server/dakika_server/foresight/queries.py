"""Reads of foresight: what is under way, and whether we were right."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
from dakika_core.foresight.calibration import Calibration, Rival, calibration
from django.db.models import CharField, F, FloatField, Func, JSONField, QuerySet, Subquery, TextField, Value
from django.db.models.functions import Cast, Left

from dakika_server.brands.models import Brand
from dakika_server.foresight.models import Outlook, Projection
from dakika_server.measures.models import LATEST, PostMeasure
from dakika_server.results.young import Young

MOST_UNDER_WAY, MOST_SAID = 60, 20_000


def under_way(brand: Brand, now: datetime) -> QuerySet[Outlook]:
    """Own posts of the last seven days and how each is doing, the newest first; one query."""
    del now
    return (
        Outlook.objects.filter(brand=brand, profile__kind="own").select_related("profile", "post")
        .defer("post__text").annotate(words=Left("post__text", 160, output_field=CharField()))
        .order_by("-published_at", "-post_id")[:MOST_UNDER_WAY]
    )  # fmt: skip


def young_of(posts: list[int]) -> dict[int, Young]:
    """Those of some posts that are young. See results.young."""
    return {
        one.post_id: Young(
            age_hours=one.age_hours, typical=one.typical, index=one.index, index_low=one.index_low,
            index_high=one.index_high, heading=one.heading, heading_low=one.heading_low, heading_high=one.heading_high,
        )
        for one in Outlook.objects.filter(post__in=posts)
    }  # fmt: skip


def order_of_young(metric: str, brand_id: int) -> Any:
    """What a young post is taken for in an order: its index, or its latest count as it grows to seven days.

    All of the brand's are read once, by post: a subquery for each row would keep PostgreSQL from sharing the order out
    among processes, for the few rows that are young.
    """
    if metric == "index":
        young: Any = Outlook.objects.filter(brand=brand_id, index__isnull=False).values_list(_by_post(F("index")))
    elif metric in {field.name for field in PostMeasure._meta.fields}:
        latest: Any = PostMeasure.objects.filter(
            brand=brand_id, age_hours=LATEST, post__outlook__count__gt=0, **{f"{metric}__isnull": False}
        )
        grown = Cast(F(metric), FloatField()) * F("post__outlook__heading") / F("post__outlook__count")
        young = latest.values_list(_by_post(grown))
    else:
        return Cast(Value(None), FloatField())
    of_this = Func(Subquery(young), Cast(F("post_id"), TextField()), template="(%(expressions)s)", arg_joiner=" ->> ")
    return Cast(of_this, FloatField())


def _by_post(value: Any) -> Func:
    """All of them as one object of JSON: the value by the post's number."""
    return Func(F("post_id"), value, function="jsonb_object_agg", output_field=JSONField())


@dataclass(frozen=True, kw_only=True)
class Held:
    """Projections of one kind held against the truth. profile: its number, None for all; horizon: hours, None for
    all.
    """

    profile: int | None
    horizon: int | None
    found: Calibration


def calibrations(brand: Brand, profiles: Sequence[int] | None, *, tried: bool) -> list[Held]:
    """Were we right? Over all, by horizon, by profile, and by both, of what was said then or tried afterwards."""
    said = Projection.objects.filter(brand=brand, profile__kind="own", truth__isnull=False, is_tried=tried)
    if profiles is not None:
        said = said.filter(profile__in=list(profiles))
    rows = list(
        said.order_by("-published_at").values_list(
            "profile_id", "horizon_hours", "published_at", "value", "low", "high", "truth", "last", "median"
        )[:MOST_SAID]
    )
    profile = np.array([row[0] for row in rows], dtype=np.int64)
    horizon = np.array([row[1] for row in rows], dtype=np.int64)
    found = [_held(rows, np.ones(len(rows), dtype=bool), None, None)]
    found += [_held(rows, horizon == h, None, int(h)) for h in np.unique(horizon)]
    found += [_held(rows, profile == p, int(p), None) for p in np.unique(profile)]
    found += [
        _held(rows, (profile == p) & (horizon == h), int(p), int(h))
        for p in np.unique(profile)
        for h in np.unique(horizon)
    ]
    return found


def _held(rows: Sequence[Any], mask: Any, profile: int | None, horizon: int | None) -> Held:
    some = [rows[i] for i in np.flatnonzero(mask).tolist()]
    columns = [np.array([np.nan if row[i] is None else row[i] for row in some], dtype=float) for i in range(3, 9)]
    value, low, high, truth, last, median = columns
    # Weeks of a profile err together.
    blocks = [row[0] * 10_000 + row[2].toordinal() // 7 for row in some]
    return Held(
        profile=profile, horizon=horizon, found=calibration(
            said=value, low=low, high=high, truth=truth, rivals={Rival.LAST: last, Rival.MEDIAN: median}, blocks=blocks
        ),
    )  # fmt: skip
