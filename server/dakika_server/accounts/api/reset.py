"""A new password by mail."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dakika_server.accounts.api.session import BeforeSignIn
from dakika_server.accounts.reset import reset_password
from dakika_server.accounts.serializers import EmailSerializer, ResetSerializer
from dakika_server.jobs.asking import ask
from dakika_server.shared.callers import slow_down
from dakika_server.shared.parsers import read
from dakika_server.shared.security import client_address

MOST_IN_MINUTE = 10


class ResetView(BeforeSignIn):
    """Who forgot their password."""

    @extend_schema(operation_id="ask_for_reset", request=EmailSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        """Have a letter sent, if somebody has this address; the answer is the same for any."""
        email = read(EmailSerializer, request.data)["email"]
        slow_down("reset", client_address(request._request), MOST_IN_MINUTE)
        ask("accounts.write_reset", email=email)
        return Response(status=204)


class NewPasswordView(BeforeSignIn):
    """A new password, with the key of a letter."""

    @extend_schema(operation_id="reset_password", request=ResetSerializer, responses=EmailSerializer)
    def post(self, request: Request) -> Response:
        """Set it; answers with the address to sign in with."""
        values = read(ResetSerializer, request.data)
        slow_down("reset", client_address(request._request), MOST_IN_MINUTE)
        return Response(EmailSerializer(reset_password(**values)).data)
