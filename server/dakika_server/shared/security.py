"""Headers on every answer, and the session as the only way in.

In the trade's words: content security policy, security headers, authentication.
"""

import itertools
from collections.abc import Callable
from functools import lru_cache
from ipaddress import IPv4Address, IPv4Network, IPv6Address, IPv6Network, ip_address, ip_network
from typing import Any

from dakika_core.values.hops import by_hops
from django.conf import settings
from django.core.exceptions import PermissionDenied
from django.http import HttpRequest, HttpResponse
from rest_framework.authentication import BaseAuthentication, get_authorization_header
from rest_framework.authentication import SessionAuthentication as Base
from rest_framework.exceptions import AuthenticationFailed
from rest_framework.permissions import SAFE_METHODS
from rest_framework.request import Request

from dakika_server.shared.hooks import Hook

POLICY = (
    "default-src 'self'; img-src 'self' data: {pictures}; style-src 'self' 'unsafe-inline'; font-src 'self' data:; "
    "connect-src 'self'{events}; frame-ancestors 'none'; base-uri 'self'; form-action 'self'"
)


# Where pictures of people's networks may come from, as the policy writes sources (CSP Level 3, 2.3.1).
picture_sources: Hook[[], list[str]] = Hook("where pictures come from")
# Somebody asked something in a session.
session_used: Hook[[HttpRequest], None] = Hook("a session is used")
# Who asks with a token, and the token; None where it is none. What it is told as, and from which address.
by_token: Hook[[str, str], tuple[Any, Any] | None] = Hook("who asks with a token")
NO_TOKENS = "Programs cannot do this: it is for people who sign in."
# Marks the session with which a page is printed (printing.chromium).
FOR_PRINT = "is_for_print"


class SessionAuthentication(Base):
    """Sessions, answering 401 (not 403) to those who are not signed in. What prints may only look."""

    def authenticate(self, request: Request) -> Any:
        """The person of the session."""
        if request.method not in SAFE_METHODS and request.session.get(FOR_PRINT):
            raise PermissionDenied("This session is for printing alone.")
        found = super().authenticate(request)
        if found is not None:
            session_used(request._request)
        return found

    def authenticate_header(self, request: Request) -> str:
        """Named so that clients can tell who must sign in from who may not."""
        return "Session"


class TokenAuthentication(BaseAuthentication):
    """Bearer tokens of programs (RFC 6750, 2.1), where a view takes them."""

    def authenticate(self, request: Request) -> Any:
        """The person of the token, and the token. Raises AuthenticationFailed for one that is none."""
        words = get_authorization_header(request).split()
        if not words or words[0].lower() != b"bearer":
            return None
        told = words[1].decode("ascii", "replace") if len(words) == 2 else ""
        found = next(filter(None, by_token(told, client_address(request._request))), None)
        if found is None:
            raise AuthenticationFailed("This token opens nothing: it is over, was taken away, or never was one.")
        if not getattr((request.parser_context or {}).get("view"), "takes_tokens", False):
            raise PermissionDenied(NO_TOKENS)
        return found

    def authenticate_header(self, request: Request) -> str:
        """How to ask (RFC 6750, 3)."""
        del request
        return 'Bearer realm="dakika"'


def content_security_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: only our own scripts; pictures from where the networks have theirs."""
    policy = POLICY.format(
        pictures=" ".join(sorted(set(itertools.chain(*picture_sources())))),
        events=f" {settings.EVENTS_ADDRESS}" if settings.EVENTS_ADDRESS else "",
    )

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response.headers.setdefault("Content-Security-Policy", policy)
        # What is told to one person is kept by no cache on the way; what may be kept says so itself.
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "private, no-store")
        return response

    return middleware


def client_address(request: HttpRequest) -> str:
    """Address of the client: the last hop that is no proxy of ours.

    Each proxy adds at the right whom it heard; what stands left of the first that is not ours was
    written by the client and is not believed. What is no address at all is not believed either.
    """
    told = str(request.META.get("REMOTE_ADDR", ""))
    if settings.TRUSTED_HOPS is not None:
        return by_hops(told, str(request.META.get("HTTP_X_FORWARDED_FOR", "")), settings.TRUSTED_HOPS)
    for hop in reversed(str(request.META.get("HTTP_X_FORWARDED_FOR", "")).split(",")):
        if not _is_ours(told) or not _address(hop.strip()):
            break
        told = hop.strip()
    return told


def came_by_proxy(request: HttpRequest) -> bool:
    """Whether who speaks to us is a proxy of ours, so that what it adds itself may be believed."""
    return settings.TRUSTED_HOPS is not None or _is_ours(str(request.META.get("REMOTE_ADDR", "")))


def _is_ours(told: str) -> bool:
    address = _address(told)
    return address is not None and any(address in network for network in _proxies(settings.TRUSTED_PROXIES))


@lru_cache(maxsize=8)
def _proxies(told: frozenset[str]) -> list[IPv4Network | IPv6Network]:
    return [ip_network(text.strip(), strict=False) for text in told if text.strip()]


@lru_cache(maxsize=1024)
def _address(told: str) -> IPv4Address | IPv6Address | None:
    try:
        return ip_address(told)
    except ValueError:
        return None
