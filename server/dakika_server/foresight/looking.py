"""After a profile was measured: where its young posts are heading, what is said of them, and what came of what was
said.
"""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.foresight.curves import (
    AGES_HOURS,
    FINAL_HOURS,
    PROFILE_COUNTS_AS,
    GrowthCurve,
    assumed_curve,
    learnt_curve,
)
from dakika_core.foresight.level import LevelModel, expected_post, fit_level
from dakika_core.foresight.projection import (
    HORIZONS_HOURS,
    Projections,
    at_present,
    past_errors,
    project,
    usual_band,
)
from dakika_core.metrics.typical import typical_by_format
from django.db import transaction
from numpy.typing import NDArray

from dakika_server.foresight.levels import METRICS, keep_levels
from dakika_server.foresight.models import Outlook, Projection
from dakika_server.foresight.reading import History, history_of
from dakika_server.measures.models import LATEST, PostMeasure
from dakika_server.measures.values import growth_of
from dakika_server.shared import clock
from dakika_server.shared.locks import Lock, waited_for
from dakika_server.sources.models import Profile

Array = NDArray[np.float64]

METRIC = "interactions"
FINAL = AGES_HOURS.index(FINAL_HOURS)
YOUNG = timedelta(hours=FINAL_HOURS)
_WEEK, _WEEKS_TRIED = 7.0, 26
# Of a profile whose level is not known yet, and of one whose scatter is not.
_UNKNOWN_SPREAD = 1.0


def look_ahead(profile: Profile) -> None:
    """Bring everything that is told of a profile's young posts up to date. Run again, it gives the same."""
    now = clock.now()
    with waited_for(Lock.PROFILE_OUTLOOK, profile.pk):
        history = history_of(profile, now, METRICS)
        levels = keep_levels(profile, history, now)
        outlooks = _outlooks(profile, history, levels.get(METRIC), now)
        with transaction.atomic():
            Outlook.objects.filter(profile=profile).delete()
            Outlook.objects.bulk_create(outlooks)
            _keep_said(profile, history, levels.get(METRIC), outlooks, now)
        # Whether we were right is told of our own.
        is_own = profile.kind == Profile.Kind.OWN
        if is_own and not Projection.objects.filter(profile=profile, is_tried=True).exists():
            try_on_past(profile, history)


def curves_by_format(profile: Profile, history: History, values: Array) -> dict[str, GrowthCurve]:
    """The growth of each format of a profile, "" of any other."""
    whole = learnt_curve(values, assumed_curve(growth_of(profile.network)))
    found = {"": whole}
    names = np.array(history.formats)
    for name in sorted(set(history.formats)):
        found[name] = learnt_curve(values[names == name], whole, count_as=PROFILE_COUNTS_AS)
    return found


def growth_at(curves: dict[str, GrowthCurve], formats: Sequence[str], ages: Array) -> tuple[Array, Array]:
    """Rise and spread of posts of some formats at some ages."""
    told = [curves.get(name, curves[""]).at(ages[i : i + 1]) for i, name in enumerate(formats)]
    return np.array([rise[0] for rise, _ in told]), np.array([spread[0] for _, spread in told])


