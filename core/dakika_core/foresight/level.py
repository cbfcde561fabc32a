"""What will a post bring that is not written yet?

log(1 + count at 7 d) = level and slow trend of the profile + effect of the hour + format + labels (tags, a campaign)
+ luck. A weighted ridge regression: the newest posts count most, each effect is drawn towards none as far as there are
few posts of it (Gaussian priors on the log scale), heavy tails by Student weights (Lange, Little and Taylor 1989). The
hour's effect is Timing's and taken as given. How far off it is, it is told by its own past: the profile's weeks are
gone through one by one, each expected from what was known by then (rolling origin; R. Hyndman and G. Athanasopoulos,
Forecasting: Principles and Practice, 3rd ed., 5.10, from memory).

In the trade's words: forecast of a planned post, mixed model.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dakika_core.foresight.conformal import LEVEL, Errors, bounds

Array = NDArray[np.float64]

FEWEST = 8
HALF_LIFE_DAYS = 45.0
_FREEDOM, _ROUNDS = 5.0, 6
# Standard deviations before the data, on the log scale: a format, a label, a month's trend.
_FORMAT, _LABEL, _MONTHLY = 0.35, 0.25, 0.12
# How far ahead a trend is believed.
_TREND_DAYS = 14.0
# A label of fewer posts says nothing by itself.
FEWEST_OF_LABEL = 3
# What is taken for the luck of posts until errors tell.
ASSUMED_SPREAD = 0.7
_WEEK, _WEEKS_BACK = 7.0, 26
# Of the smoothing kernel, by the normal rule.
_BANDWIDTH = 1.06
# What a week's posts have in common: a guess that counts as so many weeks, and the least of it.
_SHARED_GUESS, _GUESSED_WEEKS, _LEAST_SHARED = 0.22, 5.0, 0.1


@dataclass(frozen=True, kw_only=True)
class PostFeatures:
    """Posts as the model takes them. day: instants in days, (n,). hour: log of Timing's index at their hour, (n,).

    formats: a name each. labels: names of tags and of the campaign of each.
    """

    day: Array
    hour: Array
    formats: Sequence[str]
    labels: Sequence[frozenset[str]]

    def among(self, mask: NDArray[np.bool_]) -> "PostFeatures":
        """Those of a mask."""
        places = np.flatnonzero(mask).tolist()
        return PostFeatures(
            day=self.day[mask], hour=self.hour[mask], formats=[self.formats[i] for i in places],
            labels=[self.labels[i] for i in places],
        )  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class LevelModel:
    """A profile's level: what it says of posts, and how it has erred.

    errors: bounds of the error of a single post, log scale. singles: the errors themselves, oldest first. shared: the
    standard deviation of what a week's posts have in common. spread: of a single post's error.
    """

    posts: int
    errors: Errors
    singles: Array
    shared: float
    spread: float
    day: float
    coefficients: Array
    formats: tuple[str, ...]
    labels: tuple[str, ...]

    def expected(self, posts: PostFeatures) -> Array:
        """Mean of log(1 + count at 7 d): shape (n,)."""
        design = _design(posts, self.day, self.formats, self.labels)
        found: Array = design @ self.coefficients + posts.hour
        return found


def fit_level(posts: PostFeatures, logs: Array, *, known_days: float = 7.0) -> LevelModel | None:
    """Learn a profile's level from its posts; None with fewer than eight that are known.

    logs: log(1 + count at 7 d), shape (n,), in order of publishing, NaN where missing. known_days: after so many days
    a post's count is there, so that a week is expected without those of the week before.
    """
    known = ~np.isnan(logs)
    if known.sum() < FEWEST:
        return None
    posts, logs = posts.among(known), logs[known]
    now = float(posts.day[-1])
    singles, days = _errors_before(posts, logs, known_days)
    told = _fit(posts, logs, now)
    spread = float(np.std(singles)) if len(singles) >= FEWEST else ASSUMED_SPREAD
    return LevelModel(
        posts=len(logs), errors=bounds(singles, level=LEVEL, otherwise=ASSUMED_SPREAD), singles=singles,
        shared=_shared_by_week(singles, days), spread=max(spread, 0.05), day=now, coefficients=told[0],
        formats=told[1], labels=told[2],
    )  # fmt: skip


def _design(posts: PostFeatures, now: float, formats: tuple[str, ...], labels: tuple[str, ...]) -> Array:
    names = np.array(posts.formats)
    columns = [np.ones(len(posts.day)), np.minimum((posts.day - now) / 30.0, _TREND_DAYS / 30.0)]
    columns += [(names == name).astype(float) for name in formats]
    columns += [np.array([float(label in of) for of in posts.labels]) for label in labels]
    return np.column_stack(columns)


def _fit(posts: PostFeatures, logs: Array, now: float) -> tuple[Array, tuple[str, ...], tuple[str, ...]]:
    formats = tuple(sorted(set(posts.formats)))
    counted: dict[str, int] = {}
    for of in posts.labels:
        for label in of:
            counted[label] = counted.get(label, 0) + 1
    labels = tuple(sorted(label for label, many in counted.items() if many >= FEWEST_OF_LABEL))
    design = _design(posts, now, formats, labels)
    y = logs - posts.hour
    recent = 2.0 ** (-(now - posts.day) / HALF_LIFE_DAYS)
    deviations = np.array([10.0, _MONTHLY, *[_FORMAT] * len(formats), *[_LABEL] * len(labels)])
    weights = np.asarray(recent, dtype=float)
    variance = float(np.var(y)) or 1.0
    coefficients = np.zeros(design.shape[1])
    for _ in range(_ROUNDS):
        inner = design.T @ (design * weights[:, None]) + np.diag(variance / deviations**2)
        coefficients = np.asarray(np.linalg.solve(inner, design.T @ (weights * y)), dtype=float)
        left = y - design @ coefficients
        robust = (_FREEDOM + 1) / (_FREEDOM + left**2 / variance)
        weights = np.asarray(recent * robust, dtype=float)
        variance = max(float((weights * left**2).sum() / recent.sum()), 1e-3)
    return coefficients, formats, labels


def _errors_before(posts: PostFeatures, logs: Array, known_days: float) -> tuple[Array, Array]:
    """Errors of posts expected a week at a time from what was known when the week began, and their days."""
    last = float(posts.day[-1])
    errors, days = [], []
    for back in range(_WEEKS_BACK, -1, -1):
        start = last - back * _WEEK
        week = (posts.day >= start) & (posts.day < start + _WEEK)
        before = posts.day <= start - known_days
        if before.sum() < FEWEST or not week.any():
            continue
        asked = posts.among(week)
        coefficients, formats, labels = _fit(posts.among(before), logs[before], start)
        errors.append(logs[week] - _design(asked, start, formats, labels) @ coefficients - asked.hour)
        days.append(asked.day)
    return (np.concatenate(errors), np.concatenate(days)) if errors else (np.empty(0), np.empty(0))


def _shared_by_week(errors: Array, days: Array) -> float:
    """Standard deviation of what the errors of a week have in common: by moments, a guess counting as four weeks."""
    weeks = np.floor(days / _WEEK)
    found = _GUESSED_WEEKS * _SHARED_GUESS**2
    for week in np.unique(weeks):
        own = errors[weeks == week]
        found += float(np.mean(own)) ** 2 - float(np.var(errors)) / len(own)
    return float(np.sqrt(max(found / (len(np.unique(weeks)) + _GUESSED_WEEKS), _LEAST_SHARED**2)))


@dataclass(frozen=True, kw_only=True)
class Expectation:
    """What is expected, as the middle of what may come: value, and an interval at 80 %."""

    value: float
    low: float
    high: float


def expected_post(model: LevelModel, log_mean: float) -> Expectation:
    """What one planned post will bring by seven days: counts."""
    low, high = log_mean + model.errors.low, log_mean + model.errors.high
    middle = log_mean + (float(np.median(model.singles)) if len(model.singles) >= FEWEST else 0.0)
    value, least, most = (max(0.0, float(np.expm1(log))) for log in (middle, low, high))
    return Expectation(value=min(max(value, least), most), low=least, high=most)


def expected_sum(parts: Sequence[tuple[LevelModel, Array]], *, draws: int = 4000, seed: int = 1) -> Expectation:
    """What several planned posts will bring together: (model of a profile, log means of its posts) each.

    By simulation: each draws its luck from its profile's past errors (a smoothed bootstrap, B. Silverman and G. Young,
    Biometrika 74, 1987, from memory), and a profile's posts share a draw of what the errors of a week have in common.
    The value is the middle of the sums.
    """
    rng = np.random.default_rng(seed)
    total: Array = np.zeros(draws)
    for model, log_means in parts:
        common: Array = model.shared * rng.standard_t(_FREEDOM, draws)[:, None]
        if len(model.singles) >= FEWEST:
            # Without what is in common, which is drawn apart.
            own = max(model.spread**2 - model.shared**2, 0.25 * model.spread**2) ** 0.5 / model.spread
            middle = float(np.mean(model.singles))
            size = (draws, len(log_means))
            width = _BANDWIDTH * model.spread * len(model.singles) ** -0.2
            luck = middle + own * (rng.choice(model.singles, size) - middle + rng.normal(0, width, size))
        else:
            luck = rng.normal(0, model.spread, (draws, len(log_means)))
        total = total + np.expm1(np.maximum(log_means[None, :] + common + luck, 0.0)).sum(axis=1)
    low, value, high = np.quantile(total, [0.5 - LEVEL / 2, 0.5, 0.5 + LEVEL / 2])
    return Expectation(value=float(value), low=float(low), high=float(high))
