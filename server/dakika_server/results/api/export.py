"""What a view shows, as a file."""

from typing import Any

from django.http import FileResponse, StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request

from dakika_server.brands.views import BrandView, read
from dakika_server.results.export import KINDS, as_csv, as_workbook, sheet_of
from dakika_server.results.groups import GROUPINGS
from dakika_server.results.study import StudySerializer, study_of
from dakika_server.shared import clock
from dakika_server.sources.files.exporting import MEDIA


class ExportQuerySerializer(StudySerializer):
    """Which view, and as what."""

    what = serializers.ChoiceField(choices=KINDS)
    form = serializers.ChoiceField(choices=["csv", "xlsx"], default="csv")
    metrics = serializers.CharField(default="", allow_blank=True, max_length=600)
    columns = serializers.CharField(default="", allow_blank=True, max_length=600)
    sort = serializers.CharField(default="-published_at", max_length=60)
    text = serializers.CharField(default="", allow_blank=True, max_length=200)
    by = serializers.ChoiceField(choices=GROUPINGS, default="format")
    metric = serializers.CharField(default="index", max_length=60)


class ExportView(BrandView):
    """A view's table."""

    @extend_schema(
        operation_id="export_results", parameters=[ExportQuerySerializer],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
    )  # fmt: skip
    def get(self, request: Request, brand: str) -> Any:
        """As CSV or XLSX, with the definition of each figure in the file."""
        values = read(ExportQuerySerializer, request.query_params)
        study = study_of(self.brand, values, clock.now())
        sheet = sheet_of(study, values["what"], values)
        name = f"{self.brand.slug}-{sheet.name}-{study.period.first}-{study.period.last}.{values['form']}"
        if values["form"] == "xlsx":
            return FileResponse(as_workbook(sheet), as_attachment=True, filename=name, content_type=MEDIA["xlsx"])
        return StreamingHttpResponse(
            as_csv(sheet), content_type=MEDIA["csv"], headers={"Content-Disposition": f'attachment; filename="{name}"'}
        )
