"""Does it hold? Hours learnt on the older weeks, tried on the newer.

The posts of the newer weeks are held against what the older ones said of their hours: log result = level of the profile
+ format + trend + b x log index said + luck. b = 1: what was said came true in full, 0: nothing of it. Recommended are
the hours that the older weeks put highest among those at which anything was published since: the best third of the
posts. What these gain over all hours used is b times the difference of what was said of both. So nothing is claimed of
hours that nobody tried. Its interval comes from how weeks scatter (cluster-robust by week, corrected for few weeks; A.
Cameron and D. Miller, "A practitioner's guide to cluster-robust inference", JHR 50, 2015, from memory).

In the trade's words: backtest, out-of-sample validation.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray
from scipy.special import stdtrit

from dakika_core.timing.best_times import compared, fit_hours
from dakika_core.values.figure import Interval
from dakika_core.values.period import hour_of_week

Array = NDArray[np.float64]

# The newer part that hours are tried on; the fewest posts in it, and the fewest weeks.
NEWER_SHARE, FEWEST_NEWER, FEWEST_WEEKS = 1 / 3, 20, 5
# Results beyond so many robust standard deviations count as that far off.
_WINSOR = 2.5


@dataclass(frozen=True, kw_only=True)
class Third:
    """Posts of the newer weeks whose hours were said to be low, middling or high: what was said and what came.

    said and came: geometric means of the index, 1.00 = all posts of the newer weeks; came with its 95 % interval.
    """

    said: float
    came: float
    interval: Interval
    posts: int


@dataclass(frozen=True, kw_only=True)
class HeldOut:
    """gain: result at the recommended hours over that at all hours used, as a ratio with its 95 % interval; None where
    too little was published since `since` to try it on. slope: how much of what was said came true. claimed: the gain
    that the older weeks promised. hours: the recommended ones, ascending.
    """

    since: datetime
    older: int
    newer: int
    weeks: int
    gain: float | None
    interval: Interval | None
    slope: float | None
    claimed: float | None
    hours: tuple[int, ...]
    thirds: tuple[Third, ...]

    @property
    def is_shown(self) -> bool:
        """Whether a gain can be shown: its interval leaves out 1.00."""
        return self.interval is not None and self.interval.low > 1.0


def held_out(
    *, published_at: Sequence[datetime], values: Array, formats: Sequence[str], zone: ZoneInfo,
    profiles: Sequence[str] | None = None, presence: Mapping[str, Array] | None = None, totals: Array | None = None,
) -> HeldOut | None:  # fmt: skip
    """Fit the older two thirds of the time, try on the newer. Arguments as of fit_hours; None without posts."""
    order = sorted(range(len(values)), key=lambda i: published_at[i])
    at = [published_at[i] for i in order]
    if not at:
        return None
    names = [(profiles or [""] * len(at))[i] for i in order]
    kinds = [formats[i] for i in order]
    of = np.array(order)
    counts, totals = values[of], None if totals is None else totals[of]
    since = at[-1] - (at[-1] - at[0]) * NEWER_SHARE
    is_known = ~np.isnan(counts) if totals is None else ~np.isnan(counts) & (totals > 0)
    newer = np.array([one >= since for one in at]) & is_known
    older = np.array([one < since for one in at]) & is_known

    def part(mask: NDArray[np.bool_]) -> tuple[list[datetime], list[str], list[str]]:
        places = np.flatnonzero(mask).tolist()
        return [at[i] for i in places], [kinds[i] for i in places], [names[i] for i in places]

    times, kinds_of, names_of = part(older)
    model = fit_hours(
        published_at=times, values=counts[older], formats=kinds_of, zone=zone, profiles=names_of, presence=presence,
        totals=None if totals is None else totals[older],
    )  # fmt: skip
    new_times, new_kinds, new_names = part(newer)
    weeks = np.array([int((one - since) / timedelta(days=7)) for one in new_times], dtype=int)
    nothing = HeldOut(
        since=since, older=int(older.sum()), newer=int(newer.sum()), weeks=len(set(weeks.tolist())), gain=None,
        interval=None, slope=None, claimed=None, hours=(), thirds=(),
    )  # fmt: skip
    if model is None or nothing.newer < FEWEST_NEWER or nothing.weeks < FEWEST_WEEKS:
        return nothing
    logs = compared(counts[newer], None if totals is None else totals[newer])
    effects = {name: model.expected(name) for name in set(new_names)}
    hours = np.array([int(hour_of_week(one, zone)) for one in new_times])
    said = np.array([effects[name][hour] for name, hour in zip(new_names, hours, strict=True)])
    return _tried(nothing, said, logs, _nuisance(new_times, new_kinds, new_names), weeks, hours)


def _nuisance(times: list[datetime], kinds: list[str], names: list[str]) -> Array:
    days = np.array([one.timestamp() / 86400 for one in times])
    trend = (days - days.mean()) / max(float(np.ptp(days)), 1.0)
    of, kind = np.array(names), np.array(kinds)
    columns = [(of == name).astype(float) for name in sorted(set(names))]
    columns += [(kind == name).astype(float) for name in sorted(set(kinds))[1:]]
    return np.column_stack([*columns, trend])


def _tried(
    nothing: HeldOut, said: Array, logs: Array, nuisance: Array, weeks: NDArray[np.int64], hours: NDArray[np.int64]
) -> HeldOut:  # fmt: skip
    left = _winsorised(_without(nuisance, logs))
    apart = _without(nuisance, said)
    square = float(apart @ apart)
    weeks_of = np.unique(weeks)
    best = _third_of(said) == 2
    promised = float(said[best].mean() - said.mean()) if best.any() else 0.0
    found = replace(
        nothing,
        claimed=float(np.exp(promised)),
        thirds=_thirds(said, left),
        hours=tuple(sorted(set(hours[best].tolist()))),
    )
    if square < 1e-9 or not best.any():
        return replace(found, gain=1.0, interval=Interval(low=0.0, high=float("inf")), slope=0.0)
    slope = float(apart @ left) / square
    luck = left - slope * apart
    scores = np.array([float((apart * luck)[weeks == week].sum()) for week in weeks_of])
    many, n, k = len(weeks_of), len(left), nuisance.shape[1] + 1
    correction = many / (many - 1) * (n - 1) / max(n - k, 1)
    error = float(np.sqrt(correction * (scores**2).sum())) / square
    half = float(stdtrit(many - 1, 0.975)) * error
    return replace(
        found, gain=float(np.exp(promised * slope)), slope=slope,
        interval=Interval(low=float(np.exp(promised * (slope - half))), high=float(np.exp(promised * (slope + half)))),
    )  # fmt: skip


def _without(design: Array, y: Array) -> Array:
    """What is left of y when the design is taken out (least squares; Frisch, Waugh and Lovell)."""
    return np.asarray(y - design @ np.linalg.lstsq(design, y, rcond=None)[0])


def _winsorised(left: Array) -> Array:
    middle = float(np.median(left))
    scale = 1.4826 * float(np.median(np.abs(left - middle))) or float(np.std(left)) or 1.0
    return np.clip(left, middle - _WINSOR * scale, middle + _WINSOR * scale)


def _third_of(said: Array) -> NDArray[np.int64]:
    """In which third of what was said of its hour each post is, 0 to 2; ties stay together."""
    return np.searchsorted(np.quantile(said, [1 / 3, 2 / 3]), said, side="left").astype(np.int64)


def _thirds(said: Array, left: Array) -> tuple[Third, ...]:
    if float(np.ptp(said)) < 1e-9:
        return ()
    place = _third_of(said)
    found = []
    for third in range(3):
        mine = place == third
        many = int(mine.sum())
        if many < 3:
            continue
        came = left[mine]
        half = float(stdtrit(many - 1, 0.975)) * float(np.std(came, ddof=1)) / np.sqrt(many)
        middle = float(came.mean() - left.mean())
        found.append(
            Third(
                said=float(np.exp(said[mine].mean() - said.mean())), came=float(np.exp(middle)), posts=many,
                interval=Interval(low=float(np.exp(middle - half)), high=float(np.exp(middle + half))),
            )
        )  # fmt: skip
    return tuple(found)
