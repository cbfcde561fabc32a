"""Where does the audience live, and who of it is there at which hour?

Countries become time zones by the population of their towns (data/zones.csv; GeoNames, CC BY 4.0). Zones that show the
same clock all year are one group. What a network tells is when the audience as a whole is online; whose hours those are
is estimated: every group is taken to keep the same habits by its own clock, and the curve of those habits is the one
that, put together by the groups' shares, comes nearest to what was told (non-negative least squares with a smoothness
penalty; C. Lawson and R. Hanson, Solving Least Squares Problems, 1974, from memory).

In the trade's words: followers online, time zones of the audience.
"""

import csv
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from functools import lru_cache
from importlib.resources import files
from zoneinfo import ZoneInfo, available_timezones

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import nnls

from dakika_core.values.period import HOURS_PER_WEEK, start_of_day

Array = NDArray[np.float64]

SOURCE = "inhabitants of towns of 15,000 and more by time zone (GeoNames, CC BY 4.0)"
# Groups smaller than this are told together with the largest.
LEAST_SHARE = 0.05
# How much smoother the habits are drawn than what was told (per squared second difference).
_SMOOTHNESS = 0.05


@dataclass(frozen=True, kw_only=True)
class Group:
    """A part of the audience that lives by one clock: its zone, its share (0 to 1), and the countries in it."""

    zone: str
    share: float
    countries: tuple[str, ...]


@lru_cache(maxsize=1)
def _zones_by_country() -> dict[str, dict[str, float]]:
    found: dict[str, dict[str, float]] = {}
    text = files("dakika_core.timing").joinpath("data/zones.csv").read_text(encoding="utf-8")
    rows = csv.DictReader(line for line in text.splitlines() if not line.startswith("#"))
    for row in rows:
        found.setdefault(row["country"], {})[row["zone"]] = float(row["share"])
    return found


def country_of(zone: str) -> str | None:
    """The country (ISO 3166 alpha-2) that a zone is of; None where it is of none that is known."""
    found = [(shares[zone], country) for country, shares in _zones_by_country().items() if zone in shares]
    return max(found)[1] if found else None


def zones_of(countries: Mapping[str, float]) -> dict[str, float]:
    """Shares by time zone from shares by country (ISO 3166 alpha-2): those of known countries, adding up to 1.

    Empty where no country is known.
    """
    table = _zones_by_country()
    found: dict[str, float] = {}
    for country, share in countries.items():
        for zone, part in table.get(country.upper(), {}).items():
            if share > 0:
                found[zone] = found.get(zone, 0.0) + share * part
    total = sum(found.values())
    return {zone: share / total for zone, share in found.items()} if total else {}


def groups_of(
    zones: Mapping[str, float], countries: Mapping[str, float], year: int, *, least: float = LEAST_SHARE
) -> list[Group]:
    """The large groups of an audience by the clock they live by, largest first; shares add up to 1.

    Zones whose clocks agree on the first of every month of the year are one group, named by its largest zone. Groups
    below `least` are taken to live by the clock of the nearest large group. Zones that do not exist are left out.
    """
    known = available_timezones()
    alike: dict[tuple[float, ...], dict[str, float]] = {}
    for zone, share in zones.items():
        if zone in known and share > 0:
            alike.setdefault(_clock(zone, year), {})[zone] = share
    if not alike:
        return []
    total = sum(sum(group.values()) for group in alike.values())
    sums = {clock: sum(group.values()) / total for clock, group in alike.items()}
    large = [clock for clock, share in sums.items() if share >= least] or [max(sums, key=lambda clock: sums[clock])]
    shares = {clock: sums[clock] for clock in large}
    for clock, share in sums.items():
        if clock not in shares:
            nearest = min(large, key=lambda other: (abs(other[0] - clock[0]), -sums[other]))
            shares[nearest] += share
    table = _zones_by_country()
    found = []
    for clock, share in shares.items():
        members = alike[clock]
        of = [country for country in countries if any(zone in members for zone in table.get(country.upper(), {}))]
        found.append(
            Group(
                zone=max(members, key=lambda zone: members[zone]), share=share,
                countries=tuple(sorted(of, key=lambda country: -countries[country])),
            )
        )  # fmt: skip
    return sorted(found, key=lambda group: -group.share)


