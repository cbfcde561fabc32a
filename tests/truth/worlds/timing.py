"""Posts whose results depend on the hour of the week by a known curve, or by none."""

from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from dakika_core.timing.best_times import HourEffects, HourModel, fit_hours
from numpy.typing import NDArray
from scipy.special import ndtri
from scipy.stats import spearmanr

Array = NDArray[np.float64]
HOURS = np.arange(168)
WAKING = np.array([6 <= h % 24 <= 22 for h in HOURS])
UTC_ZONE = ZoneInfo("UTC")
START = datetime(2026, 5, 4, tzinfo=UTC)
LIFT = {"text": 0.0, "image": 0.3, "video": 0.7}


def true_effect() -> Array:
    """About 40 % either way: an evening peak, a smaller one in the morning, late mornings at the weekend."""
    clock = HOURS % 24 + 0.5
    effect = 0.25 * np.cos(2 * np.pi * (clock - 19) / 24) + 0.13 * np.cos(4 * np.pi * (clock - 9) / 24)
    effect += np.where(HOURS >= 120, 0.2 * np.cos(2 * np.pi * (clock - 11) / 24), 0)
    found: Array = effect - effect.mean()
    return found


def mirrored_effect() -> Array:
    """Another audience: the same curve, half a day later."""
    return np.roll(true_effect(), 12)


def other_effect(rng: np.random.Generator) -> Array:
    """A random smooth curve of the same strength: two daily waves, another one at the weekend, wherever they fall."""
    clock = HOURS % 24 + 0.5
    effect = rng.uniform(0.15, 0.3) * np.cos(2 * np.pi * (clock - rng.uniform(0, 24)) / 24)
    effect += rng.uniform(0.0, 0.18) * np.cos(4 * np.pi * (clock - rng.uniform(0, 24)) / 24)
    effect += np.where(HOURS >= 120, rng.uniform(0, 0.25) * np.cos(2 * np.pi * (clock - rng.uniform(0, 24)) / 24), 0)
    found: Array = effect - effect.mean()
    return found


@dataclass(frozen=True, kw_only=True)
class World:
    """How posts are published and what their results follow from.

    effects: of each profile by hour of week, shape (168,); a single one for all. videos_at:
    the hours of the day within which most posts are videos, which do better anyway.
    """

    seed: int
    effects: tuple[Array, ...] = field(default_factory=lambda: (true_effect(),))
    profiles: int = 3
    weeks: int = 26
    a_week: int = 6
    office: float = 0.88
    noise: float = 0.6
    videos_at: tuple[int, int] | None = None
    wandering: float = 0.0
    presence: Array | None = None

    def posts(self) -> tuple[list[datetime], Array, list[str], list[str]]:
        """Instants, values, formats and profiles: n each."""
        rng = np.random.default_rng(self.seed)
        times, values, formats, profiles = [], [], [], []
        for profile in range(self.profiles):
            effect = self.effects[profile % len(self.effects)]
            walk = np.cumsum(rng.normal(0, self.wandering, self.weeks)) if self.wandering else np.zeros(self.weeks)
            for week in range(self.weeks):
                for _ in range(self.a_week):
                    is_office = rng.random() < self.office
                    hour = int(rng.integers(9, 18) if is_office else rng.integers(6, 23))
                    day = int(rng.integers(0, 5) if is_office else rng.integers(0, 7))
                    kind = str(rng.choice(["text", "image", "video"]))
                    if self.videos_at and self.videos_at[0] <= hour < self.videos_at[1] and rng.random() < 0.6:
                        kind = "video"
                    level = 5 + 0.7 * profile + 0.004 * week + walk[week] + LIFT[kind]
                    luck = rng.normal(0, self.noise) + (rng.exponential(2) if rng.random() < 0.02 else 0)
                    values.append(float(np.exp(level + effect[day * 24 + hour] + luck)))
                    times.append(START + timedelta(weeks=week, hours=day * 24 + hour, minutes=int(rng.integers(0, 60))))
                    formats.append(kind)
                    profiles.append(str(profile))
        return times, np.array(values), formats, profiles

    def model(self) -> HourModel:
        """What is fitted to it. Raises ValueError with too few posts."""
        times, values, formats, profiles = self.posts()
        presence = None if self.presence is None else dict.fromkeys(set(profiles), self.presence)
        fitted = fit_hours(
            published_at=times, values=values, formats=formats, profiles=profiles, zone=UTC_ZONE, presence=presence
        )
        if fitted is None:
            raise ValueError("too few posts")
        return fitted

    def estimate(self, of: str | None = None) -> HourEffects | None:
        """What the model makes of it; of one profile, or of all."""
        try:
            return self.model().of(of)
        except ValueError:
            return None

    def used(self) -> Array:
        """Share of posts by hour of week, in expectation: the level that an index is held against."""
        share = np.zeros(168)
        share[[d * 24 + h for d in range(5) for h in range(9, 18)]] += self.office / 45
        share[[d * 24 + h for d in range(7) for h in range(6, 23)]] += (1 - self.office) / 119
        return share


@dataclass(frozen=True, kw_only=True)
class Held:
    """An estimate held against its truth over the waking hours."""

    regret: float
    rank: float
    covered80: float
    covered90: float
    covered_used: float
    claimed: float
    real: float
    has_effect: bool


def held(found: HourEffects, truth: Array, used: Array) -> Held:
    """regret: share of the oracle's lift that the five recommended hours lose. covered: how often intervals hold."""
    guess = np.log(found.index)
    taken, best = (np.flatnonzero(WAKING)[np.argsort(-curve[WAKING])[:5]] for curve in (guess, truth))
    base = truth[WAKING].mean()
    centred = truth - used @ truth
    spread = (np.log(found.high80) - np.log(found.low80)) / (2 * ndtri(0.9))
    within90 = np.abs(guess - centred) <= ndtri(0.95) * spread
    return Held(
        regret=float(1 - (truth[taken].mean() - base) / (truth[best].mean() - base)),
        rank=float(spearmanr(guess[WAKING], truth[WAKING])[0]),
        covered80=float(((np.log(found.low80) <= centred) & (centred <= np.log(found.high80)))[WAKING].mean()),
        covered90=float(within90[WAKING].mean()), covered_used=float(within90[used > 0.01].mean()),
        claimed=float(guess[taken].mean() - guess[WAKING].mean()), real=float(truth[taken].mean() - base),
        has_effect=found.has_effect,
    )  # fmt: skip
