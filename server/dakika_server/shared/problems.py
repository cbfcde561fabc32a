"""Problem documents (RFC 9457) outside the API's views: what Django itself refuses, and what fails before a view."""

import logging
from collections.abc import Callable
from urllib.parse import unquote

from django.core.exceptions import RequestDataTooBig
from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse

log = logging.getLogger(__name__)
RETRY_SECONDS = 5
NOT_HERE = "There is nothing here, or you may not see it."
QUARTER_HOUR = 15 * 60
TOO_MANY = "Too many attempts. Wait a quarter of an hour and try again."
TOO_LARGE = "This is more than is taken at once."
NO_DATABASE = "The database does not answer at the moment. Nothing is lost; try again in a few seconds."


def note_absence(error: Exception) -> None:
    """The database is away: one line, not a trace, since hundreds of requests meet the same."""
    log.error("the database does not answer: %s", str(error).strip().partition("\n")[0])


def plain_problem(code: int, kind: str, detail: str, **headers: str) -> JsonResponse:
    """A problem document outside the API's views."""
    body = {"type": f"urn:dakika:problem:{kind}", "title": kind.replace("_", " "), "status": code, "detail": detail}
    return JsonResponse(body, status=code, content_type="application/problem+json", headers=headers)


def locked_out(request: HttpRequest, *rest: object) -> JsonResponse:
    """Too many wrong passwords: what django-axes answers in place of the view."""
    del rest
    return plain_problem(429, "throttled", TOO_MANY, **{"Retry-After": str(QUARTER_HOUR)})


def csrf_failure(request: HttpRequest, reason: str = "") -> JsonResponse:
    """A request without the token that proves where it comes from."""
    del request, reason
    return plain_problem(403, "csrf", "The page is out of date. Reload it and try again.")


def bad_request(request: HttpRequest, exception: Exception) -> JsonResponse:
    """What Django refuses before any view: a name that is not ours, too much, what cannot be read."""
    del request
    if isinstance(exception, RequestDataTooBig):
        return plain_problem(413, "too_large", TOO_LARGE)
    return plain_problem(400, "invalid", "This request cannot be understood.")


def forbidden(request: HttpRequest, exception: Exception) -> JsonResponse:
    """Outside the API's views."""
    del request
    return plain_problem(403, "forbidden", str(exception) or "You may not do this.")


def not_found(request: HttpRequest, exception: Exception) -> JsonResponse:
    """An address that leads nowhere."""
    del request, exception
    return plain_problem(404, "not_found", NOT_HERE)


def defect(request: HttpRequest) -> JsonResponse:
    """Our own mistake: the log has it, the person is told what can be done."""
    del request
    return plain_problem(500, "defect", "Something went wrong on our side, and was noted. Try again, or tell us.")


def readable_requests(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware: an address with U+0000, which no text of the database holds, is refused; 503 without a database."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if "\x00" in request.path or "\x00" in unquote(request.META.get("QUERY_STRING", "")):
            return plain_problem(400, "invalid", "The address holds a character that is none.")
        return get_response(request)

    def process_exception(request: HttpRequest, error: Exception) -> HttpResponse | None:
        del request
        if not isinstance(error, OperationalError | InterfaceError):
            return None
        note_absence(error)
        return plain_problem(503, "unavailable", NO_DATABASE, **{"Retry-After": str(RETRY_SECONDS)})

    middleware.process_exception = process_exception  # type: ignore[attr-defined]
    return middleware
