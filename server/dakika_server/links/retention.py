"""Single clicks have an end; their sums by hour, day, link, country and so on stay."""

from datetime import date, datetime, time

from django.conf import settings
from django.db import connection, transaction

from dakika_server.brands.models import Brand
from dakika_server.links.jobs import count_people
from dakika_server.links.models import Click, ClickHorizon
from dakika_server.shared.retention import KEPT, Kept

AT_ONCE = 20_000
_SOME = """
DELETE FROM links_click WHERE id = ANY (ARRAY(
    SELECT id FROM links_click WHERE brand_id = %s AND at < %s ORDER BY at LIMIT %s))
"""


def horizon_of(brand: Brand, before: datetime) -> tuple[datetime, date]:
    """The beginning of the brand's day that an instant lies in: whole days go."""
    day = before.astimezone(brand.zone).date()
    return datetime.combine(day, time(), brand.zone), day


def old_clicks(before: datetime) -> int:
    """How many clicks are of days that ended before an instant."""
    return sum(
        Click.objects.filter(brand=brand, at__lt=horizon_of(brand, before)[0]).count() for brand in Brand.objects.all()
    )


def forget_clicks(before: datetime) -> int:
    """Take single clicks out and leave their sums as they are; how many."""
    return sum(_forget(brand, *horizon_of(brand, before)) for brand in Brand.objects.all())


def _forget(brand: Brand, since: datetime, day: date) -> int:
    known = ClickHorizon.objects.filter(brand=brand).first()
    if known is not None and known.since >= since:
        since = known.since
    elif Click.objects.filter(brand=brand, at__lt=since).exists():
        # People of these days are counted while it can be told who was the same.
        count_people(brand.pk)
        # Told before anything goes: whoever sums anew leaves what lies before it as it is.
        ClickHorizon.objects.update_or_create(brand=brand, defaults={"since": since, "day": day})
    gone = 0
    while True:
        with transaction.atomic(), connection.cursor() as cursor:
            cursor.execute("SET LOCAL dakika.keeps_sums = 'on'")
            cursor.execute(_SOME, [brand.pk, since, AT_ONCE])
            gone += (count := int(cursor.rowcount))
            # Whatever else the same transaction takes out is taken out of the sums.
            cursor.execute("SET LOCAL dakika.keeps_sums = 'off'")
        if count < AT_ONCE:
            return gone


def connect() -> None:
    """Say what of links has an end."""
    KEPT.add("clicks", Kept(
        words="Single clicks", setting="DAKIKA_CLICKS_KEPT_DAYS", days=lambda: settings.CLICKS_KEPT_DAYS,
        would_go=old_clicks, forget=forget_clicks,
    ))  # fmt: skip
