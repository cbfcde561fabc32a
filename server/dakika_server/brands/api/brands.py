"""A brand and its campaigns."""

from typing import Any

from django.conf import settings
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.accounts.api.session import BeforeSignIn
from dakika_server.accounts.permissions import Role, permissions_of
from dakika_server.accounts.queries import session_of
from dakika_server.accounts.serializers import PasswordField, SessionSerializer
from dakika_server.accounts.sessions import begin_session
from dakika_server.brands.actions import add_brand, change_brand, keep_campaign, keep_preference
from dakika_server.brands.beginning import begin
from dakika_server.brands.first_steps import steps_of
from dakika_server.brands.models import Brand, Campaign, Preference
from dakika_server.brands.overview import overview_of
from dakika_server.brands.queries import campaigns_of, team_of
from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.callers import slow_down
from dakika_server.shared.parsers import read
from dakika_server.shared.security import client_address

MOST_BEGINNINGS = 10


class BrandSerializer(serializers.Serializer[Any]):
    """A brand as the shell of the interface needs it."""

    slug = serializers.CharField()
    name = serializers.CharField()
    time_zone = serializers.CharField()
    first_weekday = serializers.IntegerField()
    picture = serializers.CharField(allow_blank=True)
    picture_from = serializers.IntegerField(allow_null=True)
    is_demo = serializers.BooleanField(help_text="its figures are invented, for looking around")
    role = serializers.ChoiceField(choices=[role.value for role in Role])
    may = serializers.ListField(child=serializers.CharField(), help_text="the permissions of the role, by name")
    now = serializers.DateTimeField()


class PersonSerializer(serializers.Serializer[Any]):
    """Somebody who works for the brand."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    role = serializers.CharField()
    is_me = serializers.BooleanField()


class BrandInputSerializer(serializers.Serializer[Any]):
    """A brand to be made or changed."""

    name = serializers.CharField(max_length=120)
    time_zone = serializers.CharField(max_length=64)
    first_weekday = serializers.IntegerField(min_value=0, max_value=6, default=0)


class CampaignSerializer(serializers.ModelSerializer[Campaign]):
    """A campaign."""

    class Meta:
        model = Campaign
        fields = [
            "id", "name", "first_day", "last_day", "colour", "goal_metric", "goal_amount", "profiles", "utm_campaign",
            "owner",
        ]  # fmt: skip


class CampaignInputSerializer(serializers.Serializer[Any]):
    """A campaign to be made."""

    name = serializers.CharField(max_length=120)
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    colour = serializers.IntegerField(min_value=1, max_value=8, default=1)
    goal_metric = serializers.ChoiceField(choices=Campaign.Goal.values, allow_blank=True, default="")
    goal_amount = serializers.FloatField(min_value=0, max_value=1e12, allow_null=True, default=None)
    profiles = serializers.ListField(
        child=serializers.IntegerField(min_value=1, max_value=2**63 - 1), max_length=100, default=list,
        help_text="none are all",
    )  # fmt: skip
    utm_campaign = serializers.CharField(max_length=100, allow_blank=True, default="")
    owner = serializers.IntegerField(min_value=1, max_value=2**63 - 1, allow_null=True, default=None)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        """A campaign ends on or after its first day."""
        if attrs["last_day"] < attrs["first_day"]:
            raise serializers.ValidationError({"last_day": "The last day lies before the first."})
        return attrs


class PreferenceSerializer(serializers.Serializer[Any]):
    """A choice: any JSON."""

    value = serializers.JSONField()


class PreferencesSerializer(serializers.Serializer[Any]):
    """Choices by name."""

    values = serializers.DictField(child=serializers.JSONField())


def _shown(brand: Brand, role: str) -> Any:
    picture = f"{settings.STANDINS_ADDRESS}{brand.picture}" if brand.picture.startswith("/") else brand.picture
    values = {
        "slug": brand.slug, "name": brand.name, "time_zone": brand.time_zone, "first_weekday": brand.first_weekday,
        "picture": picture, "picture_from": brand.picture_from, "is_demo": brand.is_demo, "role": role,
        "may": permissions_of(role), "now": clock.now(),
    }  # fmt: skip
    return BrandSerializer(values).data


class BrandsView(APIView):
    """Brands."""

    @extend_schema(operation_id="add_brand", request=BrandInputSerializer, responses={201: BrandSerializer})
    def post(self, request: Request) -> Response:
        """A new one, with oneself as its editor."""
        brand = add_brand(request.user, **read(BrandInputSerializer, request.data))
        return Response(_shown(brand, Role.ADMIN.value), status=201)


class OverviewFigureSerializer(serializers.Serializer[Any]):
    """A figure against as many days before."""

    key = serializers.CharField()
    name = serializers.CharField()
    unit = serializers.CharField()
    more_is_better = serializers.BooleanField()
    value = serializers.FloatField(allow_null=True)
    before = serializers.FloatField(allow_null=True)
    difference = serializers.FloatField(allow_null=True)
    relative = serializers.FloatField(allow_null=True)


class NotedSerializer(serializers.Serializer[Any]):
    """A sentence with a step within the brand."""

    text = serializers.CharField()
    path = serializers.CharField()


class PlannedAheadSerializer(serializers.Serializer[Any]):
    """What goes out in the days ahead."""

    count = serializers.IntegerField()
    next_at = serializers.DateTimeField(allow_null=True)
    next_title = serializers.CharField(allow_blank=True)


class OverviewSerializer(serializers.Serializer[Any]):
    """A brand in overview."""

    time_zone = serializers.CharField()
    figures = OverviewFigureSerializer(many=True)
    findings = serializers.IntegerField()
    stands_out = NotedSerializer(allow_null=True)
    planned = PlannedAheadSerializer(allow_null=True)
    hands = NotedSerializer(many=True)


class OverviewView(BrandView):
    """A brand in overview, for those who look after several."""

    @extend_schema(operation_id="read_overview", responses=OverviewSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """Its figures of four weeks, what stands out, what is planned, what needs a hand."""
        return Response(OverviewSerializer(overview_of(self.brand, clock.now())).data)


class BrandDetailView(BrandView):
    """One brand."""

    changes = "brand.change"

    @extend_schema(operation_id="read_brand", responses=BrandSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """The brand and one's role."""
        return Response(_shown(self.brand, self.membership.role))

    @extend_schema(operation_id="change_brand", request=BrandInputSerializer, responses=BrandSerializer)
    def put(self, request: Request, brand: str) -> Response:
        """Name, time zone, first day of the week."""
        changed = change_brand(request.user, self.brand, **read(BrandInputSerializer, request.data))
        return Response(_shown(changed, self.membership.role))


