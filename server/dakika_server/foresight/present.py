"""One post at the age it has: every metric against what is typical then, its way so far, and what was said of it."""

from dataclasses import dataclass
from datetime import datetime

import numpy as np
from dakika_core.foresight.curves import AGES_HOURS, FINAL_HOURS
from dakika_core.foresight.projection import at_present
from dakika_core.metrics.catalogue import CATALOGUE
from dakika_core.metrics.observed import OBSERVED
from dakika_core.metrics.typical import typical_by_format

from dakika_server.foresight.looking import FINAL, METRIC, curves_by_format, growth_at
from dakika_server.foresight.models import Outlook, Projection
from dakika_server.foresight.reading import History, history_of
from dakika_server.measures.models import LATEST, PostMeasure
from dakika_server.sources.models import Post

# A metric that fewer posts of the profile have is told without what is typical.
FEWEST = 8
SHOWN = ("interactions", *(key for key in OBSERVED if "_" not in key or key in ("link_clicks", "profile_visits",
         "video_views", "video_seconds", "video_completions")))  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class PresentMetric:
    """A metric of a post now. typical and index are missing where too few posts of the profile tell them."""

    key: str
    name: str
    count: float
    typical: float | None
    index: float | None
    low: float | None
    high: float | None


@dataclass(frozen=True, kw_only=True)
class PostOutlook:
    """A post as foresight tells it. course: what is typical by age, (hours, count) each, for posts of its format."""

    age_hours: float | None
    metrics: list[PresentMetric]
    outlook: Outlook | None
    course: list[tuple[float, float]]
    said: list[Projection]
    posts: int


def outlook_of(post: Post, now: datetime) -> PostOutlook:
    """Everything that is told of one post; four queries."""
    history = history_of(post.profile, now, SHOWN)
    latest = PostMeasure.objects.filter(post=post, age_hours=LATEST, taken_at__isnull=False).first()
    place = history.ids.index(post.pk) if post.pk in history.ids else None
    metrics: list[PresentMetric] = []
    age = None
    if latest is not None:
        age = max(0.05, (latest.taken_at - post.published_at).total_seconds() / 3600)  # type: ignore[operator]
        metrics = [
            _metric(post, history, place, key, float(count), age)
            for key in SHOWN
            if (count := getattr(latest, key)) is not None
        ]
    return PostOutlook(
        age_hours=age, metrics=metrics, outlook=Outlook.objects.filter(post=post).first(),
        course=_course(post, history, place), posts=int((~np.isnan(history.values[METRIC][:, FINAL])).sum()),
        said=list(Projection.objects.filter(post=post).order_by("horizon_hours")),
    )  # fmt: skip


def _metric(post: Post, history: History, place: int | None, key: str, count: float, age: float) -> PresentMetric:
    metric = CATALOGUE.get(key)
    name = metric.name if metric else key.replace("_", " ")
    values = history.values[key]
    finals = values[:, FINAL]
    known = finals[~np.isnan(finals)]
    if place is None or len(known) < FEWEST:
        return PresentMetric(key=key, name=name, count=count, typical=None, index=None, low=None, high=None)
    typical = typical_by_format(finals, history.formats)[place : place + 1]
    logs = np.log1p(known)
    rise, spread = growth_at(curves_by_format(post.profile, history, values), [post.format], np.array([age]))
    found = at_present(
        counts=np.array([count]), rise=rise, spread=spread, typical_log=np.log1p(typical), posts=len(known),
        scatter=1.4826 * float(np.median(np.abs(logs - np.median(logs)))),
    )  # fmt: skip
    told = [float(v[0]) if np.isfinite(v[0]) else None for v in (found.typical, found.index, found.low, found.high)]
    return PresentMetric(key=key, name=name, count=count, typical=told[0], index=told[1], low=told[2], high=told[3])


def _course(post: Post, history: History, place: int | None) -> list[tuple[float, float]]:
    values = history.values[METRIC]
    finals = values[:, FINAL]
    if place is None or (~np.isnan(finals)).sum() < FEWEST:
        return []
    typical = float(typical_by_format(finals, history.formats)[place])
    if not np.isfinite(typical):
        return []
    curve = curves_by_format(post.profile, history, values)[post.format]
    ages = np.array([age for age in AGES_HOURS if age <= FINAL_HOURS])
    counts = np.maximum(np.expm1(np.log1p(typical) - curve.at(ages)[0]), 0.0)
    return list(zip(ages.tolist(), counts.tolist(), strict=True))
