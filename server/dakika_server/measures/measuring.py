"""Work out a profile's measures from its readings: anew for posts that were read since, and what is typical for all.

Run again, it gives the same. Posts are worked out in batches into tables of this session, with their
progress told; then all of it is put in place at once. So nobody sees half of it, and memory is bounded.
"""

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
from dakika_core.metrics.typical import index_of, running_typical, typical_at_present, typical_by_format
from django.db import connection, transaction
from django.db.models import Count, Max

from dakika_server.measures.models import FINAL, LATEST, PostMeasure
from dakika_server.networks.definitions import all_networks
from dakika_server.shared.locks import Lock, waited_for
from dakika_server.sources.models import Post, PostReading, Profile, ProfileReading
from dakika_server.sources.rebuilding import report

_AGES_HOURS = (*EARLY_AGES_HOURS, *DEFAULT_AGES_HOURS)
_AGES = (*_AGES_HOURS, FINAL, LATEST)
# The ages of which sums by day are kept: those at which posts are studied.
_STUDIED = [*DEFAULT_AGES_HOURS, FINAL, LATEST]
# Gains below this are the tail of the interpolation, not something that happened.
_LEAST_GAIN = 0.05
POSTS_AT_ONCE = 1000
_BY_DAY = ("impressions", "reach", "interactions", "link_clicks")
# Share of the work that lies in putting what was worked out in place.
_LAST_PART = 0.25


@dataclass(frozen=True, kw_only=True)
class _Read:
    """A post and how it was read: until when, and how often. Both change whenever a reading comes or goes."""

    pk: int
    published_at: datetime
    format: str
    taken_at: datetime | None
    readings: int

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


def measure_profile(profile: Profile) -> int:
    """Bring the measures and daily gains of a profile's posts up to date; returns how many posts were measured anew."""
    with waited_for(Lock.PROFILE_MEASURES, profile.pk), connection.cursor() as cursor:
        posts = _posts(profile)
        known = {
            post: (taken, readings)
            for post, taken, readings in PostMeasure.objects.filter(profile=profile, age_hours=LATEST).values_list(
                "post_id", "taken_at", "readings"
            )
        }
        changed = [post for post in posts if known.get(post.pk) != (post.taken_at, post.readings)]
        total = len(changed) + max(1, round(len(posts) * _LAST_PART))
        _make_stage(cursor)
        interactions: dict[int, Array] = {}
        for start in range(0, len(changed), POSTS_AT_ONCE):
            batch = changed[start : start + POSTS_AT_ONCE]
            interactions.update(_measure(cursor, profile, batch))
            report(profile.pk, start + len(batch), total)
        with transaction.atomic():
            if posts:
                _stage_typical(cursor, profile, posts, interactions)
            _put_in_place(cursor, [post.pk for post in changed])
            sum_up_days(cursor, profile)
        cursor.execute("TRUNCATE stage_measures, stage_gains, stage_typical")
        report(profile.pk, total, total)
    return len(changed)


def _posts(profile: Profile) -> list[_Read]:
    """All posts in the order of publishing."""
    read = {
        post: (taken, count)
        for post, taken, count in PostReading.objects.filter(post__profile=profile)
        .values("post").annotate(taken=Max("taken_at"), n=Count("pk")).values_list("post", "taken", "n")
    }  # fmt: skip
    rows = (
        Post.objects.filter(profile=profile).order_by("published_at", "pk").values_list("pk", "published_at", "format")
    )
    found = []
    for pk, published_at, kind in rows:
        taken_at, readings = read.get(pk, (None, 0))
        found.append(_Read(pk=pk, published_at=published_at, format=kind, taken_at=taken_at, readings=readings))
    return found


_COUNTS = ", ".join(f"{key} float8" for key in OBSERVED)
_STAGE = f"""
CREATE TEMP TABLE IF NOT EXISTS stage_measures (post_id bigint, age_hours smallint, published_at timestamptz,
    format text, taken_at timestamptz, readings int, {_COUNTS}, interactions float8);
CREATE TEMP TABLE IF NOT EXISTS stage_gains (post_id bigint, day date, {", ".join(f"{k} float8" for k in _BY_DAY)},
    is_placed boolean);
CREATE TEMP TABLE IF NOT EXISTS stage_typical (post_id bigint, age_hours smallint, followers float8, typical float8,
    index float8, profile_index float8);
TRUNCATE stage_measures, stage_gains, stage_typical
"""


def _make_stage(cursor: Any) -> None:
    cursor.execute(_STAGE)


def _measure(cursor: Any, profile: Profile, posts: Sequence[_Read]) -> dict[int, Array]:
    """Values at the ages and gains by day of some posts, from all their readings; returns interactions by post."""
    readings = _readings([post.pk for post in posts])
    growth = growth_of(profile.network)
    values = np.full((len(posts), len(_AGES), len(OBSERVED)), np.nan)
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
    profile: Profile, posts: Sequence[_Read], singles: list[tuple[int, float, Array]], values: Array, growth: Growth
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


