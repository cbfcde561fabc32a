"""The one way in for what networks say, repeatable: COPY into a staging table, then insert what is new.

The same page or archive can be taken in again, in any order, and leaves exactly the same rows.
What files bring comes through import_rows.py, under the same constraints.

In the trade's words: ingest, upsert, deduplication.
"""

import json
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from dakika_core.metrics.observed import OBSERVED
from dakika_core.networks.text_rules import hashtags_of
from django.db import connection, transaction

from dakika_server.networks.connectors.base import NetworkComment
from dakika_server.sources.models import AudienceReading, Comment, Post, Profile

LONGEST_TEXT = 20_000


@dataclass(frozen=True, kw_only=True)
class PostIn:
    """A post as it comes in, with any number of readings (instant, counts, raw)."""

    external_id: str
    published_at: datetime
    format: str
    text: str
    url: str
    readings: Sequence[tuple[datetime, Mapping[str, int], Mapping[str, object] | None]] = ()
    campaign_id: int | None = None
    next_reading_at: datetime | None = None
    language: str = ""
    is_boosted: bool | None = None
    picture: str = ""


@dataclass(frozen=True, kw_only=True)
class Taken:
    """What an intake changed."""

    posts_new: int
    readings_new: int


_STAGE_POSTS = """
CREATE TEMP TABLE stage_posts (external_id text, published_at timestamptz, format text, body text,
    url text, hashtags text[], campaign_id bigint, next_reading_at timestamptz, language text, is_boosted bool,
    picture text) ON COMMIT DROP
"""
_STAGE_READINGS = f"""
CREATE TEMP TABLE stage_readings (external_id text, taken_at timestamptz,
    {", ".join(f"{key} bigint" for key in OBSERVED)}, raw jsonb) ON COMMIT DROP
"""
_INSERT_POSTS = """
INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, campaign_id,
    next_reading_at, language, is_boosted, picture)
SELECT DISTINCT ON (external_id) %(brand)s, %(profile)s, external_id, published_at, format, body, url, hashtags,
    campaign_id, next_reading_at, language, is_boosted, picture
FROM stage_posts ORDER BY external_id
ON CONFLICT (profile_id, external_id) DO UPDATE SET text = EXCLUDED.text, url = EXCLUDED.url,
    format = EXCLUDED.format, hashtags = EXCLUDED.hashtags, removed_at = NULL,
    language = COALESCE(NULLIF(EXCLUDED.language, ''), sources_post.language),
    is_boosted = COALESCE(EXCLUDED.is_boosted, sources_post.is_boosted),
    picture = COALESCE(NULLIF(EXCLUDED.picture, ''), sources_post.picture)
WHERE (sources_post.text, sources_post.url, sources_post.format) IS DISTINCT FROM
    (EXCLUDED.text, EXCLUDED.url, EXCLUDED.format) OR sources_post.removed_at IS NOT NULL
    OR (EXCLUDED.language <> '' AND EXCLUDED.language <> sources_post.language)
    OR (EXCLUDED.picture <> '' AND EXCLUDED.picture <> sources_post.picture)
    OR (EXCLUDED.is_boosted IS NOT NULL AND EXCLUDED.is_boosted IS DISTINCT FROM sources_post.is_boosted)
RETURNING (xmax = 0) AS is_new
"""
_WHEN_DUE = """
UPDATE sources_post p SET next_reading_at = s.next_reading_at FROM stage_posts s
WHERE p.profile_id = %(profile)s AND p.external_id = s.external_id
    AND p.next_reading_at IS DISTINCT FROM s.next_reading_at
    AND EXISTS (SELECT 1 FROM stage_readings r WHERE r.external_id = s.external_id)
"""
_COLUMNS = ", ".join(OBSERVED)
_NEW = ", ".join(f"EXCLUDED.{key}" for key in OBSERVED)
_INSERT_READINGS = f"""
INSERT INTO sources_postreading (brand_id, post_id, taken_at, {_COLUMNS}, raw)
SELECT DISTINCT ON (p.id, s.taken_at) %(brand)s, p.id, s.taken_at, {", ".join(f"s.{key}" for key in OBSERVED)}, s.raw
FROM stage_readings s JOIN sources_post p ON p.profile_id = %(profile)s AND p.external_id = s.external_id
ORDER BY p.id, s.taken_at
ON CONFLICT (post_id, taken_at, brand_id) DO UPDATE SET ({_COLUMNS}, raw) = ROW({_NEW}, EXCLUDED.raw)
WHERE ({", ".join(f"sources_postreading.{key}" for key in OBSERVED)}) IS DISTINCT FROM ({_NEW})
RETURNING (xmax = 0) AS is_new
"""