def _outlooks(profile: Profile, history: History, level: LevelModel | None, now: datetime) -> list[Outlook]:
    latest: dict[int, tuple[Any, Any]] = {
        pk: (taken, count) for pk, taken, count in PostMeasure.objects.filter(
            profile=profile, age_hours=LATEST, published_at__gt=now - YOUNG, interactions__isnull=False,
            taken_at__isnull=False, post__has_time=True,
        ).values_list("post_id", "taken_at", "interactions")
    }  # fmt: skip
    places = [i for i, pk in enumerate(history.ids) if pk in latest]
    if not places:
        return []
    values = history.values[METRIC]
    young = history.among(np.isin(np.arange(len(history.ids)), places))
    ages = np.array([
        max(0.05, (latest[pk][0] - at).total_seconds() / 3600) for pk, at in zip(young.ids, young.at, strict=True)
    ])  # fmt: skip
    counts = np.array([latest[pk][1] for pk in young.ids], dtype=float)
    said = _projected(profile, history, young, level, ages, counts)
    finals = values[:, FINAL]
    known = finals[~np.isnan(finals)]
    scatter = 1.4826 * float(np.median(np.abs(np.log1p(known) - np.median(np.log1p(known))))) if len(known) else 1.0
    typical = typical_by_format(finals, history.formats)[places]
    rise, spread = growth_at(curves_by_format(profile, history, values), young.formats, ages)
    present = at_present(
        counts=counts, rise=rise, spread=spread, typical_log=np.log1p(typical), scatter=scatter, posts=len(known)
    )
    grown = values[~np.isnan(finals)]
    found = []
    for i, pk in enumerate(young.ids):
        band = usual_band(grown, float(ages[i]))
        state = Outlook.State.UNKNOWN
        if band is not None:
            above, below = counts[i] > band.high, counts[i] < band.low
            state = Outlook.State.RISING if above else Outlook.State.FLAT if below else Outlook.State.USUAL
        found.append(
            Outlook(
                brand_id=profile.brand_id, profile=profile, post_id=pk, published_at=young.at[i],
                taken_at=latest[pk][0], count=counts[i], typical=_known(present.typical[i]),
                index=_known(present.index[i]),
                index_low=_known(present.low[i]), index_high=_known(present.high[i]), heading=said.value[i],
                heading_low=said.low[i], heading_high=said.high[i], band_low=band.low if band else None,
                band_high=_known(band.high) if band else None, band_posts=band.posts if band else 0, state=state.value,
            )
        )  # fmt: skip
    return found


def _projected(
    profile: Profile, history: History, young: History, level: LevelModel | None, ages: Array, counts: Array
) -> Projections:
    """What young posts are heading for, by what the posts before tell."""
    values = history.values[METRIC]
    curves = curves_by_format(profile, history, values)
    rise, spread = growth_at(curves, young.formats, ages)
    n = len(history.ids)
    if level is None:
        every, width, prior = np.full(n, np.nan), np.full(n, _UNKNOWN_SPREAD), np.full(len(young.ids), np.nan)
    else:
        every, width, prior = level.expected(history.features), np.full(n, level.spread), level.expected(young.features)
    errors = past_errors(values, curves[""], every, width)
    return project(
        ages_hours=ages, counts=counts, rise=rise, spread=spread, prior_log=prior, errors=errors,
        prior_spread=np.full(len(prior), level.spread if level else _UNKNOWN_SPREAD),
    )  # fmt: skip


def _known(value: float) -> float | None:
    return float(value) if np.isfinite(value) else None


def _keep_said(
    profile: Profile, history: History, level: LevelModel | None, outlooks: Sequence[Outlook], now: datetime
) -> None:
    """Keep what is said of each young post at each age for the first time, and the truth of what was said before."""
    last, median = _rivals(history.values[METRIC][:, FINAL])
    said = [
        _said(
            profile, one.post_id, one.published_at, horizon, now, (one.heading, one.heading_low, one.heading_high),
            (last, median),
        )
        for one in outlooks
        if (horizon := _horizon_of(one.age_hours)) is not None
    ]  # fmt: skip
    # Before it was published: as it is expected at its first reading, by the posts that were known before it.
    if level is not None:
        first = [one for one in outlooks if one.age_hours < 24]
        places = [history.ids.index(one.post_id) for one in first]
        mask = np.isin(np.arange(len(history.ids)), places)
        for one, log in zip(first, level.expected(history.among(mask).features), strict=True):
            found = expected_post(level, float(log))
            values = (found.value, found.low, found.high)
            said.append(_said(profile, one.post_id, one.published_at, 0, now, values, (last, median)))
    Projection.objects.bulk_create(said, ignore_conflicts=True)
    _fill_truths(profile)


