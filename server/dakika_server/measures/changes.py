"""What came or went since a profile was measured. The database notes it by itself, whoever writes.

Notes are only ever added, so that writers never wait for one another; whoever measures takes away
those that it has seen. What is noted meanwhile stays for the next time.

In the trade's words: incremental computation, change tracking.
"""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import date

from dakika_core.metrics.observed import OBSERVED
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.measures.models import MeasureChange
from dakika_server.sources.models import Profile


@dataclass(frozen=True, kw_only=True)
class Changes:
    """posts: keys of posts that came, went, were read or changed. followers_since: the first day whose followers
    are others than before. is_all: everything is to be worked out anew. notes: what says so.
    """

    posts: frozenset[int]
    followers_since: date | None
    is_all: bool
    notes: list[int]

    def of_all(self) -> "Changes":
        """The same, and everything besides."""
        return replace(self, is_all=True)


def changes_of(profile: Profile) -> Changes:
    """What is noted of a profile by now."""
    rows = list(MeasureChange.objects.filter(profile=profile).values_list("pk", "post_id", "day"))
    days = [day for _, post, day in rows if post is None and day is not None]
    return Changes(
        posts=frozenset(post for _, post, _ in rows if post is not None), followers_since=min(days, default=None),
        is_all=any(post is None and day is None for _, post, day in rows), notes=[pk for pk, _, _ in rows],
    )  # fmt: skip


def forget(changes: Changes) -> None:
    """Take away what has been seen, in the transaction that puts its outcome in place."""
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM measures_measurechange WHERE id = ANY(%s)", [changes.notes])


def ask_anew(profiles: Iterable[Profile]) -> None:
    """Have all of these profiles' measures worked out anew, whenever they are measured next."""
    MeasureChange.objects.bulk_create(MeasureChange(brand_id=p.brand_id, profile=p) for p in profiles)


def ask_brand_anew(brand: Brand) -> None:
    """The same for a brand: its days begin at other hours."""
    ask_anew(Profile.objects.filter(brand=brand))


def _noted(name: str, table: str, event: str, rows: str, body: str) -> str:
    """A function and its trigger, once for each statement with all its rows."""
    return f"""
CREATE FUNCTION measures_note_{name}() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
    INSERT INTO measures_measurechange (brand_id, profile_id, post_id, day)
    {body};
    RETURN NULL;
END $body$;
CREATE TRIGGER measures_{name} AFTER {event} ON {table} REFERENCING {rows}
    FOR EACH STATEMENT EXECUTE FUNCTION measures_note_{name}();
"""


_OF_READINGS = """SELECT DISTINCT p.brand_id, p.profile_id, p.id, NULL::date
    FROM sources_post p WHERE p.id IN (SELECT post_id FROM changed)"""
_OF_POSTS = "SELECT brand_id, profile_id, id, NULL::date FROM changed"
_OF_FOLLOWERS = """SELECT brand_id, profile_id, NULL::bigint, min(day) FROM changed
    WHERE followers IS NOT NULL GROUP BY 1, 2"""
# What is noted while a profile is erased goes with its last row.
_GONE = """
CREATE FUNCTION measures_note_profile_out() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
    DELETE FROM measures_measurechange WHERE profile_id IN (SELECT id FROM changed);
    RETURN NULL;
END $body$;
CREATE TRIGGER measures_profile_out AFTER DELETE ON sources_profile REFERENCING OLD TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION measures_note_profile_out();
"""
TRIGGERS = "".join((
    _noted("reading_in", "sources_postreading", "INSERT", "NEW TABLE AS changed", _OF_READINGS),
    _noted("reading_changed", "sources_postreading", "UPDATE", "NEW TABLE AS changed", _OF_READINGS),
    _noted("reading_out", "sources_postreading", "DELETE", "OLD TABLE AS changed", _OF_READINGS),
    _noted("post_in", "sources_post", "INSERT", "NEW TABLE AS changed", _OF_POSTS),
    _noted("post_changed", "sources_post", "UPDATE", "OLD TABLE AS was NEW TABLE AS changed", """
    SELECT v.brand_id, v.profile_id, v.id, NULL::date
    FROM was JOIN changed USING (id) CROSS JOIN LATERAL (
        VALUES (was.brand_id, was.profile_id, id), (changed.brand_id, changed.profile_id, id)
    ) v (brand_id, profile_id, id)
    WHERE (was.profile_id, was.published_at, was.format, was.language)
        IS DISTINCT FROM (changed.profile_id, changed.published_at, changed.format, changed.language)"""),
    _noted("post_out", "sources_post", "DELETE", "OLD TABLE AS changed", _OF_POSTS),
    _noted("followers_in", "sources_profilereading", "INSERT", "NEW TABLE AS changed", _OF_FOLLOWERS),
    _noted("followers_changed", "sources_profilereading", "UPDATE", "OLD TABLE AS was NEW TABLE AS changed", """
    SELECT changed.brand_id, changed.profile_id, NULL::bigint, min(least(was.day, changed.day))
    FROM was JOIN changed USING (id)
    WHERE (was.profile_id, was.day, was.followers) IS DISTINCT FROM (changed.profile_id, changed.day, changed.followers)
    GROUP BY 1, 2"""),
    _noted("followers_out", "sources_profilereading", "DELETE", "OLD TABLE AS changed", _OF_FOLLOWERS),
    _GONE,
))  # fmt: skip
# Since migration 0003: a reading whose counts are the same is no change (its network's own words go in time).
_COUNTED = ("post_id", "taken_at", *OBSERVED)
READINGS_AS_COUNTED = "DROP FUNCTION measures_note_reading_changed() CASCADE;" + _noted(
    "reading_changed", "sources_postreading", "UPDATE", "OLD TABLE AS was NEW TABLE AS changed", f"""
    SELECT DISTINCT p.brand_id, p.profile_id, p.id, NULL::date
    FROM was JOIN changed USING (id) JOIN sources_post p ON p.id IN (was.post_id, changed.post_id)
    WHERE ({", ".join(f"was.{name}" for name in _COUNTED)})
        IS DISTINCT FROM ({", ".join(f"changed.{name}" for name in _COUNTED)})""",
)  # fmt: skip
_NAMES = ("reading_in", "reading_changed", "reading_out", "post_in", "post_changed", "post_out", "followers_in",
          "followers_changed", "followers_out", "profile_out")  # fmt: skip
NO_TRIGGERS = "".join(f"DROP FUNCTION measures_note_{name}() CASCADE;" for name in _NAMES)
