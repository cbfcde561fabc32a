"""Profiles whose posts grow by a known law: stretched exponentials as the stand-ins' do, and one of days and nights."""

from dataclasses import dataclass
from enum import StrEnum

import numpy as np
from dakika_core.foresight.curves import AGES_HOURS, FINAL_HOURS, assumed_curve, learnt_curve
from dakika_core.foresight.level import PostFeatures, expected_post, expected_sum, fit_level
from dakika_core.foresight.projection import HORIZONS_HOURS, past_errors, project
from dakika_core.metrics.growth import Growth
from numpy.typing import NDArray

Array = NDArray[np.float64]
_FINAL = AGES_HOURS.index(FINAL_HOURS)
FORMATS = ("text", "image", "video")
LIFT = {"text": 0.0, "image": 0.3, "video": 0.7}


class Law(StrEnum):
    """How a share of the final count is reached."""

    STRETCHED = "stretched exponential"
    WAKING = "a power law that rests at night"


@dataclass(frozen=True, kw_only=True)
class Grown:
    """Posts of a profile: values (n, ages) by chance in counting, final ones at 7 d among them."""

    day: Array
    hour: Array
    formats: list[str]
    values: Array


@dataclass(frozen=True, kw_only=True)
class GrowingWorld:
    """So many posts over half a year. half_life: hours. differing: how much posts differ in their half-life (log)."""

    seed: int
    law: Law = Law.STRETCHED
    posts: int = 200
    level: float = 4.5
    half_life: float = 5.0
    differing: float = 0.3
    noise: float = 0.5
    wandering: float = 0.06
    monthly: float = 0.0

    def grown(self) -> Grown:
        rng = np.random.default_rng(self.seed)
        day = np.sort(rng.uniform(0, 182, self.posts))
        formats = [str(name) for name in rng.choice(FORMATS, self.posts)]
        walk = np.cumsum(rng.normal(0, self.wandering, 27))[np.minimum((day // 7).astype(int), 26)]
        hour = 0.25 * np.cos(2 * np.pi * (day % 1 - 0.8))
        luck = rng.normal(0, self.noise, self.posts) + (rng.random(self.posts) < 0.015) * rng.exponential(
            1.2, self.posts
        )
        mean = np.exp(
            self.level + walk + self.monthly * day / 30 + hour + np.array([LIFT[name] for name in formats]) + luck
        )
        half_lives = self.half_life * np.exp(rng.normal(0, self.differing, self.posts))
        share = np.array([self._share(half, start % 1 * 24) for half, start in zip(half_lives, day, strict=True)])
        # Counts come by chance in each span of time, and only add up.
        steps = np.diff(np.column_stack([np.zeros(self.posts), share]), axis=1)
        values = np.cumsum(rng.poisson(mean[:, None] * np.maximum(steps, 0)), axis=1).astype(float)
        return Grown(day=day, hour=hour, formats=formats, values=values)

    def _share(self, half_life: float, clock: float) -> Array:
        ages = np.array(AGES_HOURS)
        if self.law is Law.STRETCHED:
            return np.asarray(1 - 2.0 ** -((ages / half_life) ** 0.75))
        # Attention falls by a power of the age, and is a fifth of itself from 0 to 7 o'clock.
        grid = np.arange(0.125, 673, 0.25)
        rate = (1 + grid / half_life) ** -1.6 * np.where((clock + grid) % 24 < 7, 0.2, 1.0)
        return np.interp(ages, grid, np.cumsum(rate) / rate.sum())


@dataclass(frozen=True, kw_only=True)
class Coverage:
    """How often 80 % intervals held: by age in hours, before publishing, of whole weeks; mean |log error| by age (0 before
    publishing); bias: mean log of what weeks had over what was expected.
    """

    by_horizon: dict[float, float]
    before: float
    weeks: float
    errors: dict[float, float]
    bias: float


def coverage(worlds: list[GrowingWorld]) -> Coverage:
    """Week after week, each projected from what was known when it began, held against what came."""
    held: dict[float, list[bool]] = {age: [] for age in (0.0, *HORIZONS_HOURS)}
    off: dict[float, list[float]] = {age: [] for age in (0.0, *HORIZONS_HOURS)}
    weeks: list[bool] = []
    bias: list[float] = []
    for world in worlds:
        told = world.grown()
        growth = assumed_curve(Growth(half_life_hours=world.half_life))
        every = PostFeatures(
            day=told.day, hour=told.hour, formats=told.formats, labels=[frozenset()] * len(told.formats)
        )
        logs = np.log1p(told.values[:, _FINAL])
        for start in np.arange(70.0, 182.0, 7.0):
            before, week = told.day <= start - 7, (told.day >= start) & (told.day < start + 7)
            model = fit_level(every.among(before), logs[before]) if week.any() else None
            if model is None:
                continue
            truth, prior = told.values[week, _FINAL], model.expected(every.among(week))
            for log, came in zip(prior, truth, strict=True):
                said = expected_post(model, float(log))
                held[0.0].append(bool(said.low - 0.5 <= came <= said.high + 0.5))
                off[0.0].append(abs(float(np.log1p(came) - np.log1p(said.value))))
            together = expected_sum([(model, prior)], draws=1000)
            weeks.append(bool(together.low <= truth.sum() <= together.high))
            bias.append(float(np.log(truth.sum() / together.value)))
            curve = learnt_curve(told.values[before], growth)
            known = model.expected(every.among(before))
            errors = past_errors(told.values[before], curve, known, np.full(len(known), model.spread))
            for age in HORIZONS_HOURS:
                ages = np.full(len(prior), age)
                rise, spread = curve.at(ages)
                found = project(
                    ages_hours=ages, counts=told.values[week, AGES_HOURS.index(age)], rise=rise, spread=spread,
                    prior_log=prior, prior_spread=np.full(len(prior), model.spread), errors=errors,
                )  # fmt: skip
                held[age] += ((found.low <= truth) & (truth <= found.high)).tolist()
                off[age] += np.abs(np.log1p(truth) - np.log1p(found.value)).tolist()
    return Coverage(
        by_horizon={age: float(np.mean(held[age])) for age in HORIZONS_HOURS}, before=float(np.mean(held[0.0])),
        weeks=float(np.mean(weeks)), errors={age: float(np.mean(values)) for age, values in off.items()},
        bias=float(np.mean(bias)),
    )  # fmt: skip
