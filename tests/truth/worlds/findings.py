"""Brands in which nothing is worth saying: posts as luck has them, with groups, days and weeks that make no difference."""

from dataclasses import dataclass
from datetime import date, timedelta

import numpy as np
from dakika_core.results.findings import (
    SPIKE_ALPHA,
    SPIKE_Z,
    Statement,
    group_statements,
    spike_statements,
    trend_statements,
    unusual_statements,
    without_format,
)
from dakika_core.results.groups import compare_groups, indicators
from dakika_core.results.spikes import far_out
from numpy.typing import NDArray

Array = NDArray[np.float64]
DAYS, RECENT = 90, 28
FIRST = date(2026, 8, 3)
SERIES = ("Interactions", "Reach", "Impressions", "Followers gained", "Posts")
AFTER = (0.7, 0.2, 0.1)


@dataclass(frozen=True, kw_only=True)
class Brand:
    """posts_a_day over all profiles; level is the mean of what a post gets; viral posts get e^2 as much on average.

    event_day: a day whose posts get twelve times as much: something did happen.
    """

    seed: int
    posts_a_day: float = 2.0
    level: float = 60.0
    viral: float = 0.02
    profiles: int = 3
    event_day: int | None = None

    def said(self) -> list[Statement]:
        """Everything that the findings of one morning would say."""
        rng = np.random.default_rng(self.seed)
        day = np.sort(rng.integers(0, DAYS, rng.poisson(self.posts_a_day * DAYS)))
        n = len(day)
        profile = rng.integers(0, self.profiles, n)
        kind = rng.choice(["text", "image", "video"], n, p=[0.5, 0.3, 0.2])
        luck = rng.normal(0, 0.6, n) + np.where(rng.random(n) < self.viral, rng.exponential(2, n), 0)
        mean = self.level * np.exp(0.4 * profile + 0.3 * (kind == "video") + luck)
        if self.event_day is not None:
            mean = mean * np.where(day == self.event_day, 12.0, 1.0)
        value = rng.poisson(mean).astype(float)
        logs = np.log(np.maximum(value, 0.5))
        for p in range(self.profiles):
            logs[profile == p] -= np.median(logs[profile == p]) if (profile == p).any() else 0
        return [
            *self._groups(rng, logs, profile, kind, day), *self._spikes(rng, value, day),
            *self._of_posts(logs, profile, kind, day),
        ]  # fmt: skip

    def _groups(
        self, rng: np.random.Generator, logs: Array, profile: Array, kind: Array, day: Array
    ) -> list[Statement]:
        n = len(logs)
        one_of = {
            "campaign": rng.choice(4, n, p=[0.55, 0.2, 0.15, 0.1]), "weekday": day % 7, "length": rng.integers(0, 4, n),
            "language": rng.choice(3, n, p=[0.7, 0.2, 0.1]), "boosted": rng.choice(2, n, p=[0.9, 0.1]),
        }  # fmt: skip
        several = {"tag": 12, "hashtag": 20}
        of_profile = indicators([str(p) for p in profile])
        both = np.column_stack([of_profile, indicators(list(kind))])
        groupings = {by: compare_groups(np.exp(logs), {str(k): keys == k for k in np.unique(keys)}, both)
                     for by, keys in one_of.items()}  # fmt: skip
        for by, many in several.items():
            masks = {str(k): rng.random(n) < rng.uniform(0.04, 0.3) for k in range(many)}
            groupings[by] = compare_groups(np.exp(logs), masks, both)
        return group_statements(groupings, {})

    def _spikes(self, rng: np.random.Generator, value: Array, day: Array) -> list[Statement]:
        shares = zip(range(len(AFTER)), AFTER, strict=True)
        received = sum(
            (np.bincount(day + late, value * share, DAYS + 3)[:DAYS] for late, share in shares), np.zeros(DAYS)
        )
        interactions = np.floor(received)
        published = np.bincount(day, minlength=DAYS).astype(float)
        reach = rng.poisson(received * 12 * np.exp(rng.normal(0, 0.1, DAYS))).astype(float)
        courses = {
            "Interactions": interactions, "Reach": reach, "Impressions": np.floor(reach * 1.6),
            "Followers gained": rng.poisson(3 + received / 50).astype(float), "Posts": published,
        }  # fmt: skip
        found = []
        for name in SERIES:
            spikes = far_out(
                courses[name], recent=RECENT, alpha=SPIKE_ALPHA, floor=SPIKE_Z,
                published=None if name == "Posts" else published,
            )  # fmt: skip
            found += [(name, FIRST + timedelta(days=s.at), s.value, s.level, s.z) for s in spikes]
        return spike_statements(found)

    def _of_posts(self, logs: Array, profile: Array, kind: Array, day: Array) -> list[Statement]:
        trends, unusual = {}, {}
        for p in range(self.profiles):
            own = profile == p
            left, recent = without_format(logs[own], list(kind[own])), day[own] >= DAYS - RECENT
            trends[str(p)] = (left[recent], left[~recent])
            new = day[own] >= DAYS - 7
            unusual[str(p)] = (logs[own], logs[own][new], list(np.flatnonzero(own)[new]))
        return [*trend_statements(trends), *unusual_statements(unusual)]
