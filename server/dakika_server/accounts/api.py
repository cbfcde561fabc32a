"""Signing in and out."""

from datetime import timedelta
from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.db.models import Sum
from django.utils import timezone
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect, ensure_csrf_cookie
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from dakika_server.accounts.permissions import Role
from dakika_server.accounts.queries import session_of
from dakika_server.shared.errors import Problem
from dakika_server.shared.security import client_address

TOO_MANY = "Too many attempts. Wait a quarter of an hour and try again."


class SessionBrandSerializer(serializers.Serializer[Any]):
    """A brand that the person may see."""

    slug = serializers.CharField()
    name = serializers.CharField()
    role = serializers.ChoiceField(choices=[role.value for role in Role])


class SessionSerializer(serializers.Serializer[Any]):
    """Who is signed in."""

    name = serializers.CharField()
    email = serializers.CharField()
    brands = SessionBrandSerializer(many=True)


class SignInSerializer(serializers.Serializer[Any]):
    """Address and password."""

    email = serializers.CharField(max_length=254)
    password = serializers.CharField(max_length=200, trim_whitespace=False)


@method_decorator([ensure_csrf_cookie, csrf_protect], name="dispatch")
class SessionView(APIView):
    """The session."""

    permission_classes = [AllowAny]

    @extend_schema(operation_id="read_session", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        """Who is signed in; 401 if nobody is."""
        if not request.user or not request.user.is_authenticated:
            raise Problem("signed_out", "Sign in to go on.", status_code=401)
        return Response(SessionSerializer(session_of(request.user)).data)

    @extend_schema(operation_id="sign_in", request=SignInSerializer, responses=SessionSerializer)
    def post(self, request: Request) -> Response:
        """Sign in; after five failures at a name, or fifty in all, an address waits a quarter of an hour."""
        given = SignInSerializer(data=request.data)
        given.is_valid(raise_exception=True)
        if _has_guessed_too_often(client_address(request._request)):
            raise Problem("throttled", TOO_MANY, status_code=429)
        user = authenticate(
            request=request._request, username=given.validated_data["email"], password=given.validated_data["password"]
        )
        if getattr(request._request, "axes_locked_out", False):
            raise Problem("throttled", TOO_MANY, status_code=429)
        if user is None:
            raise Problem("wrong_credentials", "E-mail address and password do not go together.")
        login(request._request, user)
        return Response(SessionSerializer(session_of(user)).data)

    @extend_schema(operation_id="sign_out", responses={204: None})
    def delete(self, request: Request) -> Response:
        """Sign out."""
        logout(request._request)
        return Response(status=204)


def _has_guessed_too_often(address: str) -> bool:
    """Whether an address failed too often lately, over all names together."""
    since = timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
    failed = AccessAttempt.objects.filter(ip_address=address, attempt_time__gte=since)
    count = failed.aggregate(count=Sum("failures_since_start"))["count"] or 0
    return int(count) >= settings.SIGN_IN_MOST_FAILURES
