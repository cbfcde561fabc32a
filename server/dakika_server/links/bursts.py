"""Clicks that come faster than people read: a visitor who clicks one link again and again, or goes round many.

Each batch of clicks that comes in leaves a note of its time (the database writes it, whoever brings
the batch). A round looks at the clicks near those times alone, so that it costs what is new.
"""

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Any

from django.db import connection, transaction

from dakika_server.links.models import UnseenClicks

# Ten times one link within a minute, or five links within ten seconds (common practice, no source).
BURST_CLICKS, BURST_SECONDS = 10, 60
ROUND_LINKS, ROUND_SECONDS = 5, 10
# A new click can make one before it part of a burst, which is told by those around it again.
_NEAR = timedelta(seconds=2 * max(BURST_SECONDS, ROUND_SECONDS))

_BURSTS = """
UPDATE links_click SET bot_reason = 'burst' WHERE id IN (
    SELECT id FROM (
        SELECT id, bot_reason, count(*) OVER near AS close_by
        FROM links_click
        WHERE brand_id = %(brand)s AND at BETWEEN %(first)s AND %(last)s AND bot_reason IN ('', 'burst')
        WINDOW near AS (PARTITION BY link_id, visitor ORDER BY at
            RANGE BETWEEN make_interval(secs => %(span)s) PRECEDING AND make_interval(secs => %(span)s) FOLLOWING)
    ) counted WHERE close_by >= %(many)s AND bot_reason = '')
"""
# Only of those who clicked so many links at all it is asked how fast they did.
_ROUNDS = """
WITH new AS MATERIALIZED (
    SELECT id, visitor, link_id, at FROM links_click
    WHERE brand_id = %(brand)s AND at BETWEEN %(first)s AND %(last)s AND bot_reason = ''
), eager AS (
    SELECT * FROM new WHERE visitor IN (
        SELECT visitor FROM new GROUP BY visitor HAVING count(DISTINCT link_id) >= %(many)s)
)
UPDATE links_click SET bot_reason = 'round' WHERE id IN (
    SELECT a.id FROM eager a JOIN LATERAL (
        SELECT count(DISTINCT b.link_id) AS links FROM eager b WHERE b.visitor = a.visitor
            AND b.at BETWEEN a.at - make_interval(secs => %(span)s) AND a.at + make_interval(secs => %(span)s)
    ) near ON near.links >= %(many)s)
"""


def mark_bursts() -> int:
    """Count clicks apart that come in bursts or go round the links; returns how many."""
    found = 0
    with transaction.atomic(), connection.cursor() as cursor:
        notes = list(UnseenClicks.objects.order_by("brand_id", "first_at").values_list(
            "pk", "brand_id", "first_at", "last_at"
        ))  # fmt: skip
        for brand, first, last in _spans((brand, first, last) for _, brand, first, last in notes):
            keys: dict[str, Any] = {"brand": brand, "first": first - _NEAR, "last": last + _NEAR}
            cursor.execute(_BURSTS, {**keys, "span": BURST_SECONDS, "many": BURST_CLICKS})
            found += int(cursor.rowcount)
            cursor.execute(_ROUNDS, {**keys, "span": ROUND_SECONDS, "many": ROUND_LINKS})
            found += int(cursor.rowcount)
        UnseenClicks.objects.filter(pk__in=[note[0] for note in notes])._raw_delete("default")
    return found


Span = tuple[int, datetime, datetime]


def _spans(notes: Iterable[Span]) -> list[Span]:
    """Notes in order, those that lie near one another taken together."""
    found: list[Span] = []
    for brand, first, last in notes:
        if found and found[-1][0] == brand and first - found[-1][2] <= 2 * _NEAR:
            found[-1] = (brand, found[-1][1], max(last, found[-1][2]))
        else:
            found.append((brand, first, last))
    return found


# Clicks of a file say nothing of who clicked: each is a visitor of its own.
NOTES = """
CREATE FUNCTION links_note_clicks() RETURNS trigger LANGUAGE plpgsql AS $body$
BEGIN
    INSERT INTO links_unseenclicks (brand_id, first_at, last_at)
    SELECT brand_id, min(at), max(at) FROM changed WHERE import_id IS NULL GROUP BY brand_id;
    RETURN NULL;
END $body$;
CREATE TRIGGER clicks_noted AFTER INSERT ON links_click REFERENCING NEW TABLE AS changed
    FOR EACH STATEMENT EXECUTE FUNCTION links_note_clicks();
"""
NO_NOTES = "DROP FUNCTION links_note_clicks() CASCADE"
