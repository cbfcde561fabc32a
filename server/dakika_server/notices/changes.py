"""What changed in a brand, told the moment it is committed: PostgreSQL's NOTIFY, from triggers on watched tables.

So it is told whoever changes it, the web, the worker, the redirect or a person at the database, and never for what was
rolled back. A trigger fires once a statement: a thousand rows of one brand are one notice.

In the trade's words: cache invalidation, publish and subscribe.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db import connections

from dakika_server.shared.hooks import Registry
from dakika_server.shared.triggers import put_where_other

CHANNEL = "dakika_changes"
OWN_BRAND = "touched.brand_id"


@dataclass(frozen=True, kw_only=True)
class Watched:
    """A table's changes: of which thing they tell, as the front end's questions name it, and of which brand.

    brand is an expression of SQL over the rows that were touched.
    """

    thing: str
    brand: str = OWN_BRAND


# By table.
WATCHED: Registry[Watched] = Registry("watched tables")


def watch(tables: Mapping[str, str | Watched]) -> None:
    """Have changes of an area's tables told. Raises AlreadyAddedError for one that is watched."""
    for table, watched in tables.items():
        WATCHED.add(table, watched if isinstance(watched, Watched) else Watched(thing=watched))


# What follows is made of our own names alone.
_FUNCTION = """
CREATE OR REPLACE FUNCTION notices_tell() RETURNS trigger LANGUAGE plpgsql AS $function$
DECLARE
    brand bigint;
BEGIN
    FOR brand IN EXECUTE 'SELECT DISTINCT ' || TG_ARGV[1] || ' FROM touched' LOOP
        IF brand IS NOT NULL THEN
            PERFORM pg_notify('dakika_changes', brand || ' ' || TG_ARGV[0]);
        END IF;
    END LOOP;
    RETURN NULL;
END $function$
"""
_SIDES = {"INSERT": "NEW", "UPDATE": "NEW", "DELETE": "OLD"}


def watch_tables(using: str = "default", **kwargs: Any) -> None:
    """Put the triggers on every watched table that is there. Doing it again changes nothing."""
    del kwargs
    connection = connections[using]
    there = set(connection.introspection.table_names())
    triggers = [
        f'CREATE OR REPLACE TRIGGER notices_{event.lower()} AFTER {event} ON "{table}" '
        f"REFERENCING {side} TABLE AS touched FOR EACH STATEMENT "
        f"EXECUTE FUNCTION notices_tell('{watched.thing}', '{watched.brand}')"
        for table, watched in WATCHED.items() if table in there
        for event, side in _SIDES.items()
    ]  # fmt: skip
    with connection.cursor() as cursor:
        put_where_other(cursor, "notices_tell", [_FUNCTION, *triggers])
