"""Reads for the minute line."""

from datetime import date, datetime
from typing import Any

from django.db import connection
from django.db.models import FilteredRelation, Q

from dakika_server.sources.models import Post


def line_posts(brand_id: int, since: datetime) -> list[tuple[Any, ...]]:
    """Own posts for the minute line: id, instant, network, format, interactions at 72 h or as last seen, text."""
    return list(
        Post.objects.filter(brand_id=brand_id, profile__kind="own", published_at__gte=since)
        .annotate(
            m=FilteredRelation("measures", condition=Q(measures__age_hours=72)),
            n=FilteredRelation("measures", condition=Q(measures__age_hours=0)),
        )
        .order_by("published_at")
        .values_list(
            "pk", "published_at", "profile__network", "format", "m__interactions", "n__interactions", "text", "language"
        )
    )


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
