"""Rows of a file into tables, a batch at a time: COPY into a staging table, then insert what is new.

Nothing that is there is changed: a row that says what is known adds nothing, and every row that
is added carries its import, so that the import can be undone as a whole.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from dakika_core.metrics.observed import OBSERVED, OBSERVED_OF_PROFILE
from dakika_core.networks.text_rules import hashtags_of
from dakika_core.sources.rows import RowProblem, made_up_id

from dakika_server.sources.models import Import, Profile

Batch = Sequence[tuple[int, dict[str, Any]]]


@dataclass(frozen=True, kw_only=True)
class BatchIn:
    """What a batch added: rows, posts among them; rows that found no place; profiles that were touched."""

    added: int = 0
    posts_added: int = 0
    problems: Sequence[RowProblem] = ()
    profiles: frozenset[int] = frozenset()


Intake = Callable[[Any, Import, Batch, "Places"], BatchIn]


class Places:
    """Which profile a row belongs to: the chosen one, or the one that the row names."""

    def __init__(self, item: Import) -> None:
        self._chosen = item.profile_id
        self._named = {
            (network.lower(), handle.lower()): pk
            for network, handle, pk in Profile.objects.filter(brand=item.brand_id).values_list(
                "network", "handle", "pk"
            )
        }
        self._header = item.header
        self._columns = item.mapping

    def of(self, values: dict[str, Any]) -> int | None:
        """Key of the profile; None when the row names one that is not here."""
        if self._chosen is not None:
            return self._chosen
        network = "-".join(str(values.get("profile_network") or "").lower().split())
        return self._named.get((network, str(values.get("profile_handle") or "").lower().removeprefix("@")))

    def problem(self, row: int, values: dict[str, Any]) -> RowProblem:
        """What is said of a row whose profile is not here."""
        column = self._header[self._columns["profile_handle"]] if "profile_handle" in self._columns else ""
        name = f"{values.get('profile_handle')} on {values.get('profile_network')}"
        return RowProblem(
            row=row, column=column, message=f"there is no profile {name[:80]} here; connect or make it first"
        )


def _sorted_out(batch: Batch, places: Places) -> tuple[list[tuple[int, int, dict[str, Any]]], list[RowProblem]]:
    found, problems = [], []
    for row, values in batch:
        profile = places.of(values)
        if profile is None:
            problems.append(places.problem(row, values))
        else:
            found.append((row, profile, values))
    return found, problems


# -- COPY's text format (PostgreSQL manual, COPY, "Text Format"): written here since it is the quickest way in

_ESCAPES = str.maketrans({"\\": "\\\\", "\t": "\\t", "\n": "\\n", "\r": "\\r", "\x00": ""})


def copied(value: Any) -> str:
    """A value in COPY's text format."""
    if value is None:
        return "\\N"
    if isinstance(value, int):
        return str(value)
    if isinstance(value, datetime):
        return value.isoformat()
    return str(value).translate(_ESCAPES)


def copy_in(cursor: Any, statement: str, lines: Sequence[str]) -> None:
    """Send lines of COPY's text format."""
    with cursor.copy(statement) as copy:
        copy.write("\n".join(lines) + "\n" if lines else "")


_COLUMNS = ", ".join(OBSERVED)
_STAGE_COUNTS = ", ".join(f"{key} bigint" for key in OBSERVED)

_STAGE_POSTS = f"""
CREATE TEMP TABLE rows_posts (row bigint, profile_id bigint, external_id text, is_made_up boolean,
    published_at timestamptz, format text, body text, url text, hashtags text[], taken_at timestamptz, {_STAGE_COUNTS})
    ON COMMIT DROP
"""
# A post that the network or another file brought under its own identifier is the same post at the same address.
_SAME_ADDRESS = """
UPDATE rows_posts s SET external_id = p.external_id FROM sources_post p
WHERE s.is_made_up AND s.url <> '' AND p.profile_id = s.profile_id AND p.url = s.url
"""
_INSERT_POSTS = """
INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, format, text, url, hashtags, language,
    picture, first_import_id)
SELECT DISTINCT ON (profile_id, external_id) %(brand)s, profile_id, external_id, published_at, format, body, url,
    hashtags, '', '', %(import)s
FROM rows_posts ORDER BY profile_id, external_id, row
ON CONFLICT (profile_id, external_id) DO NOTHING
"""
_INSERT_POSTS_READINGS = f"""
INSERT INTO sources_postreading (brand_id, post_id, taken_at, {_COLUMNS}, import_id)
SELECT %(brand)s, p.id, greatest(s.taken_at, p.published_at), {", ".join(f"s.{key}" for key in OBSERVED)}, %(import)s
FROM rows_posts s JOIN sources_post p ON p.profile_id = s.profile_id AND p.external_id = s.external_id
WHERE num_nonnulls({", ".join(f"s.{key}" for key in OBSERVED)}) > 0
ON CONFLICT (post_id, taken_at) DO NOTHING
"""


