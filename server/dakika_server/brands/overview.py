"""A brand in overview, for those who look after several: figures, what stands out, what is planned, what needs a hand.

Each area above tells its part by the hook.
"""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from dakika_server.brands.models import Brand
from dakika_server.shared.hooks import Hook


@dataclass(frozen=True, kw_only=True)
class OverviewFigure:
    """A figure of the last whole days against as many before. relative is None where nothing can be compared."""

    key: str
    name: str
    unit: str
    more_is_better: bool
    value: float | None
    before: float | None
    difference: float | None
    relative: float | None


@dataclass(frozen=True, kw_only=True)
class Noted:
    """A sentence with a step: path leads, within the brand, to where something can be done about it."""

    text: str
    path: str


@dataclass(frozen=True, kw_only=True)
class Planned:
    """What goes out in the days ahead: how many posts, and the next."""

    count: int
    next_at: datetime | None
    next_title: str


@dataclass(frozen=True, kw_only=True)
class OverviewPart:
    """What one area tells of a brand. stands_out is the strongest of `findings` findings that are new."""

    figures: Sequence[OverviewFigure] = ()
    findings: int = 0
    stands_out: Noted | None = None
    planned: Planned | None = None
    hands: Sequence[Noted] = ()


@dataclass(frozen=True, kw_only=True)
class Overview:
    """All of it, in the brand's own days and hours. hands are the things that need one, the gravest first."""

    time_zone: str
    figures: list[OverviewFigure]
    findings: int
    stands_out: Noted | None
    planned: Planned | None
    hands: list[Noted]


overview_parts: Hook[[Brand, datetime], OverviewPart] = Hook("a brand in overview")


def overview_of(brand: Brand, now: datetime) -> Overview:
    """A brand as it stands now, in a fixed number of queries."""
    parts = overview_parts(brand, now)
    return Overview(
        time_zone=brand.time_zone,
        figures=list(itertools.chain(*(part.figures for part in parts))), findings=sum(part.findings for part in parts),
        stands_out=next((part.stands_out for part in parts if part.stands_out), None),
        planned=next((part.planned for part in parts if part.planned), None),
        hands=list(itertools.chain(*(part.hands for part in parts))),
    )  # fmt: skip
