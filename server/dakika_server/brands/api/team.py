"""Who works for a brand, as it is asked for over HTTP."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.accounts.api.session import BeforeSignIn, person_of_session
from dakika_server.accounts.models import User
from dakika_server.accounts.permissions import PERMISSIONS, Role, roles_with
from dakika_server.accounts.queries import session_of
from dakika_server.accounts.serializers import KeySerializer, PasswordField, SessionSerializer
from dakika_server.accounts.sessions import begin_session
from dakika_server.brands.belongings import belongings_of
from dakika_server.brands.models import Membership
from dakika_server.brands.permissions import may
from dakika_server.brands.queries import invitations_of, members_of
from dakika_server.brands.team import change_role, invitation_by, invite, invite_again, join, leave, withdraw
from dakika_server.brands.views import BrandView
from dakika_server.shared.callers import slow_down
from dakika_server.shared.errors import Problem
from dakika_server.shared.parsers import read
from dakika_server.shared.security import client_address

ROLES = [role.value for role in Role]
MOST_JOINS = 20
LARGEST_ID = 2**63 - 1


class MemberSerializer(serializers.Serializer[Any]):
    """Somebody of the team. email, seen_at, has_second_factor: for those who decide who is of it, and for oneself."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    role = serializers.ChoiceField(choices=ROLES)
    is_me = serializers.BooleanField()
    is_program = serializers.BooleanField()
    email = serializers.CharField(allow_blank=True)
    seen_at = serializers.DateTimeField(allow_null=True)
    has_second_factor = serializers.BooleanField(allow_null=True)


class InvitationSerializer(serializers.Serializer[Any]):
    """Somebody who was asked and has not come yet."""

    id = serializers.IntegerField()
    email = serializers.CharField()
    role = serializers.ChoiceField(choices=ROLES)
    by = serializers.CharField(allow_blank=True)
    made_at = serializers.DateTimeField()
    until = serializers.DateTimeField()
    is_over = serializers.BooleanField()


class PermittedSerializer(serializers.Serializer[Any]):
    """A row of the table of permissions: what it lets one do, and which roles may."""

    name = serializers.CharField()
    words = serializers.CharField()
    roles = serializers.ListField(child=serializers.ChoiceField(choices=ROLES))


class TeamSerializer(serializers.Serializer[Any]):
    """Who works for a brand, who was asked, and what each role may do."""

    members = MemberSerializer(many=True)
    invitations = InvitationSerializer(many=True)
    permissions = PermittedSerializer(many=True)


class InvitationInputSerializer(serializers.Serializer[Any]):
    """Somebody to be asked."""

    email = serializers.CharField(max_length=254)
    role = serializers.ChoiceField(choices=ROLES)


class InvitationMadeSerializer(serializers.Serializer[Any]):
    """An invitation, with the address that stands in its letter; told once."""

    invitation = InvitationSerializer()
    address = serializers.CharField()


class RoleSerializer(serializers.Serializer[Any]):
    """A role."""

    role = serializers.ChoiceField(choices=ROLES)


class BelongingSerializer(serializers.Serializer[Any]):
    """What is somebody's within the brand. is_personal: it ends, nobody else can have it."""

    key = serializers.CharField()
    words = serializers.CharField()
    count = serializers.IntegerField()
    is_personal = serializers.BooleanField()


class LeavingSerializer(serializers.Serializer[Any]):
    """Who takes over."""

    to = serializers.IntegerField(min_value=1, max_value=LARGEST_ID, allow_null=True, default=None)


class InvitationSeenSerializer(serializers.Serializer[Any]):
    """What an invitation asks one to."""

    brand = serializers.CharField()
    role = serializers.ChoiceField(choices=ROLES)
    email = serializers.CharField()
    by = serializers.CharField(allow_blank=True)
    has_account = serializers.BooleanField(help_text="whether somebody with that address signs in already")


class JoinSerializer(KeySerializer):
    """An invitation that is taken. name, password: of somebody who is not signed in."""

    name = serializers.CharField(max_length=120, allow_blank=True, default="")
    password = PasswordField(allow_blank=True, default="")


class TeamView(BrandView):
    """Who works for the brand."""

    @extend_schema(operation_id="read_team", responses=TeamSerializer)
    def get(self, request: Request, brand: str) -> Response:
        """By name. Addresses and invitations are for those who decide who is of the team."""
        decides = may(self.membership.role, "brand.people")
        members = members_of(self.brand, person_of_session(request), shows_all=decides)
        told = {
            "members": members, "invitations": invitations_of(self.brand) if decides else [],
            "permissions": [
                {"name": name, "words": row.words, "roles": roles_with(name)}
                for name, row in sorted(PERMISSIONS.items())
            ],
        }  # fmt: skip
        return Response(TeamSerializer(told).data)


