"""Where do we stand in the set, over time, and against what is usual for an audience of our size?"""

from dataclasses import dataclass

import numpy as np
from dakika_core.competitors.band import SizeLine, size_line, spread_over
from dakika_core.competitors.field import PUBLIC, PublicMetric
from dakika_core.competitors.ranks import Place
from dakika_core.values.figure import Figure
from numpy.typing import NDArray

from dakika_server.competitors.field import Bins, bins_of, known_days, members_of, of_members, sums_by_bin
from dakika_server.competitors.standings import Line, Standings, standings_of
from dakika_server.figures.study import Study
from dakika_server.networks.definitions import network_name

Array = NDArray[np.float64]
RATE = PUBLIC["interactions_per_1000"]
ALONG = 25
NOBODY = "There is nobody here to be held against: add competitors to the set."
NOT_US = "None of our own profiles is in this set, so there is no line of ours."
SEVERAL = "Several profiles here are ours: choose one network, or each as a whole, for a line of ours."


@dataclass(frozen=True, kw_only=True)
class Benchmark:
    """A metric's band over time: quantiles of the others (5, bins), ours in each bin, our place over the period.

    size is what is usual for our audience by reactions per follower, or the sentence that says why not; dots: each
    member with its followers and that rate.
    """

    metric: PublicMetric
    bins: Bins
    band: Array
    counted: list[int]
    ours: list[Figure]
    standings: Standings
    place: Place | None
    size: SizeLine | str
    sizes: list[tuple[Line, SizeLine]]
    dots: list[tuple[Line, float, float]]
    title: str


def benchmark_of(study: Study, metric: PublicMetric, by: str = "owner") -> Benchmark:
    """The benchmark of a study's members; a fixed number of queries."""
    standings = standings_of(study, by, [metric.key, "followers", RATE.key])
    bins, members = bins_of(study.period), members_of(study, by)
    sums = sums_by_bin(study, bins, known_days(study), [metric.needs])
    figures = [[metric.of(part) for part in parts] for parts in of_members(study, members, sums)]
    is_own = [member.is_own for member in members]
    values = np.array(
        [[np.nan if f.value is None else f.value for f in row] for row in figures], dtype=float
    ).reshape(len(members), len(bins.firsts))  # fmt: skip
    others = values[[i for i, own in enumerate(is_own) if not own]]
    at = is_own.index(True) if is_own.count(True) == 1 else None
    ours = figures[at] if at is not None else [Figure(value=None)] * len(bins.firsts)
    line, sizes = standings.ours, _sizes(standings)
    own = sum(one.member.is_own for one in standings.lines)
    place = line.place[metric.key] if line else None
    return Benchmark(
        metric=metric, bins=bins, band=spread_over(others), counted=[int(n) for n in (~np.isnan(others)).sum(axis=0)],
        ours=ours, standings=standings, place=place, dots=_dots(standings),
        size=sizes if isinstance(sizes, str) else sizes[0][1], sizes=[] if isinstance(sizes, str) else sizes,
        title=_title(metric, place, others=len(others), own=own),
    )  # fmt: skip


def _dots(standings: Standings) -> list[tuple[Line, float, float]]:
    found = []
    for line in standings.lines:
        followers, rate = line.now["followers"].value, line.now[RATE.key].value
        if followers and rate:
            found.append((line, followers, rate))
    return found


def _whole_audience(line: Line) -> float:
    """Our followers, nothing where a profile of ours does not tell its own: then there is no size to compare by."""
    followers = line.now["followers"]
    return 0.0 if followers.missing else followers.value or 0.0


