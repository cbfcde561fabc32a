"""Functions and triggers of the database, put in place after each migration. Knows no models, for bare processes."""

from collections.abc import Sequence
from hashlib import sha256
from typing import Any


def put_where_other(cursor: Any, function: str, wanted: Sequence[str]) -> None:
    """Run statements that make a function and its triggers, unless they were the last ones: a comment on it tells.

    Databases of tests are emptied hundreds of times, each time with the signals of a migration.
    """
    mark = sha256("\n".join(wanted).encode()).hexdigest()
    cursor.execute(
        "SELECT obj_description(oid, 'pg_proc'), (SELECT count(*) FROM pg_trigger WHERE tgfoid = pg_proc.oid) "
        "FROM pg_proc WHERE proname = %s AND pronamespace = current_schema()::regnamespace",
        [function],
    )
    found = cursor.fetchone()
    if found is not None and found[0] == f"{mark} {found[1]}":
        return
    for statement in wanted:
        cursor.execute(statement)
    cursor.execute("SELECT count(*) FROM pg_trigger JOIN pg_proc p ON p.oid = tgfoid WHERE p.proname = %s", [function])
    cursor.execute(f"COMMENT ON FUNCTION {function}() IS '{mark} {cursor.fetchone()[0]}'")
