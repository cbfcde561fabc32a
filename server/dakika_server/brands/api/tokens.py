"""Tokens of people and programs of brands, as they are asked for over HTTP."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.accounts.api.session import OwnView
from dakika_server.accounts.permissions import Role
from dakika_server.accounts.sessions import require_sure
from dakika_server.brands.models import ApiToken
from dakika_server.brands.permissions import membership_of
from dakika_server.brands.tokens import make_program, make_token, programs_of, revoke_own, revoke_program, tokens_of
from dakika_server.brands.views import BrandView
from dakika_server.shared import clock
from dakika_server.shared.parsers import read


class TokenSerializer(serializers.ModelSerializer[ApiToken]):
    """A token, without what is told once. brand: the only one it opens, empty for all of the person's."""

    brand = serializers.SerializerMethodField()
    is_over = serializers.SerializerMethodField()

    class Meta:
        model = ApiToken
        fields = ["id", "name", "hint", "scopes", "brand", "made_at", "until", "used_at", "used_from", "is_over"]

    def get_brand(self, token: ApiToken) -> str:
        """By its name in addresses."""
        return token.brand.slug if token.brand else ""

    def get_is_over(self, token: ApiToken) -> bool:
        """Whether its end has come."""
        return token.until <= clock.now()


class ProgramSerializer(TokenSerializer):
    """A program of a brand."""

    role = serializers.SerializerMethodField()

    class Meta(TokenSerializer.Meta):
        fields = [*TokenSerializer.Meta.fields, "role"]

    def get_role(self, token: ApiToken) -> str:
        """What it is to the brand."""
        return str(self.context["roles"].get(token.user_id, ""))


class TokenInputSerializer(serializers.Serializer[Any]):
    """A token to be made."""

    name = serializers.CharField(max_length=80)
    scopes = serializers.ListField(child=serializers.CharField(max_length=40), max_length=100)
    days = serializers.IntegerField(min_value=1, max_value=366)


class OwnTokenInputSerializer(TokenInputSerializer):
    """A token of one's own. brand: by its name in addresses, empty for all."""

    brand = serializers.CharField(max_length=60, allow_blank=True, default="")


class ProgramInputSerializer(TokenInputSerializer):
    """A program to be let in."""

    role = serializers.ChoiceField(choices=[role.value for role in Role if role not in (Role.ADMIN, Role.GUEST)])


class TokenMadeSerializer(serializers.Serializer[Any]):
    """A token that was made. told: what a program asks with; never told again."""

    token = TokenSerializer()
    told = serializers.CharField()


class OwnTokensView(OwnView):
    """One's own tokens."""

    @extend_schema(operation_id="list_tokens", responses=TokenSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The latest first."""
        return Response(TokenSerializer(tokens_of(self.person), many=True).data)

    @extend_schema(operation_id="make_token", request=OwnTokenInputSerializer, responses={201: TokenMadeSerializer})
    def post(self, request: Request) -> Response:
        """A new one, told once."""
        require_sure(request._request)
        values = read(OwnTokenInputSerializer, request.data)
        slug = values.pop("brand")
        brand = membership_of(self.person, slug).brand if slug else None
        made, told = make_token(self.person, **values, brand=brand)
        return Response(TokenMadeSerializer({"token": made, "told": told}).data, status=201)


class OwnTokenView(OwnView):
    """One of them."""

    @extend_schema(operation_id="revoke_token", responses={204: None})
    def delete(self, request: Request, pk: int) -> Response:
        """It opens nothing from now on."""
        revoke_own(self.person, pk)
        return Response(status=204)


class ProgramsView(BrandView):
    """Programs of the brand."""

    reads = changes = "brand.people"
    takes_tokens = False

    @extend_schema(operation_id="list_programs", responses=ProgramSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """The latest first."""
        roles = dict(self.brand.memberships.values_list("user_id", "role"))
        return Response(ProgramSerializer(programs_of(self.brand), many=True, context={"roles": roles}).data)

    @extend_schema(operation_id="make_program", request=ProgramInputSerializer, responses={201: TokenMadeSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """Let one in; its token is told once."""
        require_sure(request._request)
        person: Any = request.user
        made, told = make_program(person, self.brand, **read(ProgramInputSerializer, request.data))
        return Response(TokenMadeSerializer({"token": made, "told": told}).data, status=201)


class ProgramView(BrandView):
    """One of them."""

    reads = changes = "brand.people"
    takes_tokens = False

    @extend_schema(operation_id="revoke_program", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """It comes in no more."""
        person: Any = request.user
        revoke_program(person, self.brand, pk)
        return Response(status=204)
