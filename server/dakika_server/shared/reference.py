"""The API's description, for programs (OpenAPI) and for people: one page, made of it, with examples that tests run."""

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.utils.html import escape

from dakika_server.shared.describing import committed, whole_of


@dataclass(frozen=True, kw_only=True)
class Example:
    """A request that can be sent as it stands to a brand called orrery-house. operation: its operationId."""

    operation: str
    words: str
    method: str
    path: str
    body: Any = None


EXAMPLES: Sequence[Example] = (
    Example(operation="read_brand", words="Is the token good, and what may it do here?", method="GET",
            path="/api/brands/orrery-house"),
    Example(operation="send_rows", words="Posts of a newsletter, with what is known of them", method="POST",
            path="/api/brands/orrery-house/sources/rows",
            body={"kind": "posts", "channel": "Night letter", "network": "newsletter", "rows": [
                {"published_at": "2026-11-02T09:00:00+00:00", "external_id": "n-41", "text": "Two moons, one night",
                 "impressions": 4210, "link_clicks": 310}]}),
    Example(operation="send_rows", words="What a channel's followers were on a day", method="POST",
            path="/api/brands/orrery-house/sources/rows",
            body={"kind": "profile_readings", "channel": "Night letter", "network": "newsletter",
                  "rows": [{"day": "2026-11-10", "followers": 5200}]}),
    Example(operation="list_imports", words="What became of rows that were sent", method="GET",
            path="/api/brands/orrery-house/sources/imports"),
    Example(operation="list_posts", words="Posts of four weeks, the most reached first", method="GET",
            path="/api/brands/orrery-house/results/posts?first=2026-11-01&last=2026-11-28&sort=-reach"),
    Example(operation="read_figure", words="Reach and interactions by day, as a report has them", method="GET",
            path="/api/brands/orrery-house/figures/results.course?first=2026-11-01&last=2026-11-28&metrics=reach,interactions"),
    Example(operation="add_campaign", words="A campaign", method="POST", path="/api/brands/orrery-house/campaigns",
            body={"name": "The Long Night", "first_day": "2026-12-18", "last_day": "2026-12-23"}),
)  # fmt: skip
_PAGE = (
    '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">'
    "<title>Dakika: the API</title><style>"
    ":root{color-scheme:light dark}body{font:15px/1.5 sans-serif;max-width:60rem;margin:0 auto;padding:1rem}"
    "code,pre{font-family:monospace;font-size:13px}pre{overflow-x:auto;padding:.6rem;border:1px solid #8888}"
    "h3{margin:1.6rem 0 .2rem}table{border-collapse:collapse}td,th{text-align:left;vertical-align:top;"
    "padding:.15rem 1rem .15rem 0}nav a{margin-right:.8rem}"
    "</style><main><h1>The API</h1>{intro}<nav>{areas}</nav>{body}</main></html>"
)
_INTRO = (
    "<p>Programs send <code>Authorization: Bearer dakika_…</code>; tokens are made in Dakika under “Programs and "
    "tokens”. Errors are problem documents (RFC 9457) with a type, a sentence, and what is wrong by field. 600 "
    "requests a minute; <code>RateLimit</code> tells how many are left, <code>Retry-After</code> when to go on. A POST "
    "with an <code>Idempotency-Key</code> is done once, however often it is sent within a day. Lists that grow come in "
    "parts of <code>limit</code> rows: the cursor of the next is <code>next</code> in the answer, or stands in its "
    'header <code>Link</code> (RFC 8288, <code>rel="next"</code>); what comes in meanwhile moves nothing from one '
    "part into another.</p>"
    "<p>Webhooks tell other programs what happens: a POST of <code>{id, kind, at, brand, about}</code>, the same id "
    "however often it comes. It is signed after RFC 9421 with HMAC-SHA256 of your secret over "
    "<code>@method</code>, <code>@target-uri</code>, <code>content-type</code> and <code>content-digest</code> "
    "(RFC 9530); <code>keyid</code> is the first twelve digits of the secret's SHA-256, and for a day after a new "
    "secret there are two signatures. Answer with any 2xx within 15 seconds; 410 stops it. "
    "<code>examples/dakika_client.py</code> has a function that checks one.</p>"
    '<p>The same as <a href="/api/description">OpenAPI</a>, for programs that read it.</p>'
)


