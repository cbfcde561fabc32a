"""The plan for other programs."""

from dakika_core.values.period import Period
from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.brands.views import BrandView
from dakika_server.plan.calendar_out import as_calendar, as_csv, as_workbook, subscribe, subscribed, unsubscribe
from dakika_server.plan.queries import planned_between
from dakika_server.plan.serializers.calendar import PlanExportSerializer, SubscriptionSerializer
from dakika_server.shared.parsers import read

LONGEST_DAYS = 800
TYPES = {
    "csv": "text/csv; charset=utf-8",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "ics": "text/calendar; charset=utf-8",
}


class PlanExportView(BrandView):
    """The plan of some days as a file."""

    reads = "plan.read"

    @extend_schema(
        operation_id="export_plan", parameters=[PlanExportSerializer],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
    )  # fmt: skip
    def get(self, request: Request, brand: str) -> HttpResponse:
        """As CSV, a workbook, or a calendar."""
        asked = read(PlanExportSerializer, request.query_params)
        first, last, form = asked["first"], asked["last"], asked["form"]
        if not first <= last or (last - first).days > LONGEST_DAYS:
            raise serializers.ValidationError(
                {"last": f"Choose up to {LONGEST_DAYS} days, the last not before the first."}
            )
        period = Period(first=first, last=last, zone=self.brand.zone)
        if form == "ics":
            content: bytes | str = as_calendar(self.brand, planned_between(self.brand.pk, period.start, period.end))
        else:
            content = (as_csv if form == "csv" else as_workbook)(self.brand, period)
        name = f"plan-{self.brand.slug}-{first}.{form}"
        headers = {"Content-Disposition": f'attachment; filename="{name}"'}
        return HttpResponse(content, content_type=TYPES[form], headers=headers)


class SubscriptionView(BrandView):
    """One's own address of the plan."""

    reads = changes = "plan.read"

    @extend_schema(operation_id="subscribe_to_plan", request=None, responses={201: SubscriptionSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new one, told now and never again; the one before ends."""
        return Response({"address": subscribe(request.user, self.brand)}, status=201)

    @extend_schema(operation_id="unsubscribe_from_plan", responses={204: None})
    def delete(self, request: Request, brand: str) -> Response:
        """End it."""
        unsubscribe(request.user, self.brand)
        return Response(status=204)


class SubscribedView(APIView):
    """What calendar programs fetch. Not part of the described API: they know the address."""

    permission_classes = (AllowAny,)
    authentication_classes = ()

    @extend_schema(exclude=True)
    def get(self, request: Request, key: str) -> HttpResponse:
        """Two months back and a year ahead."""
        return HttpResponse(
            subscribed(key), content_type=TYPES["ics"], headers={"Cache-Control": "private, max-age=300"}
        )
