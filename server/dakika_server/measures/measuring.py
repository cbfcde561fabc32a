"""Bring a profile's measures up to date: what came or went since is worked out, and what stands around it.

Run again, it gives the same. Posts are worked out in batches into tables of this session, with their
progress told; then all of it is put in place at once. So nobody sees half of it, and memory is bounded.

What is typical of a post follows from those around it, so that a new reading touches the posts near its own
(typical.depends_on) and the days of these. How far a format counts for itself follows from all posts: between
two whole rounds it is that of the last, and a round is whole once a share of the posts has changed.
"""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from dakika_core.metrics.at_age import Array
from dakika_core.metrics.observed import EARLY_AGES_HOURS, OBSERVED
from dakika_core.metrics.typical import Mask
from django.db import connection, transaction

from dakika_server.measures.changes import changes_of, forget
from dakika_server.measures.days import months_of, sum_up_days
from dakika_server.measures.models import LATEST, PostDay, PostMeasure, ProfileMeasured
from dakika_server.measures.series import EVERYTHING, Series, series_of, span_around
from dakika_server.measures.typical import (
    Extent,
    extent_of,
    holds_neighbours,
    stage_followers,
    stage_typical,
    touched,
)
from dakika_server.measures.values import AGES, BY_DAY, Read, read_posts, stage_values
from dakika_server.shared.locks import Lock, waited_for
from dakika_server.sources.models import Post, Profile
from dakika_server.sources.rebuilding import report

POSTS_AT_ONCE = 1000
# A profile of so few posts is gone over as a whole; a larger one once so many of its posts have changed.
FEW_POSTS, CHANGED_SHARE = 500, 0.02
# Share of the work that lies in putting what was worked out in place.
_LAST_PART = 0.25

_COUNTS = ", ".join(f"{key} float8" for key in OBSERVED)
_STAGE = f"""
CREATE TEMP TABLE IF NOT EXISTS stage_measures (post_id bigint, age_hours smallint, published_at timestamptz,
    format text, taken_at timestamptz, {_COUNTS}, interactions float8);
CREATE TEMP TABLE IF NOT EXISTS stage_gains (post_id bigint, day date, {", ".join(f"{k} float8" for k in BY_DAY)},
    is_placed boolean);
CREATE TEMP TABLE IF NOT EXISTS stage_typical (post_id bigint, age_hours smallint, typical float8, index float8,
    profile_index float8);
CREATE TEMP TABLE IF NOT EXISTS stage_followers (post_id bigint, followers float8);
TRUNCATE stage_measures, stage_gains, stage_typical, stage_followers
"""


def measure_profile(profile: Profile) -> int:
    """Bring the measures and daily gains of a profile's posts up to date; returns how many posts were measured anew."""
    with waited_for(Lock.PROFILE_MEASURES, profile.pk), connection.cursor() as cursor:
        changes, kept = changes_of(profile), ProfileMeasured.objects.filter(profile=profile).first()
        if kept is None or len(kept.count_as) != len(AGES):
            changes, kept = changes.of_all(), None
        if not (changes.notes or changes.is_all):
            return 0
        posts = read_posts(profile, None if changes.is_all else sorted(changes.posts))
        total = len(posts) + max(1, round(len(posts) * _LAST_PART))
        cursor.execute(_STAGE)
        measured: dict[int, Array] = {}
        for start in range(0, len(posts), POSTS_AT_ONCE):
            batch = posts[start : start + POSTS_AT_ONCE]
            measured.update(stage_values(cursor, profile, batch))
            report(profile.pk, start + len(batch), total)
        gone = changes.posts - measured.keys()
        since = None if gone or changes.is_all or _have_moved(posts) else _in_between(kept, len(posts))
        with transaction.atomic():
            replaced = None if changes.is_all else [*measured, *gone]
            if since is None:
                span = None if replaced is None else EVERYTHING
                series, asked = series_of(cursor, profile, posts, measured, replaced or [], span), None
            else:
                series, asked = _near(cursor, profile, posts, measured, changes.followers_since, since.extent)
            count_as = stage_typical(cursor, profile, series, asked, since.count_as if since else None)
            stage_followers(cursor, profile, series, since=changes.followers_since, is_whole=since is None)
            _put_in_place(cursor, profile, replaced, is_whole=since is None)
            extent = extent_of(profile, series, since.extent if since else None)
            _note(profile, since, measured, count_as=count_as, posts=len(series.posts), extent=extent)
            forget(changes)
        cursor.execute("TRUNCATE stage_measures, stage_gains, stage_typical, stage_followers")
        report(profile.pk, total, total)
    return len(posts)


