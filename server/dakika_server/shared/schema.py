"""The OpenAPI description: names by view and method, and problem documents among the answers."""

from typing import Any

from drf_spectacular.extensions import OpenApiAuthenticationExtension
from drf_spectacular.openapi import AutoSchema

PROBLEM = {
    "type": "object",
    "required": ["type", "title", "status", "detail"],
    "properties": {
        "type": {"type": "string"},
        "title": {"type": "string"},
        "status": {"type": "integer"},
        "detail": {"type": "string"},
        "errors": {"type": "object", "additionalProperties": {"type": "array", "items": {"type": "string"}}},
    },
}


class SessionScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    """Sessions in the description."""

    target_class = "dakika_server.shared.security.SessionAuthentication"
    name = "session"

    def get_security_definition(self, auto_schema: AutoSchema) -> dict[str, str]:
        """A cookie; changes also need the header X-CSRFToken."""
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}


class TokenScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    """Tokens of programs in the description."""

    target_class = "dakika_server.shared.security.TokenAuthentication"
    name = "token"

    def get_security_definition(self, auto_schema: AutoSchema) -> dict[str, str]:
        """A bearer token (RFC 6750)."""
        return {"type": "http", "scheme": "bearer"}


class Schema(AutoSchema):
    """Operations are grouped by area."""

    def get_tags(self) -> list[str]:
        """The area is the package that the view stands in."""
        return [type(self.view).__module__.split(".")[1]]


def with_problems(result: dict[str, Any], generator: Any, request: Any, public: bool) -> dict[str, Any]:
    """Every operation may answer with a problem document."""
    del generator, request, public
    result.setdefault("components", {}).setdefault("schemas", {})["Problem"] = PROBLEM
    answer = {
        "description": "A problem document (RFC 9457).",
        "content": {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}},
    }
    for operations in result["paths"].values():
        for operation in operations.values():
            operation["responses"].setdefault("default", answer)
    return result
