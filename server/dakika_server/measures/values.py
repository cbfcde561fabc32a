"""A profile's posts at equal ages and by day, from their readings, into tables of this session."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

import numpy as np
from dakika_core.metrics.at_age import (
    CLOSE_HOURS,
    ORIGIN_REACHES,
    Array,
    Gains,
    final_values,
    gains_by_day,
    interactions_of,
    values_at_ages,
)
from dakika_core.metrics.growth import Growth
from dakika_core.metrics.observed import DEFAULT_AGES_HOURS, EARLY_AGES_HOURS, OBSERVED
from django.db.models import Max

from dakika_server.measures.arrays import number
from dakika_server.measures.models import FINAL, LATEST
from dakika_server.networks.definitions import all_networks
from dakika_server.sources.models import Post, PostReading, Profile

_AGES_HOURS = (*EARLY_AGES_HOURS, *DEFAULT_AGES_HOURS)
AGES = (*_AGES_HOURS, FINAL, LATEST)
# What is told of a post's days.
BY_DAY = ("impressions", "reach", "interactions", "link_clicks")
# Gains below this are the tail of the interpolation, not something that happened.
_LEAST_GAIN = 0.05


@dataclass(frozen=True, kw_only=True)
class Read:
    """A post, and until when it was read."""

    pk: int
    published_at: datetime
    format: str
    taken_at: datetime | None

    @property
    def age_hours(self) -> float:
        """How old it was when it was last seen; NaN if it never was."""
        if self.taken_at is None:
            return float("nan")
        return (self.taken_at - self.published_at).total_seconds() / 3600


def growth_of(network: str) -> Growth:
    """How posts of a network grow, by the half-life in its definition; a network that only a file knows has none."""
    known = all_networks().get(network)
    return Growth(half_life_hours=known.half_life_hours if known else None)


def read_posts(profile: Profile, among: Sequence[int] | None) -> list[Read]:
    """A profile's posts in the order of publishing: those among some keys, or all."""
    posts, readings = Post.objects.filter(profile=profile), PostReading.objects.filter(post__profile=profile)
    if among is not None:
        posts, readings = posts.filter(pk__in=among), PostReading.objects.filter(post_id__in=among)
    read = dict(readings.values("post").annotate(taken=Max("taken_at")).values_list("post", "taken"))
    rows = posts.order_by("published_at", "pk").values_list("pk", "published_at", "format")
    return [Read(pk=pk, published_at=at, format=kind, taken_at=read.get(pk)) for pk, at, kind in rows]


def stage_values(cursor: Any, profile: Profile, posts: Sequence[Read]) -> dict[int, Array]:
    """Values at the ages and gains by day of some posts, from all their readings; returns interactions by post."""
    readings = _readings([post.pk for post in posts])
    growth = growth_of(profile.network)
    values = np.full((len(posts), len(AGES), len(OBSERVED)), np.nan)
    gains: list[tuple[int, Gains]] = []
    singles = []
    for i, post in enumerate(posts):
        times, seen = readings.get(post.pk, ([], np.empty((0, len(OBSERVED)))))
        if not times:
            continue
        ages = np.array([(at - post.published_at).total_seconds() / 3600 for at in times])
        if len(times) == 1 and ages[0] > CLOSE_HOURS:
            singles.append((i, ages[0], seen[0]))
            continue
        values[i, :-2] = values_at_ages(ages, seen, _AGES_HOURS)
        values[i, -2] = final_values(ages, seen, growth.final_after_hours)
        values[i, -1] = _last_known(seen)
        gains.append((
            post.pk,
            gains_by_day(post.published_at, times, seen, profile.brand.zone, grows_hours=growth.final_after_hours),
        ))  # fmt: skip
    if singles:
        gains += _of_one_reading(profile, posts, singles, values, growth)
    interactions = interactions_of(values)
    _stage_values(cursor, posts, values, interactions, {i for i, _, _ in singles})
    _stage_gains(cursor, gains)
    return {post.pk: interactions[i] for i, post in enumerate(posts)}


