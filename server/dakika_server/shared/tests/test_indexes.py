"""Promise: no index is kept that another one holds already: each costs every row that comes in."""

import pytest
from django.apps import apps
from django.db import connection

pytestmark = pytest.mark.django_db
# Sites, campaigns and brands are deleted seldom: their visits are looked through then, and cost less on every other day.
LOOKED_THROUGH = {
    ("site_visit", "site_id"), ("site_visit", "campaign_id"),
    ("sources_profilerebuild", "brand_id"), ("foresight_profilelevel", "brand_id"),  # a few rows a profile at most
}  # fmt: skip
# Plain indexes (not unique, of all rows) whose columns another one of all rows begins with.
_HELD = """
SELECT one.indexrelid::regclass::text, other.indexrelid::regclass::text
FROM pg_index one JOIN pg_index other ON other.indrelid = one.indrelid AND other.indexrelid <> one.indexrelid
JOIN pg_class t ON t.oid = one.indrelid
WHERE t.relname = ANY(%s) AND NOT one.indisunique AND one.indpred IS NULL AND other.indpred IS NULL
    AND one.indexprs IS NULL AND other.indexprs IS NULL
    AND (other.indkey::int2[])[0:one.indnkeyatts - 1] = (one.indkey::int2[])[0:one.indnkeyatts - 1]
    AND (other.indclass::oid[])[0:one.indnkeyatts - 1] = (one.indclass::oid[])[0:one.indnkeyatts - 1]
    AND other.indnkeyatts >= one.indnkeyatts
"""


def test_no_index_is_held_by_another() -> None:
    ours = [m._meta.db_table for m in apps.get_models() if m.__module__.startswith("dakika_server")]
    with connection.cursor() as cursor:
        cursor.execute(_HELD, [ours])
        assert cursor.fetchall() == []
        cursor.execute("CREATE INDEX held ON links_click (link_id)")
        cursor.execute(_HELD, [ours])
        assert cursor.fetchall() == [("held", "click_by_link_time")], "this would be found"


def test_every_foreign_key_that_is_deleted_through_has_an_index() -> None:
    """Deleting a row looks for those that hang on it: without an index each such look is a reading of the table."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT c.conrelid::regclass::text, a.attname FROM pg_constraint c "
            "JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1] "
            "WHERE c.contype = 'f' AND c.conrelid::regclass::text = ANY(%s) AND NOT EXISTS ("
            "SELECT 1 FROM pg_index i WHERE i.indrelid = c.conrelid AND (i.indkey::int2[])[0] = c.conkey[1])",
            [[m._meta.db_table for m in apps.get_models() if m.__module__.startswith("dakika_server")]],
        )
        assert {*cursor.fetchall()} == LOOKED_THROUGH