def _in_between(kept: ProfileMeasured | None, count: int) -> ProfileMeasured | None:
    """The last whole round, where what changed since and now is little beside it; None where the next one is due."""
    if kept is None or kept.posts <= FEW_POSTS or kept.changed + count > CHANGED_SHARE * kept.posts:
        return None
    return kept


def _have_moved(posts: Sequence[Read]) -> bool:
    """Whether any stands elsewhere among the others than before: those that it left behind are no longer near it."""
    known = PostMeasure.objects.filter(post_id__in=[post.pk for post in posts], age_hours=LATEST)
    now = {post.pk: (post.published_at, post.format) for post in posts}
    return any(now[pk] != tuple(told) for pk, *told in known.values_list("post_id", "published_at", "format"))


def _near(
    cursor: Any, profile: Profile, posts: Sequence[Read], measured: Mapping[int, Array], followers_since: date | None,
    extent: Extent,
) -> tuple[Series, list[Mask]]:  # fmt: skip
    """The posts around those that changed, and by age which of them these touch."""
    span = span_around(profile, posts, followers_since)
    series = series_of(cursor, profile, posts, measured, list(measured), span)
    asked = touched(profile, series)
    if holds_neighbours(profile, series, asked, span, extent):
        return series, asked
    series = series_of(cursor, profile, posts, measured, list(measured), EVERYTHING)
    return series, touched(profile, series)


def _note(
    profile: Profile, since: ProfileMeasured | None, measured: Mapping[int, Array], *,
    count_as: list[float], posts: int, extent: Extent,
) -> None:  # fmt: skip
    """Note that it was measured: as a whole, or so many posts since it last was."""
    spoken = Post.objects.filter(profile=profile).exclude(language="")
    if since is None:
        values, languages = {"posts": posts, "changed": 0}, set[str]()
    else:
        values, languages = {"posts": since.posts, "changed": since.changed + len(measured)}, set(since.languages)
        spoken = spoken.filter(pk__in=list(measured))
    languages |= set(spoken.values_list("language", flat=True).distinct())
    ProfileMeasured.objects.update_or_create(profile=profile, defaults={
        "brand_id": profile.brand_id, "count_as": count_as, "extent": extent,
        "languages": sorted(languages), "months": months_of(profile), **values,
    })  # fmt: skip


