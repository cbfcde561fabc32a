"""When is a post to be read again? Often while it is young, rarely when it is old, as its network lives.

In the trade's words: adaptive polling interval.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import lru_cache

from dakika_core.metrics.observed import DEFAULT_AGES_HOURS

# Shares of the half-life at which a growing post is read: each step doubles, so that every reading
# adds about as much as the one before.
_STEPS = (0.25, 0.5, 1.0, 2.0, 4.0, 8.0, 16.0)
_EARLY_HOURS = (1.0, 6.0)
SHORTEST_HOURS = 1 / 6
STOPS_GROWING_AFTER_HALF_LIVES = 40.0
LATEST_HOURS = 365 * 24.0
MONTH_HOURS = 30 * 24.0


@lru_cache(maxsize=64)
def reading_ages(half_life_hours: float) -> tuple[float, ...]:
    """Ages in hours at which a post is to be read, ascending.

    The ages of comparison are always among them, so that equal-age values need no wide
    interpolation; then steps that double along the network's own life curve; then once a month
    for a year. Raises ValueError unless the half-life is positive.
    """
    if half_life_hours <= 0:
        raise ValueError("a half-life is positive")
    growing = max(STOPS_GROWING_AFTER_HALF_LIVES * half_life_hours, float(DEFAULT_AGES_HOURS[-1]))
    wanted = {float(age) for age in DEFAULT_AGES_HOURS}
    wanted |= {step * half_life_hours for step in _STEPS if step * half_life_hours >= SHORTEST_HOURS}
    wanted |= set(_EARLY_HOURS)
    month = MONTH_HOURS
    while month <= LATEST_HOURS:
        wanted.add(month)
        month += MONTH_HOURS
    ages = sorted(age for age in wanted if age <= max(growing, LATEST_HOURS))
    kept: list[float] = []
    for age in ages:
        # Two ages within a tenth of each other tell the same; the age of comparison is the one that stays.
        if kept and age < kept[-1] * 1.1:
            if age in DEFAULT_AGES_HOURS and kept[-1] not in DEFAULT_AGES_HOURS:
                kept[-1] = age
            elif age in DEFAULT_AGES_HOURS:
                kept.append(age)
        else:
            kept.append(age)
    return tuple(kept)


def next_reading_at(published_at: datetime, read_at: datetime | None, half_life_hours: float) -> datetime | None:
    """The instant at which a post is due again; None once it is too old to be worth a call.

    read_at is its last reading, None when it was never read (then it is due at once).
    """
    if read_at is None:
        return published_at
    age = (read_at - published_at).total_seconds() / 3600
    later = next((wanted for wanted in reading_ages(half_life_hours) if wanted > age + 1e-6), None)
    return None if later is None else published_at + timedelta(hours=later)


@dataclass(frozen=True, kw_only=True)
class Due:
    """A profile that is due for collection."""

    profile: int
    brand: int
    network: str
    due_at: datetime


def fair_order(due: Iterable[Due], *, most_per_network: int) -> list[Due]:
    """In which order profiles are collected: turn and turn about between brands, the longest waiting first.

    No brand gets a second turn at a network before every other brand that waits there has had
    its first, and no more than `most_per_network` start at once: the limit of a network is for all.
    """
    waiting: dict[str, dict[int, list[Due]]] = {}
    for one in sorted(due, key=lambda d: (d.due_at, d.profile)):
        waiting.setdefault(one.network, {}).setdefault(one.brand, []).append(one)
    chosen: list[Due] = []
    for brands in waiting.values():
        chosen += _rounds(list(brands.values()))[:most_per_network]
    return sorted(chosen, key=lambda d: (d.due_at, d.profile))


def _rounds(queues: Sequence[Sequence[Due]]) -> list[Due]:
    longest = max(map(len, queues), default=0)
    return [queue[turn] for turn in range(longest) for queue in queues if turn < len(queue)]
