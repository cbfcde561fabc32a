"""Which hours of the coming week should be taken? Solved exactly, not greedily."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import Bounds, LinearConstraint, milp

from dakika_core.values.period import hour_of_week

Array = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Slot:
    """A proposed time, with the expected index at that hour."""

    at: datetime
    index: float


def free_hours(start: datetime, zone: ZoneInfo, *, hours: int = 168) -> list[datetime]:
    """The next whole local hours after `start`: real hours, so a change of clocks skips or repeats one."""
    local = start.astimezone(zone).replace(minute=0, second=0, microsecond=0)
    first = local.astimezone(start.tzinfo) + timedelta(hours=1)
    return [first + timedelta(hours=i) for i in range(hours)]


def propose_slots(
    *,
    index: Array,
    candidates: Sequence[datetime],
    zone: ZoneInfo,
    taken: Sequence[datetime],
    count: int,
    min_distance_hours: float = 6.0,
    quiet_from: int = 23,
    quiet_to: int = 7,
    most_per_day: int = 2,
) -> list[Slot]:
    """The `count` hours with the highest total log index that keep the rules, in order of time.

    index: shape (168,), effect by hour of week in `zone`. Hours from quiet_from to quiet_to
    (local) are left out, as are those nearer than min_distance_hours to a taken time. Fewer
    are returned when the rules leave room for fewer. An integer programme (scipy's HiGHS).
    """
    open_slots = [
        at
        for at in candidates
        if not _is_quiet(at.astimezone(zone).hour, quiet_from, quiet_to)
        and all(abs((at - other).total_seconds()) >= min_distance_hours * 3600 for other in taken)
    ]
    if not open_slots or count <= 0:
        return []
    gain = np.array([np.log(index[int(hour_of_week(at, zone))]) for at in open_slots])
    # A small reward for every slot keeps the number asked for, even where hours are below typical.
    reward = gain - gain.min() + 1.0
    rows = []
    for at in open_slots:
        close = [
            j for j, other in enumerate(open_slots)
            if 0 <= (other - at).total_seconds() < min_distance_hours * 3600
        ]  # fmt: skip
        if len(close) > 1:
            row = np.zeros(len(open_slots))
            row[close] = 1
            rows.append((row, 1))
    days = [at.astimezone(zone).date() for at in open_slots]
    for day in set(days):
        rows.append((np.array([float(other == day) for other in days]), most_per_day))
    rows.append((np.ones(len(open_slots)), count))
    found = milp(
        -reward,
        constraints=LinearConstraint(np.array([row for row, _ in rows]), ub=np.array([top for _, top in rows])),
        integrality=np.ones(len(open_slots)),
        bounds=Bounds(0, 1),
    )
    chosen = np.flatnonzero(found.x > 0.5) if found.x is not None else np.array([], dtype=int)
    return [Slot(at=open_slots[i], index=float(index[int(hour_of_week(open_slots[i], zone))])) for i in sorted(chosen)]


def _is_quiet(hour: int, start: int, end: int) -> bool:
    return hour >= start or hour < end if start > end else start <= hour < end
