"""Boosts: asked for, stopped, and what they cost and brought."""

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView
from dakika_server.plan.boosts.asking import BoostInput, ask_boost, set_limit, stop_boost
from dakika_server.plan.boosts.listing import boosts_of, months, terms_for, told
from dakika_server.plan.serializers.boosts import (
    BoostInputSerializer,
    BoostLimitInputSerializer,
    BoostLimitSerializer,
    BoostPageQuerySerializer,
    BoostPageSerializer,
    BoostSerializer,
    BoostTermsSerializer,
)
from dakika_server.shared.paging import paged
from dakika_server.shared.parsers import read
from dakika_server.sources.models import Post


class BoostsView(BrandView):
    """Boosts of the brand."""

    reads, changes = "plan.read", "plan.boost"

    @extend_schema(operation_id="list_boosts", parameters=[BoostPageQuerySerializer], responses=BoostPageSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """A page of them, the last begun first, or those of a post."""
        asked = read(BoostPageQuerySerializer, request.query_params)
        rows = boosts_of(self.brand, post=asked.get("post"))
        boosts, following = paged(rows, ["-starts_at", "-pk"], asked.get("cursor"), asked["limit"])
        found = {"boosts": told(self.brand, boosts), "next": following, "limit": months(self.brand)}
        return Response(BoostPageSerializer(found).data)

    @extend_schema(operation_id="ask_boost", request=BoostInputSerializer, responses={201: BoostSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Show a post to more people for money."""
        made = ask_boost(request.user, self.brand, BoostInput(**read(BoostInputSerializer, request.data)))
        return Response(BoostSerializer(told(self.brand, [made])[0]).data, status=201)


class StopBoostView(BrandView):
    """Stopping one."""

    changes = "plan.boost"

    @extend_schema(operation_id="stop_boost", request=None, responses=BoostSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Spend no more of it."""
        stopped = stop_boost(request.user, self.brand, pk)
        return Response(BoostSerializer(told(self.brand, [stopped])[0]).data)


class BoostLimitView(BrandView):
    """What a month may cost."""

    reads, changes = "plan.read", "plan.boost"

    @extend_schema(operation_id="read_boost_limit", responses=BoostLimitSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The limit and what is left of this month."""
        return Response(BoostLimitSerializer(months(self.brand)).data)

    @extend_schema(operation_id="set_boost_limit", request=BoostLimitInputSerializer, responses=BoostLimitSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Another limit."""
        set_limit(request.user, self.brand, **read(BoostLimitInputSerializer, request.data))
        return Response(BoostLimitSerializer(months(self.brand)).data)


class BoostTermsView(BrandView):
    """What a boost of a post may be."""

    reads, changes = "plan.read", "plan.boost"

    @extend_schema(operation_id="read_boost_terms", responses=BoostTermsSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """Its network's rules, and what is left of the month."""
        post = Post.objects.filter(brand=self.brand, profile__kind="own", pk=pk).select_related("profile").first()
        if post is None:
            raise Http404
        return Response(BoostTermsSerializer(terms_for(self.brand, post)).data)