def _fill_truths(profile: Profile) -> None:
    """What came of posts that are grown by now."""
    waiting = list(Projection.objects.filter(profile=profile, truth__isnull=True))
    came = dict(
        PostMeasure.objects.filter(
            post__in={p.post_id for p in waiting}, age_hours=int(FINAL_HOURS), interactions__isnull=False
        ).values_list("post_id", "interactions")
    ) if waiting else {}  # fmt: skip
    told = [p for p in waiting if p.post_id in came]
    for projection in told:
        projection.truth = came[projection.post_id]
    Projection.objects.bulk_update(told, ["truth"], batch_size=500)


def _horizon_of(age_hours: float) -> int | None:
    """The age that a projection counts for: the last of the list that is passed, while it is not long passed."""
    passed = [h for h in HORIZONS_HOURS if h <= age_hours]
    return int(passed[-1]) if passed and age_hours < 2 * passed[-1] else None


def _rivals(finals: Array) -> tuple[float | None, float | None]:
    known = finals[~np.isnan(finals)]
    return (float(known[-1]), float(np.median(known[-10:]))) if len(known) else (None, None)


def _said(
    profile: Profile, post: int, published_at: datetime, horizon: int, now: datetime, values: Sequence[float],
    rivals: Sequence[float | None], *, truth: float | None = None, is_tried: bool = False,
) -> Projection:  # fmt: skip
    value, low, high = (float(v) for v in values)
    return Projection(
        brand_id=profile.brand_id, profile=profile, post_id=post, horizon_hours=horizon, published_at=published_at,
        said_at=now, is_tried=is_tried, value=value, low=low, high=high, last=rivals[0], median=rivals[1], truth=truth,
    )  # fmt: skip


def try_on_past(profile: Profile, history: History) -> None:
    """What would have been said of past posts, week by week, from what was known when each week began."""
    values, days = history.values[METRIC], history.days
    logs = np.log1p(values[:, FINAL])
    if not len(days):
        return
    found: list[Projection] = []
    for back in range(_WEEKS_TRIED, -1, -1):
        start = days[-1] - back * _WEEK
        before, week = days <= start - _WEEK, (days >= start) & (days < start + _WEEK) & ~np.isnan(logs)
        level = fit_level(history.among(before).features, logs[before]) if week.any() else None
        if level is None:
            continue
        found += _tried_week(profile, history.among(before), history.among(week), level)
    Projection.objects.bulk_create(found, ignore_conflicts=True)


def _tried_week(profile: Profile, known: History, asked: History, level: LevelModel) -> list[Projection]:
    rivals = _rivals(known.values[METRIC][:, FINAL])
    truths = asked.values[METRIC][:, FINAL]
    expected = level.expected(asked.features)
    found = []
    for i, log in enumerate(expected):
        told = expected_post(level, float(log))
        at = asked.at[i]
        values = (told.value, told.low, told.high)
        found.append(_said(profile, asked.ids[i], at, 0, at, values, rivals, truth=truths[i], is_tried=True))
    for horizon in HORIZONS_HOURS:
        counts = asked.values[METRIC][:, AGES_HOURS.index(horizon)]
        has = ~np.isnan(counts)
        if not has.any():
            continue
        some = asked.among(has)
        said = _projected(profile, known, some, level, np.full(int(has.sum()), horizon), counts[has])
        for i, pk in enumerate(some.ids):
            at = some.at[i] + timedelta(hours=horizon)
            values = (said.value[i], said.low[i], said.high[i])
            truth = float(some.values[METRIC][i, FINAL])
            found.append(_said(profile, pk, some.at[i], int(horizon), at, values, rivals, truth=truth, is_tried=True))
    return found


def forget_outlooks(post_ids: list[int]) -> None:
    """Posts that are gone take what was said of them along."""
    Outlook.objects.filter(post__in=post_ids)._raw_delete("default")
    Projection.objects.filter(post__in=post_ids)._raw_delete("default")
