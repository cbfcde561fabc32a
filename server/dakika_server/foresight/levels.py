"""What a profile's posts are expected to bring: the model of its level, kept as data."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any

import numpy as np
from dakika_core.foresight.conformal import Errors
from dakika_core.foresight.curves import AGES_HOURS, FINAL_HOURS
from dakika_core.foresight.level import LevelModel, fit_level

from dakika_server.foresight.models import ProfileLevel
from dakika_server.foresight.reading import History
from dakika_server.sources.models import Profile

# What is expected of planned posts.
METRICS = ("interactions", "reach", "link_clicks")
_FINAL = AGES_HOURS.index(FINAL_HOURS)


def keep_levels(profile: Profile, history: History, now: datetime) -> dict[str, LevelModel]:
    """Learn a profile's levels anew and keep them; those that too few posts tell are not there."""
    found = {}
    for metric in METRICS:
        model = fit_level(history.features, np.log1p(history.values[metric][:, _FINAL])) if history.ids else None
        if model is not None:
            found[metric] = model
            ProfileLevel.objects.update_or_create(
                profile=profile, metric=metric, defaults={"brand_id": profile.brand_id, "made_at": now,
                                                          "model": as_data(model)},
            )  # fmt: skip
    ProfileLevel.objects.filter(profile=profile).exclude(metric__in=list(found)).delete()
    return found


def levels_of(profiles: Sequence[int]) -> dict[tuple[int, str], LevelModel]:
    """The kept levels of some profiles, by profile and metric; one query."""
    kept = ProfileLevel.objects.filter(profile__in=list(profiles))
    return {(row.profile_id, row.metric): from_data(row.model) for row in kept}


def as_data(model: LevelModel) -> dict[str, Any]:
    """A model as it can be kept."""
    return {
        "posts": model.posts, "shared": model.shared, "spread": model.spread, "day": model.day,
        "errors": [model.errors.low, model.errors.high, model.errors.count],
        "singles": [round(float(error), 4) for error in model.singles], "formats": list(model.formats),
        "labels": list(model.labels), "coefficients": [float(value) for value in model.coefficients],
    }  # fmt: skip


def from_data(data: dict[str, Any]) -> LevelModel:
    """And back."""
    low, high, count = data["errors"]
    return LevelModel(
        posts=data["posts"], errors=Errors(low=low, high=high, count=count), singles=np.array(data["singles"]),
        shared=data["shared"], spread=data["spread"], day=data["day"], coefficients=np.array(data["coefficients"]),
        formats=tuple(data["formats"]), labels=tuple(data["labels"]),
    )  # fmt: skip
