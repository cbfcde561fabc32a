"""A brand and its campaigns."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.actions import add_campaign
from dakika_server.brands.models import Campaign
from dakika_server.brands.queries import campaigns_of
from dakika_server.brands.views import BrandView, read
from dakika_server.shared import clock


class BrandSerializer(serializers.Serializer[Any]):
    """A brand as the shell of the interface needs it."""

    slug = serializers.CharField()
    name = serializers.CharField()
    time_zone = serializers.CharField()
    first_weekday = serializers.IntegerField()
    role = serializers.ChoiceField(choices=["editor", "viewer"])
    now = serializers.DateTimeField()


class CampaignSerializer(serializers.ModelSerializer[Campaign]):
    """A campaign."""

    class Meta:
        model = Campaign
        fields = ["id", "name", "first_day", "last_day", "colour"]


class CampaignInputSerializer(serializers.Serializer[Any]):
    """A campaign to be made."""

    name = serializers.CharField(max_length=120)
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    colour = serializers.IntegerField(min_value=1, max_value=8, default=1)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """A campaign ends on or after its first day."""
        if attrs["last_day"] < attrs["first_day"]:
            raise serializers.ValidationError({"last_day": "The last day lies before the first."})
        return attrs


class BrandDetailView(BrandView):
    """One brand."""

    @extend_schema(operation_id="read_brand", responses=BrandSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The brand and one's role."""
        values = {
            "slug": self.brand.slug, "name": self.brand.name, "time_zone": self.brand.time_zone,
            "first_weekday": self.brand.first_weekday, "role": self.membership.role, "now": clock.now(),
        }  # fmt: skip
        return Response(BrandSerializer(values).data)


class CampaignsView(BrandView):
    """A brand's campaigns."""

    @extend_schema(operation_id="list_campaigns", responses=CampaignSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """All of them."""
        return Response(CampaignSerializer(campaigns_of(self.brand.pk), many=True).data)

    @extend_schema(operation_id="add_campaign", request=CampaignInputSerializer, responses={201: CampaignSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new one."""
        made = add_campaign(request.user, self.brand, **read(CampaignInputSerializer, request.data))
        return Response(CampaignSerializer(made).data, status=201)
