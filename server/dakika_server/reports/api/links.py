"""Links to a report, and what opens with one: no account, no session.

The key stands behind the # of the link, which no browser sends and no log keeps; the page sends it in a body.
"""

from typing import Any

from django.conf import settings
from django.utils.dateparse import parse_datetime
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.brands.views import BrandView
from dakika_server.reports.keeping import report_of
from dakika_server.reports.links import frozen, links_of, make_link, opened, revoke_link, visited
from dakika_server.reports.models import ReportLink
from dakika_server.reports.pictures import pictures_of
from dakika_server.reports.serializers.reports import (
    MadeReportLinkSerializer,
    OpenedReportSerializer,
    OpenReportSerializer,
    ReportLinkInputSerializer,
    ReportLinkSerializer,
    shown_pages,
)
from dakika_server.reports.showing import Shower
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.shared.security import client_address


class ReportLinksView(BrandView):
    """A report's links."""

    reads, changes = "reports.share", "reports.share"

    @extend_schema(operation_id="list_report_links", responses=ReportLinkSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The latest first."""
        return Response(ReportLinkSerializer(links_of(report_of(self.brand, pk)), many=True).data)

    @extend_schema(
        operation_id="share_report", request=ReportLinkInputSerializer, responses={201: MadeReportLinkSerializer}
    )
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """A new one; its address is told this once."""
        asked = read(ReportLinkInputSerializer, request.data)
        report = report_of(self.brand, pk)
        shown = None
        if asked["is_frozen"]:
            shower = Shower(report, self.brand, clock.now())
            shown = frozen(report, shown_pages(shower, report.pages, report.language))
        link, key = make_link(request.user, report, **asked, shown=shown)
        told = {"link": link, "address": f"{settings.PUBLIC_ADDRESS}/report#{key}"}
        return Response(MadeReportLinkSerializer(told).data, status=201)


class ReportLinkView(BrandView):
    """A link."""

    changes = "reports.share"

    @extend_schema(operation_id="revoke_report_link", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int, link: int) -> Response:
        """Take it back."""
        revoke_link(request.user, report_of(self.brand, pk), link)
        return Response(status=204)


class OpenReportView(APIView):
    """What a link opens."""

    permission_classes = (AllowAny,)
    authentication_classes = ()

    @extend_schema(operation_id="open_report", request=OpenReportSerializer, responses=OpenedReportSerializer)
    def post(self, request: Request) -> Response:
        """The report with its figures; 403 where it asks for a password."""
        asked = read(OpenReportSerializer, request.data)
        link = opened(asked["key"], asked["password"], client_address(request))
        visited(link)
        answer = Response(OpenedReportSerializer(_told(link)).data)
        answer["Cache-Control"] = "no-store"
        return answer


def _told(link: ReportLink) -> dict[str, Any]:
    common = {"brand": link.brand.name, "until": link.until, "is_frozen": link.is_frozen}
    if link.is_frozen and link.shown:
        kept = link.shown
        pictures = pictures_of(link.brand, kept["look"], kept["pages"])
        return {**common, **kept, "as_of": parse_datetime(kept["as_of"]), "pictures": pictures}
    report, now = link.report, clock.now()
    return {
        **common, "title": report.title, "language": report.language, "look": report.look,
        "pages": [{**page, "notes": ""} for page in report.pages], "as_of": now,
        "pictures": pictures_of(link.brand, report.look, report.pages),
        "shown": shown_pages(Shower(report, link.brand, now), report.pages, report.language),
    }  # fmt: skip
