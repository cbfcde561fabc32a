"""Rows of a file into tables, a batch at a time: COPY into a staging table, then insert what is new.

Nothing that is there is changed: a row that says what is known adds nothing, and every row that
is added carries its import, so that the import can be undone as a whole.

In the trade's words: import, bulk load.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from dakika_core.metrics.observed import OBSERVED, OBSERVED_OF_PROFILE
from dakika_core.networks.definition import Format
from dakika_core.networks.text_rules import hashtags_of
from dakika_core.sources.files.identifiers import address_key
from dakika_core.sources.files.rows import RowProblem

from dakika_server.shared.hooks import Registry
from dakika_server.sources.files.accounts import key_of
from dakika_server.sources.files.matching import Ordinals, match_posts
from dakika_server.sources.files.upload import as_of_of
from dakika_server.sources.models import Import, Post, Profile

Batch = Sequence[tuple[int, dict[str, Any]]]


@dataclass(frozen=True, kw_only=True)
class BatchIn:
    """What a batch added: rows, posts among them; rows that found no place; profiles that were touched.

    known counts rows of posts that were here before the file, together those that say what another
    row of it says. notes are (column, words, row): what was done that is not plain. days are the
    first and the last that the rows speak of.
    """

    added: int = 0
    posts_added: int = 0
    known: int = 0
    together: int = 0
    problems: Sequence[RowProblem] = ()
    notes: Sequence[tuple[str, str, int]] = ()
    profiles: frozenset[int] = frozenset()
    days: tuple[date, date] | None = None


Intake = Callable[[Any, Import, Batch, "Places"], BatchIn]
LEFT_OUT = 0


class Places:
    """Which profile a row belongs to: the chosen one, or the one that the row names; and the place of rows alike.

    Made for one reading of a file from its beginning; RECOUNTS tell it of rows that came in before.
    """

    def __init__(self, item: Import) -> None:
        self._chosen = item.profile_id
        self._named = {
            (one["network"], one["handle"]): int(one["profile_id"]) for one in item.options.get("accounts", [])
        }
        if self._chosen is None and not self._named:
            self._named = {
                key_of(network, handle): pk
                for network, handle, pk in Profile.objects.filter(brand=item.brand_id).values_list(
                    "network", "handle", "pk"
                )
            }
        self._header = item.header
        self._columns = item.mapping
        self.ordinals = Ordinals()

    def of(self, values: dict[str, Any]) -> int | None:
        """Key of the profile; 0 where its rows are left out as was said, None when the row names one not here."""
        if self._chosen is not None:
            return self._chosen
        return self._named.get(key_of(values.get("profile_network"), values.get("profile_handle")))

    def problem(self, row: int, values: dict[str, Any]) -> RowProblem:
        """What is said of a row whose profile is not here."""
        place = self._columns.get("profile_handle") or self._columns.get("profile_network")
        column = self._header[place[0]] if place else ""
        name = " on ".join(str(values[k]) for k in ("profile_handle", "profile_network") if values.get(k))
        return RowProblem(
            row=row, column=column, message=f"there is no profile {name[:80]} here; connect or make it first"
        )


@dataclass(frozen=True, kw_only=True)
class _Sorted:
    """Rows with their profiles, those whose profile is not here, those that are left out as was said."""

    rows: list[tuple[int, int, dict[str, Any]]]
    problems: list[RowProblem]
    notes: list[tuple[str, str, int]]


def _sorted_out(batch: Batch, places: Places) -> _Sorted:
    found = _Sorted(rows=[], problems=[], notes=[])
    for row, values in batch:
        profile = places.of(values)
        if profile is None:
            found.problems.append(places.problem(row, values))
        elif profile == LEFT_OUT:
            name = " on ".join(str(values[k]) for k in ("profile_handle", "profile_network") if values.get(k))
            found.notes.append(("", f"rows of {name[:80]} are left out, as was said", row))
        else:
            found.rows.append((row, profile, values))
    return found


def days_of(values: Iterable[Any], item: Import) -> tuple[date, date] | None:
    """The first and the last day, by the brand's clock, of some instants or days; None of none."""
    days = [v.astimezone(item.brand.zone).date() if isinstance(v, datetime) else v for v in values if v is not None]
    return (min(days), max(days)) if days else None


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
CREATE TEMP TABLE rows_posts (row bigint, profile_id bigint, external_id text,
    published_at timestamptz, has_time boolean, format text, body text, url text, hashtags text[],
    taken_at timestamptz, {_STAGE_COUNTS}) ON COMMIT DROP
"""
_INSERT_POSTS = """
INSERT INTO sources_post (brand_id, profile_id, external_id, published_at, has_time, format, text, url, hashtags,
    language, picture, first_import_id)
SELECT DISTINCT ON (profile_id, external_id) %(brand)s, profile_id, external_id, published_at, has_time, format, body,
    url, hashtags, '', '', %(import)s
