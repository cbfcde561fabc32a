"""Each request: a number, a line in the log, and its time among the metrics.

In the trade's words: request ID, access log, latency.
"""

import logging
import re
import time
from collections.abc import Callable
from uuid import uuid4

from django.http import HttpRequest, HttpResponse
from structlog.contextvars import bound_contextvars

from dakika_server.monitoring.metrics import ERRORS, REQUESTS
from dakika_server.shared.security import came_by_proxy

log = logging.getLogger("dakika.request")
HEADER = "X-Request-ID"
_NUMBER = re.compile(r"[A-Za-z0-9._-]{8,64}")
# Asked every few seconds by machines.
_UNTOLD = ("health", "ready", "metrics")


def note_request(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: a number for the request, which its lines in the log and its answer carry.

    A proxy's own number is taken where proxies are trusted. The log has the form of the address (its route), never the
    address itself, in which keys of people may stand.
    """

    def middleware(request: HttpRequest) -> HttpResponse:
        begun, number = time.monotonic(), _number_of(request)
        with bound_contextvars(request=number, brand="", person=""):
            response = get_response(request)
            seconds = time.monotonic() - begun
            route, area = _route_of(request)
            REQUESTS.labels(area, _method_of(request), f"{response.status_code // 100}xx").observe(seconds)
            if response.status_code >= 500:
                ERRORS.labels("web").inc()
            # Scripts and pictures of our own are no event, unless they are missing.
            if route not in _UNTOLD and (route != "none" or response.status_code >= 400):
                told = {"method": _method_of(request), "route": route, "status": response.status_code,
                        "ms": round(seconds * 1000)}  # fmt: skip
                log.info("request", extra=told)
        response.headers[HEADER] = number
        return response

    return middleware


def _number_of(request: HttpRequest) -> str:
    told = request.headers.get(HEADER, "")
    if came_by_proxy(request) and _NUMBER.fullmatch(told):
        return told
    return uuid4().hex[:16]


def _method_of(request: HttpRequest) -> str:
    """Of those that there are: whatever strangers make up must not become a label."""
    known = ("GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS")
    return request.method if request.method in known else "OTHER"


def _route_of(request: HttpRequest) -> tuple[str, str]:
    """The form of the address, and the area that answers it."""
    found = request.resolver_match
    if found is None:
        return "none", "none"
    module = str(getattr(found.func, "__module__", ""))
    parts = module.split(".")
    return found.route, parts[1] if len(parts) > 1 and parts[0] == "dakika_server" else "other"
