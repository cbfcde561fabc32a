"""Errors as problem documents (RFC 9457): a type, a title, a detail that says what to do, errors by field."""

from typing import Any

from django.core.exceptions import PermissionDenied
from django.http import Http404, HttpRequest, JsonResponse
from rest_framework import status
from rest_framework.exceptions import APIException, ValidationError
from rest_framework.response import Response
from rest_framework.views import exception_handler


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


class Unavailable(Problem):
    """Something this needs is not there now; what was asked for may well be right."""

    def __init__(self, detail: str) -> None:
        super().__init__("unavailable", detail, status_code=503)


def field_errors(errors: dict[str, str]) -> ValidationError:
    """Errors beside their fields."""
    return ValidationError({name: [text] for name, text in errors.items()})


def problem_response(error: Exception, context: dict[str, Any]) -> Response | None:
    """Any exception of a view as a problem document; None leaves a defect to the server's own handling."""
    if isinstance(error, Http404):
        return _document(404, "not_found", "There is nothing here, or you may not see it.")
    if isinstance(error, PermissionDenied):
        return _document(403, "forbidden", "You may look at this brand but not change it.")
    response = exception_handler(error, context)
    if response is None:
        return None
    if isinstance(error, ValidationError):
        fields = error.detail if isinstance(error.detail, dict) else {"": error.detail}
        errors = {name: _flat(texts) for name, texts in fields.items()}
        first = next(iter(errors.values()), ["Something is not right."])[0]
        return _document(400, "invalid", first, headers=None, errors=errors)
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


def csrf_failure(request: HttpRequest, reason: str = "") -> JsonResponse:
    """A request without the token that proves where it comes from."""
    body = {
        "type": "urn:dakika:problem:csrf", "title": "csrf", "status": 403,
        "detail": "The page is out of date. Reload it and try again.",
    }  # fmt: skip
    return JsonResponse(body, status=403, content_type="application/problem+json")
