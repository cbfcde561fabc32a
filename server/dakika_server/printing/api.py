"""Printed pages over HTTP: how far one is, and its file. A page is seen by whoever asked for it alone."""

from typing import Any

from django.http import Http404, HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.printing.actions import pages_before
from dakika_server.printing.models import PrintedPage
from dakika_server.shared.errors import Conflict


class PrintedPageSerializer(serializers.Serializer[Any]):
    """How far a page is."""

    id = serializers.IntegerField()
    file_name = serializers.CharField()
    state = serializers.ChoiceField(choices=PrintedPage.State.choices)
    before = serializers.SerializerMethodField(help_text="pages that are made before this one")
    detail = serializers.CharField(help_text="why it failed")

    def get_before(self, page: PrintedPage) -> int:
        """None but for what waits."""
        return pages_before(page) if page.state == PrintedPage.State.WAITING else 0


class PrintedPageView(BrandView):
    """A page somebody asked for."""

    @extend_schema(operation_id="read_printed_page", responses=PrintedPageSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """How far it is."""
        return Response(PrintedPageSerializer(_own(self, request, pk, with_content=False)).data)


class PrintedFileView(BrandView):
    """The file of a page that is made."""

    @extend_schema(operation_id="read_printed_file", responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    def get(self, request: Request, brand: str, pk: int) -> HttpResponse:
        """The PDF."""
        page = _own(self, request, pk, with_content=True)
        if page.content is None:
            raise Conflict("not_printed", page.detail or "This page is not printed yet.")
        return HttpResponse(
            bytes(page.content), content_type="application/pdf",
            headers={"Content-Disposition": f'attachment; filename="{page.file_name}"', "Cache-Control": "no-store"},
        )  # fmt: skip


def _own(view: BrandView, request: Request, pk: int, *, with_content: bool) -> PrintedPage:
    found = PrintedPage.objects.filter(brand=view.brand, person_id=request.user.pk, pk=pk)
    page = (found if with_content else found.defer("content")).first()
    if page is None:
        raise Http404
    return page