def description(request: HttpRequest) -> HttpResponse:
    """The whole description, as JSON."""
    del request
    return HttpResponse(_description(), content_type="application/vnd.oai.openapi+json;version=3.0")


def reference(request: HttpRequest) -> HttpResponse:
    """The description as a page to be read."""
    return HttpResponse(_reference(f"{request.scheme}://{request.get_host()}"))


@cache
def _whole() -> dict[str, Any]:
    return whole_of(committed())


@cache
def _description() -> str:
    return json.dumps(_whole(), separators=(",", ":"))


@cache
def _reference(home: str) -> str:
    by_area: dict[str, list[str]] = {}
    for path, methods in sorted(_whole()["paths"].items()):
        for method, operation in methods.items():
            by_area.setdefault(operation["tags"][0], []).append(_operation(home, path, method, operation))
    areas = "".join(f'<a href="#{area}">{area}</a> ' for area in by_area)
    body = "".join(f'<h2 id="{area}">{area}</h2>{"".join(told)}' for area, told in by_area.items())
    return _PAGE.replace("{intro}", _INTRO).replace("{areas}", areas).replace("{body}", body)


def _operation(home: str, path: str, method: str, operation: Mapping[str, Any]) -> str:
    name = operation["operationId"]
    parts = [
        f'<h3 id="{escape(name)}"><code>{method.upper()} {escape(path)}</code></h3>',
        f"<p>{escape(operation.get('description', ''))}</p>",
        _fields("Asked with", [
            (one["name"], one["schema"], one.get("description", ""))
            for one in operation.get("parameters", []) if one["in"] == "query"
        ]),
    ]  # fmt: skip
    for content in operation.get("requestBody", {}).get("content", {}).values():
        schema = _resolved(content.get("schema", {}))
        parts.append(_fields("Sent", [(key, one, one.get("description", "")) for key, one in
                                      schema.get("properties", {}).items()]))  # fmt: skip
        break
    parts += [_curl(home, one) for one in EXAMPLES if one.operation == name]
    return "".join(parts)


def _fields(title: str, fields: Sequence[tuple[str, Mapping[str, Any], str]]) -> str:
    if not fields:
        return ""
    rows = "".join(
        f"<tr><td><code>{escape(name)}</code></td><td>{escape(_kind(schema))}</td><td>{escape(words)}</td></tr>"
        for name, schema, words in fields
    )
    return f"<table><caption>{title}</caption>{rows}</table>"


def _resolved(schema: Mapping[str, Any]) -> Mapping[str, Any]:
    while "$ref" in schema:
        schema = _whole()["components"]["schemas"][schema["$ref"].rpartition("/")[2]]
    return schema


def _kind(schema: Mapping[str, Any]) -> str:
    """What a value is, in a few words: "one of posts, audience", "list of integer"."""
    if "allOf" in schema:
        return _kind(schema["allOf"][0])
    found = _resolved(schema)
    if "enum" in found:
        return "one of " + ", ".join(str(one) for one in found["enum"] if one != "")
    if found.get("type") == "array":
        return f"list of {_kind(found.get('items', {}))}"
    return " ".join(filter(None, [str(found.get("type", "anything")), found.get("format", "")]))


def _curl(home: str, example: Example) -> str:
    lines = [f"curl -X {example.method} '{home}{example.path}'", '  -H "Authorization: Bearer $TOKEN"']
    if example.body is not None:
        lines += ["  -H 'Content-Type: application/json'", f"  -d '{json.dumps(example.body)}'"]
    return f"<p>{escape(example.words)}:</p><pre>{escape(_joined(lines))}</pre>"


def _joined(lines: Sequence[str]) -> str:
    return " \\\n".join(lines)
