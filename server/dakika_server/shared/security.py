"""Headers on every answer, and the session as the only way in."""

from collections.abc import Callable
from typing import Any

from django.conf import settings
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse
from rest_framework.authentication import SessionAuthentication as Base
from rest_framework.permissions import SAFE_METHODS
from rest_framework.request import Request

POLICY = (
    "default-src 'self'; img-src 'self' data: {pictures}; style-src 'self' 'unsafe-inline'; font-src 'self' data:; "
    "frame-ancestors 'none'; base-uri 'self'; form-action 'self'"
)


# Marks the session with which a page is printed (shared.printing).
FOR_PRINT = "is_for_print"


class SessionAuthentication(Base):
    """Sessions, answering 401 (not 403) to those who are not signed in. What prints may only look."""

    def authenticate(self, request: Request) -> Any:
        """The person of the session."""
        if request.method not in SAFE_METHODS and request.session.get(FOR_PRINT):
            raise PermissionDenied
        return super().authenticate(request)

    def authenticate_header(self, request: Request) -> str:
        """Named so that clients can tell who must sign in from who may not."""
        return "Session"


def content_security_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: only our own scripts, pictures from the networks."""
    policy = POLICY.format(pictures=settings.STANDINS_ADDRESS)

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", policy)
        return response

    return middleware


def client_address(request: HttpRequest) -> str:
    """Address of the client; what a proxy says is believed only of trusted proxies."""
    direct = str(request.META.get("REMOTE_ADDR", ""))
    forwarded = str(request.META.get("HTTP_X_FORWARDED_FOR", ""))
    if direct in settings.TRUSTED_PROXIES and forwarded:
        return forwarded.split(",")[-1].strip()[:64]
    return direct
