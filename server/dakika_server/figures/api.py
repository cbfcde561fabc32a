"""Any figure, how it is made, and its file, over HTTP."""

from typing import Any

from django.db.models.functions import Lower
from django.http import FileResponse, Http404, StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.actions import forget_study, keep_study
from dakika_server.figures.kinds import KINDS, FigureKind
from dakika_server.figures.making import basis_of, made_of, study_for, table_of
from dakika_server.figures.models import KeptStudy
from dakika_server.figures.serializers import (
    CellQuerySerializer,
    FigureBasisSerializer,
    FigureQuerySerializer,
    FigureSetSerializer,
    KeepStudySerializer,
    KeptStudySerializer,
    KindSerializer,
    TableQuerySerializer,
)
from dakika_server.figures.sheets import as_csv, as_workbook
from dakika_server.figures.words import sentence
from dakika_server.shared import clock
from dakika_server.shared.parsers import read
from dakika_server.sources.files.exporting import MEDIA


def kind_named(key: str) -> FigureKind:
    """The kind of a key. Raises Http404 where there is none."""
    if key not in KINDS:
        raise Http404
    return KINDS[key]


class KindsView(BrandView):
    """All kinds of figures."""

    @extend_schema(operation_id="list_figure_kinds", responses=KindSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """By key, with what each asks for."""
        found = [
            {"key": kind.key, "name": kind.name, "parameters": [*kind.params().fields]}
            for _, kind in sorted(KINDS.items())
        ]
        return Response(KindSerializer(found, many=True).data)


class FigureView(BrandView):
    """The figures of a kind."""

    @extend_schema(operation_id="read_figure", parameters=[FigureQuerySerializer], responses=FigureSetSerializer)
    def get(self, request: Request, brand: str, kind: str) -> Response:
        """Of a study, with their courses."""
        of = kind_named(kind)
        values, params = read(FigureQuerySerializer, request.query_params), read(of.params, request.query_params)
        study = study_for(of, self.brand, values, clock.now())
        made = made_of(of, study, params)
        shown = {
            **vars(made), "kind": of.key, "name": of.name, "study": sentence(study), "period": study.period,
            "compared": study.compared,
        }  # fmt: skip
        return Response(FigureSetSerializer(shown).data)


class FigureBasisView(BrandView):
    """How a figure is made."""

    @extend_schema(operation_id="read_figure_basis", parameters=[CellQuerySerializer], responses=FigureBasisSerializer)
    def get(self, request: Request, brand: str, kind: str) -> Response:
        """Its definition, its parts and what is done with them, what is missing, and where what is behind it stands."""
        of = kind_named(kind)
        values, params = read(CellQuerySerializer, request.query_params), read(of.params, request.query_params)
        study = study_for(of, self.brand, values, clock.now())
        return Response(FigureBasisSerializer(basis_of(of, study, params, values["cell"], clock.now())).data)


class FigureTableView(BrandView):
    """A kind's table as a file."""

    @extend_schema(
        operation_id="export_figure", parameters=[TableQuerySerializer],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
    )  # fmt: skip
    def get(self, request: Request, brand: str, kind: str) -> Any:
        """As CSV or XLSX, with the definition of each figure in the file."""
        of = kind_named(kind)
        values, params = read(TableQuerySerializer, request.query_params), read(of.params, request.query_params)
        study = study_for(of, self.brand, values, clock.now())
        sheet = table_of(of, study, params)
        name = f"{self.brand.slug}-{sheet.name}-{study.period.first}-{study.period.last}.{values['form']}"
        if values["form"] == "xlsx":
            return FileResponse(as_workbook(sheet), as_attachment=True, filename=name, content_type=MEDIA["xlsx"])
        return StreamingHttpResponse(
            as_csv(sheet), content_type=MEDIA["csv"], headers={"Content-Disposition": f'attachment; filename="{name}"'}
        )


class StudiesView(BrandView):
    """Studies that the team keeps."""

    changes = "figures.keep"

    @extend_schema(operation_id="list_kept_studies", responses=KeptStudySerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """By name."""
        found = KeptStudy.objects.filter(brand=self.brand).order_by(Lower("name"))
        return Response(KeptStudySerializer(found, many=True).data)

    @extend_schema(operation_id="keep_study", request=KeepStudySerializer, responses={201: KeptStudySerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Keep one; the same name again is another study from then on."""
        values = read(KeepStudySerializer, request.data)
        kept = keep_study(request.user, self.brand, name=values.pop("name"), values=values)
        return Response(KeptStudySerializer(kept).data, status=201)


class KeptStudyView(BrandView):
    """A kept study."""

    changes = "figures.keep"

    @extend_schema(operation_id="forget_study", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Let it go."""
        try:
            forget_study(request.user, self.brand, pk)
        except KeptStudy.DoesNotExist:
            raise Http404 from None
        return Response(status=204)
