"""Reports as files: a PDF of the pages as on the screen, and the figures behind them as tables."""

from typing import Any

from django.http import FileResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.printing.actions import ask
from dakika_server.printing.api import PrintedPageSerializer
from dakika_server.reports.keeping import report_of
from dakika_server.reports.slides import as_slides
from dakika_server.reports.tables import as_archive, as_book
from dakika_server.shared import clock
from dakika_server.shared.parsers import read

_OFFICE = "application/vnd.openxmlformats-officedocument"
MEDIA = {
    "xlsx": f"{_OFFICE}.spreadsheetml.sheet", "zip": "application/zip", "pptx": f"{_OFFICE}.presentationml.presentation"
}  # fmt: skip


class ReportTableQuerySerializer(serializers.Serializer[Any]):
    """The figures in one workbook or in an archive of CSV files, or the pages as slides."""

    form = serializers.ChoiceField(choices=["xlsx", "zip", "pptx"], default="xlsx")


class ReportPdfView(BrandView):
    """A report on paper."""

    reads, is_question = "reports.read", True

    @extend_schema(operation_id="print_report", request=None, responses={202: PrintedPageSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Have it made; it waits in line with others."""
        report = report_of(self.brand, pk)
        path = f"/{self.brand.slug}/reports/{report.pk}/print?edition={report.edition}"
        name = f"{self.brand.slug}-report-{report.pk}-{clock.now().astimezone(self.brand.zone):%Y-%m-%d}.pdf"
        return Response(PrintedPageSerializer(ask(request.user, self.brand, path, name)).data, status=202)


class ReportTableView(BrandView):
    """The figures behind a report."""

    reads = "reports.read"

    @extend_schema(
        operation_id="export_report", parameters=[ReportTableQuerySerializer],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
    )  # fmt: skip
    def get(self, request: Request, brand: str, pk: int) -> FileResponse:
        """A sheet for each figure, with what was studied and what it means; or slides with charts of their own."""
        report = report_of(self.brand, pk)
        form = read(ReportTableQuerySerializer, request.query_params)["form"]
        write = {"xlsx": as_book, "zip": as_archive, "pptx": as_slides}[form]
        name = f"{self.brand.slug}-report-{report.pk}.{form}"
        return FileResponse(
            write(report, self.brand, clock.now()), as_attachment=True, filename=name, content_type=MEDIA[form]
        )
