"""Files in and out, and feeds."""

from dataclasses import asdict
from datetime import datetime
from typing import Any

from dakika_core.sources.files.cells import shorten
from dakika_core.sources.files.delimited import ENCODINGS
from dakika_core.sources.files.formats import zone_of
from dakika_core.sources.files.kinds import KINDS
from dakika_core.sources.files.mapping import columns_of
from django.http import FileResponse, Http404, HttpResponseBase, StreamingHttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.parsers import JSONParser
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.errors import field_errors
from dakika_server.shared.paging import PartSerializer, part_of
from dakika_server.shared.parsers import read, uploads_up_to
from dakika_server.sources.feeds import follow_feed, stop_feed
from dakika_server.sources.files import exporting
from dakika_server.sources.files.accounts import with_profiles
from dakika_server.sources.files.confirming import confirm_file, undo_file
from dakika_server.sources.files.previewing import known_in_sample
from dakika_server.sources.files.sending import take_rows
from dakika_server.sources.files.settling import settle_file
from dakika_server.sources.files.upload import (
    date_choices,
    discard_file,
    preview_of,
    unknown_formats,
    upload_file,
)
from dakika_server.sources.models import Feed, Import
from dakika_server.sources.queries import feeds_of, imports_of, items_of, rebuild_of
from dakika_server.sources.serializers.files import (
    SHOWN_ITEMS,
    SHOWN_NOTES,
    SHOWN_PROBLEMS,
    ConfirmInputSerializer,
    ExportQuerySerializer,
    FeedInputSerializer,
    FeedQuerySerializer,
    FeedsSerializer,
    ImportSerializer,
    PreviewSerializer,
    RowsInputSerializer,
    SettleInputSerializer,
    UploadSerializer,
)

# So many files and items at a time where nothing is said.
MOST_SHOWN, MOST_ITEMS = 50, 100


