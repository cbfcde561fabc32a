"""A planned comparison of two publishing times, evaluated while it runs without spoiling its error.

Weeks come in pairs; in each pair chance decides which week takes the first time and which the second, for every profile
apart. So if the times make no difference, the difference within a pair is as likely to have one sign as the other, by
the drawing alone and whatever law results follow. The trial is looked at after every pair. How much of the error may be
spent at a look follows from how far the trial is (K. Lan and D. DeMets, "Discrete sequential boundaries for clinical
trials", Biometrika 70, 1983, of the O'Brien and Fleming type: little at first). Where the bound lies is told by drawing
the signs anew many times (a sequential randomisation test; W. Rosenberger and J. Lachin, Randomization in Clinical
Trials, 2nd ed., ch. 10, from memory). Intervals are those of all differences that the test would not reject (repeated
intervals; C. Jennison and B. Turnbull 1989).

In the trade's words: A/B test, randomisation, sequential testing, sample size, statistical power.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri, stdtrit

from dakika_core.values.figure import Interval

Array = NDArray[np.float64]

ERROR = 0.05
# Signs are drawn anew so many times; a fixed seed, so that the same trial gives the same answer whoever asks.
_DRAWS, _SEED = 8192, 20260504
_FEWEST_PAIRS, MOST_PAIRS = 4, 26
# How often a difference of the smallest size worth knowing is to be found.
POWER = 0.8
_SIMULATED = 400
_ENDS, _STEPS = 2.0, 24


class Verdict(StrEnum):
    """What a trial says by now."""

    RUNNING = "running"
    SECOND = "second"
    FIRST = "first"
    NO_DIFFERENCE = "no_difference"


@dataclass(frozen=True, kw_only=True)
class Look:
    """The state of a trial after some pairs.

    ratio: second over first, geometric, with an interval that holds however often one looks (level 1 - error). spent:
    the error spent so far. pairs: how many are over, of `planned`.
    """

    pairs: int
    planned: int
    ratio: float | None
    interval: Interval | None
    spent: float
    verdict: Verdict

    @property
    def is_over(self) -> bool:
        """Whether nothing more is to come."""
        return self.verdict is not Verdict.RUNNING


def draw_weeks(seed: int, pairs: int) -> tuple[bool, ...]:
    """For each week of the pairs whether it takes the second time: one of each in every pair, by chance."""
    rng = np.random.default_rng(seed)
    weeks: list[bool] = []
    for second_first in (rng.random(pairs) < 0.5).tolist():
        weeks += [second_first, not second_first]
    return tuple(weeks)


def spending(part: float, error: float = ERROR) -> float:
    """How much of a two-sided error may be spent when a part of the trial is over (0 to 1): O'Brien and Fleming's
    type.
    """
    if part <= 0:
        return 0.0
    # Each side spends its own half.
    return float(4 - 4 * ndtr(ndtri(1 - error / 4) / np.sqrt(min(part, 1.0))))


def look_at(differences: Sequence[Sequence[float]], planned: int, *, error: float = ERROR) -> Look:
    """Evaluate a trial.

    differences: of each pair that is over, of each profile in it, the mean log result at the second time less that at
    the first; profiles without a post at one of the two are left out of the pair. planned: how many pairs in all; what
    goes beyond them is not counted.
    """
    pairs = [np.asarray([d for d in pair if np.isfinite(d)], dtype=float) for pair in differences][:planned]
    done = len(pairs)
    every = np.concatenate(pairs) if pairs else np.empty(0)
    if not len(every):
        verdict = Verdict.NO_DIFFERENCE if done >= planned else Verdict.RUNNING
        return Look(pairs=done, planned=planned, ratio=None, interval=None, spent=0.0, verdict=verdict)
    sizes = [len(pair) for pair in pairs]
    crossed = _crosses(every, sizes, planned, error)
    middle = float(every.mean())
    if crossed:
        verdict = Verdict.SECOND if crossed > 0 else Verdict.FIRST
    else:
        verdict = Verdict.NO_DIFFERENCE if done >= planned else Verdict.RUNNING
    low, high = (_end(every, sizes, planned, error, middle, side) for side in (-1.0, 1.0))
    return Look(
        pairs=done, planned=planned, ratio=float(np.exp(middle)), spent=spending(done / planned, error),
        interval=Interval(low=float(np.exp(low)), high=float(np.exp(high)), level=1 - error), verdict=verdict,
    )  # fmt: skip


@lru_cache(maxsize=4)
def _signs(count: int) -> Array:
    """Every way in which signs can fall, where there are few; else so many drawn."""
    if 2**count <= _DRAWS:
        return np.where((np.arange(2**count)[:, None] >> np.arange(count)) & 1, 1.0, -1.0)
    return np.random.default_rng(_SEED).choice(np.array([-1.0, 1.0]), (_DRAWS, count))


def _crosses(every: Array, sizes: Sequence[int], planned: int, error: float) -> int:
    """+1 or -1 where the sum left its bounds at one of the looks so far, by its side; 0 where it never did."""
    # Ends of the looks within the row of differences.
    ends = np.cumsum(sizes)
    paths = np.cumsum(_signs(len(every)) * np.abs(every), axis=1)
    told = np.cumsum(every)
    left = np.ones(len(paths), dtype=bool)
    spent = 0.0
    for k, end in enumerate(ends, start=1):
        if end == 0:
            continue
        sums, allowed = np.abs(paths[:, end - 1]), spending(k / planned, error)
        # The largest bound that those not stopped before cross at most as often as is allowed by now.
        room = int(np.floor((allowed - spent) * len(paths) + 1e-9))
        ranked = np.sort(sums[left])[::-1]
        if room < 1 or len(ranked) <= room:
            continue
        bound = float(ranked[room])
        if abs(told[end - 1]) > bound * (1 + 1e-12):
            return 1 if told[end - 1] > 0 else -1
        stopped = left & (sums > bound * (1 + 1e-12))
        spent += float(stopped.sum()) / len(paths)
        left &= ~stopped
    return 0


def _end(every: Array, sizes: Sequence[int], planned: int, error: float, middle: float, side: float) -> float:
    """The outermost difference on one side that the test does not reject, by halving; infinite where none is."""
    far = middle + side * _ENDS * max(float(np.ptp(every)), 0.2)
    if not _crosses(every - far, sizes, planned, error):
        return side * np.inf
    near = middle
    for _ in range(_STEPS):
        half = (near + far) / 2
        if _crosses(every - half, sizes, planned, error):
            far = half
        else:
            near = half
    return near


@dataclass(frozen=True, kw_only=True)
class Length:
    """How long a trial will take: pairs planned (None where even the most are too few), how often it then finds the
    smallest difference worth knowing, and how many pairs it takes in the middle when it does.
    """

    pairs: int | None
    power: float
    usual: int | None


def length_of(
    *,
    worth: float,
    noise: float,
    weekly: float,
    posts_a_week: float,
    profiles: int,
    error: float = ERROR,
    seed: int = 1,
) -> Length:
    """How many pairs of weeks a trial needs, by simulation.

    worth: the smallest ratio worth knowing, such as 1.15. noise: standard deviation of a single post on the log scale;
    weekly: of what a profile's posts of one week have in common. Bounds are those of the normal law while planning.
    """
    rng = np.random.default_rng(seed)
    spread = np.sqrt(2 * (noise**2 / max(posts_a_week, 1e-9) + weekly**2))
    draws = np.log(worth) + spread * rng.standard_t(6, (_SIMULATED, MOST_PAIRS, profiles)) * np.sqrt(4 / 6)
    fewest, most = _FEWEST_PAIRS, MOST_PAIRS
    found = _power(draws, most, profiles, error)
    if found.power < POWER:
        return replace(found, pairs=None)
    # More pairs never find less, but for chance.
    while fewest < most:
        half = (fewest + most) // 2
        tried = _power(draws, half, profiles, error)
        if tried.power >= POWER:
            most, found = half, tried
        else:
            fewest = half + 1
    return found


def _power(draws: Array, planned: int, profiles: int, error: float) -> Length:
    stops = _stops(draws[:, :planned].mean(axis=2), profiles, error)
    found = stops[np.isfinite(stops)]
    return Length(pairs=planned, power=len(found) / len(stops), usual=int(np.median(found)) if len(found) else None)


def _stops(means: Array, profiles: int, error: float) -> Array:
    """At which pair each simulated trial stops on the true side; infinite where it does not. means: (trials, pairs)."""
    planned = means.shape[1]
    bounds = _normal_bounds(planned, error)
    counts = np.arange(1, planned + 1)
    mean = np.cumsum(means, axis=1) / counts
    spread = np.sqrt(
        np.maximum(np.cumsum(means**2, axis=1) / counts - mean**2, 1e-12) * counts / np.maximum(counts - 1, 1)
    )
    free = np.maximum(counts * profiles - 1, 1)
    # The bound of the normal law at Student's freedom of the look.
    wide = np.array(
        [float(stdtrit(f, ndtr(b))) if f > 1 and b < 8 else np.inf for f, b in zip(free, bounds, strict=True)]
    )
    crossed = (mean / (spread / np.sqrt(counts)) > wide) & (counts >= 2)
    return np.where(crossed.any(axis=1), crossed.argmax(axis=1) + 1.0, np.inf)


@lru_cache(maxsize=64)
def _normal_bounds(planned: int, error: float) -> tuple[float, ...]:
    """Bounds of a standardised sum at each look, under the normal law: by recursion over a grid (Armitage, McPherson
    and Rowe 1969). Held against published tables in the tests.
    """
    grid = np.linspace(-8, 8, 801)
    width = grid[1] - grid[0]
    density = np.exp(-(grid**2) / 2) / np.sqrt(2 * np.pi)
    found: list[float] = []
    spent = 0.0
    for k in range(1, planned + 1):
        root = np.sqrt(k)
        if k > 1:
            # Sums up to look k from those that went on, in units of one look's deviation.
            scale = np.sqrt(k - 1)
            before = density * (np.abs(grid) < found[-1])
            sums, weight = grid * scale, before * width
            density = (
                np.exp(-((grid[:, None] * root - sums[None, :]) ** 2) / 2) @ weight
            ) / np.sqrt(2 * np.pi) * root  # fmt: skip
        allowed = spending(k / planned, error) - spent
        tail = np.cumsum((density * width)[::-1])[::-1]
        place = int(np.searchsorted(-tail, -allowed / 2))
        bound = float(grid[min(place, len(grid) - 1)])
        if 0 < place < len(grid):
            part = (tail[place - 1] - allowed / 2) / max(tail[place - 1] - tail[place], 1e-300)
            bound = float(grid[place - 1] + part * width)
        # Cells are counted from their lower edge.
        found.append(bound - width / 2)
        spent += allowed
    return tuple(found)