def take_posts(profile: Profile, posts: Iterable[PostIn]) -> Taken:
    """Store posts with their readings in one transaction; what is there already stays as it is."""
    posts = list(posts)
    keys = {"brand": profile.brand_id, "profile": profile.pk}
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.execute("DROP TABLE IF EXISTS stage_posts, stage_readings")
        cursor.execute(_STAGE_POSTS)
        cursor.execute(_STAGE_READINGS)
        with cursor.copy("COPY stage_posts FROM STDIN") as copy:
            for post in posts:
                text = clean_text(post.text)
                tags = [tag[:100] for tag in hashtags_of(text)]
                copy.write_row((
                    post.external_id, post.published_at, post.format, text, post.url[:2000], tags, post.campaign_id,
                    post.next_reading_at, post.language[:8].lower(), post.is_boosted, post.picture[:500],
                ))  # fmt: skip
        with cursor.copy("COPY stage_readings FROM STDIN") as copy:
            for post in posts:
                for taken_at, counts, raw in post.readings:
                    values = [counts.get(key) for key in OBSERVED]
                    copy.write_row((post.external_id, taken_at, *values, json.dumps(raw) if raw else None))
        cursor.execute(_INSERT_POSTS, keys)
        posts_new = sum(is_new for (is_new,) in cursor.fetchall())
        cursor.execute(_INSERT_READINGS, keys)
        readings_new = sum(is_new for (is_new,) in cursor.fetchall())
        cursor.execute(_WHEN_DUE, keys)
        cursor.execute("DROP TABLE stage_posts, stage_readings")
    return Taken(posts_new=posts_new, readings_new=readings_new)


def take_published(profile: Profile, post: PostIn) -> Post:
    """The post that a network has just made of ours; once collected it is as the network shows it, and stays so."""
    text = clean_text(post.text)
    made = Post(
        brand_id=profile.brand_id, profile=profile, external_id=post.external_id, published_at=post.published_at,
        format=post.format, text=text, url=post.url[:2000], hashtags=[tag[:100] for tag in hashtags_of(text)],
        campaign_id=post.campaign_id, next_reading_at=post.next_reading_at,
    )  # fmt: skip
    Post.objects.bulk_create([made], ignore_conflicts=True)
    return Post.objects.get(profile=profile, external_id=post.external_id)


def clean_text(text: str) -> str:
    """A text as it may be stored: without NUL and lone surrogates, cut where no network's text goes on."""
    return text.replace("\x00", "").encode("utf-8", "replace").decode()[:LONGEST_TEXT]


_DAY = """
INSERT INTO sources_profilereading (brand_id, profile_id, day, taken_at, followers, gained, lost, posts_total)
VALUES (%s, %s, %s, %s, %s, %s, %s, %s)
ON CONFLICT (profile_id, day, brand_id) DO UPDATE SET
    followers = COALESCE(EXCLUDED.followers, sources_profilereading.followers), taken_at = EXCLUDED.taken_at,
    gained = COALESCE(EXCLUDED.gained, sources_profilereading.gained),
    lost = COALESCE(EXCLUDED.lost, sources_profilereading.lost),
    posts_total = COALESCE(EXCLUDED.posts_total, sources_profilereading.posts_total)
WHERE (sources_profilereading.followers, sources_profilereading.gained, sources_profilereading.lost,
       sources_profilereading.posts_total) IS DISTINCT FROM
      (EXCLUDED.followers, EXCLUDED.gained, EXCLUDED.lost, EXCLUDED.posts_total)
"""


def take_profile_days(
    profile: Profile, days: Iterable[tuple[date, int, int | None, int | None]], *, taken_at: datetime,
    posts_total: int | None = None,
) -> None:  # fmt: skip
    """Store followers by day (day, followers, gained, lost); a later word on a day replaces the earlier."""
    rows = [
        (profile.brand_id, profile.pk, day, taken_at, total, new, gone, posts_total) for day, total, new, gone in days
    ]
    with transaction.atomic(), connection.cursor() as cursor:
        cursor.executemany(_DAY, rows)


def take_audience(profile: Profile, day: date, made: Mapping[str, Mapping[str, float]]) -> None:
    """Store the make-up of an audience on a day, one row for each dimension; a later word replaces the earlier."""
    AudienceReading.objects.bulk_create(
        [
            AudienceReading(
                brand_id=profile.brand_id, profile=profile, day=day, dimension=dimension,
                segments={str(name)[:80]: round(float(share), 6) for name, share in segments.items()},
            )
            for dimension, segments in made.items()
            if segments
        ],
        update_conflicts=True, unique_fields=["profile", "dimension", "day", "brand"], update_fields=["segments"],
    )  # fmt: skip


def take_comments(
    post: Post, comments: Sequence[NetworkComment], *, now: datetime, since: datetime | None = None
) -> int:
    """Store comments and return how many are new. Known ones of the span that was told and are gone are marked."""
    rows = [
        Comment(
            brand_id=post.brand_id, post=post, external_id=c.external_id[:200], author=clean_text(c.author)[:200],
            text=clean_text(c.text), written_at=c.written_at, seen_at=now,
        )
        for c in comments
    ]  # fmt: skip
    known = Comment.objects.filter(post=post)
    with transaction.atomic():
        before = known.count()
        Comment.objects.bulk_create(rows, ignore_conflicts=True)
        told = known.filter(written_at__gte=since) if since else known
        names = [row.external_id for row in rows]
        told.exclude(external_id__in=names).filter(removed_at__isnull=True).update(removed_at=now)
        known.filter(external_id__in=names, removed_at__isnull=False).update(removed_at=None)
        return known.count() - before
