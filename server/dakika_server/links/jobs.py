"""Entry points of the worker for links."""

from datetime import date, timedelta

from django.db import connection
from procrastinate.contrib.django import app

from dakika_server.jobs.tasks import in_database
from dakika_server.shared import clock

DAYS_OF_JOURNAL = 7

_PEOPLE = """
INSERT INTO links_clickpeople (brand_id, link_id, day, people)
SELECT brand_id, l.link_id, (at AT TIME ZONE 'UTC')::date, count(DISTINCT visitor)
FROM links_click c CROSS JOIN LATERAL (VALUES (c.link_id), (0)) l (link_id)
WHERE bot_reason = '' AND NOT is_over AND brand_id = %(brand)s
    AND at >= %(first)s::date::timestamp AT TIME ZONE 'UTC' AND at < (%(last)s::date + 1)::timestamp AT TIME ZONE 'UTC'
GROUP BY 1, 2, 3
ON CONFLICT (brand_id, link_id, day) DO UPDATE SET people = excluded.people
"""


def count_people(brand_id: int, upto: date | None = None) -> int:
    """Keep the different visitors of days that are over (UTC, to `upto`, else yesterday); returns how many days."""
    from dakika_server.links.models import Click, ClickPeople

    last = upto or clock.now().date() - timedelta(days=1)
    known = ClickPeople.objects.filter(brand_id=brand_id).order_by("-day").values_list("day", flat=True).first()
    begun = Click.objects.filter(brand_id=brand_id).order_by("at").values_list("at", flat=True).first()
    if begun is None:
        return 0
    first = known + timedelta(days=1) if known else begun.date()
    if first > last:
        return 0
    with connection.cursor() as cursor:
        cursor.execute(_PEOPLE, {"brand": brand_id, "first": first, "last": last})
        # The last day is noted even when nobody came: what is kept reaches to it.
        cursor.execute(
            "INSERT INTO links_clickpeople (brand_id, link_id, day, people) VALUES (%s, 0, %s, 0) "
            "ON CONFLICT DO NOTHING",
            [brand_id, last],
        )
    return (last - first).days + 1


def forget_people_since(brand_id: int, day: date) -> None:
    """Clicks of earlier days came in or went: those days are counted anew."""
    from dakika_server.links.models import ClickPeople

    ClickPeople.objects.filter(brand_id=brand_id, day__gte=day - timedelta(days=1)).delete()


def sum_anew(brand_id: int) -> None:
    """Sum a brand's clicks from first to last, as its time zone has days and hours now: minutes for millions."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT links_sum_anew(%s)", [brand_id])


@app.task(queue="upkeep", name="links.sum_clicks_anew")
@in_database
def sum_clicks_anew(brand_id: int) -> None:
    """After another time zone."""
    sum_anew(brand_id)


@app.periodic(cron="* * * * *")
@app.task(queue="upkeep", name="links.find_bursts", queueing_lock="links.find_bursts")
@in_database
def find_bursts(timestamp: int) -> None:
    """Bursts and rounds among the clicks that have come since."""
    from dakika_server.links.bursts import mark_bursts

    del timestamp
    mark_bursts()


# Every hour: whoever stood still at midnight does it soon after the next start.
@app.periodic(cron="5 * * * *")
@app.task(queue="upkeep", name="links.throw_away_salts", queueing_lock="links.throw_away_salts")
@in_database
def throw_away_salts(timestamp: int) -> None:
    """Salts of past days: from then on nobody can tell whose a hash was. And what the journal has long passed."""
    from dakika_server.links.models import Journal, VisitorSalt

    del timestamp
    VisitorSalt.objects.filter(day__lt=clock.now().date()).delete()
    Journal.objects.filter(moved_at__lt=clock.now() - timedelta(days=DAYS_OF_JOURNAL)).delete()


@app.periodic(cron="35 0 * * *")
@app.task(queue="upkeep", name="links.keep_people", queueing_lock="links.keep_people")
@in_database
def keep_people(timestamp: int) -> None:
    """Yesterday's visitors of every brand; posts that carry links but were not seen to."""
    from dakika_server.brands.models import Brand
    from dakika_server.links.uses import find_uses

    del timestamp
    for brand in Brand.objects.all():
        count_people(brand.pk)
        find_uses(brand.pk)
