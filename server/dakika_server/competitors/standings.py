"""Everybody side by side: figures over the period and the one before, places, and our share."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from dakika_core.competitors.field import PUBLIC, ProfileSums, PublicMetric, Sums, moments_per_post
from dakika_core.competitors.ranks import Place, places
from dakika_core.competitors.shares import Concentration, concentration, share_of
from dakika_core.metrics.metric import Unit
from dakika_core.metrics.rates import ratio_from_moments
from dakika_core.values.figure import Figure

from dakika_server.competitors.field import Member, known_days, members_of, of_whole, one_of, sums_in
from dakika_server.figures.study import Study


def _of_all(sums: Sums) -> Figure:
    """A share is of all members together, so that no sums of one give it."""
    del sums
    return Figure(value=None)


SHARE = PublicMetric(
    key="share", name="share of interactions", unit=Unit.RATE, of=_of_all,
    definition="A member's interactions at equal age as a part of those of all members of the set.",
    parts=("Its interactions", "Interactions of all"),
)  # fmt: skip
COLUMNS: dict[str, PublicMetric] = {**PUBLIC, SHARE.key: SHARE}


@dataclass(frozen=True, kw_only=True)
class Line:
    """A member with its figures by column, now and before, and its place in each. profiles: the same of each of its
    profiles, without places.
    """

    member: Member
    sums: Sums
    now: dict[str, Figure]
    before: dict[str, Figure]
    place: dict[str, Place | None]
    profiles: tuple["Line", ...] = ()


@dataclass(frozen=True, kw_only=True)
class Standings:
    """Lines of all members; spread: how the interactions are spread over them."""

    lines: list[Line]
    spread: Concentration | None

    @property
    def ours(self) -> Line | None:
        """Our line, where we are in the set as one."""
        own = [line for line in self.lines if line.member.is_own]
        return own[0] if len(own) == 1 else None


def standings_of(study: Study, by: str = "owner", columns: Iterable[str] | None = None) -> Standings:
    """The table of a study's members; a fixed number of queries, whatever their number.

    columns: only these, over the period alone and without the profiles behind a member; all of it without.
    """
    known = known_days(study)
    members = members_of(study, by)
    wanted = list(COLUMNS) if columns is None else list(dict.fromkeys(columns))
    needs = {COLUMNS[key].needs for key in wanted} | ({"measured"} if SHARE.key in wanted else set())
    now = sums_in(study, study.period, known, needs)
    before = sums_in(study, study.compared, known, needs) if columns is None else None
    lines = _lines(study, members, now, before, wanted)
    if before is not None and by == "owner":
        lines = _opened(study, lines, now, before, wanted)
    amounts = [total for total in (total_of(line.sums)[0] for line in lines) if not np.isnan(total)]
    return Standings(lines=lines, spread=concentration(amounts) if amounts else None)


def placed_by(metric: PublicMetric, figures: Sequence[Figure], names: Sequence[str]) -> list[Place | None]:
    """Places by a metric. What is counted has none where a profile does not tell: its sum is no match."""
    if metric.is_of_posts:
        return places(figures, names, is_sampled=True)
    return places([Figure(value=None) if f.missing else f for f in figures], names, is_sampled=False)


def _opened(study: Study, lines: list[Line], now: ProfileSums, before: ProfileSums, wanted: list[str]) -> list[Line]:
    """Lines with those of their profiles."""
    plain = [key for key in wanted if key != SHARE.key]
    members = [one_of(profile) for line in lines for profile in line.member.profiles]
    inner = iter(_lines(study, members, now, before, plain, has_places=False))
    return [replace(line, profiles=tuple(next(inner) for _ in line.member.profiles)) for line in lines]


def _lines(
    study: Study, members: list[Member], now: ProfileSums, before: ProfileSums | None, wanted: list[str], *,
    has_places: bool = True,
) -> list[Line]:  # fmt: skip
    sums = of_whole(study, members, now)
    figures = _figures(sums, wanted)
    earlier = _figures(of_whole(study, members, before), wanted) if before is not None else [{} for _ in members]
    placed: dict[str, list[Place | None]] = {}
    names = [member.name for member in members]
    for key in wanted if has_places else ():
        placed[key] = placed_by(COLUMNS[key], [row[key] for row in figures], names)
    return [
        Line(member=member, sums=sums[i], now=figures[i], before=earlier[i],
             place={key: found[i] for key, found in placed.items()})
        for i, member in enumerate(members)
    ]  # fmt: skip


def _figures(every: list[Sums], wanted: list[str]) -> list[dict[str, Figure]]:
    rows = [{key: PUBLIC[key].of(sums) for key in wanted if key in PUBLIC} for sums in every]
    if SHARE.key in wanted:
        for row, share in zip(rows, _shares(every), strict=True):
            row[SHARE.key] = share
    return rows


def total_of(sums: Sums) -> tuple[float, float]:
    """A member's interactions of all its posts, and their variance, NaN where unknown."""
    if not sums.posts:
        return 0.0, 0.0
    mean = ratio_from_moments(moments_per_post(sums))
    if mean.value is None:
        return np.nan, np.nan
    n = sums.measured
    variance = max(0.0, sums.squares / n - mean.value**2) * n / (n - 1) if n > 1 else np.nan
    return mean.value * sums.posts, variance / n * sums.posts**2


def _shares(every: list[Sums]) -> list[Figure]:
    if not every:
        return []
    totals, variances = np.array([total_of(sums) for sums in every]).T
    return [share_of(totals, variances, np.arange(len(every)) == i) for i in range(len(every))]
