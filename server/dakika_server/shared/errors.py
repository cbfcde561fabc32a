"""Errors as problem documents (RFC 9457): a type, a title, a detail that says what to do, errors by field.

In the trade's words: error handling, exception.
"""

import logging
from typing import Any

from django.core.exceptions import PermissionDenied, RequestDataTooBig
from django.db import DataError, IntegrityError, InterfaceError, OperationalError
from django.http import Http404
from django.http.request import UnreadablePostError
from rest_framework import status
from rest_framework.exceptions import APIException, NotAuthenticated, ValidationError
from rest_framework.response import Response
from rest_framework.views import exception_handler

from dakika_server.shared.problems import NO_DATABASE, NOT_HERE, RETRY_SECONDS, TOO_LARGE, note_absence

log = logging.getLogger(__name__)


class Problem(APIException):
    """An error of the job: `kind` is its stable name, the text tells the person what to do."""

    status_code: int = status.HTTP_400_BAD_REQUEST

    def __init__(self, kind: str, detail: str, *, status_code: int = 400, **extra: Any) -> None:
        super().__init__(detail)
        self.kind = kind
        self.status_code = status_code
        self.extra = extra


class Conflict(Problem):
    """Somebody else was faster, or the thing is not in the state for this."""

    def __init__(self, kind: str, detail: str, **extra: Any) -> None:
        super().__init__(kind, detail, status_code=409, **extra)


class TooOften(Problem):
    """Somebody does this very often. wait: in how many seconds they may go on."""

    def __init__(self, detail: str, wait: int = 60) -> None:
        super().__init__("throttled", detail, status_code=429)
        self.wait = wait


class Unavailable(Problem):
    """Something this needs is not there now; what was asked for may well be right."""

    def __init__(self, detail: str) -> None:
        super().__init__("unavailable", detail, status_code=503)


def field_errors(errors: dict[str, str]) -> ValidationError:
    """Errors beside their fields."""
    return ValidationError({name: [text] for name, text in errors.items()})


def told_by(error: Exception) -> str:
    """What an error of the job tells a person, in one sentence."""
    detail = getattr(error, "detail", None)
    return str(next(iter(detail.values()))[0]) if isinstance(detail, dict) and detail else str(detail or error)


def problem_response(error: Exception, context: dict[str, Any]) -> Response | None:
    """Any exception of a view as a problem document; None leaves a defect to the server's own handling."""
    if isinstance(error, Http404):
        return _document(404, "not_found", NOT_HERE)
    if isinstance(error, PermissionDenied):
        return _document(403, "forbidden", str(error) or "You may not do this.")
    if isinstance(error, RequestDataTooBig):
        return _document(413, "too_large", TOO_LARGE)
    if isinstance(error, UnreadablePostError):
        return _document(408, "too_slow", "What you sent did not come to its end. Try again.")
    if isinstance(error, OperationalError | InterfaceError):
        note_absence(error)
        return _document(503, "unavailable", NO_DATABASE, headers={"Retry-After": str(RETRY_SECONDS)})
    if isinstance(error, IntegrityError):
        # What a check before it let through was taken away in between; foreign keys are told at the end.
        log.warning("two changed the same at once: %s", str(error).partition("\n")[0])
        return _document(409, "changed_meanwhile", "Somebody changed this at the same time. Load it again, then try.")
    if isinstance(error, DataError):
        log.warning("what was sent does not fit the database: %s", str(error).partition("\n")[0])
        return _document(400, "invalid", "A value is larger than can be kept, or is none.")
    response = exception_handler(error, context)
    if response is None:
        return None
    if isinstance(error, ValidationError):
        fields = error.detail if isinstance(error.detail, dict) else {"": error.detail}
        errors = {name: _flat(texts) for name, texts in fields.items()}
        first = next(iter(errors.values()), ["Something is not right."])[0]
        return _document(400, "invalid", first, headers=None, errors=errors)
    if isinstance(error, NotAuthenticated):
        return _document(response.status_code, "signed_out", "You were not signed in any more. Do it once more.")
    kind = getattr(error, "kind", None) or str(getattr(error, "default_code", "error"))
    detail = str(getattr(error, "detail", "")) or str(error)
    headers = {k: v for k, v in response.items() if k in ("Retry-After", "Allow", "WWW-Authenticate")}
    return _document(response.status_code, kind, detail, headers=headers, **getattr(error, "extra", {}))


def _flat(texts: Any) -> list[str]:
    if isinstance(texts, dict):
        return [f"{name}: {text}" for name, inner in texts.items() for text in _flat(inner)]
    return [str(text) for text in (texts if isinstance(texts, list) else [texts])]


def _document(code: int, kind: str, detail: str, *, headers: dict[str, str] | None = None, **extra: Any) -> Response:
    body = {
        "type": f"urn:dakika:problem:{kind}",
        "title": kind.replace("_", " "),
        "status": code,
        "detail": detail,
        **extra,
    }
    return Response(body, status=code, headers=headers, content_type="application/problem+json")
