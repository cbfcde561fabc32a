"""Reads of measures that several areas need."""

from collections.abc import Sequence
from datetime import datetime

from django.db import connection

_FRESHEST = """
SELECT MAX(r.taken_at) FROM unnest(%s::bigint[]) AS p (id) CROSS JOIN LATERAL (
    SELECT taken_at FROM measures_profilepublished WHERE profile_id = p.id AND age_hours = 0
    ORDER BY day DESC LIMIT 30) r
"""


def freshest(profiles: Sequence[int]) -> datetime | None:
    """When the last reading of some profiles' posts was taken: among the young ones, which are read last."""
    with connection.cursor() as cursor:
        cursor.execute(_FRESHEST, [list(profiles)])
        found: datetime | None = cursor.fetchone()[0]
    return found