def take_posts_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Posts with a reading each, taken when the file says, else when it was first brought in."""
    found, problems = _sorted_out(batch, places)
    known_at = taken_at_of(item)
    cursor.execute("DROP TABLE IF EXISTS rows_posts")
    cursor.execute(_STAGE_POSTS)
    lines = []
    for row, profile, v in found:
        given = v["external_id"]
        text, url = v["text"] or "", v["url"] or ""
        tags = [tag[:100].replace('"', "") for tag in hashtags_of(text)] if "#" in text else []
        array = "{" + ",".join(f'"{tag}"' for tag in tags) + "}"
        counts = [v[key] for key in OBSERVED]
        identifier = given or made_up_id(v["published_at"], text, url)
        cells = (
            row, profile, identifier, "f" if given else "t", v["published_at"], v["format"] or "text", text, url, array,
            v["taken_at"] or known_at, *counts,
        )  # fmt: skip
        lines.append("\t".join(map(copied, cells)))
    copy_in(cursor, "COPY rows_posts FROM STDIN", lines)
    keys = {"brand": item.brand_id, "import": item.pk}
    cursor.execute(_SAME_ADDRESS)
    cursor.execute(_INSERT_POSTS, keys)
    posts = cursor.rowcount
    cursor.execute(_INSERT_POSTS_READINGS, keys)
    readings = cursor.rowcount
    return BatchIn(
        added=max(posts, readings), posts_added=posts, problems=problems, profiles=frozenset(p for _, p, _ in found)
    )


def taken_at_of(item: Import) -> datetime:
    """A file speaks of the moment it was first brought in, so that bringing it again says nothing new."""
    earlier = (
        Import.objects.filter(brand=item.brand_id, digest=item.digest, state="done").order_by("created_at").first()
    )
    return earlier.created_at if earlier else item.created_at


_STAGE_READINGS = f"""
CREATE TEMP TABLE rows_readings (row bigint, profile_id bigint, external_id text, url text, taken_at timestamptz,
    {_STAGE_COUNTS}) ON COMMIT DROP
"""
_INSERT_READINGS = f"""
INSERT INTO sources_postreading (brand_id, post_id, taken_at, {_COLUMNS}, import_id)
SELECT %(brand)s, p.id, s.taken_at, {", ".join(f"s.{key}" for key in OBSERVED)}, %(import)s
FROM rows_readings s JOIN sources_post p ON p.profile_id = s.profile_id AND p.external_id = s.external_id
ON CONFLICT (post_id, taken_at) DO NOTHING
"""
_BY_ADDRESS = """
UPDATE rows_readings s SET external_id = p.external_id FROM sources_post p
WHERE s.external_id = '' AND s.url <> '' AND p.profile_id = s.profile_id AND p.url = s.url
"""
_HOMELESS = """
SELECT s.row FROM rows_readings s WHERE NOT EXISTS (
    SELECT 1 FROM sources_post p WHERE p.profile_id = s.profile_id AND p.external_id = s.external_id) ORDER BY s.row
"""


def take_post_readings_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Readings of posts that are here already."""
    found, problems = _sorted_out(batch, places)
    cursor.execute("DROP TABLE IF EXISTS rows_readings")
    cursor.execute(_STAGE_READINGS)
    lines = [
        "\t".join(
            map(
                copied, (row, profile, v["external_id"] or "", v["url"] or "", v["taken_at"], *[v[k] for k in OBSERVED])
            )
        )
        for row, profile, v in found
    ]
    copy_in(cursor, "COPY rows_readings FROM STDIN", lines)
    if any(not v["external_id"] for _, _, v in found):
        cursor.execute(_BY_ADDRESS)
    cursor.execute(_INSERT_READINGS, {"brand": item.brand_id, "import": item.pk})
    added = cursor.rowcount
    if added < len(found):
        cursor.execute(_HOMELESS)
        column = next((item.header[item.mapping[k]] for k in ("external_id", "url") if k in item.mapping), "")
        message = "no post of this identifier or address is here; bring the posts in first"
        problems += [RowProblem(row=row, column=column, message=message) for (row,) in cursor.fetchall()]
    return BatchIn(added=added, problems=problems, profiles=frozenset(p for _, p, _ in found))