def _of_one_reading(
    profile: Profile, posts: Sequence[Read], singles: list[tuple[int, float, Array]], values: Array, growth: Growth
) -> list[tuple[int, Gains]]:
    """The same for posts with one late reading, as files bring them, at once: the total on the day of publishing."""
    places = np.array([i for i, _, _ in singles])
    ages = np.array([age for _, age, _ in singles])
    seen = np.array([row for _, _, row in singles])
    for a, wanted in enumerate(DEFAULT_AGES_HOURS, start=len(EARLY_AGES_HOURS)):
        reached = (ages >= wanted) & (ages <= ORIGIN_REACHES * wanted)
        share = np.log1p(wanted) / np.log1p(ages)
        values[places[reached], a] = seen[reached] * share[reached, np.newaxis]
    is_final = ages >= growth.final_after_hours
    values[places[is_final], -2] = seen[is_final]
    values[places, -1] = seen
    zone = profile.brand.zone
    return [
        (
            posts[i].pk,
            Gains(days=[posts[i].published_at.astimezone(zone).date()], values=row[np.newaxis], is_placed=True),
        )
        for i, row in zip(places.tolist(), seen, strict=True)
    ]


def _stage_values(cursor: Any, posts: Sequence[Read], values: Array, interactions: Array, singles: set[int]) -> None:
    """Write the values of a batch. How a post began is left out where one late reading is all there is of it."""
    numbers = np.concatenate([values, interactions[..., np.newaxis]], axis=2)
    is_known = ~np.isnan(numbers).all(axis=2)
    nothing = "\\N\t" * (numbers.shape[2] - 1) + "\\N\n"
    with cursor.copy("COPY stage_measures FROM STDIN") as copy:
        lines = []
        for i, post in enumerate(posts):
            told = f"{post.published_at.isoformat()}\t{post.format}\t{_told(post.taken_at)}\t"
            for a, age in enumerate(AGES):
                if i in singles and a < len(EARLY_AGES_HOURS):
                    continue
                row = "\t".join(map(number, numbers[i, a].tolist())) + "\n" if is_known[i, a] else nothing
                lines.append(f"{post.pk}\t{age}\t{told}{row}")
        copy.write("".join(lines))


def _stage_gains(cursor: Any, gains: Sequence[tuple[int, Gains]]) -> None:
    wanted = [OBSERVED.index(key) for key in ("impressions", "reach")]
    clicks = OBSERVED.index("link_clicks")
    with cursor.copy("COPY stage_gains FROM STDIN") as copy:
        lines = []
        every = np.concatenate([made.values for _, made in gains]) if gains else np.empty((0, len(OBSERVED)))
        told_by_day = np.column_stack([every[:, wanted], interactions_of(every), every[:, clicks]]).tolist()
        at = 0
        for pk, made in gains:
            for place, day in enumerate(made.days):
                numbers = told_by_day[at]
                at += 1
                is_placed = made.is_placed and place == 0
                if is_placed or any(abs(n) > _LEAST_GAIN for n in numbers if n == n):
                    told = "\t".join(map(number, numbers))
                    lines.append(f"{pk}\t{day}\t{told}\t{'t' if is_placed else 'f'}\n")
        copy.write("".join(lines))


def _told(at: datetime | None) -> str:
    return "\\N" if at is None else at.isoformat()


def _last_known(seen: Array) -> Array:
    last = np.full(seen.shape[1], np.nan)
    for row in seen:
        last = np.where(np.isnan(row), last, row)
    return last


def _readings(ids: Sequence[int]) -> dict[int, tuple[list[datetime], Array]]:
    rows: Iterator[Any] = (
        PostReading.objects.filter(post_id__in=ids)
        .order_by("post_id", "taken_at")
        .values_list("post_id", "taken_at", *OBSERVED)
        .iterator(chunk_size=5000)
    )
    grouped: dict[int, tuple[list[datetime], list[list[float]]]] = {}
    for post_id, taken_at, *counts in rows:
        times, values = grouped.setdefault(post_id, ([], []))
        times.append(taken_at)
        values.append([np.nan if c is None else float(c) for c in counts])
    return {post_id: (times, np.array(values)) for post_id, (times, values) in grouped.items()}