_KEPT = ", ".join((*OBSERVED, "interactions"))
_INSERT = f"""
INSERT INTO measures_postmeasure (brand_id, profile_id, post_id, age_hours, published_at, format, taken_at,
    {_KEPT}, followers, typical, index, profile_index)
SELECT p.brand_id, p.profile_id, s.post_id, s.age_hours, s.published_at, s.format, s.taken_at,
    {", ".join(f"s.{key}" for key in (*OBSERVED, "interactions"))}, NULLIF(f.followers, 'NaN'),
    NULLIF(t.typical, 'NaN'), NULLIF(t.index, 'NaN'), NULLIF(t.profile_index, 'NaN')
FROM stage_measures s JOIN sources_post p ON p.id = s.post_id LEFT JOIN stage_typical t USING (post_id, age_hours)
    LEFT JOIN stage_followers f ON f.post_id = s.post_id
WHERE s.age_hours <> ALL(%(early)s) OR s.impressions IS NOT NULL OR s.interactions IS NOT NULL
    OR NULLIF(t.typical, 'NaN') IS NOT NULL
"""
_INSERT_GAINS = f"""
INSERT INTO measures_postday (brand_id, profile_id, post_id, day, {", ".join(BY_DAY)}, is_placed)
SELECT p.brand_id, p.profile_id, post_id, day, {", ".join(f"s.{key}" for key in BY_DAY)}, is_placed
FROM stage_gains s JOIN sources_post p ON p.id = s.post_id
"""
# Posts that did not change get what is typical around them now; told are the days on which they were published.
_UPDATE = """
WITH told AS (
    SELECT post_id, age_hours, NULLIF(typical, 'NaN') AS typical, NULLIF(index, 'NaN') AS index,
        NULLIF(profile_index, 'NaN') AS profile_index
    FROM stage_typical WHERE post_id <> ALL(%(replaced)s)
), changed AS (
    UPDATE measures_postmeasure m SET typical = s.typical, index = s.index, profile_index = s.profile_index
    FROM told s WHERE m.post_id = s.post_id AND m.age_hours = s.age_hours
        AND (m.typical, m.index, m.profile_index) IS DISTINCT FROM (s.typical, s.index, s.profile_index)
    RETURNING m.published_at
)
SELECT DISTINCT (published_at AT TIME ZONE %(zone)s)::date FROM changed
"""
_FOLLOWERS = """
WITH told AS (
    SELECT post_id, NULLIF(followers, 'NaN') AS followers FROM stage_followers WHERE post_id <> ALL(%(replaced)s)
), changed AS (
    UPDATE measures_postmeasure m SET followers = s.followers
    FROM told s WHERE m.post_id = s.post_id AND m.followers IS DISTINCT FROM s.followers RETURNING m.published_at
)
SELECT DISTINCT (published_at AT TIME ZONE %(zone)s)::date FROM changed
"""
_GAINS = ", ".join(("post_id", "day", *BY_DAY, "is_placed"))
# The days whose sums are others: on which a post gained otherwise, or was published.
_DAYS = f"""
WITH kept AS (SELECT {_GAINS} FROM measures_postday WHERE post_id = ANY(%(replaced)s)),
now AS (SELECT {_GAINS} FROM stage_gains)
SELECT day, false FROM (SELECT * FROM kept EXCEPT SELECT * FROM now) gone
UNION SELECT day, false FROM (SELECT * FROM now EXCEPT SELECT * FROM kept) come
UNION SELECT (published_at AT TIME ZONE %(zone)s)::date, true FROM stage_measures WHERE age_hours = 0
"""


def _put_in_place(cursor: Any, profile: Profile, replaced: list[int] | None, *, is_whole: bool) -> None:
    """Put what was worked out in the place of what was there, of some posts or of all, and sum up the days touched."""
    keys = {
        "replaced": replaced or [], "zone": profile.brand.time_zone, "profile": profile.pk,
        "early": list(EARLY_AGES_HOURS),
    }  # fmt: skip
    cursor.execute("ANALYZE stage_typical")
    gained, published = set(), set()
    if not is_whole:
        cursor.execute(_DAYS, keys)
        for day, is_of_publishing in cursor.fetchall():
            gained.add(day)
            if is_of_publishing:
                published.add(day)
    for table in (PostMeasure, PostDay):
        rows = table.objects.filter(profile=profile)
        (rows if replaced is None else rows.filter(post_id__in=replaced))._raw_delete("default")
    for query in (_UPDATE, _FOLLOWERS) if replaced is not None else ():
        cursor.execute(query, keys)
        published |= {day for (day,) in cursor.fetchall()}
    cursor.execute(_INSERT, keys)
    cursor.execute(_INSERT_GAINS)
    if is_whole:
        sum_up_days(cursor, profile)
    else:
        sum_up_days(cursor, profile, gained, published)
