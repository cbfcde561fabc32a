"""Links and their clicks."""

from typing import Any

from dakika_core.values.period import Comparison
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.figures.study import period_of, study_of
from dakika_server.links.actions import Draft, change_link, make_link
from dakika_server.links.models import TrackedLink
from dakika_server.links.queries import Scope, begun_days, figures_of, life_of, links_of, one_link
from dakika_server.links.queries.days import behind_day
from dakika_server.links.queries.links import counted
from dakika_server.links.serializers.figures import (
    DayBehindSerializer,
    DayQuerySerializer,
    LinkDetailSerializer,
    LinksQuerySerializer,
    LinksSerializer,
)
from dakika_server.links.serializers.making import ChangesSerializer, DraftSerializer, LinkSerializer, OneLinkSerializer
from dakika_server.shared import clock
from dakika_server.shared.paging import PartSerializer, next_part, paged_list
from dakika_server.shared.parsers import read

NONE = (0, 0, 0)


def _place_of(link: Any) -> tuple[int, int, int]:
    """The most clicked of the period first, of equal ones the latest; those made at once as they were made."""
    return -link.clicks_in_period, -int(link.created_at.timestamp() * 1_000_000), link.pk


class LinksView(BrandView):
    """All links."""

    changes = "links.make"

    @extend_schema(
        operation_id="list_links", parameters=[LinksQuerySerializer, PartSerializer], responses=LinksSerializer
    )
    def get(self, request: Request, brand: str) -> Response:
        """Links with their clicks in the period, most clicked first."""
        asked, now = read(LinksQuerySerializer, request.query_params), clock.now()
        period = period_of(self.brand, asked, now)
        compared = period.compared(Comparison(asked["compare"]))
        found = links_of(
            self.brand,
            networks=asked.get("network"),
            campaigns=asked.get("campaign"),
            text=asked.get("text", "").strip(),
            post_id=asked.get("post"),
        )
        links: list[Any] = list(found)
        today = now.astimezone(self.brand.zone).date()
        clicks, before = (counted(self.brand, days) for days in begun_days(period, compared, today))
        for link in links:
            link.clicks_in_period, link.bots_in_period, link.over_in_period = clicks.get(link.pk, NONE)
            link.clicks_before = before.get(link.pk, NONE)[0]
        links.sort(key=_place_of)
        is_narrow = any(asked.get(name) for name in ("network", "campaign", "text", "post"))
        scope = Scope(brand=self.brand, links=tuple(link.pk for link in links) if is_narrow else None)
        part = read(PartSerializer, request.query_params)
        shown, following = paged_list(links, _place_of, part.get("cursor"), part.get("limit", max(1, len(links))))
        values = {
            "period": period, "compared": compared, "links": shown,
            "figures": figures_of(scope, period, compared, today),
        }  # fmt: skip
        return Response(LinksSerializer(values).data, headers=next_part(request, following))

    @extend_schema(operation_id="make_link", request=DraftSerializer, responses={201: LinkSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new link."""
        link = make_link(request.user, self.brand, Draft(**read(DraftSerializer, request.data)))
        return Response(LinkSerializer(link).data, status=201)


class DayBehindView(BrandView):
    """One day's clicks."""

    @extend_schema(operation_id="read_clicks_behind", parameters=[DayQuerySerializer], responses=DayBehindSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The links and referrers that made it."""
        asked, now = read(DayQuerySerializer, request.query_params), clock.now()
        study = study_of(self.brand, asked, now)
        return Response(DayBehindSerializer(behind_day(study, asked["day"], now)).data)


class LinkDetailView(BrandView):
    """One link."""

    changes = "links.make"

    @extend_schema(operation_id="read_link", parameters=[LinksQuerySerializer], responses=LinkDetailSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The link, its clicks in the period, and its whole life."""
        asked, now = read(LinksQuerySerializer, request.query_params), clock.now()
        period = period_of(self.brand, asked, now)
        compared = period.compared(Comparison(asked["compare"]))
        link: Any = one_link(self.brand, pk)
        if link is None:
            raise Http404
        today = now.astimezone(self.brand.zone).date()
        link.clicks_in_period, link.bots_in_period, link.over_in_period = counted(self.brand, period, pk).get(pk, NONE)
        scope = Scope(brand=self.brand, links=(pk,))
        values = {
            "period": period, "compared": compared, "link": link, "life": life_of(link, now),
            "figures": figures_of(scope, period, compared, today),
        }  # fmt: skip
        return Response(LinkDetailSerializer(values, context={"user": request.user}).data)

    @extend_schema(operation_id="change_link", request=ChangesSerializer, responses=OneLinkSerializer)
    def patch(self, request: Request, brand: str, pk: int) -> Response:
        """Change what is named."""
        try:
            change_link(request.user, self.brand, pk, **read(ChangesSerializer, request.data))
        except TrackedLink.DoesNotExist:
            raise Http404 from None
        return Response(OneLinkSerializer(one_link(self.brand, pk), context={"user": request.user}).data)