class InvitationsView(BrandView):
    """Asking people in."""

    changes = "brand.people"

    @extend_schema(operation_id="invite", request=InvitationInputSerializer, responses={201: InvitationMadeSerializer})
    def post(self, request: Request, brand: str) -> Response:
        """By letter; the answer has what stands in it, too."""
        made, address = invite(request.user, self.brand, **read(InvitationInputSerializer, request.data))
        return Response(InvitationMadeSerializer(_invited(self, made.pk, address)).data, status=201)


class InvitationView(BrandView):
    """Somebody who was asked."""

    changes = "brand.people"

    @extend_schema(operation_id="invite_again", request=None, responses={201: InvitationMadeSerializer})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """Once more, with another key."""
        made, address = invite_again(request.user, self.brand, pk)
        return Response(InvitationMadeSerializer(_invited(self, made.pk, address)).data, status=201)

    @extend_schema(operation_id="withdraw_invitation", responses={204: None})
    def delete(self, request: Request, brand: str, pk: int) -> Response:
        """Not any more."""
        withdraw(request.user, self.brand, pk)
        return Response(status=204)


class MemberView(BrandView):
    """Somebody of the team."""

    changes = "brand.people"

    @extend_schema(operation_id="change_role", request=RoleSerializer, responses=MemberSerializer)
    def put(self, request: Request, brand: str, pk: int) -> Response:
        """Another role."""
        change_role(request.user, self.brand, pk, read(RoleSerializer, request.data)["role"])
        members = members_of(self.brand, person_of_session(request), shows_all=True)
        return Response(MemberSerializer(next(one for one in members if one["id"] == pk)).data)


class LeavingView(BrandView):
    """Somebody else's leaving."""

    reads = changes = "brand.people"

    @extend_schema(operation_id="read_belongings", responses=BelongingSerializer(many=True))
    def get(self, request: Request, brand: str, pk: int) -> Response:
        """What is theirs within the brand."""
        return Response(BelongingSerializer(_belongings(self, pk), many=True).data)

    @extend_schema(operation_id="end_membership", request=LeavingSerializer, responses={204: None})
    def post(self, request: Request, brand: str, pk: int) -> Response:
        """They go, and somebody else has what was theirs."""
        leave(request.user, self.brand, pk, read(LeavingSerializer, request.data)["to"])
        return Response(status=204)


class OwnLeavingView(BrandView):
    """One's own leaving."""

    is_own_choice = True

    @extend_schema(operation_id="read_own_belongings", responses=BelongingSerializer(many=True))
    def get(self, request: Request, brand: str) -> Response:
        """What is one's own within the brand."""
        return Response(BelongingSerializer(belongings_of(self.brand, request.user), many=True).data)

    @extend_schema(operation_id="leave_brand", request=LeavingSerializer, responses={204: None})
    def post(self, request: Request, brand: str) -> Response:
        """One goes, and somebody else has what was one's own."""
        person = person_of_session(request)
        leave(person, self.brand, person.pk, read(LeavingSerializer, request.data)["to"])
        return Response(status=204)


class InvitationSeenView(BeforeSignIn):
    """An invitation, looked at with its key."""

    @extend_schema(operation_id="look_at_invitation", request=KeySerializer, responses=InvitationSeenSerializer)
    def post(self, request: Request) -> Response:
        """What it asks one to."""
        _slow_down(request)
        found = invitation_by(read(KeySerializer, request.data)["key"])
        told = {
            "brand": found.brand.name, "role": found.role, "email": found.email,
            "by": found.made_by.name if found.made_by else "",
            "has_account": User.objects.filter(email=found.email).exists(),
        }  # fmt: skip
        return Response(InvitationSeenSerializer(told).data)


class JoinView(BeforeSignIn):
    """Taking an invitation."""

    @extend_schema(operation_id="join", request=JoinSerializer, responses={201: SessionSerializer})
    def post(self, request: Request) -> Response:
        """As who is signed in, or as a new person, who is signed in with it."""
        _slow_down(request)
        known = request.user if isinstance(request.user, User) else None
        person = join(**read(JoinSerializer, request.data), user=known)
        if known is None:
            begin_session(request._request, person)
        return Response(SessionSerializer(session_of(person)).data, status=201)


def _invited(view: BrandView, pk: int, address: str) -> dict[str, Any]:
    return {"invitation": next(one for one in invitations_of(view.brand) if one["id"] == pk), "address": address}


def _belongings(view: BrandView, pk: int) -> Any:
    member = Membership.objects.select_related("user").filter(brand=view.brand, user_id=pk).first()
    if member is None:
        raise Problem("not_found", "This person does not work for the brand.", status_code=404)
    return belongings_of(view.brand, member.user)


def _slow_down(request: Request) -> None:
    slow_down("join", client_address(request._request), MOST_JOINS)
