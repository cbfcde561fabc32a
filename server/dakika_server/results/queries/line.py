"""Reads for the minute line."""

from datetime import date, datetime
from typing import Any

from django.db import connection
from django.db.models import FilteredRelation, Q

from dakika_server.sources.models import Post


def line_posts(brand_id: int, since: datetime, until: datetime) -> list[tuple[Any, ...]]:
    """Own posts of a span for the minute line, with their interactions at 72 h and as last seen."""
    return list(
        Post.objects.filter(brand_id=brand_id, profile__kind="own", published_at__gte=since, published_at__lt=until)
        .annotate(
            m=FilteredRelation("measures", condition=Q(measures__age_hours=72)),
            n=FilteredRelation("measures", condition=Q(measures__age_hours=0)),
        )
        .order_by("published_at")
        .values_list(
            "pk", "published_at", "profile__network", "format", "m__interactions", "n__interactions", "text", "language"
        )
    )


_MONTHS = """
SELECT date_trunc('month', day)::date, SUM(published) FROM measures_profileday d
JOIN sources_profile p ON p.id = d.profile_id
WHERE p.brand_id = %s AND p.kind = 'own' AND d.format = '' AND d.published > 0 GROUP BY 1 ORDER BY 1
"""


def months_with_posts(brand_id: int) -> list[tuple[date, int]]:
    """Months in which own profiles published anything, with how many posts: where there are data at all."""
    with connection.cursor() as cursor:
        cursor.execute(_MONTHS, [brand_id])
        return [(month, int(count)) for month, count in cursor.fetchall()]


def holes(brand_id: int, first: date, last: date) -> list[date]:
    """Days on which an own profile that is collected has no reading though it had one before."""
    with connection.cursor() as cursor:
        cursor.execute(
            """
            SELECT DISTINCT d::date FROM sources_profile p
            CROSS JOIN LATERAL (SELECT min(day) AS begun FROM sources_profilereading r WHERE r.profile_id = p.id) b
            CROSS JOIN LATERAL generate_series(GREATEST(b.begun, %s::date), %s::date, interval '1 day') d
            WHERE p.brand_id = %s AND p.kind = 'own' AND p.is_followed AND b.begun IS NOT NULL
                AND p.external_id NOT LIKE 'file:%%' AND NOT EXISTS (
                SELECT 1 FROM sources_profilereading r WHERE r.profile_id = p.id AND r.day = d::date)
            ORDER BY 1
            """,
            [first, last, brand_id],
        )
        return [row[0] for row in cursor.fetchall()]
