"""A campaign as a whole."""

from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.brands.models import Campaign
from dakika_server.brands.views import BrandView
from dakika_server.plan.campaigns import campaign_counts, put_into_campaign, remove_campaign
from dakika_server.plan.serializers.campaigns import (
    CampaignCountsSerializer,
    CampaignMovedSerializer,
    CampaignPostsSerializer,
    CampaignRemovalSerializer,
)
from dakika_server.shared.parsers import read


class CampaignPlanView(BrandView):
    """What of a campaign is planned and out."""

    reads, changes = "plan.read", "plan.write"

    def campaign(self, pk: int) -> Campaign:
        """The brand's, or 404."""
        found = Campaign.objects.filter(brand=self.brand, pk=pk).first()
        if found is None:
            raise Http404
        return found

    @extend_schema(operation_id="read_campaign_plan", responses=CampaignCountsSerializer)
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """By state, kind, network and week, and what goes out next."""
        return Response(CampaignCountsSerializer(campaign_counts(self.brand, self.campaign(pk))).data)

    @extend_schema(operation_id="put_into_campaign", request=CampaignPostsSerializer, responses=CampaignMovedSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Put posts in."""
        asked = read(CampaignPostsSerializer, request.data)
        return Response({"posts": put_into_campaign(request.user, self.brand, self.campaign(pk), **asked)})


class CampaignRemovalView(CampaignPlanView):
    """Removing a campaign."""

    changes = "brand.campaigns"
    http_method_names = ["post", "options"]

    @extend_schema(operation_id="remove_campaign", request=CampaignRemovalSerializer, responses=CampaignMovedSerializer)
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Its posts stay; what of it is set to go out does, or becomes drafts."""
        asked = read(CampaignRemovalSerializer, request.data)
        return Response({"posts": remove_campaign(request.user, self.brand, self.campaign(pk), **asked)})


class NoCampaignView(BrandView):
    """Taking posts out of their campaigns."""

    changes = "plan.write"

    @extend_schema(
        operation_id="take_out_of_campaigns", request=CampaignPostsSerializer, responses=CampaignMovedSerializer
    )
    def post(self, request: Request, brand: str) -> Response:
        """They stay, in no campaign."""
        asked = read(CampaignPostsSerializer, request.data)
        return Response({"posts": put_into_campaign(request.user, self.brand, None, **asked)})
