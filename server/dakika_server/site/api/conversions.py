"""Conversions over HTTP."""

from dakika_core.site.attribution import Model, Path, weights_of
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import period_of
from dakika_server.shared import clock
from dakika_server.shared.paging import PartSerializer, part_of
from dakika_server.shared.parsers import read
from dakika_server.site.actions import conversions as acts
from dakika_server.site.attribution import way_to
from dakika_server.site.models import Conversion
from dakika_server.site.serializers import conversions as shapes
from dakika_server.site.visiting import days_between

SHOWN = 200


class ConversionsView(BrandView):
    """Conversions one by one."""

    changes = "site.conversions"

    @extend_schema(
        operation_id="list_conversions",
        parameters=[shapes.VisitsQuerySerializer, PartSerializer],
        responses=shapes.ConversionListSerializer,
    )
    def get(self, request: Request, brand: str) -> Response:
        """The latest of the period."""
        asked = read(shapes.VisitsQuerySerializer, request.query_params)
        period = period_of(self.brand, asked, clock.now())
        found = Conversion.objects.filter(brand=self.brand, at__gte=period.start, at__lt=period.end)
        if asked["goal"]:
            found = found.filter(goal_id=asked["goal"])
        rows = found.select_related("goal", "visit")
        shown, headers = part_of(request, rows, ("-at", "-pk"), SHOWN)
        told = shapes.ConversionListSerializer({"total": found.count(), "conversions": shown})
        return Response(told.data, headers=headers)

    @extend_schema(
        operation_id="take_conversions", request=shapes.ConversionsInSerializer, responses={200: shapes.TakenSerializer}
    )
    def post(self, request: Request, brand: str) -> Response:
        """Take conversions in; the same key again adds nothing."""
        rows = read(shapes.ConversionsInSerializer, request.data)["rows"]
        added, stages = acts.take_conversions(request.user, self.brand, [acts.ConversionIn(**row) for row in rows])
        return Response(shapes.TakenSerializer({"added": added, "stages": stages}).data)


class ConversionView(BrandView):
    """One conversion and how it came about."""

    changes = "site.conversions"

    def _find(self, pk: int) -> Conversion:
        found = Conversion.objects.filter(brand=self.brand, pk=pk).select_related("goal", "visit").first()
        if found is None:
            raise Http404
        return found

    @extend_schema(
        operation_id="read_conversion", parameters=[shapes.VisitsQuerySerializer], responses=shapes.WaySerializer
    )
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The visits before it, and what each model gives them."""
        conversion = self._find(pk)
        steps = way_to(self.brand.pk, conversion, read(shapes.VisitsQuerySerializer, request.query_params)["window"])
        weights: dict[str, list[float]] = {}
        if steps:
            path = Path(
                touches=tuple(step.channel for step in steps),
                ages_days=tuple(days_between(step.at, conversion.at) for step in steps), cents=conversion.cents,
            )  # fmt: skip
            weights = {m.value: weights_of(path, m) for m in Model if m not in (Model.SHAPLEY, Model.MARKOV)}
        return Response(shapes.WaySerializer({"conversion": conversion, "steps": steps, "weights": weights}).data)

    @extend_schema(operation_id="change_stage", request=shapes.StageSerializer, responses=shapes.ConversionSerializer)
    def patch(self, request: Request, brand: str, pk: int) -> Response:
        """Set the contact's stage."""
        try:
            acts.change_stage(request.user, self.brand, pk, read(shapes.StageSerializer, request.data)["stage"])
        except Conversion.DoesNotExist:
            raise Http404 from None
        return Response(shapes.ConversionSerializer(self._find(pk)).data)