_PROFILE_COLUMNS = ", ".join(OBSERVED_OF_PROFILE)
_STAGE_DAYS = f"""
CREATE TEMP TABLE rows_days (row bigint, profile_id bigint, day date,
    {", ".join(f"{key} bigint" for key in OBSERVED_OF_PROFILE)}) ON COMMIT DROP
"""
_INSERT_DAYS = f"""
INSERT INTO sources_profilereading (brand_id, profile_id, day, taken_at, {_PROFILE_COLUMNS}, import_id)
SELECT DISTINCT ON (profile_id, day) %(brand)s, profile_id, day, %(at)s, {_PROFILE_COLUMNS}, %(import)s
FROM rows_days ORDER BY profile_id, day, row
ON CONFLICT (profile_id, day) DO NOTHING
"""


def take_profile_readings_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Days of profiles; a day that is known stays as it is."""
    found, problems = _sorted_out(batch, places)
    cursor.execute("DROP TABLE IF EXISTS rows_days")
    cursor.execute(_STAGE_DAYS)
    lines = [
        "\t".join(map(copied, (row, profile, v["day"], *[v[k] for k in OBSERVED_OF_PROFILE])))
        for row, profile, v in found
    ]
    copy_in(cursor, "COPY rows_days FROM STDIN", lines)
    cursor.execute(_INSERT_DAYS, {"brand": item.brand_id, "import": item.pk, "at": item.created_at})
    return BatchIn(added=cursor.rowcount, problems=problems, profiles=frozenset(p for _, p, _ in found))


_STAGE_AUDIENCE = """
CREATE TEMP TABLE rows_audience (row bigint, profile_id bigint, day date, dimension text, segment text, share float8)
    ON COMMIT DROP
"""
# A dimension's segments may lie in two batches of the same file: the second adds to what the first began.
_INSERT_AUDIENCE = """
INSERT INTO sources_audiencereading AS a (brand_id, profile_id, day, dimension, segments, import_id)
SELECT %(brand)s, profile_id, day, dimension, jsonb_object_agg(segment, share ORDER BY row DESC), %(import)s
FROM rows_audience GROUP BY profile_id, day, dimension
ON CONFLICT (profile_id, dimension, day) DO UPDATE SET segments = a.segments || EXCLUDED.segments
WHERE a.import_id = %(import)s
"""
# Counts and percentages become shares once all segments are there.
AS_SHARES = """
UPDATE sources_audiencereading a SET segments = t.shares FROM (
    SELECT id, jsonb_object_agg(key, round((value::numeric / total), 6)) AS shares FROM (
        SELECT id, key, value, sum(value::numeric) OVER (PARTITION BY id) AS total
        FROM sources_audiencereading, jsonb_each_text(segments) WHERE import_id = %(import)s) s
    WHERE total > 1.02 GROUP BY id) t
WHERE a.id = t.id
"""


def take_audience_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Segments of audiences; without a day they are of the day on which the file came."""
    found, problems = _sorted_out(batch, places)
    cursor.execute("DROP TABLE IF EXISTS rows_audience")
    cursor.execute(_STAGE_AUDIENCE)
    today = item.created_at.astimezone(item.brand.zone).date()
    lines = [
        "\t".join(map(copied, (row, profile, v["day"] or today, v["dimension"], v["segment"], v["share"])))
        for row, profile, v in found
    ]
    copy_in(cursor, "COPY rows_audience FROM STDIN", lines)
    cursor.execute(_INSERT_AUDIENCE, {"brand": item.brand_id, "import": item.pk})
    return BatchIn(added=cursor.rowcount, problems=problems, profiles=frozenset(p for _, p, _ in found))


# Areas above register what they take in: clicks belong to links.
INTAKES: dict[str, Intake] = {
    "posts": take_posts_batch,
    "post_readings": take_post_readings_batch,
    "profile_readings": take_profile_readings_batch,
    "audience": take_audience_batch,
}
