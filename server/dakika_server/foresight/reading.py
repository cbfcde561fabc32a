"""A profile's posts as foresight learns from them: counts at the ages, formats, labels, the worth of their hours."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from dakika_core.foresight.curves import at_wanted_ages
from dakika_core.foresight.level import PostFeatures
from dakika_core.metrics.observed import DEFAULT_AGES_HOURS, EARLY_AGES_HOURS
from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week
from numpy.typing import NDArray

from dakika_server.measures.models import PostMeasure
from dakika_server.results.models import PostTag
from dakika_server.sources.models import Post, Profile
from dakika_server.timing.estimating import kept_effects

Array = NDArray[np.float64]

# So many posts, and so far back, does a profile's level follow from; older ones say little of now.
MOST_POSTS, SPAN = 400, timedelta(days=365)
KEPT_AGES = (*EARLY_AGES_HOURS, *DEFAULT_AGES_HOURS)
_PLACE = {age: place for place, age in enumerate(KEPT_AGES)}


@dataclass(frozen=True, kw_only=True)
class History:
    """Posts in order of publishing. values: by metric shape (n, ages of the curves), NaN where missing."""

    ids: list[int]
    at: list[datetime]
    formats: list[str]
    labels: list[frozenset[str]]
    hour: Array
    values: dict[str, Array]

    @property
    def days(self) -> Array:
        """Instants of publishing in days."""
        return np.array([one.timestamp() / 86400 for one in self.at])

    @property
    def features(self) -> PostFeatures:
        """As the model of the level takes them."""
        return PostFeatures(day=self.days, hour=self.hour, formats=self.formats, labels=self.labels)

    def among(self, mask: NDArray[np.bool_]) -> "History":
        """Those of a mask."""
        places = np.flatnonzero(mask).tolist()
        return History(
            ids=[self.ids[i] for i in places], at=[self.at[i] for i in places],
            formats=[self.formats[i] for i in places], labels=[self.labels[i] for i in places], hour=self.hour[mask],
            values={metric: values[mask] for metric, values in self.values.items()},
        )  # fmt: skip


def history_of(profile: Profile, now: datetime, metrics: Sequence[str] = ("interactions",)) -> History:
    """The newest posts of a profile; two queries, and the kept estimate of its hours."""
    newest = list(
        Post.objects.filter(profile=profile, published_at__gte=now - SPAN, published_at__lte=now)
        .order_by("-published_at", "-pk").values_list("pk", "published_at", "format", "campaign_id")[:MOST_POSTS]
    )[::-1]  # fmt: skip
    ids = [row[0] for row in newest]
    place = {pk: i for i, pk in enumerate(ids)}
    kept = {metric: np.full((len(ids), len(KEPT_AGES)), np.nan) for metric in metrics}
    rows: Any = PostMeasure.objects.filter(post__in=ids, age_hours__in=KEPT_AGES)
    for pk, age, *counts in rows.values_list("post_id", "age_hours", *metrics):
        for metric, count in zip(metrics, counts, strict=True):
            if count is not None:
                kept[metric][place[pk], _PLACE[age]] = count
    tags: dict[int, set[str]] = {}
    for pk, tag in PostTag.objects.filter(post__in=ids, is_off=False).values_list("post_id", "tag_id"):
        tags.setdefault(pk, set()).add(f"tag {tag}")
    at = [row[1] for row in newest]
    return History(
        ids=ids, at=at, formats=[row[2] for row in newest],
        labels=[labels_of(tags.get(row[0], set()), row[3]) for row in newest], hour=hour_logs(profile, at),
        values={metric: at_wanted_ages(np.array(KEPT_AGES, dtype=float), found) for metric, found in kept.items()},
    )  # fmt: skip


def labels_of(tags: set[str], campaign: int | None) -> frozenset[str]:
    """A post's labels: its tags, and its campaign."""
    return frozenset(tags | ({f"campaign {campaign}"} if campaign else set()))


def hour_logs(profile: Profile, at: Sequence[datetime]) -> Array:
    """Log of Timing's index at some instants, as it is kept; none where no effect of the hour may be claimed."""
    effects = kept_effects(profile)
    if effects is None or not effects.has_effect:
        return np.zeros(len(at))
    hours = [int(hour_of_week(one, profile.brand.zone)) % HOURS_PER_WEEK for one in at]
    found: Array = np.log(effects.index[hours]) if hours else np.zeros(0)
    return found
