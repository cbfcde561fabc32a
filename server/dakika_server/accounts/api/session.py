"""Signing in and out: a password, then what else is asked for, or a passkey alone."""

from datetime import timedelta

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import authenticate, logout
from django.db.models import Sum
from django.utils import timezone
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework.exceptions import NotAuthenticated
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.accounts.models import User
from dakika_server.accounts.passkeys import person_of, request_options
from dakika_server.accounts.queries import session_of
from dakika_server.accounts.second_factor import check_code, ways_of
from dakika_server.accounts.serializers import (
    CodeSerializer,
    CredentialSerializer,
    PasskeyOptionsSerializer,
    SecondFactorSerializer,
    SessionSerializer,
    SignInSerializer,
    SureSerializer,
)
from dakika_server.accounts.sessions import begin_session, note_sure
from dakika_server.shared import clock
from dakika_server.shared.callers import slow_down
from dakika_server.shared.errors import Problem, TooOften, field_errors
from dakika_server.shared.parsers import read
from dakika_server.shared.problems import QUARTER_HOUR, TOO_MANY
from dakika_server.shared.security import client_address

# Who gave their password and owes the rest: for ten minutes.
HALF, HALF_SECONDS = "half_signed_in", 600
MOST_PASSKEY_CALLS = 30


@method_decorator([ensure_csrf_cookie, csrf_protect], name="dispatch")
class BeforeSignIn(APIView):
    """What can be asked without a session; the token that shows where a change comes from is wanted all the same."""

    permission_classes = [AllowAny]


class SessionView(BeforeSignIn):
    """The session."""

    takes_tokens = True

    @extend_schema(operation_id="read_session", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        """Who is signed in; 401 if nobody is."""
        if not request.user or not request.user.is_authenticated:
            raise Problem("signed_out", "Sign in to go on.", status_code=401)
        return Response(SessionSerializer(session_of(request.user)).data)

    @extend_schema(
        operation_id="sign_in", request=SignInSerializer,
        responses={200: SessionSerializer, 202: SecondFactorSerializer},
    )  # fmt: skip
    def post(self, request: Request) -> Response:
        """Sign in; 202 where something is asked for after the password.

        After five failures at a name, or fifty in all, an address waits a quarter of an hour.
        """
        user = _by_password(request, **read(SignInSerializer, request.data))
        if ways := ways_of(user):
            request.session[HALF] = {"user": user.pk, "mark": user.get_session_auth_hash(), "at": _now()}
            request.session.set_expiry(HALF_SECONDS)
            return Response(SecondFactorSerializer({"ways": ways}).data, status=202)
        return _signed_in(request, user)

    @extend_schema(operation_id="sign_out", responses={204: None})
    def delete(self, request: Request) -> Response:
        """Sign out."""
        logout(request._request)
        return Response(status=204)


class SecondFactorView(BeforeSignIn):
    """What is asked for after the password."""

    @extend_schema(operation_id="sign_in_with_code", request=CodeSerializer, responses=SessionSerializer)
    def post(self, request: Request) -> Response:
        """Go on signing in with a code of one's device, or one for recovery."""
        code = read(CodeSerializer, request.data)["code"]
        user = _half_signed_in(request)
        if user is None:
            raise Problem("password_first", "Sign in with your password first: this took too long.")
        check_code(user, code)
        return _signed_in(request, user)


class PasskeyOptionsView(BeforeSignIn):
    """What a device is asked with."""

    @extend_schema(operation_id="ask_for_passkey", request=None, responses=PasskeyOptionsSerializer)
    def post(self, request: Request) -> Response:
        """Ask for one of the person's passkeys, or for any where nobody is known yet."""
        _slow_down(request)
        user = _signed(request) or _half_signed_in(request)
        return Response(PasskeyOptionsSerializer({"options": request_options(request._request, user)}).data)


class PasskeyView(BeforeSignIn):
    """A passkey in place of all else."""

    @extend_schema(operation_id="sign_in_with_passkey", request=CredentialSerializer, responses=SessionSerializer)
    def post(self, request: Request) -> Response:
        """Sign in with what a device answered; it knows who is there, so that no password is asked for."""
        credential = read(CredentialSerializer, request.data)["credential"]
        _slow_down(request)
        user = person_of(request._request, credential)
        half = _half_signed_in(request)
        if half is not None and half != user:
            raise Problem("wrong_passkey", f"This is the passkey of somebody else, not of {half.email}.")
        return _signed_in(request, user)


class OwnView(APIView):
    """A view of who is signed in, and of nobody else."""

    @property
    def person(self) -> User:
        """Who is signed in. Raises NotAuthenticated."""
        return person_of_session(self.request)


def person_of_session(request: Request) -> User:
    """Who is signed in. Raises NotAuthenticated."""
    if not isinstance(request.user, User):
        raise NotAuthenticated
    return request.user


class SureView(OwnView):
    """Showing once more who is there, before keys are changed."""

    @extend_schema(operation_id="confirm_session", request=SureSerializer, responses={204: None})
    def post(self, request: Request) -> Response:
        """By password, and a code where codes are asked for; or by a passkey alone."""
        user, values = self.person, read(SureSerializer, request.data)
        if values["credential"] is not None:
            if person_of(request._request, values["credential"]) != user:
                raise Problem("wrong_passkey", "This is somebody else's passkey.")
        else:
            if _by_password(request, user.email, values["password"]) != user:
                raise field_errors({"password": "This is not your password."})
            if "code" in ways_of(user):
                check_code(user, values["code"])
        note_sure(request._request)
        return Response(status=204)


def _now() -> float:
    return clock.now().timestamp()


def _by_password(request: Request, email: str, password: str) -> User:
    """Whose address and password these are. Raises Problem."""
    if _has_guessed_too_often(client_address(request._request)):
        raise TooOften(TOO_MANY, QUARTER_HOUR)
    user = authenticate(request=request._request, username=email, password=password)
    if getattr(request._request, "axes_locked_out", False):
        raise TooOften(TOO_MANY, QUARTER_HOUR)
    if not isinstance(user, User):
        raise Problem("wrong_credentials", "E-mail address and password do not go together.")
    return user


def _signed_in(request: Request, user: User) -> Response:
    request.session.pop(HALF, None)
    begin_session(request._request, user)
    return Response(SessionSerializer(session_of(user)).data)


def _signed(request: Request) -> User | None:
    return request.user if isinstance(request.user, User) else None


def _half_signed_in(request: Request) -> User | None:
    """Who gave their password a short time ago, and has had the same since."""
    half = request.session.get(HALF)
    if half is None or _now() - float(half["at"]) > HALF_SECONDS:
        return None
    user = User.objects.filter(pk=half["user"], is_active=True).first()
    return user if user is not None and user.get_session_auth_hash() == half["mark"] else None


def _slow_down(request: Request) -> None:
    slow_down("passkey", client_address(request._request), MOST_PASSKEY_CALLS)


def _has_guessed_too_often(address: str) -> bool:
    """Whether an address failed too often lately, over all names together."""
    since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    failed = AccessAttempt.objects.filter(ip_address=address, attempt_time__gte=since)
    count = failed.aggregate(count=Sum("failures_since_start"))["count"] or 0
    return int(count) >= settings.SIGN_IN_MOST_FAILURES
