"""At which hours of the week should profiles publish? Solved exactly, for all of them at once.

An integer programme (HiGHS by scipy). Slots are of two kinds: those taken for their index, and a share of them for
hours worth learning about. Hours follow the clock of one zone; the week is a circle, since it comes again.

Worth learning: a post at hour h would lower the variance of hour g by S_gh^2 / (S_hh + v), with S the covariance of the
effects and v the variance of a single post (D. Cohn, Z. Ghahramani, M. Jordan, "Active learning with statistical
models", JAIR 4, 1996, from memory). An hour's worth is the root of the sum of that over the hours, each weighed by how
likely it is to be among the best.

In the trade's words: posting schedule, integer programming, exploration and exploitation.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import coo_array
from scipy.special import ndtr, ndtri

from dakika_core.timing.best_times import HourEffects
from dakika_core.values.figure import Interval
from dakika_core.values.period import HOURS_PER_WEEK, hour_of_week

Array = NDArray[np.float64]

# So many profiles find room within one hour when each has a quarter of its own.
QUARTERS = 4
# Beyond this the best that was found is taken; eight profiles take half a second.
_LONGEST_SECONDS = 20.0
# An hour is held against the so-manieth best when it is asked how likely it is among the best.
_AMONG_BEST = 10
# What changing a rhythm is taken to cost: less than this is not worth proposing. And how sure one must be of it.
COST_OF_CHANGE, SURE_ENOUGH = 0.05, 0.9


@dataclass(frozen=True, kw_only=True)
class Slot:
    """A proposed time, with the expected index at that hour."""

    at: datetime
    index: float


@dataclass(frozen=True, kw_only=True)
class Rules:
    """What a rhythm must keep. Hours from quiet_from to quiet_to are left out, and the days off (Monday = 0).

    min_distance_hours: between two slots of a profile, round the week. own_quarters: no two profiles in the same
    quarter of an hour. learning: share of the slots for hours worth learning about.
    """

    min_distance_hours: int = 6
    most_per_day: int = 2
    quiet_from: int = 23
    quiet_to: int = 7
    days_off: frozenset[int] = frozenset()
    own_quarters: bool = True
    learning: float = 0.1

    def allows(self, hour: int) -> bool:
        """Whether an hour of the week may be taken."""
        return hour // 24 not in self.days_off and not is_quiet(hour % 24, self.quiet_from, self.quiet_to)


@dataclass(frozen=True, kw_only=True)
class WeeklySlot:
    """A slot of a rhythm: minutes from Monday 00:00 by the clock of the zone. is_learning: taken to learn about."""

    profile: str
    minute: int
    index: float
    low: float
    high: float
    is_learning: bool = False
    narrows: float = 0.0

    @property
    def hour(self) -> int:
        """Its hour of the week."""
        return self.minute // 60


@dataclass(frozen=True, kw_only=True)
class Gain:
    """What one rhythm is expected to gain on another: ratio with its 80 % interval, and how likely it is a gain.

    That no hour matters at all is one of the possibilities, so that the best of many hours is no gain by being chosen.
    """

    ratio: float
    interval: Interval
    chance: float

    @property
    def is_worth_it(self) -> bool:
        """Whether it would gain more than a change costs."""
        return self.ratio >= 1 + COST_OF_CHANGE and self.chance >= SURE_ENOUGH


@dataclass(frozen=True, kw_only=True)
class Rhythm:
    """A proposal: slots in the order of the week, and the profiles for which the rules left room for fewer."""

    slots: tuple[WeeklySlot, ...]
    short: Mapping[str, int] = field(default_factory=dict)


def worth_learning(effects: HourEffects) -> Array:
    """By how much (log scale) a post at each hour would narrow what is known of the hours that may be among the
    best.
    """
    covariance = effects.covariance
    variance = np.diag(covariance)
    logs = np.log(effects.index)
    best = np.sort(logs)[-_AMONG_BEST]
    weight = ndtr((logs - best) / np.sqrt(np.maximum(variance, 1e-12)))
    lowered = (covariance**2 * weight[:, None]).sum(axis=0) / (variance + effects.noise**2)
    return np.asarray(np.sqrt(lowered / max(float(weight.sum()), 1e-12)))


def propose_rhythm(effects: Mapping[str, HourEffects], wanted: Mapping[str, int], rules: Rules) -> Rhythm:
    """The weekly slots of several profiles with the highest total log index that keep the rules.

    wanted: slots a week by profile. Of all slots the share `learning`, rounded, goes to hours worth learning about;
    each profile's are at most as many as it has. Fewer are returned where the rules leave room for fewer.
    """
    names = [name for name in sorted(wanted) if wanted[name] > 0 and name in effects]
    hours = [hour for hour in range(HOURS_PER_WEEK) if rules.allows(hour)]
    if not names or not hours:
        return Rhythm(slots=(), short={name: wanted[name] for name in names})
    learning = round(rules.learning * sum(wanted[name] for name in names))
    size = len(hours)
    logs = np.array([np.log(effects[name].index[hours]) for name in names])
    worth = np.array([worth_learning(effects[name])[hours] for name in names])
    # Every slot is worth more than any difference between hours, so that as many are taken as the rules allow.
    every = 10.0 + float(np.ptp(logs)) + float(np.ptp(worth))
    # What is learnt counts beside the index in its own slots: the two are in one unit, the log scale.
    reward = np.concatenate([(logs + every).ravel(), (worth + every).ravel()])
    made = _Constraints(columns=2 * size * len(names))
    for p, name in enumerate(names):
        own = np.arange(size) + p * size
        both = np.concatenate([own, own + size * len(names)])
        made.at_most(both, wanted[name])
        _spaced(made, own, hours, rules, size * len(names))
        for day in range(7):
            of_day = own[[hour // 24 == day for hour in hours]]
            if len(of_day):
                made.at_most(np.concatenate([of_day, of_day + size * len(names)]), rules.most_per_day)
    offset = size * len(names)
    made.at_most(np.arange(offset) + offset, learning)
    made.at_most(np.arange(offset), sum(wanted[name] for name in names) - learning)
    if rules.own_quarters and len(names) > QUARTERS:
        for h in range(size):
            at_hour = np.arange(len(names)) * size + h
            made.at_most(np.concatenate([at_hour, at_hour + offset]), QUARTERS)
    found = milp(
        -reward, constraints=made.constraint(), integrality=np.ones(len(reward)), bounds=Bounds(0, 1),
        options={"mip_rel_gap": 0.0, "time_limit": _LONGEST_SECONDS},
    )  # fmt: skip
    taken = np.flatnonzero(found.x > 0.5) if found.x is not None else np.array([], dtype=int)
    slots = []
    for place in taken.tolist():
        p, h = place % offset // size, place % size
        slots.append(_slot(effects[names[p]], names[p], hours[h], float(worth[p, h]), is_learning=place >= offset))
    slots = _in_quarters(sorted(slots, key=lambda s: (s.minute, s.profile))) if rules.own_quarters else slots
    many = {name: sum(slot.profile == name for slot in slots) for name in names}
    return Rhythm(
        slots=tuple(sorted(slots, key=lambda s: (s.minute, s.profile))),
        short={name: wanted[name] - many[name] for name in names if many[name] < wanted[name]},
    )


@dataclass
class _Constraints:
    """Rows of sums of columns that stay at or below a number."""

    columns: int
    rows: list[int] = field(default_factory=list)
    places: list[int] = field(default_factory=list)
    tops: list[float] = field(default_factory=list)

    def at_most(self, places: NDArray[np.int64], top: float) -> None:
        self.rows += [len(self.tops)] * len(places)
        self.places += places.tolist()
        self.tops.append(float(top))

    def constraint(self) -> LinearConstraint:
        ones = np.ones(len(self.rows))
        matrix = coo_array((ones, (self.rows, self.places)), shape=(len(self.tops), self.columns)).tocsr()
        return LinearConstraint(matrix, ub=np.array(self.tops))


def _spaced(made: _Constraints, own: NDArray[np.int64], hours: Sequence[int], rules: Rules, offset: int) -> None:
    """At most one slot of a profile in any stretch of the minimum distance, round the circle of the week."""
    distance = max(1, rules.min_distance_hours)
    at = np.array(hours)
    for hour in hours:
        within = own[(at - hour) % HOURS_PER_WEEK < distance]
        made.at_most(np.concatenate([within, within + offset]), 1)


def _slot(effects: HourEffects, name: str, hour: int, worth: float, *, is_learning: bool) -> WeeklySlot:
    return WeeklySlot(
        profile=name, minute=hour * 60, index=float(effects.index[hour]), low=float(effects.low80[hour]),
        high=float(effects.high80[hour]), is_learning=is_learning, narrows=worth,
    )  # fmt: skip


def _in_quarters(slots: Sequence[WeeklySlot]) -> list[WeeklySlot]:
    """Profiles that share an hour get a quarter of it each."""
    found, seen = [], dict[int, int]()
    for slot in slots:
        quarter = seen.get(slot.hour, 0)
        seen[slot.hour] = quarter + 1
        found.append(
            WeeklySlot(
                profile=slot.profile, minute=slot.hour * 60 + 15 * (quarter % QUARTERS), index=slot.index, low=slot.low,
                high=slot.high, is_learning=slot.is_learning, narrows=slot.narrows,
            )
        )  # fmt: skip
    return found


def gain_of(
    effects: Mapping[str, HourEffects], now: Mapping[str, Sequence[int]], proposed: Mapping[str, Sequence[int]]
) -> Gain | None:
    """What the proposed hours of week gain on those of today: of each profile, by the number of its proposed slots.

    The geometric mean over all slots. None where a profile has no hours to compare, or nothing is proposed.
    Where no effect of the hour may be claimed of one of them, the figure is averaged with none (Bayesian model
    averaging; J. Hoeting et al., Statistical Science 14, 1999, from memory) and the interval holds 1.00 beside what it
    holds anyway.
    """
    total = sum(len(hours) for hours in proposed.values())
    if not total:
        return None
    mean, variance, nothing = 0.0, 0.0, 0.0
    for name, hours in proposed.items():
        if not hours:
            continue
        if not now.get(name):
            return None
        one = effects[name]
        nothing = max(nothing, _chance_of_none(one))
        contrast = np.zeros(HOURS_PER_WEEK)
        np.add.at(contrast, np.asarray(hours, dtype=int), 1 / len(hours))
        np.add.at(contrast, np.asarray(now[name], dtype=int), -1 / len(now[name]))
        share = len(hours) / total
        mean += share * float(contrast @ np.log(one.index))
        # Profiles that are estimated together err together: their errors are added up, not averaged out.
        variance = (variance**0.5 + share * max(float(contrast @ one.covariance @ contrast), 0.0) ** 0.5) ** 2
    spread = max(variance**0.5, 1e-9)
    half = float(ndtri(0.9)) * spread
    low, high = mean - half, mean + half
    if nothing > 0:
        low, high = min(low, 0.0), max(high, 0.0)
    return Gain(
        ratio=float(np.exp((1 - nothing) * mean)), chance=(1 - nothing) * float(ndtr(mean / spread)),
        interval=Interval(low=float(np.exp(low)), high=float(np.exp(high)), level=0.8),
    )  # fmt: skip


def _chance_of_none(effects: HourEffects) -> float:
    """How likely it is that no hour matters: by the odds, at least even, unless an effect may be claimed."""
    return 0.0 if effects.has_effect else max(1 / (1 + effects.odds), 0.5)


def free_hours(start: datetime, zone: ZoneInfo, *, hours: int = 168) -> list[datetime]:
    """The next whole local hours after `start`: real hours, so a change of clocks skips or repeats one."""
    local = start.astimezone(zone).replace(minute=0, second=0, microsecond=0)
    first = local.astimezone(start.tzinfo) + timedelta(hours=1)
    return [first + timedelta(hours=i) for i in range(hours)]


def propose_slots(
    *, index: Array, candidates: Sequence[datetime], zone: ZoneInfo, taken: Sequence[datetime], count: int,
    min_distance_hours: float = 6.0, quiet_from: int = 23, quiet_to: int = 7, most_per_day: int = 2,
) -> list[Slot]:  # fmt: skip
    """The `count` free hours of a real week with the highest total log index that keep the rules, in order of time.

    index: shape (168,), effect by hour of week in `zone`. Hours from quiet_from to quiet_to
    (local) are left out, as are those nearer than min_distance_hours to a taken time. Fewer
    are returned when the rules leave room for fewer.
    """
    open_slots = [
        at
        for at in candidates
        if not is_quiet(at.astimezone(zone).hour, quiet_from, quiet_to)
        and all(abs((at - other).total_seconds()) >= min_distance_hours * 3600 for other in taken)
    ]
    if not open_slots or count <= 0:
        return []
    gain = np.array([np.log(index[int(hour_of_week(at, zone))]) for at in open_slots])
    made = _Constraints(columns=len(open_slots))
    for at in open_slots:
        close = [
            j for j, other in enumerate(open_slots)
            if 0 <= (other - at).total_seconds() < min_distance_hours * 3600
        ]  # fmt: skip
        if len(close) > 1:
            made.at_most(np.array(close), 1)
    days = [at.astimezone(zone).date() for at in open_slots]
    for day in set(days):
        made.at_most(np.flatnonzero([other == day for other in days]), most_per_day)
    made.at_most(np.arange(len(open_slots)), count)
    # A reward for every slot keeps the number asked for, even where hours are below typical.
    reward = gain - gain.min() + 1.0
    found = milp(-reward, constraints=made.constraint(), integrality=np.ones(len(open_slots)), bounds=Bounds(0, 1))
    chosen = np.flatnonzero(found.x > 0.5) if found.x is not None else np.array([], dtype=int)
    return [Slot(at=open_slots[i], index=float(index[int(hour_of_week(open_slots[i], zone))])) for i in sorted(chosen)]


def is_quiet(hour: int, start: int, end: int) -> bool:
    """Whether an hour of the day lies in the quiet hours from `start` to `end`, over midnight too."""
    return hour >= start or hour < end if start > end else start <= hour < end
