"""The minute line over HTTP."""

from datetime import timedelta

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.queries import campaigns_of
from dakika_server.brands.views import BrandView
from dakika_server.results import queries
from dakika_server.results.serializers.line import LineSerializer
from dakika_server.shared import clock
from dakika_server.sources.queries import data_as_of

LINE_DAYS = 190


class LineView(BrandView):
    """The minute line."""

    @extend_schema(operation_id="read_line", responses=LineSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Own posts of the last half-year as ticks, campaigns as bands, days without data."""
        now = clock.now()
        since = now - timedelta(days=LINE_DAYS)
        posts = queries.line_posts(self.brand.pk, since)
        ticks = [
            {"id": pk, "at": at, "network": network, "text": text[:80],
             "height": max(0.0, (aged if aged is not None else latest) or 0.0) ** 0.5}
            for pk, at, network, _, aged, latest, text, _ in posts
        ]  # fmt: skip
        today = now.astimezone(self.brand.zone).date()
        values = {
            "posts": ticks, "campaigns": campaigns_of(self.brand.pk), "as_of": data_as_of(self.brand.pk),
            "languages": sorted({post[7] for post in posts if post[7]}),
            "holes": queries.holes(self.brand.pk, since.date(), today - timedelta(days=1)),
        }  # fmt: skip
        return Response(LineSerializer(values).data)
