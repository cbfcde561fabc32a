"""Links over HTTP."""

from typing import Any

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.views import BrandView, read
from dakika_server.links.actions import make_link, proposed_utm, short_address
from dakika_server.links.queries import breakdown_of, links_of
from dakika_server.results.serializers.summary import PeriodSerializer
from dakika_server.results.study import StudySerializer, period_of
from dakika_server.shared import clock


class UtmSerializer(serializers.Serializer[Any]):
    """The five parameters; one left empty is left out of the address."""

    source = serializers.CharField(max_length=100, allow_blank=True, required=False)  # type: ignore[assignment]
    medium = serializers.CharField(max_length=100, allow_blank=True, required=False)
    campaign = serializers.CharField(max_length=100, allow_blank=True, required=False)
    term = serializers.CharField(max_length=100, allow_blank=True, required=False)
    content = serializers.CharField(max_length=100, allow_blank=True, required=False)


class LinkInputSerializer(serializers.Serializer[Any]):
    """A link to be made."""

    destination = serializers.CharField(max_length=4000, allow_blank=True)
    name = serializers.CharField(max_length=200, allow_blank=True, default="")
    network = serializers.CharField(max_length=40, allow_blank=True, default="")
    campaign_id = serializers.IntegerField(required=False, allow_null=True)
    utm = UtmSerializer(required=False)


class LinkSerializer(serializers.Serializer[Any]):
    """A tracked link with its counts."""

    id = serializers.IntegerField(source="pk")
    code = serializers.CharField()
    short = serializers.SerializerMethodField()
    name = serializers.CharField()
    destination = serializers.CharField()
    target = serializers.CharField()
    network = serializers.CharField(allow_blank=True)
    campaign = serializers.CharField(source="campaign.name", default=None, allow_null=True)
    post_id = serializers.IntegerField(allow_null=True)
    created_at = serializers.DateTimeField()
    clicks_in_period = serializers.IntegerField(default=0)
    bots_in_period = serializers.IntegerField(default=0)
    clicks_ever = serializers.IntegerField(default=0)
    last_click_at = serializers.DateTimeField(default=None, allow_null=True)

    def get_short(self, link: Any) -> str:
        """The address to be passed on."""
        return short_address(link)


class CountSerializer(serializers.Serializer[Any]):
    """A name with its count."""

    name = serializers.CharField(allow_blank=True)
    count = serializers.IntegerField()


class BreakdownSerializer(serializers.Serializer[Any]):
    """Clicks of a period."""

    people = serializers.ListField(child=serializers.IntegerField())
    bots = serializers.ListField(child=serializers.IntegerField())
    referrers = CountSerializer(many=True)
    devices = CountSerializer(many=True)
    bot_reasons = CountSerializer(many=True)
    visitors = serializers.IntegerField(help_text="estimated: one person on two days counts twice")


class LinksSerializer(serializers.Serializer[Any]):
    """All links of a brand over a period."""

    period = PeriodSerializer()
    breakdown = BreakdownSerializer()
    links = LinkSerializer(many=True)


class LinkDetailSerializer(serializers.Serializer[Any]):
    """One link over a period."""

    period = PeriodSerializer()
    breakdown = BreakdownSerializer()
    link = LinkSerializer()


class UtmQuerySerializer(serializers.Serializer[Any]):
    """What a link is for."""

    network = serializers.CharField(max_length=40, allow_blank=True, default="")
    campaign_id = serializers.IntegerField(required=False)


def _breakdown(found: Any) -> dict[str, Any]:
    lists = {
        key: [{"name": n, "count": c} for n, c in getattr(found, key)]
        for key in ("referrers", "devices", "bot_reasons")
    }
    return {"people": found.people, "bots": found.bots, "visitors": found.visitors, **lists}


class LinksView(BrandView):
    """All links."""

    @extend_schema(operation_id="list_links", parameters=[StudySerializer], responses=LinksSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Links with their clicks in the period."""
        period = period_of(self.brand, read(StudySerializer, request.query_params), clock.now())
        values = {
            "period": period, "links": links_of(self.brand.pk, period),
            "breakdown": _breakdown(breakdown_of(self.brand.pk, period)),
        }  # fmt: skip
        return Response(LinksSerializer(values).data)

    @extend_schema(operation_id="make_link", request=LinkInputSerializer, responses={201: LinkSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new link."""
        link = make_link(request.user, self.brand, **read(LinkInputSerializer, request.data))
        return Response(LinkSerializer(link).data, status=201)


class LinkDetailView(BrandView):
    """One link."""

    @extend_schema(operation_id="read_link", parameters=[StudySerializer], responses=LinkDetailSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """The link and how its clicks spread."""
        period = period_of(self.brand, read(StudySerializer, request.query_params), clock.now())
        link = links_of(self.brand.pk, period).filter(pk=pk).first()
        if link is None:
            raise Http404
        values = {"period": period, "link": link, "breakdown": _breakdown(breakdown_of(self.brand.pk, period, pk))}
        return Response(LinkDetailSerializer(values).data)


class UtmView(BrandView):
    """Parameters as they would be filled in."""

    @extend_schema(operation_id="propose_utm", parameters=[UtmQuerySerializer], responses=UtmSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """UTM parameters for a network and a campaign."""
        values = read(UtmQuerySerializer, request.query_params)
        campaign = self.brand.campaigns.filter(pk=values.get("campaign_id") or 0).first()
        utm = proposed_utm(values["network"], campaign)
        return Response(UtmSerializer(vars(utm)).data)
