"""What was a post's metric when it was a given number of hours old?

In the trade's words: interpolation, normalising by post age.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

from dakika_core.metrics.growth import FINAL_WHERE_UNKNOWN_HOURS
from dakika_core.metrics.observed import INTERACTION_PARTS, OBSERVED
from dakika_core.values.period import start_of_day

Array = NDArray[np.float64]

# The moment of publishing is a reading of zero; it may only bridge to a first reading that
# came while the asked age was not yet long past, else most of the curve would be invented.
ORIGIN_REACHES = 2.0


def interactions_of(values: Array) -> Array:
    """Sum of the parts of interactions that are reported: shape (..., len(OBSERVED)) to (...).

    Missing only where no part is reported.
    """
    parts = values[..., [OBSERVED.index(key) for key in INTERACTION_PARTS]]
    known = ~np.isnan(parts)
    return np.where(known.any(axis=-1), np.where(known, parts, 0.0).sum(axis=-1), np.nan)


def values_at_ages(ages_hours: Array, values: Array, wanted_hours: Sequence[float]) -> Array:
    """Cumulative values at the wanted ages, interpolated between the readings around.

    ages_hours: shape (n,), ascending, hours since publishing. values: shape (n, m), NaN where
    missing. Returns shape (len(wanted), m); NaN where the readings do not reach the age.
    A monotone curve on log(1 + age): close to the way posts grow, and never above the later of two
    readings or below the earlier. A reading of before the publishing (a clock that goes wrong) says
    nothing and keeps no age from being known; of two at one age the later counts.
    """
    wanted = np.asarray(wanted_hours, dtype=float)
    result = np.full((len(wanted), values.shape[1]), np.nan)
    is_later = np.append(np.diff(ages_hours) > 0, True) & (ages_hours > 0)
    known = ~np.isnan(values) & is_later[:, np.newaxis]
    # Counters of one network are told together or not at all: columns known at the same readings go as one.
    for pattern in np.unique(known, axis=1).T if known.size else ():
        if not pattern.any():
            continue
        columns = np.flatnonzero((known == pattern[:, np.newaxis]).all(axis=0))
        ages = np.append(0.0, ages_hours[pattern])
        seen = np.vstack([np.zeros(len(columns)), values[np.ix_(pattern, columns)]])
        bridged = (wanted >= ages[1]) | (ages[1] <= ORIGIN_REACHES * wanted)
        usable = (wanted <= ages[-1]) & bridged
        result[np.ix_(usable, columns)] = monotone_curve(np.log1p(ages), seen, np.log1p(wanted[usable]))
    return result


def monotone_curve(x: Array, y: Array, at: Array) -> Array:
    """Values of the monotone piecewise cubic through (x, y) at some places within them.

    x: shape (n,), ascending, n >= 2. y: shape (n, m). at: shape (k,). Returns shape (k, m). Slopes are
    the weighted harmonic means of F. N. Fritsch and J. Butland (1984), "A method for constructing local
    monotone piecewise cubic interpolants", SIAM Journal on Scientific and Statistical Computing 5, 300-304,
    zero where the data turn; at the ends the three-point slope, kept from overshooting. All columns at once,
    since this runs for every post that is collected; a test holds it against scipy's.
    """
    steps = np.diff(x)[:, np.newaxis]
    rises = np.diff(y, axis=0) / steps
    slopes = np.empty_like(y)
    if len(x) == 2:
        slopes[:] = rises
    else:
        one, two = steps[:-1], steps[1:]
        a, b = rises[:-1], rises[1:]
        with np.errstate(divide="ignore", invalid="ignore"):
            mean = 3 * (one + two) / ((2 * two + one) / a + (two + 2 * one) / b)
        slopes[1:-1] = np.where(a * b > 0, mean, 0.0)
        slopes[0] = _end_slope(steps[0], steps[1], rises[0], rises[1])
        slopes[-1] = _end_slope(steps[-1], steps[-2], rises[-1], rises[-2])
    place = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(x) - 2)
    width = steps[place]
    t = ((at - x[place]) / width[:, 0])[:, np.newaxis]
    left, right = y[place], y[place + 1]
    return np.asarray(
        left * (1 + 2 * t) * (1 - t) ** 2
        + right * t**2 * (3 - 2 * t)
        + width * (slopes[place] * t * (1 - t) ** 2 - slopes[place + 1] * t**2 * (1 - t))
    )


def _end_slope(near: Array, far: Array, first: Array, second: Array) -> Array:
    """The slope at an end, from the two rises next to it: of their sign, and no steeper than three times the first."""
    slope = ((2 * near + far) * first - near * second) / (near + far)
    slope = np.where(slope * first <= 0, 0.0, slope)
    return np.where((first * second <= 0) & (np.abs(slope) > 3 * np.abs(first)), 3 * first, slope)


def final_values(ages_hours: Array, values: Array, final_after_hours: float) -> Array:
    """The final counts: the latest known ones that were read at or beyond the final age. Shape (m,), NaN where none."""
    final = np.full(values.shape[1], np.nan)
    for row in values[ages_hours >= final_after_hours]:
        final = np.where(np.isnan(row), final, row)
    return final


@dataclass(frozen=True, kw_only=True)
class Gains:
    """What a post gained by day.

    values: shape (days, m), NaN where a metric is missing. is_placed: whether what stands on the day
    of publishing is a later total whose days are not known; is_estimated: whether some days are
    spread by an assumption over readings that lie far apart.
    """

    days: list[date]
    values: Array
    is_placed: bool = False
    is_estimated: bool = False


# Two readings tell what was gained on the days between them when they lie no further apart than this, or when the
# later is less than two and a half times as old: the posts have grown little in between.
CLOSE_HOURS = 96.0
CLOSE_RATIO = 2.5


def gains_by_day(
    published_at: datetime, taken_at: Sequence[datetime], values: Array, zone: ZoneInfo, *,
    grows_hours: float = FINAL_WHERE_UNKNOWN_HOURS,
) -> Gains:  # fmt: skip
    """What a post gained on each calendar day of `zone`.

    values: shape (n, m) cumulative, ascending in time. A counter that the network corrected
    downwards gives a negative gain on that day: it is said, not hidden. Between readings close
    enough together the gain follows the monotone curve on the log of age, as values at ages do. A
    first reading that comes too late to tell the days puts the whole on the day of publishing;
    readings that lie far apart later on spread their gain over the days in which such posts still
    grow. So no reading makes more days than that, however late it comes.
    """
    width = values.shape[1]
    if not len(taken_at):
        return Gains(days=[], values=np.empty((0, width)))
    ages = np.maximum([(at - published_at).total_seconds() / 3600 for at in taken_at], 0.0)
    known = ~np.isnan(values)
    curves = [
        (columns, _curve(ages[mask], values[mask][:, columns], grows_hours))
        for mask, columns in _alike(known)
        if mask.any()
    ]
    spans = {span for _, curve in curves for span in curve.spans}
    days, starts, ends = _days_in(published_at, zone, spans)
    made = np.full((len(days), width), np.nan)
    for columns, curve in curves:
        made[:, columns] = curve.at(ends) - curve.at(starts)
        # Before the first of the curve there was nothing: what it begins with stands on the first day.
        made[0, columns] += curve.seen[0]
    return Gains(
        days=days, values=made, is_placed=any(curve.is_placed for _, curve in curves),
        is_estimated=any(curve.is_estimated for _, curve in curves),
    )  # fmt: skip


def _alike(known: NDArray[np.bool_]) -> list[tuple[NDArray[np.bool_], list[int]]]:
    """Columns that are known in the same readings, together."""
    found: dict[bytes, tuple[NDArray[np.bool_], list[int]]] = {}
    for column in range(known.shape[1]):
        found.setdefault(known[:, column].tobytes(), (known[:, column], []))[1].append(column)
    return list(found.values())


@dataclass(frozen=True, kw_only=True)
class _Curve:
    """A cumulative curve: grid in hours, seen (len(grid), m), and the spans of hours in which it moves."""

    grid: Array
    seen: Array
    spans: list[tuple[float, float]]
    is_placed: bool
    is_estimated: bool

    def at(self, hours: Array) -> Array:
        """What was counted by some hours, shape (k, m): as at its ends before and beyond them."""
        if len(self.grid) == 1:
            return np.repeat(self.seen, len(hours), axis=0)
        x = np.log1p(self.grid)
        return monotone_curve(x, self.seen, np.clip(np.log1p(hours), x[0], x[-1]))


def _curve(ages: Array, seen: Array, grows_hours: float) -> _Curve:
    is_close = _is_close(0.0, ages[0])
    # A total that came too late to tell its days begins the curve; else it grows from nothing at publishing.
    grid, rows = [0.0], [np.zeros(seen.shape[1]) if is_close else seen[0]]
    spans = [(0.0, ages[0] if is_close else 0.0)]
    is_estimated = False
    if is_close:
        grid.append(ages[0])
        rows.append(seen[0])
    for before, age, row in zip(ages[:-1], ages[1:], seen[1:], strict=True):
        if grid[-1] < before:
            grid.append(before)
            rows.append(rows[-1])
        is_known = _is_close(before, age)
        end = age if is_known else min(age, before + grows_hours)
        is_estimated = is_estimated or not is_known
        grid.append(end)
        rows.append(row)
        spans.append((float(before), float(end)))
    # Of two readings at one age the later counts.
    is_last = np.append(np.diff(grid) > 0, True)
    return _Curve(
        grid=np.array(grid)[is_last], seen=np.array(rows)[is_last], spans=spans, is_placed=not is_close,
        is_estimated=is_estimated,
    )  # fmt: skip


def _is_close(before: float, age: float) -> bool:
    return age - before <= CLOSE_HOURS or age <= CLOSE_RATIO * before


def _days_in(
    published_at: datetime, zone: ZoneInfo, spans: Iterable[tuple[float, float]]
) -> tuple[list[date], Array, Array]:
    """The days of some spans of hours since publishing, with the hours at which each begins and ends."""
    wanted: set[date] = {published_at.astimezone(zone).date()}
    for begin, end in spans:
        day = (published_at + timedelta(hours=begin)).astimezone(zone).date()
        last = (published_at + timedelta(hours=end)).astimezone(zone).date()
        wanted.update(day + timedelta(days=n) for n in range((last - day).days + 1))
    days = sorted(wanted)
    marks = {day: (start_of_day(day, zone) - published_at).total_seconds() / 3600 for day in
             {*days, *(day + timedelta(days=1) for day in days)}}  # fmt: skip
    starts = np.maximum([marks[day] for day in days], 0.0)
    return days, starts, np.array([marks[day + timedelta(days=1)] for day in days])
