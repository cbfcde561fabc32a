"""Entry points of the worker for links."""

from django.db import connection
from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock

BURST_CLICKS = 10
BURST_SECONDS = 60

_BURSTS = """
UPDATE links_click SET bot_reason = 'burst' WHERE id IN (
    SELECT id FROM (
        SELECT id, bot_reason, at,
            count(*) OVER near AS close_by
        FROM links_click WHERE at > %(since)s AND bot_reason IN ('', 'burst')
        WINDOW near AS (PARTITION BY link_id, visitor ORDER BY at
            RANGE BETWEEN make_interval(secs => %(span)s) PRECEDING AND make_interval(secs => %(span)s) FOLLOWING)
    ) counted WHERE close_by >= %(many)s AND bot_reason = '')
"""


def mark_bursts(hours: int = 2) -> int:
    """Count a visitor's clicks apart who clicked one link ten times within a minute; returns how many."""
    from datetime import timedelta

    with connection.cursor() as cursor:
        cursor.execute(
            _BURSTS, {"since": clock.now() - timedelta(hours=hours), "span": BURST_SECONDS, "many": BURST_CLICKS}
        )
        return int(cursor.rowcount)


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", name="links.find_bursts", queueing_lock="links.find_bursts")
@in_database
def find_bursts(timestamp: int) -> None:
    """Bursts of the last two hours."""
    del timestamp
    mark_bursts()


@app.periodic(cron="5 0 * * *")
@app.task(queue="upkeep", name="links.throw_away_salts", queueing_lock="links.throw_away_salts")
@in_database
def throw_away_salts(timestamp: int) -> None:
    """Salts of past days: from then on nobody can tell whose a hash was."""
    from dakika_server.links.models import VisitorSalt

    del timestamp
    VisitorSalt.objects.filter(day__lt=clock.now().date()).delete()