def _stage_values(cursor: Any, posts: Sequence[_Read], values: Array, interactions: Array, singles: set[int]) -> None:
    """Write the values of a batch. How a post began is left out where one late reading is all there is of it."""
    numbers = np.concatenate([values, interactions[..., np.newaxis]], axis=2)
    is_known = ~np.isnan(numbers).all(axis=2)
    nothing = "\\N\t" * (numbers.shape[2] - 1) + "\\N\n"
    with cursor.copy("COPY stage_measures FROM STDIN") as copy:
        lines = []
        for i, post in enumerate(posts):
            told = f"{post.published_at.isoformat()}\t{post.format}\t{_told(post.taken_at)}\t{post.readings}\t"
            for a, age in enumerate(_AGES):
                if i in singles and a < len(EARLY_AGES_HOURS):
                    continue
                row = "\t".join(map(_number, numbers[i, a].tolist())) + "\n" if is_known[i, a] else nothing
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
                    told = "\t".join(map(_number, numbers))
                    lines.append(f"{pk}\t{day}\t{told}\t{'t' if is_placed else 'f'}\n")
        copy.write("".join(lines))


def _told(at: datetime | None) -> str:
    return "\\N" if at is None else at.isoformat()


def _number(value: float) -> str:
    return "\\N" if value != value else repr(value)


def _stage_typical(cursor: Any, profile: Profile, posts: Sequence[_Read], changed: dict[int, Array]) -> None:
    """What is typical around each post, and followers at publishing: a post's neighbours may have changed it."""
    place = {post.pk: i for i, post in enumerate(posts)}
    column = {age: a for a, age in enumerate(_AGES)}
    interactions = np.full((len(posts), len(_AGES)), np.nan)
    if len(changed) < len(posts):
        measured = PostMeasure.objects.filter(profile=profile, interactions__isnull=False)
        for pk, age, value in measured.values_list("post_id", "age_hours", "interactions").iterator(chunk_size=5000):
            if pk in place and age in column:
                interactions[place[pk], column[age]] = value
    for pk, row in changed.items():
        interactions[place[pk]] = row
    formats = [post.format for post in posts]
    growth, ages = growth_of(profile.network), np.array([post.age_hours for post in posts])
    whole = [""] * len(posts)
    latest = interactions[:, -1]
    typical = np.column_stack([
        *(typical_by_format(interactions[:, a], formats) for a in range(len(_AGES) - 1)),
        typical_at_present(latest, ages, formats, growth),
    ])  # fmt: skip
    whatever = np.column_stack([
        *(running_typical(interactions[:, a]) for a in range(len(_AGES) - 1)),
        typical_at_present(latest, ages, whole, growth),
    ])  # fmt: skip
    index, profile_index = index_of(interactions, typical), index_of(interactions, whatever)
    followers = _followers_at(profile, [post.published_at for post in posts])
    with cursor.copy("COPY stage_typical FROM STDIN") as copy:
        lines = []
        every = np.stack(
            [np.broadcast_to(followers[:, np.newaxis], typical.shape), typical, index, profile_index], axis=2
        )
        is_known = ~np.isnan(every).all(axis=2)
        for i, post in enumerate(posts):
            for a, age in enumerate(_AGES):
                # Of a new row nothing need be said where nothing is known; an old one may have to be emptied.
                if is_known[i, a] or post.pk not in changed:
                    told = "\t".join(map(_number, every[i, a].tolist()))
                    lines.append(f"{post.pk}\t{age}\t{told}\n")
        copy.write("".join(lines))


_KEPT = ", ".join((*OBSERVED, "interactions"))
_INSERT = f"""
INSERT INTO measures_postmeasure (brand_id, profile_id, post_id, age_hours, published_at, format, taken_at, readings,
    {_KEPT}, followers, typical, index, profile_index)
SELECT p.brand_id, p.profile_id, post_id, s.age_hours, s.published_at, s.format, s.taken_at, s.readings,
    {", ".join(f"s.{key}" for key in (*OBSERVED, "interactions"))}, t.followers, t.typical, t.index, t.profile_index
FROM stage_measures s JOIN sources_post p ON p.id = s.post_id LEFT JOIN stage_typical t USING (post_id, age_hours)
WHERE s.age_hours <> ALL(%(early)s) OR s.impressions IS NOT NULL OR s.interactions IS NOT NULL OR t.typical IS NOT NULL
"""
_INSERT_GAINS = f"""
INSERT INTO measures_postday (brand_id, profile_id, post_id, day, {", ".join(_BY_DAY)}, is_placed)
SELECT p.brand_id, p.profile_id, post_id, day, {", ".join(f"s.{key}" for key in _BY_DAY)}, is_placed
FROM stage_gains s JOIN sources_post p ON p.id = s.post_id
"""
_UPDATE = """
UPDATE measures_postmeasure m SET followers = s.followers, typical = s.typical, index = s.index,
    profile_index = s.profile_index
FROM stage_typical s
WHERE m.post_id = s.post_id AND m.age_hours = s.age_hours
    AND (m.followers, m.typical, m.index, m.profile_index)
        IS DISTINCT FROM (s.followers, s.typical, s.index, s.profile_index)
"""


