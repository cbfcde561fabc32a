"""A person's own account: what they are called, what they sign in with, where they are signed in."""

from typing import Any

import segno
from django.contrib.auth import update_session_auth_hash
from django.http import Http404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.accounts import passkeys, second_factor, sessions
from dakika_server.accounts.actions import ask_for_address, change_account, change_password, take_address
from dakika_server.accounts.api.session import BeforeSignIn, OwnView
from dakika_server.accounts.queries import account_of
from dakika_server.accounts.serializers import (
    ChangedAccountSerializer,
    ChangedPasswordSerializer,
    CodeSerializer,
    EmailSerializer,
    KeySerializer,
    NewPasskeySerializer,
    OwnAccountSerializer,
    PasskeyOptionsSerializer,
    RecoveryCodesSerializer,
    TotpSerializer,
)
from dakika_server.shared.callers import slow_down
from dakika_server.shared.errors import Problem
from dakika_server.shared.parsers import read
from dakika_server.shared.security import client_address

MOST_KEY_CALLS = 20


class AccountView(OwnView):
    """One's account."""

    @extend_schema(operation_id="read_account", responses=OwnAccountSerializer)
    def get(self, request: Request) -> Response:
        """What one is called, by what one signs in, and where one is signed in."""
        return Response(self._told(request))

    @extend_schema(operation_id="change_account", request=ChangedAccountSerializer, responses=OwnAccountSerializer)
    def put(self, request: Request) -> Response:
        """Change name, language, zone and theme."""
        change_account(self.person, **read(ChangedAccountSerializer, request.data))
        return Response(self._told(request))

    def _told(self, request: Request) -> Any:
        return OwnAccountSerializer(account_of(self.person, request.session.session_key)).data


class PasswordView(OwnView):
    """One's password."""

    @extend_schema(operation_id="change_password", request=ChangedPasswordSerializer, responses={204: None})
    def put(self, request: Request) -> Response:
        """Change it; everywhere else one is signed out."""
        values = read(ChangedPasswordSerializer, request.data)
        slow_down("password", str(self.person.pk), MOST_KEY_CALLS)
        user = change_password(self.person, **values, session_key=request.session.session_key)
        update_session_auth_hash(request._request, user)
        sessions.note_begun(None, request._request, user)
        return Response(status=204)


class AddressView(OwnView):
    """The address that one signs in with."""

    @extend_schema(operation_id="ask_for_address", request=EmailSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        """Have a letter sent to another address; it becomes one's own by what stands in that."""
        sessions.require_sure(request._request)
        ask_for_address(self.person, **read(EmailSerializer, request.data))
        return Response(status=204)


class TakenAddressView(BeforeSignIn):
    """An address that was written to."""

    @extend_schema(operation_id="take_address", request=KeySerializer, responses=EmailSerializer)
    def post(self, request: Request) -> Response:
        """Sign in with it from now on."""
        values = read(KeySerializer, request.data)
        slow_down("address", client_address(request._request), MOST_KEY_CALLS)
        return Response(EmailSerializer(take_address(values["key"])).data)


class TotpView(OwnView):
    """Codes by time (RFC 6238)."""

    @extend_schema(operation_id="begin_totp", request=None, responses=TotpSerializer)
    def post(self, request: Request) -> Response:
        """A secret for one's device. Codes are asked for once one of it was given."""
        sessions.require_sure(request._request)
        secret, address = second_factor.begin_totp(self.person)
        picture = segno.make(address, error="m").svg_data_uri(border=2, scale=4)
        return Response(TotpSerializer({"secret": secret, "address": address, "picture": picture}).data)

    @extend_schema(operation_id="confirm_totp", request=CodeSerializer, responses=RecoveryCodesSerializer)
    def put(self, request: Request) -> Response:
        """Have codes asked for from now on; answers with codes for when the device is gone."""
        sessions.require_sure(request._request)
        codes = second_factor.confirm_totp(self.person, **read(CodeSerializer, request.data))
        return Response(RecoveryCodesSerializer({"codes": codes}).data)

    @extend_schema(operation_id="remove_totp", responses={204: None})
    def delete(self, request: Request) -> Response:
        """Have codes asked for no more."""
        sessions.require_sure(request._request)
        second_factor.remove_totp(self.person)
        return Response(status=204)


class RecoveryCodesView(OwnView):
    """Codes for when the device is gone."""

    @extend_schema(operation_id="make_recovery_codes", request=None, responses=RecoveryCodesSerializer)
    def post(self, request: Request) -> Response:
        """Ten new ones; those before are worth nothing any more."""
        sessions.require_sure(request._request)
        if not second_factor.ways_of(self.person):
            raise Problem("no_second_factor", "These replace a device's code or a passkey: add one of them first.")
        return Response(RecoveryCodesSerializer({"codes": second_factor.new_recovery_codes(self.person)}).data)


class NewPasskeyOptionsView(OwnView):
    """What a device is asked with for a new passkey."""

    @extend_schema(operation_id="ask_for_new_passkey", request=None, responses=PasskeyOptionsSerializer)
    def post(self, request: Request) -> Response:
        """Ask one's device for a new passkey."""
        sessions.require_sure(request._request)
        return Response(
            PasskeyOptionsSerializer({"options": passkeys.creation_options(request._request, self.person)}).data
        )


class PasskeysView(OwnView):
    """One's passkeys."""

    @extend_schema(operation_id="add_passkey", request=NewPasskeySerializer, responses=OwnAccountSerializer)
    def post(self, request: Request) -> Response:
        """Keep a passkey that a device made."""
        sessions.require_sure(request._request)
        values = read(NewPasskeySerializer, request.data)
        passkeys.add_passkey(request._request, self.person, values["name"], values["credential"])
        return Response(OwnAccountSerializer(account_of(self.person, request.session.session_key)).data)


class OnePasskeyView(OwnView):
    """A passkey."""

    @extend_schema(operation_id="remove_passkey", responses={204: None})
    def delete(self, request: Request, pk: int) -> Response:
        """Take it away."""
        sessions.require_sure(request._request)
        if not passkeys.remove_passkey(self.person, pk):
            raise Http404
        return Response(status=204)


class OtherSessionsView(OwnView):
    """Wherever else one is signed in."""

    @extend_schema(operation_id="end_other_sessions", responses={204: None})
    def delete(self, request: Request) -> Response:
        """Sign out there."""
        sessions.end_other_sessions(self.person, request.session.session_key)
        return Response(status=204)


class OneSessionView(OwnView):
    """One place where one is signed in."""

    @extend_schema(operation_id="end_session", responses={204: None})
    def delete(self, request: Request, pk: int) -> Response:
        """Sign out there."""
        if not sessions.end_session(self.person, pk):
            raise Http404
        return Response(status=204)
