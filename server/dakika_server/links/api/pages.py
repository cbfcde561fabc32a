"""Pages of links."""

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import StudySerializer, period_of
from dakika_server.links.actions import remove_page, save_page
from dakika_server.links.models import LinkPage
from dakika_server.links.queries import pages_of
from dakika_server.links.serializers.making import PageInputSerializer, PageSerializer
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


def _saved(view: BrandView, request: Request, pk: int | None) -> LinkPage:
    given = read(PageInputSerializer, request.data)
    entries = [(entry["link_id"], entry["title"]) for entry in given.pop("entries")]
    return save_page(request.user, view.brand, pk=pk, entries=entries, **given)


class LinkPagesView(BrandView):
    """All pages of a brand."""

    changes = "links.pages"

    @extend_schema(operation_id="list_link_pages", parameters=[StudySerializer], responses=PageSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """With the clicks that came through each in the period."""
        period = period_of(self.brand, read(StudySerializer, request.query_params), clock.now())
        return Response(PageSerializer(pages_of(self.brand, period), many=True).data)

    @extend_schema(operation_id="make_link_page", request=PageInputSerializer, responses={201: PageSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new page."""
        return Response(PageSerializer(_saved(self, request, None)).data, status=201)


class LinkPageView(BrandView):
    """One page."""

    changes = "links.pages"

    @extend_schema(operation_id="save_link_page", request=PageInputSerializer, responses=PageSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Change it as a whole."""
        try:
            return Response(PageSerializer(_saved(self, request, pk)).data)
        except LinkPage.DoesNotExist:
            raise Http404 from None

    @extend_schema(operation_id="remove_link_page", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Take it away; its clicks stay."""
        try:
            remove_page(request.user, self.brand, pk)
        except LinkPage.DoesNotExist:
            raise Http404 from None
        return Response(status=204)
