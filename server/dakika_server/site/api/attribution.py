"""Attribution over HTTP."""

from dakika_core.site.attribution import Model
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import period_of
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.site.api.names import names_of
from dakika_server.site.attribution import Asked, credited
from dakika_server.site.currencies import currency_of, in_other_currencies
from dakika_server.site.models import Conversion
from dakika_server.site.serializers.attribution import AttributionSerializer
from dakika_server.site.serializers.conversions import VisitsQuerySerializer

SHOWN = 200


class AttributionView(BrandView):
    """Who brought the conversions."""

    @extend_schema(
        operation_id="read_attribution",
        parameters=[VisitsQuerySerializer],
        responses=AttributionSerializer,
    )
    def get(self, request: Request, brand: str) -> Response:
        """Eight answers side by side."""
        asked = read(VisitsQuerySerializer, request.query_params)
        period = period_of(self.brand, asked, clock.now())
        currency = currency_of(self.brand)
        rows, count, cents, direct = credited(
            Asked(
                brand=self.brand, period=period, by=asked["by"], goal_id=asked["goal"],
                window_days=asked["window"], stage=asked["stage"], currency=currency,
            )
        )  # fmt: skip
        names = names_of(self.brand, asked["by"], [row.key for row in rows])
        stages = (
            Conversion.objects.filter(brand=self.brand).exclude(stage="").values_list("stage", flat=True).distinct()
        )
        values = {
            "period": period, "models": [m.value for m in Model], "conversions": count, "cents": cents,
            "currency": currency, "direct_alone": direct,
            "other_currencies": in_other_currencies(self.brand, period, currency, asked["goal"]),
            "stages": sorted(stages[:50]),
            "rows": [
                {"key": r.key, "name": names.get(r.key, r.key), "counts": r.counts, "cents": r.cents, "low": r.low,
                 "high": r.high}
                for r in rows[:SHOWN]
            ],
        }  # fmt: skip
        return Response(AttributionSerializer(values).data)
