"""The minute line over HTTP."""

from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

from dakika_core.values.period import start_of_day
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.queries import campaigns_of
from dakika_server.brands.views import BrandView
from dakika_server.results import queries
from dakika_server.results.serializers.line import LineQuerySerializer, LineSerializer
from dakika_server.results.targets import aimed_at
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.sources.queries import data_as_of

LINE_DAYS = 190


class LineView(BrandView):
    """The minute line."""

    @extend_schema(operation_id="read_line", parameters=[LineQuerySerializer], responses=LineSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Own posts of the last half-year, or of the time around a period further back, as ticks; campaigns as bands.

        Also days without data, and the months in which there are posts at all.
        """
        now = clock.now()
        since, until = _span(read(LineQuerySerializer, request.query_params), self.brand.zone, now)
        today = now.astimezone(self.brand.zone).date()
        months = queries.months_with_posts(self.brand)
        values = {
            "posts": queries.ticks_of(self.brand, since, until, months), "campaigns": campaigns_of(self.brand.pk),
            "as_of": data_as_of(self.brand.pk), "languages": queries.languages_of(self.brand),
            "holes": queries.holes(self.brand, since.date(), min(until.date(), today - timedelta(days=1))),
            "targets": aimed_at(self.brand),
            "months": [{"month": month, "posts": n} for month, n in months.items()],
        }  # fmt: skip
        return Response(LineSerializer(values).data)


def _span(asked: dict[str, Any], zone: ZoneInfo, now: datetime) -> tuple[datetime, datetime]:
    """The half-year up to now, unless the days asked for reach back beyond it: then those."""
    usual = now - timedelta(days=LINE_DAYS)
    first, last = asked.get("first"), asked.get("last")
    if first is None or last is None or start_of_day(first, zone) >= usual:
        return usual, now + timedelta(days=1)
    return start_of_day(first, zone), min(start_of_day(last + timedelta(days=1), zone), now + timedelta(days=1))