def _clock(zone: str, year: int) -> tuple[float, ...]:
    info = ZoneInfo(zone)
    return tuple(
        (datetime(year, month, 1, 12, tzinfo=info).utcoffset() or timedelta()).total_seconds() / 3600
        for month in range(1, 13)
    )


def habits(hours_utc: Array, groups: list[Group], told_on: date) -> Array:
    """By the hour of their own week, how many of each group are there: shape (168,), the busiest hour = 1.

    hours_utc: shape (168,), how many of all are online by hour of the UTC week, told on a day.
    """
    if not groups or hours_utc.max() <= 0:
        return np.zeros(HOURS_PER_WEEK)
    mixing = np.zeros((HOURS_PER_WEEK, HOURS_PER_WEEK))
    for group in groups:
        mixing += group.share * _moved(_offset(group.zone, datetime.combine(told_on, datetime.min.time(), tzinfo=UTC)))
    second = np.roll(np.eye(HOURS_PER_WEEK), 1, 0) + np.roll(np.eye(HOURS_PER_WEEK), -1, 0) - 2 * np.eye(HOURS_PER_WEEK)
    told = hours_utc / hours_utc.max()
    found, _ = nnls(
        np.vstack([mixing, np.sqrt(_SMOOTHNESS) * second]), np.concatenate([told, np.zeros(HOURS_PER_WEEK)])
    )
    return np.asarray(found / found.max()) if found.max() > 0 else found


def _moved(offset: float) -> Array:
    """Matrix that reads a curve by local hours at the hours of the UTC week: (168, 168); halves are shared."""
    place = np.arange(HOURS_PER_WEEK) + offset
    low = np.floor(place).astype(int)
    part = place - low
    found = np.zeros((HOURS_PER_WEEK, HOURS_PER_WEEK))
    rows = np.arange(HOURS_PER_WEEK)
    found[rows, low % HOURS_PER_WEEK] += 1 - part
    found[rows, (low + 1) % HOURS_PER_WEEK] += part
    return found


def _offset(zone: str, at: datetime) -> float:
    return (at.astimezone(ZoneInfo(zone)).utcoffset() or timedelta()).total_seconds() / 3600


def presence_in_week(curve: Array, groups: list[Group], zone: ZoneInfo, monday: date) -> dict[str, Array]:
    """By group how many are there in each hour of one real week: zone name to shape (168,), by hour of week in `zone`.

    In units of the busiest hour of a group that were the whole audience; together they are the audience. Each hour is
    looked at by the clock that each group has at that very instant, so that a week in which only one of two zones has
    changed its clocks is right. An hour that occurs twice is the mean of both; one that is skipped is like the next.
    """
    start, end = start_of_day(monday, zone), start_of_day(monday + timedelta(days=7), zone)
    infos = {group.zone: ZoneInfo(group.zone) for group in groups}
    sums = {group.zone: np.zeros(HOURS_PER_WEEK) for group in groups}
    counts = np.zeros(HOURS_PER_WEEK)
    step = timedelta(minutes=30)
    instant = start + step / 2
    while instant < end:
        local = instant.astimezone(zone)
        hour = local.weekday() * 24 + local.hour
        counts[hour] += 1
        for group in groups:
            theirs = instant.astimezone(infos[group.zone])
            place = theirs.weekday() * 24 + theirs.hour + theirs.minute / 60 - 0.5
            low = int(np.floor(place))
            part = place - low
            value = (1 - part) * curve[low % HOURS_PER_WEEK] + part * curve[(low + 1) % HOURS_PER_WEEK]
            sums[group.zone][hour] += group.share * value
        instant += step
    return {name: _per_hour(values, counts) for name, values in sums.items()}


def _per_hour(sums: Array, counts: Array) -> Array:
    found: Array = sums / np.maximum(counts, 1)
    for hour in np.flatnonzero(counts == 0):
        found[hour] = found[(hour + 1) % HOURS_PER_WEEK]
    return found