def _sizes(standings: Standings) -> list[tuple[Line, SizeLine]] | str:
    """What is usual for the audience of each of ours, the largest first; the sentence why not.

    Where several are ours each is told at a level that holds for all of them together (Sidak).
    """
    ours = [line for line in standings.lines if line.member.is_own]
    if not ours:
        return NOT_US
    others = [(f, r) for line, f, r in _dots(standings) if not line.member.is_own]
    found: list[tuple[Line, SizeLine]] = []
    problem = ""
    for line in sorted(ours, key=lambda one: -(one.now["followers"].value or 0.0)):
        size = size_line(
            [f for f, _ in others], [r for _, r in others], our_followers=_whole_audience(line),
            our_rate=line.now[RATE.key].value, level=0.95 ** (1 / len(ours)),
        )  # fmt: skip
        if isinstance(size, str):
            problem = problem or size
        else:
            found.append((line, size))
    return found or problem


def _title(metric: PublicMetric, place: Place | None, *, others: int, own: int) -> str:
    """Our place in words, no surer than the data are."""
    name = f"{metric.name[0].upper()}{metric.name[1:]}"
    if not others:
        return NOBODY
    if own != 1:
        why = SEVERAL if own else NOT_US
        return f"{name} over the set. {why}"
    if place is None:
        return f"{name}: ours is not known in this period"
    return f"{name}: {place_words(place)}"


def place_words(place: Place) -> str:
    """A place, with the places that are not ruled out."""
    if place.of == 1:
        return "nobody else has a value"
    if place.is_sure:
        return f"we are number {place.rank} of {place.of}"
    if (place.best, place.worst) == (1, place.of):
        return f"we are number {place.rank} of {place.of}, and any place could be chance"
    return f"we are number {place.rank} of {place.of} ({place.best} to {place.worst} not ruled out)"


def size_words(size: SizeLine | str) -> str:
    """What the line of sizes says of us."""
    if isinstance(size, str):
        return size
    if size.above is None:
        return "Our own reaction per follower is not known in this period."
    far = f"{size.above:.2f} times what is usual for an audience of our size"
    usual = f"{size.peers} others of that size would do {size.usual.low:.2g} to {size.usual.high:.2g} (95 %)"
    verdict = (
        "beyond what single profiles differ by" if size.is_out_of_the_usual else "within what single profiles differ by"
    )
    drawn_on = "" if size.is_inside else " No other audience is of our size, so the line is drawn on beyond them."
    return f"{far}, {verdict}: by the {usual}.{drawn_on}"


def usual_along(size: SizeLine | str, followers: list[float]) -> list[dict[str, float]]:
    """The line and the range of single members from the smallest to the largest audience, evenly on the log scale."""
    if isinstance(size, str) or not followers:
        return []
    along = np.geomspace(min(followers), max(followers), ALONG)
    columns = zip(along, *size.usual_at(along), strict=True)
    return [dict(zip(("followers", "low", "expected", "high"), map(float, row), strict=True)) for row in columns]


def sizes_words(found: Benchmark) -> str:
    """The same where several profiles are ours: which of them stand beyond what single ones differ by."""
    if len(found.sizes) < 2:
        return size_words(found.size)
    out = [(line, size) for line, size in found.sizes if size.is_out_of_the_usual]
    if not out:
        return f"None of our {len(found.sizes)} profiles stands beyond what single ones of its size differ by."
    told = ", ".join(f"{line.member.name} on {network_name(line.member.networks[0])} {size.above:.2f} times"
                     for line, size in out)  # fmt: skip
    return f"{len(out)} of our {len(found.sizes)} profiles beyond what single ones of their size differ by: {told}."


def slope_words(size: SizeLine) -> str:
    """How reaction per follower goes with size."""
    held = size.slope_interval
    tenfold = 10**size.slope
    if held.low <= 0 <= held.high:
        return "Whether reaction per follower goes with the size of the audience cannot be told from these."
    direction = "falls" if size.slope < 0 else "rises"
    return (
        f"Reaction per follower {direction} with size: ten times the audience, {tenfold:.2f} times the reaction per "
        f"follower ({10**held.low:.2f}\u2013{10**held.high:.2f})."
    )
