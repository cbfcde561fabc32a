"""Programs of others that are told what happens: each takes what it is sent, checks who sent it, and keeps it.

It checks with code of its own, after RFC 9421 and RFC 9530, so that whoever sends is held against the standards. What a
program was given as its secret, and how it is to answer for a while, is told by the control page.
"""

import hashlib
import hmac
import json
import re
from base64 import b64encode
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import state_of

MOST_KEPT = 500
_INPUT = re.compile(r"(?P<label>\w+)=(?P<params>\((?P<covered>[^)]*)\);created=(?P<created>\d+);[^,]*)")


def checked(secrets: list[str], address: str, headers: Any, body: bytes) -> str:
    """What is wrong with a request, nothing where one of the secrets signed it."""
    digest = f"sha-256=:{b64encode(hashlib.sha256(body).digest()).decode()}:"
    if headers.get("content-digest") != digest:
        return "the digest is that of something else (RFC 9530)"
    values = {"@method": "POST", "@target-uri": address}
    signatures = dict(one.partition("=")[::2] for one in headers.get("signature", "").split(", "))
    for found in _INPUT.finditer(headers.get("signature-input", "")):
        covered = re.findall(r'"([^"]+)"', found["covered"])
        if not {"@method", "@target-uri", "content-digest"} <= {*covered}:
            return "the signature does not cover what matters"
        lines = [f'"{name}": {values.get(name) or headers.get(name, "")}' for name in covered]
        base = "\n".join([*lines, f'"@signature-params": {found["params"]}']).encode()
        for secret in secrets:
            made = b64encode(hmac.new(secret.encode(), base, hashlib.sha256).digest()).decode()
            if hmac.compare_digest(f":{made}:", signatures.get(found["label"], "")):
                return ""
    return "nobody who is known signed it"


async def take(request: Request) -> Response:
    """Take what happened: 204, or as it was told to answer."""
    state = state_of(request)
    programs = state.data.setdefault("programs", {})
    program = programs.setdefault(request.path_params["name"], {"secrets": [], "answers": [], "taken": []})
    body = await request.body()
    if program["answers"]:
        status = int(program["answers"].pop(0))
        state.save()
        return Response(status_code=status, headers={"Retry-After": "300"} if status == 503 else None)
    wrong = checked(program["secrets"], str(request.url), request.headers, body)
    if wrong:
        return Response(wrong, status_code=401)
    program["taken"] = [*program["taken"], json.loads(body)][-MOST_KEPT:]
    state.save()
    return Response(status_code=204)


async def tell(request: Request) -> Response:
    """The hand on a program: its secrets, how it answers next, what it took."""
    state = state_of(request)
    programs = state.data.setdefault("programs", {})
    program = programs.setdefault(request.path_params["name"], {"secrets": [], "answers": [], "taken": []})
    if request.method == "POST":
        program |= await request.json()
        state.save()
    return JSONResponse(program)


def program_routes() -> list[Route]:
    """Their addresses."""
    return [
        Route("/programs/{name}", take, methods=["POST"]),
        Route("/control/programs/{name}", tell, methods=["GET", "POST"]),
    ]
