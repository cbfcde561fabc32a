"""Many posts from one table."""

from typing import Any

from django.db.models import Count
from django.http import Http404, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.bulk import (
    begin_making,
    checked_rows,
    mend_row,
    read_table,
    set_columns,
    take_back_batch,
    throw_away_batch,
    wrong_rows,
)
from dakika_server.plan.bulk_pictures import bring_pictures
from dakika_server.plan.models import Batch, BatchRow
from dakika_server.plan.serializers.bulk import (
    BatchDetailSerializer,
    BatchFileSerializer,
    BatchInputSerializer,
    BatchPicturesSerializer,
    BatchSerializer,
    MakeSerializer,
    MendSerializer,
    TakenBackSerializer,
)
from dakika_server.shared.paging import PartSerializer, part_of
from dakika_server.shared.parsers import JSONParser, read, uploads_up_to


def _told(batch: Batch) -> dict[str, Any]:
    """A table with its rows, checked; a fixed number of queries."""
    noted = dict(BatchRow.objects.filter(batch=batch).exclude(problem="").values_list("number", "problem"))
    rows = checked_rows(batch)
    told = [{**vars(row), "is_good": row.is_good, "made_problem": noted.get(row.number, "")} for row in rows]
    return {
        "id": batch.pk, "name": batch.name, "state": batch.state, "header": batch.header, "columns": batch.columns,
        "choices": batch.choices, "left_out": batch.left_out, "rows": told, "good": sum(row.is_good for row in rows),
        "made": sum(row.planned is not None for row in rows),
    }  # fmt: skip


class BatchesView(BrandView):
    """Tables of posts."""

    reads, changes = "plan.read", "plan.write"
    parser_classes = [uploads_up_to("IMPORT_MAX_BYTES"), JSONParser]

    @extend_schema(operation_id="list_batches", parameters=[PartSerializer], responses=BatchSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """The latest first."""
        found = Batch.objects.filter(brand=self.brand)
        rows = found.annotate(rows_=Count("rows"), made_=Count("rows__planned_post"))
        counted: list[Any]
        counted, headers = part_of(request, rows, ("-made_at", "-pk"), 100)
        told = [{"pk": b.pk, "name": b.name, "state": b.state, "made_at": b.made_at, "rows": b.rows_, "made": b.made_}
                for b in counted]  # fmt: skip
        return Response(BatchSerializer(told, many=True).data, headers=headers)

    @extend_schema(
        operation_id="read_batch_file", request={"multipart/form-data": BatchFileSerializer},
        responses={201: BatchDetailSerializer},
    )  # fmt: skip
    def post(self, request: Request, brand: str) -> Response:
        """Bring a table; nothing is made of it yet."""
        file = read(BatchFileSerializer, request.data)["file"]
        batch = read_table(request.user, self.brand, name=file.name or "table", size=file.size or 0, file=file)
        return Response(BatchDetailSerializer(_told(batch)).data, status=201)


class BatchView(BrandView):
    """One of them."""

    reads, changes = "plan.read", "plan.write"

    def batch(self, pk: int) -> Batch:
        """The brand's, or 404."""
        found = Batch.objects.filter(brand=self.brand, pk=pk).select_related("brand").first()
        if found is None:
            raise Http404
        return found

    @extend_schema(operation_id="read_batch", responses=BatchDetailSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """Its rows, each held against the rules of its networks."""
        return Response(BatchDetailSerializer(_told(self.batch(pk))).data)

    @extend_schema(operation_id="set_batch", request=BatchInputSerializer, responses=BatchDetailSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Say which column holds what, and what becomes of the rows."""
        changed = set_columns(request.user, self.batch(pk), **read(BatchInputSerializer, request.data))
        return Response(BatchDetailSerializer(_told(changed)).data)

    @extend_schema(operation_id="throw_away_batch", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Throw the table away; what was made of it stays."""
        throw_away_batch(request.user, self.batch(pk))
        return Response(status=204)


class BatchPicturesView(BatchView):
    """Pictures that come with one."""

    http_method_names = ["post", "options"]
    parser_classes = [uploads_up_to("PICTURES_MAX_BYTES")]

    @extend_schema(
        operation_id="bring_batch_pictures", request={"multipart/form-data": BatchFileSerializer},
        responses=BatchPicturesSerializer,
    )  # fmt: skip
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """A ZIP archive of them, found by the names that stand in the rows."""
        file = read(BatchFileSerializer, request.data)["file"]
        told = bring_pictures(request.user, self.batch(pk), file=file, size=file.size or 0)
        return Response(BatchPicturesSerializer(told).data)


class BatchRowView(BatchView):
    """A row of one."""

    http_method_names = ["put", "options"]

    @extend_schema(operation_id="mend_row", request=MendSerializer, responses=BatchDetailSerializer)
    def put(self, request: Request, brand: str, pk: int, number: int) -> Response:  # type: ignore[override]
        """Write other values into it."""
        batch = self.batch(pk)
        mend_row(request.user, batch, number, read(MendSerializer, request.data)["values"])
        return Response(BatchDetailSerializer(_told(batch)).data)


class MakeBatchView(BatchView):
    """Making the posts."""

    http_method_names = ["post", "delete", "options"]

    @extend_schema(operation_id="make_batch", request=MakeSerializer, responses={202: BatchDetailSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """All of them, or the good ones alone; the worker makes them one after the other."""
        made = begin_making(request.user, self.batch(pk), **read(MakeSerializer, request.data))
        return Response(BatchDetailSerializer(_told(made)).data, status=202)

    @extend_schema(operation_id="take_back_batch", responses=TakenBackSerializer)
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Throw away all that were made, while none is out."""
        return Response({"posts": take_back_batch(request.user, self.batch(pk))})


class WrongRowsView(BatchView):
    """Rows that are wrong, as a file."""

    http_method_names = ["get", "options"]

    @extend_schema(operation_id="read_wrong_rows", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, brand: str, pk: int) -> HttpResponse:  # type: ignore[override]
        """The file's own columns, and what is wrong."""
        return HttpResponse(
            wrong_rows(self.batch(pk)), content_type="text/csv; charset=utf-8",
            headers={"Content-Disposition": 'attachment; filename="wrong-rows.csv"'},
        )  # fmt: skip
