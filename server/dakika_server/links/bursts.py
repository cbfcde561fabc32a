"""Clicks that come faster than people read: a visitor who clicks one link again and again, or goes round many.

Each batch of clicks that comes in leaves a note of its time (the database writes it, whoever brings
the batch). A round looks at the clicks near those times alone, so that it costs what is new.

In the trade's words: click fraud, invalid traffic.
"""

from collections.abc import Iterable
from datetime import datetime, timedelta
from itertools import groupby
from typing import Any

from dakika_core.links.rounds import in_rounds
from django.db import connection, transaction

from dakika_server.links.models import Click, UnseenClicks

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
_EAGER = """
SELECT visitor FROM links_click
WHERE brand_id = %(brand)s AND at BETWEEN %(first)s AND %(last)s AND bot_reason = ''
GROUP BY visitor HAVING count(DISTINCT link_id) >= %(many)s
"""
_CLICKS_OF = """
SELECT visitor, extract(epoch FROM at)::float8, link_id, id FROM links_click
WHERE brand_id = %(brand)s AND at BETWEEN %(first)s AND %(last)s AND bot_reason = '' AND visitor = ANY(%(eager)s)
ORDER BY visitor, at, id
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
            found += _mark_rounds(cursor, keys)
        UnseenClicks.objects.filter(pk__in=[note[0] for note in notes])._raw_delete("default")
    return found


def _mark_rounds(cursor: Any, keys: dict[str, Any]) -> int:
    cursor.execute(_EAGER, {**keys, "many": ROUND_LINKS})
    eager = [visitor for (visitor,) in cursor.fetchall()]
    if not eager:
        return 0
    cursor.execute(_CLICKS_OF, {**keys, "eager": eager})
    marked: list[int] = []
    for _, clicks in groupby(cursor.fetchall(), key=lambda row: bytes(row[0])):
        _, seconds, links, ids = zip(*clicks, strict=True)
        are_rounds = in_rounds(seconds, links, span=ROUND_SECONDS, many=ROUND_LINKS)
        marked += [pk for pk, is_round in zip(ids, are_rounds, strict=True) if is_round]
    return Click.objects.filter(pk__in=marked).update(bot_reason="round")


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