def _put_in_place(cursor: Any, changed: list[int]) -> None:
    """Put what was worked out in the place of what was there; posts that did not change get their new typical."""
    cursor.execute("DELETE FROM measures_postmeasure WHERE post_id = ANY(%s)", [changed])
    cursor.execute("DELETE FROM measures_postday WHERE post_id = ANY(%s)", [changed])
    cursor.execute("ANALYZE stage_typical")
    cursor.execute(_UPDATE)
    cursor.execute(_INSERT, {"early": list(EARLY_AGES_HOURS)})
    cursor.execute(_INSERT_GAINS)


_PAIRS = (("interactions", "reach"), ("interactions", "impressions"), ("link_clicks", "impressions"))
_SINGLE = _BY_DAY
_PAIRED = {
    f"{one}_with_{other}": f"SUM(d.{one}) FILTER (WHERE d.{other} IS NOT NULL)"
    for pair in _PAIRS
    for one, other in (pair, pair[::-1])
}
_SUM_UP = f"""
WITH gained AS (
    SELECT d.day, p.format, COUNT(*) FILTER (WHERE d.is_placed) AS placed,
        {", ".join(f"SUM(d.{key}) AS {key}" for key in _SINGLE)},
        {", ".join(f"{total} AS {name}" for name, total in _PAIRED.items())}
    FROM measures_postday d JOIN sources_post p ON p.id = d.post_id WHERE d.profile_id = %(profile)s GROUP BY 1, 2
), published AS (
    SELECT (published_at AT TIME ZONE %(zone)s)::date AS day, format, COUNT(*) AS published
    FROM sources_post WHERE profile_id = %(profile)s GROUP BY 1, 2
), by_format AS (
    SELECT day, format, COALESCE(published, 0) AS published, COALESCE(placed, 0) AS placed,
        {", ".join((*_SINGLE, *_PAIRED))}
    FROM gained FULL JOIN published USING (day, format)
)
INSERT INTO measures_profileday (brand_id, profile_id, day, format, published, placed,
    {", ".join((*_SINGLE, *_PAIRED))})
SELECT %(brand)s, %(profile)s, * FROM by_format
UNION ALL SELECT %(brand)s, %(profile)s, day, '', SUM(published), SUM(placed),
    {", ".join(f"SUM({k})" for k in (*_SINGLE, *_PAIRED))}
FROM by_format GROUP BY day
"""
_PUBLISHED = """
INSERT INTO measures_profilepublished (brand_id, profile_id, age_hours, day, posts, taken_at, interactions_n,
    interactions, pair_n, interactions_with_followers, followers_with_interactions, index_n, index_log)
SELECT %(brand)s, %(profile)s, age_hours, (published_at AT TIME ZONE %(zone)s)::date, COUNT(*), MAX(taken_at),
    COUNT(interactions), SUM(interactions), COUNT(*) FILTER (WHERE interactions IS NOT NULL AND followers IS NOT NULL),
    SUM(interactions) FILTER (WHERE followers IS NOT NULL), SUM(followers) FILTER (WHERE interactions IS NOT NULL),
    COUNT(*) FILTER (WHERE index > 0), SUM(LN(index)) FILTER (WHERE index > 0)
FROM measures_postmeasure WHERE profile_id = %(profile)s AND age_hours = ANY(%(studied)s) GROUP BY age_hours, 4
"""


def sum_up_days(cursor: Any, profile: Profile) -> None:
    """Put a profile's sums by day together anew: what was received, and what was published."""
    keys = {"profile": profile.pk, "brand": profile.brand_id, "zone": profile.brand.time_zone,
            "studied": _STUDIED}  # fmt: skip
    cursor.execute("DELETE FROM measures_profileday WHERE profile_id = %(profile)s", keys)
    cursor.execute(_SUM_UP, keys)
    cursor.execute("DELETE FROM measures_profilepublished WHERE profile_id = %(profile)s", keys)
    cursor.execute(_PUBLISHED, keys)


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


def _followers_at(profile: Profile, instants: list[datetime]) -> Array:
    """Followers on the day of each instant: the last reading up to it, missing before the first."""
    rows = list(
        ProfileReading.objects.filter(profile=profile, followers__isnull=False)
        .order_by("day")
        .values_list("day", "followers")
    )
    if not rows:
        return np.full(len(instants), np.nan)
    days = np.array([day.toordinal() for day, _ in rows])
    counts = np.array([float(count or 0) for _, count in rows])
    wanted = np.array([at.astimezone(profile.brand.zone).date().toordinal() for at in instants], dtype=int)
    place = np.searchsorted(days, wanted, side="right") - 1
    return np.where(place >= 0, counts[np.maximum(place, 0)], np.nan)