class CampaignsView(BrandView):
    """A brand's campaigns."""

    changes = "brand.campaigns"

    @extend_schema(operation_id="list_campaigns", responses=CampaignSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """All of them."""
        return Response(CampaignSerializer(campaigns_of(self.brand.pk), many=True).data)

    @extend_schema(operation_id="add_campaign", request=CampaignInputSerializer, responses={201: CampaignSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """A new one."""
        made = keep_campaign(request.user, self.brand, **read(CampaignInputSerializer, request.data))
        return Response(CampaignSerializer(made).data, status=201)


class CampaignView(BrandView):
    """One of them."""

    changes = "brand.campaigns"

    @extend_schema(operation_id="change_campaign", request=CampaignInputSerializer, responses=CampaignSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Other dates, another goal."""
        found = Campaign.objects.filter(brand=self.brand, pk=pk).first()
        if found is None:
            raise Http404
        values = read(CampaignInputSerializer, request.data)
        return Response(CampaignSerializer(keep_campaign(request.user, self.brand, campaign=found, **values)).data)


class PreferencesView(BrandView):
    """What the person chose to see."""

    @extend_schema(operation_id="read_preferences", responses=PreferencesSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """All of it, by name."""
        kept = dict(Preference.objects.filter(membership=self.membership).values_list("name", "value"))
        return Response(PreferencesSerializer({"values": kept}).data)


class PreferenceView(BrandView):
    """One choice."""

    is_own_choice = True

    @extend_schema(operation_id="keep_preference", request=PreferenceSerializer, responses={204: None})
    def put(self, request: Request, brand: str, name: str) -> Response:
        """Keep it."""
        keep_preference(self.membership, name, read(PreferenceSerializer, request.data)["value"])
        return Response(status=204)


class FirstStepSerializer(serializers.Serializer[Any]):
    """A first step: what it gives, where it is done within the brand, and whether it is."""

    key = serializers.CharField()
    title = serializers.CharField()
    gives = serializers.CharField()
    path = serializers.CharField()
    permission = serializers.CharField()
    is_done = serializers.BooleanField()


class FirstStepsView(BrandView):
    """How a brand gets its first figures."""

    @extend_schema(operation_id="list_first_steps", responses=FirstStepSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """In order."""
        return Response(FirstStepSerializer(steps_of(self.brand), many=True).data)


class PeopleView(BrandView):
    """Who works for the brand."""

    @extend_schema(operation_id="list_people", responses=PersonSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """By name; guests are none of them."""
        told = [
            {"id": one.user_id, "name": one.user.name or one.user.email, "role": one.role,
             "is_me": one.user_id == request.user.pk}
            for one in team_of(self.brand)
        ]  # fmt: skip
        return Response(PersonSerializer(told, many=True).data)


class BeginSerializer(serializers.Serializer[Any]):
    """Who begins, with which brand. key: what the first start printed."""

    key = serializers.CharField(max_length=100)
    name = serializers.CharField(max_length=120)
    email = serializers.CharField(max_length=254)
    password = PasswordField()
    brand = serializers.CharField(max_length=120)
    time_zone = serializers.CharField(max_length=64)


class BeginView(BeforeSignIn):
    """The first person of an installation."""

    @extend_schema(operation_id="begin", request=BeginSerializer, responses={201: SessionSerializer})
    def post(self, request: Request) -> Response:
        """Make them and their brand, once, and sign them in."""
        slow_down("begin", client_address(request._request), MOST_BEGINNINGS)
        person, _ = begin(**read(BeginSerializer, request.data))
        begin_session(request._request, person)
        return Response(SessionSerializer(session_of(person)).data, status=201)