FROM rows_posts ORDER BY profile_id, external_id, row
ON CONFLICT (profile_id, external_id) DO NOTHING
"""
_INSERT_POSTS_READINGS = f"""
INSERT INTO sources_postreading (brand_id, post_id, taken_at, {_COLUMNS}, import_id)
SELECT %(brand)s, p.id, greatest(s.taken_at, p.published_at), {", ".join(f"s.{key}" for key in OBSERVED)}, %(import)s
FROM rows_posts s JOIN sources_post p ON p.profile_id = s.profile_id AND p.external_id = s.external_id
WHERE num_nonnulls({", ".join(f"s.{key}" for key in OBSERVED)}) > 0
ON CONFLICT (post_id, taken_at, brand_id) DO NOTHING
"""
_NOTE_SOURCES = """
INSERT INTO sources_postsource (brand_id, post_id, import_id)
SELECT DISTINCT %(brand)s, p.id, %(import)s
FROM {rows} s JOIN sources_post p ON p.profile_id = s.profile_id AND p.external_id = s.external_id
ON CONFLICT DO NOTHING
"""


NEWER = "rows are newer than the moment of the figures: each is taken at the end of its day"


def _end_of_day(at: datetime, item: Import) -> datetime:
    local = at.astimezone(item.brand.zone)
    return local.replace(hour=23, minute=59, second=59)


def take_posts_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Posts with a reading each, taken when the row says, else at the moment that the file is of."""
    found = _sorted_out(batch, places)
    if not found.rows:
        return BatchIn(problems=found.problems, notes=found.notes)
    matched = match_posts(item, found.rows, places.ordinals)
    moment = as_of_of(item)
    cursor.execute("DROP TABLE IF EXISTS rows_posts")
    cursor.execute(_STAGE_POSTS)
    lines = []
    notes = list(found.notes)
    for (row, profile, v), identifier in matched.rows:
        text, url = v["text"] or "", v["url"] or ""
        tags = [tag[:100].replace('"', "") for tag in hashtags_of(text)] if "#" in text else []
        array = "{" + ",".join(f'"{tag}"' for tag in tags) + "}"
        taken = v["taken_at"] or moment
        if v["published_at"] > taken:
            # A total of a moment before its post cannot be: the file is newer than was said.
            taken = min(_end_of_day(v["published_at"], item), item.created_at)
            notes.append(("", NEWER, row))
        cells = (
            row, profile, identifier, v["published_at"], "t" if v["has_time"] else "f",
            v["format"] or Format.OTHER.value, text, url, array, taken, *[v[key] for key in OBSERVED],
        )  # fmt: skip
        lines.append("\t".join(map(copied, cells)))
    copy_in(cursor, "COPY rows_posts FROM STDIN", lines)
    keys = {"brand": item.brand_id, "import": item.pk}
    cursor.execute(_INSERT_POSTS, keys)
    posts = cursor.rowcount
    cursor.execute(_INSERT_POSTS_READINGS, keys)
    readings = cursor.rowcount
    cursor.execute(_NOTE_SOURCES.format(rows="rows_posts"), keys)
    return BatchIn(
        added=max(posts, readings), posts_added=posts, known=matched.known, together=matched.together,
        problems=[*found.problems, *matched.problems], notes=notes,
        profiles=frozenset(p for _, p, _ in found.rows),
        days=days_of((v["published_at"] for _, _, v in found.rows), item),
    )  # fmt: skip


_STAGE_READINGS = f"""
CREATE TEMP TABLE rows_readings (row bigint, profile_id bigint, external_id text, url text, taken_at timestamptz,
    {_STAGE_COUNTS}) ON COMMIT DROP
"""
_INSERT_READINGS = f"""
INSERT INTO sources_postreading (brand_id, post_id, taken_at, {_COLUMNS}, import_id)
SELECT %(brand)s, p.id, s.taken_at, {", ".join(f"s.{key}" for key in OBSERVED)}, %(import)s
FROM rows_readings s JOIN sources_post p ON p.profile_id = s.profile_id AND p.external_id = s.external_id
ON CONFLICT (post_id, taken_at, brand_id) DO NOTHING
"""
_HOMELESS = """
SELECT s.row FROM rows_readings s WHERE NOT EXISTS (
    SELECT 1 FROM sources_post p WHERE p.profile_id = s.profile_id AND p.external_id = s.external_id) ORDER BY s.row
"""


