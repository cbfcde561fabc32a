"""The one way in for posts and readings, repeatable: COPY into a staging table, then insert what is new.

The same page, file or archive can be taken in again and leaves exactly the same rows.
"""

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from dakika_core.metrics.observed import OBSERVED
from dakika_core.networks.text_rules import hashtags_of
from django.db import connection, transaction

from dakika_server.sources.models import Profile


@dataclass(frozen=True, kw_only=True)
class PostIn:
    """A post as it comes in, with any number of readings (instant, counts, raw)."""

    external_id: str
    published_at: datetime
    format: str
    text: str
    url: str
    readings: Sequence[tuple[datetime, dict[str, int], dict[str, object] | None]] = ()
    campaign_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class Taken:
    """What an intake changed."""

    posts_new: int
    readings_new: int


_STAGE_POSTS = """
CREATE TEMP TABLE stage_posts (external_id text, published_at timestamptz, format text, body text,
    url text, hashtags text[], campaign_id bigint) ON COMMIT DROP
"""
_STAGE_READINGS = f"""
CREATE TEMP TABLE stage_readings (external_id text, taken_at timestamptz,
    {", ".join(f"{key} bigint" for key in OBSERVED)}, raw jsonb) ON COMMIT DROP
"""
_INSERT_POSTS = """
INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, campaign_id,
    first_import_id)
SELECT DISTINCT ON (external_id) %(brand)s, %(profile)s, external_id, published_at, format, body, url, hashtags,
    campaign_id, %(import)s
FROM stage_posts ORDER BY external_id
ON CONFLICT (profile_id, external_id) DO UPDATE SET text = EXCLUDED.text, url = EXCLUDED.url,
    format = EXCLUDED.format, hashtags = EXCLUDED.hashtags, removed_at = NULL
WHERE (sources_post.text, sources_post.url, sources_post.format) IS DISTINCT FROM
    (EXCLUDED.text, EXCLUDED.url, EXCLUDED.format) OR sources_post.removed_at IS NOT NULL
RETURNING (xmax = 0) AS is_new
"""
_COLUMNS = ", ".join(OBSERVED)
_NEW = ", ".join(f"EXCLUDED.{key}" for key in OBSERVED)
_INSERT_READINGS = f"""
INSERT INTO sources_postreading (brand_id, post_id, taken_at, {_COLUMNS}, raw)
SELECT DISTINCT ON (p.id, s.taken_at) %(brand)s, p.id, s.taken_at, {", ".join(f"s.{key}" for key in OBSERVED)}, s.raw
FROM stage_readings s JOIN sources_post p ON p.profile_id = %(profile)s AND p.external_id = s.external_id
ORDER BY p.id, s.taken_at
ON CONFLICT (post_id, taken_at) DO UPDATE SET ({_COLUMNS}, raw) = ROW({_NEW}, EXCLUDED.raw)
WHERE ({", ".join(f"sources_postreading.{key}" for key in OBSERVED)}) IS DISTINCT FROM ({_NEW})
RETURNING (xmax = 0) AS is_new
"""


def take_posts(profile: Profile, posts: Iterable[PostIn], *, import_id: int | None = None) -> Taken:
    """Store posts with their readings in one transaction; what is there already stays as it is."""
    posts = list(posts)
    keys = {"brand": profile.brand_id, "profile": profile.pk, "import": import_id}
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("DROP TABLE IF EXISTS stage_posts, stage_readings")
        cursor.execute(_STAGE_POSTS)
        cursor.execute(_STAGE_READINGS)
        with cursor.copy("COPY stage_posts FROM STDIN") as copy:
            for post in posts:
                tags = [tag[:100] for tag in hashtags_of(post.text)]
                copy.write_row(
                    (post.external_id, post.published_at, post.format, post.text, post.url, tags, post.campaign_id)
                )
        with cursor.copy("COPY stage_readings FROM STDIN") as copy:
            for post in posts:
                for taken_at, counts, raw in post.readings:
                    values = [counts.get(key) for key in OBSERVED]
                    copy.write_row((post.external_id, taken_at, *values, json.dumps(raw) if raw else None))
        cursor.execute(_INSERT_POSTS, keys)
        posts_new = sum(is_new for (is_new,) in cursor.fetchall())
        cursor.execute(_INSERT_READINGS, keys)
        readings_new = sum(is_new for (is_new,) in cursor.fetchall())
        cursor.execute("DROP TABLE stage_posts, stage_readings")
    return Taken(posts_new=posts_new, readings_new=readings_new)


_DAY = """
INSERT INTO sources_profilereading (brand_id, profile_id, day, taken_at, followers, gained, lost)
VALUES (%s, %s, %s, %s, %s, %s, %s)
ON CONFLICT (profile_id, day) DO UPDATE SET followers = EXCLUDED.followers, taken_at = EXCLUDED.taken_at,
    gained = COALESCE(EXCLUDED.gained, sources_profilereading.gained),
    lost = COALESCE(EXCLUDED.lost, sources_profilereading.lost)
"""


def take_profile_days(
    profile: Profile, days: Iterable[tuple[date, int, int | None, int | None]], *, taken_at: datetime
) -> None:
    """Store followers by day (day, followers, gained, lost); a later word on a day replaces the earlier."""
    rows = [(profile.brand_id, profile.pk, day, taken_at, total, new, gone) for day, total, new, gone in days]
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.executemany(_DAY, rows)
