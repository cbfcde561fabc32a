"""Bodies that an address takes, made of the API's own description: what a form would send, not what a lazy test does."""

from functools import cache
from typing import Any

from dakika_server.shared.describing import Description, committed, whole_of

_WORDS = {
    "date": "2026-11-20", "date-time": "2026-11-20T09:00:00Z", "time": "09:30", "uri": "https://orrery.example/night",
    "email": "somebody@ninthbell.example", "uuid": "0f0e6a52-3c1b-4a8e-9d57-0a4f1f6d2b11",
}  # fmt: skip


@cache
def description() -> Description:
    """The whole description, read once."""
    return whole_of(committed())


def body_for(path: str, method: str) -> Any:
    """What is sent to an address as it stands in the description; nothing where it takes nothing as JSON."""
    operation = description()["paths"].get(path, {}).get(method, {})
    content = operation.get("requestBody", {}).get("content", {}).get("application/json")
    return sample(content["schema"]) if content else None


def sample(schema: Any, depth: int = 0) -> Any:
    """A value of a schema, with every property that can be written."""
    if "$ref" in schema:
        return sample(description()["components"]["schemas"][schema["$ref"].rpartition("/")[2]], depth)
    for kind in ("allOf", "oneOf", "anyOf"):
        if kind in schema:
            return sample(schema[kind][0], depth)
    if "enum" in schema:
        return next(value for value in schema["enum"] if value not in (None, ""))
    if "default" in schema:
        return schema["default"]
    match schema.get("type"):
        case "object":
            fields = schema.get("properties", {}).items() if depth < 5 else ()
            return {name: sample(one, depth + 1) for name, one in fields if not one.get("readOnly")}
        case "array":
            return [sample(schema["items"], depth + 1)] if schema.get("items") else []
        case "integer" | "number":
            return max(schema.get("minimum", 1), 1)
        case "boolean":
            return True
        case "string":
            return _WORDS.get(schema.get("format", ""), "night")[: schema.get("maxLength", 200)]
    return {}