def take_post_readings_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Readings of posts that are here already, by identifier or by address."""
    found = _sorted_out(batch, places)
    cursor.execute("DROP TABLE IF EXISTS rows_readings")
    cursor.execute(_STAGE_READINGS)
    by_address = _posts_by_address({p for _, p, _ in found.rows}) if any(v["url"] for _, _, v in found.rows) else {}
    lines = []
    for row, profile, v in found.rows:
        identifier = v["external_id"] or by_address.get((profile, address_key(v["url"] or "")), "")
        cells = (row, profile, identifier, v["url"] or "", v["taken_at"], *[v[k] for k in OBSERVED])
        lines.append("\t".join(map(copied, cells)))
    copy_in(cursor, "COPY rows_readings FROM STDIN", lines)
    keys = {"brand": item.brand_id, "import": item.pk}
    cursor.execute(_INSERT_READINGS, keys)
    added = cursor.rowcount
    cursor.execute(_NOTE_SOURCES.format(rows="rows_readings"), keys)
    problems = list(found.problems)
    if added < len(found.rows):
        cursor.execute(_HOMELESS)
        column = next((item.header[item.mapping[k][0]] for k in ("external_id", "url") if item.mapping.get(k)), "")
        message = "no post of this identifier or address is here; bring the posts in first"
        problems += [RowProblem(row=row, column=column, message=message) for (row,) in cursor.fetchall()]
    return BatchIn(
        added=added, problems=problems, notes=found.notes, profiles=frozenset(p for _, p, _ in found.rows),
        days=days_of((v["taken_at"] for _, _, v in found.rows), item),
    )  # fmt: skip


def _posts_by_address(profiles: set[int]) -> dict[tuple[int, str], str]:
    posts = Post.objects.filter(profile__in=profiles).exclude(url="").values_list("profile_id", "url", "external_id")
    return {(profile, address_key(url)): identifier for profile, url, identifier in posts.iterator()}


_PROFILE_COLUMNS = ", ".join(OBSERVED_OF_PROFILE)
_STAGE_DAYS = f"""
CREATE TEMP TABLE rows_days (row bigint, profile_id bigint, day date,
    {", ".join(f"{key} bigint" for key in OBSERVED_OF_PROFILE)}) ON COMMIT DROP
"""
_INSERT_DAYS = f"""
INSERT INTO sources_profilereading (brand_id, profile_id, day, taken_at, {_PROFILE_COLUMNS}, import_id)
SELECT DISTINCT ON (profile_id, day) %(brand)s, profile_id, day, %(at)s, {_PROFILE_COLUMNS}, %(import)s
FROM rows_days ORDER BY profile_id, day, row
ON CONFLICT (profile_id, day, brand_id) DO NOTHING
"""


def take_profile_readings_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Days of profiles; a day that is known stays as it is."""
    found = _sorted_out(batch, places)
    cursor.execute("DROP TABLE IF EXISTS rows_days")
    cursor.execute(_STAGE_DAYS)
    lines = [
        "\t".join(map(copied, (row, profile, v["day"], *[v[k] for k in OBSERVED_OF_PROFILE])))
        for row, profile, v in found.rows
    ]
    copy_in(cursor, "COPY rows_days FROM STDIN", lines)
    cursor.execute(_INSERT_DAYS, {"brand": item.brand_id, "import": item.pk, "at": item.created_at})
    return _brought(cursor.rowcount, found, item)


def _brought(added: int, found: _Sorted, item: Import) -> BatchIn:
    return BatchIn(
        added=added, problems=found.problems, notes=found.notes, profiles=frozenset(p for _, p, _ in found.rows),
        days=days_of((v["day"] for _, _, v in found.rows), item),
    )  # fmt: skip


_STAGE_AUDIENCE = """
CREATE TEMP TABLE rows_audience (row bigint, profile_id bigint, day date, dimension text, segment text, share float8)
    ON COMMIT DROP
"""
# A dimension's segments may lie in two batches of the same file: the second adds to what the first began.
_INSERT_AUDIENCE = """
INSERT INTO sources_audiencereading AS a (brand_id, profile_id, day, dimension, segments, import_id)
SELECT %(brand)s, profile_id, day, dimension, jsonb_object_agg(segment, share ORDER BY row DESC), %(import)s
FROM rows_audience GROUP BY profile_id, day, dimension
ON CONFLICT (profile_id, dimension, day, brand_id) DO UPDATE SET segments = a.segments || EXCLUDED.segments
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
    found = _sorted_out(batch, places)
    cursor.execute("DROP TABLE IF EXISTS rows_audience")
    cursor.execute(_STAGE_AUDIENCE)
    today = as_of_of(item).astimezone(item.brand.zone).date()
    lines = [
        "\t".join(map(copied, (row, profile, v["day"] or today, v["dimension"], v["segment"], v["share"])))
        for row, profile, v in found.rows
    ]
    copy_in(cursor, "COPY rows_audience FROM STDIN", lines)
    cursor.execute(_INSERT_AUDIENCE, {"brand": item.brand_id, "import": item.pk})
    return _brought(cursor.rowcount, found, item)


def recount_post(places: Places, values: dict[str, Any]) -> None:
    """Count a row that came in before a reading broke off, so that the places of rows alike go on."""
    profile = places.of(values)
    if profile and not (values["external_id"] or values["text"] or values["url"]):
        places.ordinals.next(profile, values["published_at"])


RECOUNTS: Registry[Callable[[Places, dict[str, Any]], None]] = Registry("recounts of rows", {"posts": recount_post})
# Areas above add what they take in: clicks belong to links.
INTAKES: Registry[Intake] = Registry(
    "intakes of rows",
    {
        "posts": take_posts_batch,
        "post_readings": take_post_readings_batch,
        "profile_readings": take_profile_readings_batch,
        "audience": take_audience_batch,
    },
)
