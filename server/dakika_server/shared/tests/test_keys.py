"""Promise: what grows with time can be parted by time and laid out by brand: its keys carry both."""

import pytest
from django.db import connection

pytestmark = pytest.mark.django_db
# The instant of each table that takes rows as long as the installation runs.
GROWING = {
    "sources_postreading": "taken_at", "sources_profilereading": "day", "sources_presencereading": "day",
    "sources_audiencereading": "day",
    "measures_postmeasure": "published_at", "measures_postday": "day", "measures_profileday": "day",
    "measures_profilepublished": "day",
    "links_click": "at", "links_clickhour": "hour", "links_clickday": "day", "links_clickspread": "day",
    "links_clickpeople": "day", "links_pageview": "at",
    "site_visit": "started_at", "site_conversion": "at",
    "notices_notification": "at", "foresight_projection": "published_at",
    "plan_ownfeedseen": "hour", "plan_pushseen": "hour",
}  # fmt: skip
# What comes once however often and whenever it is told: a key without an instant, which a table that is parted by time
# cannot have of itself (docs/scaling.md says what takes its place).
ONCE_FOR_EVER = {("site_conversion", "brand_id,key"), ("notices_notification", "brand_id,person_id,key")}
_KEYS = """
SELECT i.indrelid::regclass::text, ARRAY(
    SELECT a.attname::text FROM unnest((i.indkey::int2[])[0:i.indnkeyatts - 1]) WITH ORDINALITY k (number, place)
    JOIN pg_attribute a ON a.attrelid = i.indrelid AND a.attnum = k.number ORDER BY place)
FROM pg_index i WHERE i.indisunique AND NOT i.indisprimary AND i.indrelid::regclass::text = ANY(%s)
"""


def test_keys_of_what_grows_carry_brand_and_instant() -> None:
    with connection.cursor() as cursor:
        cursor.execute(_KEYS, [list(GROWING)])
        keys = cursor.fetchall()
    whole = {table for table, columns in keys if {"brand_id", GROWING[table]} <= {*columns}}
    assert whole == {*GROWING}
    others = {(table, ",".join(columns)) for table, columns in keys if not {"brand_id", GROWING[table]} <= {*columns}}
    assert others == ONCE_FOR_EVER