class ImportsView(BrandView):
    """Files."""

    changes = "sources.files"

    parser_classes = [uploads_up_to("IMPORT_MAX_BYTES")]

    @extend_schema(operation_id="list_imports", parameters=[PartSerializer], responses=ImportSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """The latest files."""
        found, headers = part_of(request, imports_of(self.brand.pk), ("-created_at", "-pk"), MOST_SHOWN)
        return Response(ImportSerializer(found, many=True).data, headers=headers)

    @extend_schema(operation_id="upload_file", request=UploadSerializer, responses={201: PreviewSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Upload a file: what it seems to be, and a preview. Nothing comes in before it is confirmed."""
        file = read(UploadSerializer, request.data)["file"]
        item = upload_file(request.user, self.brand, name=file.name or "file", size=file.size or 0, file=file)
        return Response(_previewed(item), status=201)


class RowsView(BrandView):
    """Rows of programs."""

    changes = "sources.files"

    @extend_schema(operation_id="send_rows", request=RowsInputSerializer, responses={202: ImportSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Bring rows in as a file with them would be: posts, readings, audiences, conversions of any channel."""
        item = take_rows(request.user, self.brand, **read(RowsInputSerializer, request.data))
        return Response(ImportSerializer(item).data, status=202)


class ImportView(BrandView):
    """One file."""

    changes = "sources.files"

    parser_classes = [JSONParser]

    def item(self, pk: int) -> Import:
        """The brand's file, or 404."""
        found = Import.objects.filter(brand=self.brand, pk=pk).select_related("brand", "profile").first()
        if found is None:
            raise Http404
        return found

    @extend_schema(operation_id="read_import", responses=PreviewSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """How it stands, and the preview while it waits."""
        return Response(_previewed(self.item(pk)))

    @extend_schema(operation_id="settle_file", request=SettleInputSerializer, responses=PreviewSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Correct the kind, the columns, how it is written."""
        return Response(
            _previewed(settle_file(request.user, self.item(pk), **read(SettleInputSerializer, request.data)))
        )

    @extend_schema(operation_id="confirm_file", request=ConfirmInputSerializer, responses={202: ImportSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Begin bringing the rows in."""
        values = read(ConfirmInputSerializer, request.data)
        told = values.pop("accounts")
        item = confirm_file(request.user, self.item(pk), accounts_told=told, **values)
        return Response(ImportSerializer(item).data, status=202)

    @extend_schema(operation_id="discard_file", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Throw it away."""
        discard_file(request.user, self.item(pk))
        return Response(status=204)


class ImportUndoView(ImportView):
    """Taking a file back."""

    http_method_names = ["post"]

    @extend_schema(operation_id="undo_file", request=None, responses={202: ImportSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Begin taking out what it brought."""
        return Response(ImportSerializer(undo_file(request.user, self.item(pk))).data, status=202)


class RefusedRowsView(ImportView):
    """The rows that were left out."""

    http_method_names = ["get"]

    @extend_schema(operation_id="download_refused", responses={(200, "text/csv"): OpenApiTypes.BINARY})
    def get(self, request: Request, brand: str, pk: int) -> HttpResponseBase:  # type: ignore[override]
        """As CSV, with the reasons."""
        item = self.item(pk)
        return _download(StreamingHttpResponse(exporting.refused_rows(item)), "csv", f"left-out-{item.pk}.csv")


class ExportView(BrandView):
    """Everything out."""

    @extend_schema(
        operation_id="export_data", parameters=[ExportQuerySerializer],
        responses={(200, "application/octet-stream"): OpenApiTypes.BINARY},
    )  # fmt: skip
    def get(self, request: Request, brand: str) -> HttpResponseBase:
        """A table, or all of them, as CSV, XLSX or JSON Lines."""
        values = read(ExportQuerySerializer, request.query_params)
        what, form = values["what"], values["form"]
        if what != "all" and what not in exporting.TABLES:
            raise field_errors({"what": f"There is no table {shorten(what)}."})
        day = clock.now().astimezone(self.brand.zone).date()
        name = f"{self.brand.slug}-{what}-{day}"
        if form == "xlsx":
            tables = list(exporting.TABLES.values()) if what == "all" else [exporting.TABLES[what]]
            return _download(FileResponse(exporting.as_workbook(tables, self.brand)), form, f"{name}.xlsx")
        if what == "all":
            return _download(FileResponse(exporting.as_archive(self.brand, form)), "zip", f"{name}.zip")
        pieces = exporting.as_text(exporting.TABLES[what], self.brand, form)
        return _download(StreamingHttpResponse(pieces), form, f"{name}.{form}")


def _download(response: Any, form: str, name: str) -> HttpResponseBase:
    response.headers["Content-Type"] = exporting.MEDIA[form]
    response.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    response.headers["Cache-Control"] = "private, no-store"
    found: HttpResponseBase = response
    return found


class FeedsView(BrandView):
    """Web feeds."""

    changes = "sources.follow"

    @extend_schema(
        operation_id="list_feeds", parameters=[FeedQuerySerializer, PartSerializer], responses=FeedsSerializer
    )
    def get(self, request: Request, brand: str) -> Response:
        """Feeds and their newest items."""
        feed = read(FeedQuerySerializer, request.query_params).get("feed")
        rows = items_of(self.brand.pk, feed_id=feed)
        items, headers = part_of(request, rows, ("-shown_at", "-pk"), MOST_ITEMS)
        return Response(FeedsSerializer({"feeds": feeds_of(self.brand.pk), "items": items}).data, headers=headers)

    @extend_schema(operation_id="follow_feed", request=FeedInputSerializer, responses={201: FeedsSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Follow a feed."""
        follow_feed(request.user, self.brand, address=read(FeedInputSerializer, request.data)["address"])
        values = {"feeds": feeds_of(self.brand.pk), "items": items_of(self.brand.pk)[:MOST_ITEMS]}
        return Response(FeedsSerializer(values).data, status=201)


class FeedView(BrandView):
    """One feed."""

    changes = "sources.follow"

    @extend_schema(operation_id="stop_feed", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Stop following it; its items stay."""
        feed = Feed.objects.filter(brand=self.brand, pk=pk, is_followed=True).select_related("brand").first()
        if feed is None:
            raise Http404
        stop_feed(request.user, feed)
        return Response(status=204)


def _previewed(item: Import) -> Any:
    kind = KINDS[item.kind]
    # While a workbook is looked into again, what is known of it stays on the page.
    is_waiting = item.state == Import.State.WAITING or (item.state == Import.State.LOOKING and bool(item.header))
    preview = preview_of(item) if is_waiting else None
    needed = {key for keys, _ in kind.needs for key in keys if len(keys) <= 2}
    notes = [asdict(note) for note in preview.notes] if preview else item.notes
    values = {
        "item": item, "header": item.header,
        "columns": columns_of(kind, item.header, item.sample, item.mapping) if is_waiting else [],
        "fields_of_kind": [
            {"key": f.key, "read": f.read.value, "is_needed": f.key in needed, "adds_up": f.adds_up}
            for f in kind.fields
        ],
        "mapping": item.mapping, "detected": {**_DETECTED, **item.detected}, "options": {**_OPTIONS, **item.options},
        "encodings": list(ENCODINGS),
        "accounts": with_profiles(item) if is_waiting else [],
        "date_choices": date_choices(item) if is_waiting and preview else [],
        "unknown_formats": unknown_formats(item) if is_waiting else [],
        "known_in_sample": known_in_sample(item, preview.items) if preview else None,
        "mapping_problems": preview.mapping_problems if preview else [],
        "rows_looked_at": preview.rows_looked_at if preview else 0,
        "readable": len(preview.items) if preview else 0,
        "items": [{"row": row, "values": _shown(v, item)} for row, v in preview.items[:SHOWN_ITEMS]] if preview else [],
        "problem_count": len(preview.problems) if preview else item.refused,
        "problems": preview.problems[:SHOWN_PROBLEMS] if preview else item.problems.order_by("row")[:SHOWN_PROBLEMS],
        "notes": sorted(notes, key=lambda note: -note["count"])[:SHOWN_NOTES],
        "rebuild": rebuild_of(item),
    }  # fmt: skip
    return PreviewSerializer(values).data


_DETECTED: dict[str, Any] = {
    "form": "zip", "encoding": "", "delimiter": "", "sheets": [], "own_table": "", "is_remembered": False,
    "remembered_of": "", "profile_id": None, "date_why": "",
    "date_fits": [], "as_of_why": "", "damaged": [], "midnights": False, "has_offsets": False, "date_order": "",
    "decimal": "", "zone": "", "sheet": "", "head_row": 1, "head_lines": 1, "layout": "rows",
}  # fmt: skip
_OPTIONS: dict[str, Any] = {
    "form": "zip", "encoding": "", "delimiter": "", "decimal": "", "zone": "UTC",
    "sheet": "", "head_row": 1, "head_lines": 1, "layout": "rows", "date_order": "dmy", "as_of": "", "currency": "",
    "formats": {},
}  # fmt: skip


def _shown(values: dict[str, Any], item: Import) -> dict[str, str]:
    """What a row says, as text; what it does not say is left out. A day whose time is not known is a day."""
    date_field = KINDS[item.kind].date_field
    shown = {
        key: value.isoformat() if hasattr(value, "isoformat") else shorten(value, 120)
        for key, value in values.items()
        if value is not None and value != "" and value is not False and key != "has_time"
    }
    if values.get("has_time") is False and isinstance(values.get(date_field), datetime):
        shown[date_field] = values[date_field].astimezone(zone_of(item.options["zone"])).date().isoformat()
    return shown
