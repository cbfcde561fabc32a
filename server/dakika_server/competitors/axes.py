"""Members on two axes of choice, with the set's medians and where each came from."""

from dataclasses import dataclass
from datetime import timedelta

import numpy as np
from dakika_core.competitors.field import PUBLIC, PublicMetric
from dakika_core.values.figure import Figure

from dakika_server.competitors.field import Bins, Member, known_days, members_of, of_members, sums_by_bin
from dakika_server.figures.study import Study

# Periods of the same length: the one that is studied, and those before it.
TRAIL = 4
# Above this ratio of the largest to the smallest a plain scale presses most of them into a corner.
WIDE = 20.0


@dataclass(frozen=True, kw_only=True)
class Dot:
    """A member: its three figures now, and its values on both axes in the periods before, the oldest first."""

    member: Member
    x: Figure
    y: Figure
    size: Figure
    trail: list[tuple[float, float]]


@dataclass(frozen=True, kw_only=True)
class Axes:
    """Everybody who has both values. middle_x, middle_y: medians of all of them. left_out: who has not."""

    x: PublicMetric
    y: PublicMetric
    size: PublicMetric
    dots: list[Dot]
    middle_x: float | None
    middle_y: float | None
    is_log_x: bool
    is_log_y: bool
    left_out: list[str]
    days: int

    def quadrant(self, *, is_right: bool, is_upper: bool) -> str:
        """A quarter of the drawing in plain words."""
        if is_right == is_upper:
            return f"{'above' if is_upper else 'below'} the middle in both"
        above, below = (self.x, self.y) if is_right else (self.y, self.x)
        return f"above the middle in {above.name}, below in {below.name}"


def axes_of(study: Study, x: str, y: str, size: str, by: str = "owner") -> Axes:
    """Both axes over the period, and over those of the same length before it; a fixed number of queries."""
    days = study.period.days
    firsts = tuple(study.period.first - timedelta(days=days * (TRAIL - 1 - i)) for i in range(TRAIL))
    members = members_of(study, by)
    needs = {PUBLIC[key].needs for key in (x, y, size)}
    sums = sums_by_bin(study, Bins(firsts=firsts, days=days), known_days(study), needs)
    each = of_members(study, members, sums)
    of = {key: PUBLIC[key] for key in (x, y, size)}
    dots, left_out = [], []
    for i, member in enumerate(members):
        now = {key: metric.of(each[i][-1]) for key, metric in of.items()}
        if now[x].value is None or now[y].value is None:
            left_out.append(member.name)
            continue
        trail = [(of[x].of(part).value, of[y].of(part).value) for part in each[i][:-1]]
        dots.append(
            Dot(member=member, x=now[x], y=now[y], size=now[size],
                trail=[(a, b) for a, b in trail if a is not None and b is not None])
        )  # fmt: skip
    xs, ys = ([getattr(dot, axis).value for dot in dots] for axis in ("x", "y"))
    return Axes(
        x=of[x], y=of[y], size=of[size], dots=dots, left_out=left_out, days=days,
        middle_x=float(np.median(xs)) if xs else None, middle_y=float(np.median(ys)) if ys else None,
        is_log_x=_is_wide(xs), is_log_y=_is_wide(ys),
    )  # fmt: skip


def _is_wide(values: list[float]) -> bool:
    return len(values) > 1 and min(values) > 0 and max(values) / min(values) > WIDE
