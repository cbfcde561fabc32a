"""Deliveries of a report, what was sent, and how a reader ends it."""

from django.http import Http404, HttpRequest, HttpResponse
from django.utils.dateparse import parse_datetime
from django.views.decorators.csrf import csrf_exempt
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.notices.stopping import answer_stop
from dakika_server.reports.comparing import changed_since
from dakika_server.reports.deliveries import delivery_of, save_delivery, send_now, stop_by_token, take_away
from dakika_server.reports.keeping import report_of
from dakika_server.reports.models import Delivery, DeliveryRun
from dakika_server.reports.serializers.deliveries import (
    DeliveryInputSerializer,
    DeliveryRunSerializer,
    DeliverySerializer,
    SendNowSerializer,
    ShownRunSerializer,
)
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


class DeliveriesView(BrandView):
    """A report's deliveries."""

    reads, changes = "reports.share", "reports.share"

    @extend_schema(operation_id="list_deliveries", responses=DeliverySerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """With their readers."""
        found = Delivery.objects.filter(report=report_of(self.brand, pk)).prefetch_related("readers").order_by("pk")
        return Response(DeliverySerializer(found, many=True).data)

    @extend_schema(operation_id="make_delivery", request=DeliveryInputSerializer, responses={201: DeliverySerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Another one."""
        asked = read(DeliveryInputSerializer, request.data)
        made = save_delivery(request.user, report_of(self.brand, pk), delivery=None, **asked)
        return Response(DeliverySerializer(made).data, status=201)


class DeliveryView(BrandView):
    """A delivery."""

    changes = "reports.share"

    @extend_schema(operation_id="set_delivery", request=DeliveryInputSerializer, responses=DeliverySerializer)
    def put(self, request: Request, brand: str, pk: int, delivery: int) -> Response:
        """Set it up differently."""
        report = report_of(self.brand, pk)
        asked = read(DeliveryInputSerializer, request.data)
        saved = save_delivery(request.user, report, delivery=delivery_of(report, delivery), **asked)
        return Response(DeliverySerializer(saved).data)

    @extend_schema(operation_id="take_away_delivery", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int, delivery: int) -> Response:
        """Send it no more."""
        take_away(request.user, delivery_of(report_of(self.brand, pk), delivery))
        return Response(status=204)


class SendNowView(BrandView):
    """Sending outside of the rule."""

    changes = "reports.share"

    @extend_schema(operation_id="send_report_now", request=SendNowSerializer, responses={202: DeliveryRunSerializer})
    def post(self, request: Request, brand: str, pk: int, delivery: int) -> Response:
        """To oneself, or to all."""
        found = delivery_of(report_of(self.brand, pk), delivery)
        run = send_now(request.user, found, **read(SendNowSerializer, request.data))
        return Response(DeliveryRunSerializer(run).data, status=202)


class DeliveryRunsView(BrandView):
    """What was sent."""

    reads = "reports.read"

    @extend_schema(operation_id="list_delivery_runs", responses=DeliveryRunSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The latest first."""
        found = DeliveryRun.objects.filter(delivery__report=report_of(self.brand, pk)).defer("shown", "content")
        return Response(DeliveryRunSerializer(found.order_by("-due_at", "-pk")[:100], many=True).data)


class DeliveryRunView(BrandView):
    """A report as it went out once."""

    reads = "reports.read"

    @extend_schema(operation_id="read_delivery_run", responses=ShownRunSerializer)
    def get(self, request: Request, brand: str, pk: int, run: int) -> Response:
        """With the figures it was sent with, and what changed since."""
        report = report_of(self.brand, pk)
        found = DeliveryRun.objects.defer("content").filter(delivery__report=report, pk=run).first()
        if found is None or found.shown is None:
            raise Http404
        kept = found.shown
        told = {
            **kept, "as_of": parse_datetime(kept["as_of"]), "run": found,
            "changed": changed_since(self.brand, kept, clock.now()),
        }  # fmt: skip
        return Response(ShownRunSerializer(told).data)


@csrf_exempt
def stop_delivery(request: HttpRequest, token: str) -> HttpResponse:
    """A reader wants it no more, without signing in."""
    return answer_stop(request, "report", lambda: stop_by_token(token))
