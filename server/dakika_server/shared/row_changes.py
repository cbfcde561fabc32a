"""What rows were before and are after a change, noted by triggers of the database on the tables that people change.

So it is noted whichever way a row is changed: one by one, many in one statement, by a cascade, or by hand at the
database. Who it was stands in the audit entries of the same transaction. Values that open something are never noted,
and long ones are cut.

In the trade's words: change data capture, before and after image.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db import connections

from dakika_server.shared.hooks import Registry
from dakika_server.shared.models import TRANSACTION
from dakika_server.shared.triggers import put_where_other

LONGEST_VALUE = 600
# Columns that are noted nowhere: secrets and their digests, and what machines count for themselves.
NEVER = (
    "password", "digest", "sealed", "token", "secret", "secret_before", "hook_secret", "verifier", "key", "private_key",
    "public_key", "credential_id", "sign_count", "idempotency_key", "last_login", "etag", "edition", "fetched_at",
    "next_at", "seen_at", "used_at", "failures", "history_cursor", "history_done_at", "next_run_at", "changed_at",
    "kept_at", "approved", "attempts", "shown", "file",
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Noted:
    """Which changes of a table are noted. columns: those that people change, all where none are named.

    has_rows: whether rows that come and go are noted, too; not where machines make them.
    """

    columns: tuple[str, ...] = ()
    has_rows: bool = True


NOTED: Registry[Noted] = Registry("tables whose changes are noted")


def note_changes(tables: Mapping[str, Noted | None]) -> None:
    """Have changes of an area's tables noted; None for all of them. Raises AlreadyAddedError."""
    for table, noted in tables.items():
        NOTED.add(table, noted or Noted())


# What follows is made of our own names alone.
_FUNCTION = f"""
CREATE OR REPLACE FUNCTION shared_note_change() RETURNS trigger LANGUAGE plpgsql AS $function$
DECLARE
    was jsonb; becomes jsonb; old_values jsonb; new_values jsonb; whole jsonb; never text[] := TG_ARGV[0]::text[];
BEGIN
    was := CASE WHEN TG_OP = 'INSERT' THEN NULL ELSE to_jsonb(OLD) - never END;
    becomes := CASE WHEN TG_OP = 'DELETE' THEN NULL ELSE to_jsonb(NEW) - never END;
    whole := coalesce(becomes, was);
    SELECT jsonb_object_agg(key, value) INTO old_values FROM jsonb_each(was)
        WHERE TG_OP = 'DELETE' OR value IS DISTINCT FROM becomes -> key;
    SELECT jsonb_object_agg(key, value) INTO new_values FROM jsonb_each(becomes)
        WHERE TG_OP = 'INSERT' OR value IS DISTINCT FROM was -> key;
    IF TG_OP = 'UPDATE' AND new_values IS NULL THEN
        RETURN NULL;
    END IF;
    INSERT INTO shared_rowchange (at, transaction, "table", "row", before, after, name) VALUES (
        clock_timestamp(), {TRANSACTION}, TG_TABLE_NAME,
        coalesce(whole ->> 'id', whole ->> 'planned_post_id', whole ->> 'brand_id')::bigint,
        shared_shortened(old_values), shared_shortened(new_values),
        left(coalesce(nullif(whole ->> 'name', ''), nullif(whole ->> 'title', ''), nullif(whole ->> 'email', ''),
            nullif(whole ->> 'host', ''), nullif(whole ->> 'tag', ''), whole ->> 'text', ''), 120));
    RETURN NULL;
END $function$
"""  # noqa: S608
_SHORTENED = f"""
CREATE OR REPLACE FUNCTION shared_shortened(given jsonb) RETURNS jsonb LANGUAGE sql IMMUTABLE AS $function$
    SELECT jsonb_object_agg(key, CASE WHEN length(value::text) > {LONGEST_VALUE}
        THEN to_jsonb(left(coalesce(value #>> '{{}}', value::text), {LONGEST_VALUE}) || '…') ELSE value END)
    FROM jsonb_each(given)
$function$
"""  # noqa: S608


def note_tables(using: str = "default", **kwargs: Any) -> None:
    """Put the triggers on every table that is there. Doing it again changes nothing."""
    del kwargs
    connection = connections[using]
    there = set(connection.introspection.table_names())
    if "shared_rowchange" not in there:
        return
    wanted = [_SHORTENED, _FUNCTION, *(_trigger(table, noted) for table, noted in NOTED.items() if table in there)]
    with connection.cursor() as cursor:
        put_where_other(cursor, "shared_note_change", wanted)


def _trigger(table: str, noted: Noted) -> str:
    of = f" OF {', '.join(noted.columns)}" if noted.columns else ""
    events = ["insert", "delete", f"update{of}"] if noted.has_rows else [f"update{of}"]
    return (
        f'CREATE OR REPLACE TRIGGER shared_noted AFTER {" OR ".join(events)} ON "{table}" '
        f"FOR EACH ROW EXECUTE FUNCTION shared_note_change('{{{','.join(NEVER)}}}')"
    )
