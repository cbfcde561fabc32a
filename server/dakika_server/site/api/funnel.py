"""Funnels over HTTP."""

from typing import Any

from dakika_core.values.period import Comparison
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import period_of
from dakika_server.links.queries import begun_days
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.site.api.names import names_of
from dakika_server.site.currencies import currency_of, in_other_currencies
from dakika_server.site.funnels import funnels_of
from dakika_server.site.serializers.funnel import FunnelQuerySerializer, FunnelsSerializer

SHOWN = 200


class FunnelView(BrandView):
    """From being seen to being bought."""

    @extend_schema(operation_id="read_funnel", parameters=[FunnelQuerySerializer], responses=FunnelsSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Funnels by post, campaign or network."""
        asked = read(FunnelQuerySerializer, request.query_params)
        now = clock.now()
        period = period_of(self.brand, asked, now)
        period, compared = begun_days(
            period, period.compared(Comparison(asked["compare"])), now.astimezone(self.brand.zone).date()
        )
        currency = currency_of(self.brand)
        found = funnels_of(self.brand, period, compared, asked["by"], asked["goal"], currency)
        posts = [row.key for row in [*found.apart.quiet, *found.apart.busy]]
        names = names_of(self.brand, asked["by"], [row.key for row in found.rows[:SHOWN]])
        values: dict[str, Any] = {
            "period": period, "compared": compared, "total": found.total, "total_before": found.total_before,
            "rows": found.rows[:SHOWN], "before": list(found.before.values()), "quiet": found.apart.quiet[:12],
            "busy": found.apart.busy[:12], "without_impressions": found.without_impressions,
            "currency": currency,
            "other_currencies": in_other_currencies(self.brand, period, currency, asked["goal"]),
        }  # fmt: skip
        shown = FunnelsSerializer(values, context={"names": names | names_of(self.brand, "post", posts)})
        return Response(shown.data)
