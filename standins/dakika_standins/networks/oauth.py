"""OAuth 2.0 authorisation code with PKCE (RFC 6749, RFC 7636), with a consent page for each network."""

import base64
import hashlib
import html
import secrets
from typing import Any
from urllib.parse import urlencode, urlsplit

from starlette.requests import Request
from starlette.responses import HTMLResponse, JSONResponse, RedirectResponse, Response
from starlette.routing import Route

from dakika_standins.http import CLIENTS, state_of

OWNERS = {"orrery": "Ninth Bell Studio for Orrery House", "lantern": "Ninth Bell Studio for Lantern Line"}

_PAGE = """<!doctype html><html lang="en"><meta charset="utf-8"><title>{network} · allow access</title>
<style>body{{font:16px/1.5 system-ui,sans-serif;max-width:34rem;margin:4rem auto;padding:0 1rem;color:#1c2430;background:#fbfaf7}}
fieldset{{border:0;border-top:1px solid #c9c6bd;padding:1rem 0;margin:1rem 0}}button{{font:inherit;padding:.5rem 1rem;margin-right:.5rem}}
label{{display:block;padding:.25rem 0}}small{{color:#555}}</style>
<main><small>Stand-in network</small><h1>{network}</h1>
<p><strong>Dakika</strong> asks to be let in.</p>
<form method="post"><fieldset><legend>Whose accounts may it see?</legend>{owners}</fieldset>
<fieldset><legend>What may it do?</legend>{scopes}</fieldset>{hidden}
<button name="answer" value="allow">Allow</button><button name="answer" value="cancel">Cancel</button></form></main></html>"""


def oauth_routes(network: str, name: str) -> list[Route]:
    """The three endpoints: /authorize, /token, /revoke (RFC 7009)."""

    async def authorize(request: Request) -> Response:
        sent = await request.form() if request.method == "POST" else None
        asked: dict[str, Any] = {**request.query_params, **dict(sent or {})}
        redirect = str(asked.get("redirect_uri", ""))
        if asked.get("client_id") not in CLIENTS or urlsplit(redirect).hostname not in ("127.0.0.1", "localhost"):
            return HTMLResponse("<h1>Unknown application</h1>", status_code=400)
        if asked.get("code_challenge_method") != "S256" or not asked.get("code_challenge"):
            return _back(redirect, {"error": "invalid_request", "state": asked.get("state", "")})
        if request.method == "GET":
            return HTMLResponse(_consent(name, {k: str(v) for k, v in asked.items()}))
        if asked.get("answer") != "allow" or asked.get("owner") not in OWNERS:
            return _back(redirect, {"error": "access_denied", "state": asked.get("state", "")})
        # The person may untick what was asked for (RFC 6749, 3.3): the token then says what was granted.
        ticked = {str(one) for one in sent.getlist("may")} if sent is not None and "chosen" in sent else None
        granted = [s for s in str(asked.get("scope", "")).split() if ticked is None or s in ticked]
        code = secrets.token_urlsafe(16)
        state = state_of(request)
        state.data["codes"][code] = {
            "network": network, "owner": asked["owner"], "scope": " ".join(granted),
            "challenge": asked["code_challenge"], "redirect": redirect, "client": asked["client_id"],
        }  # fmt: skip
        state.save()
        return _back(redirect, {"code": code, "state": str(asked.get("state", ""))})

    async def token(request: Request) -> Response:
        form = dict(await request.form())
        state = state_of(request)
        if CLIENTS.get(str(form.get("client_id"))) != form.get("client_secret"):
            return _refuse("invalid_client", 401)
        if form.get("grant_type") == "refresh_token":
            grant = state.data["refresh"].pop(str(form.get("refresh_token")), None)
            if not grant or grant["network"] != network or state.fault(network, "revoked"):
                return _refuse("invalid_grant")
            return JSONResponse(state.grant(network, grant["owner"], grant["scope"]))
        code = state.data["codes"].pop(str(form.get("code")), None)
        verifier = str(form.get("code_verifier", ""))
        challenge = base64.urlsafe_b64encode(hashlib.sha256(verifier.encode()).digest()).rstrip(b"=").decode()
        if not code or code["network"] != network or code["redirect"] != form.get("redirect_uri"):
            return _refuse("invalid_grant")
        if code["challenge"] != challenge:
            return _refuse("invalid_grant")
        return JSONResponse(state.grant(network, code["owner"], code["scope"]))

    async def revoke(request: Request) -> Response:
        form = dict(await request.form())
        if CLIENTS.get(str(form.get("client_id"))) != form.get("client_secret"):
            return _refuse("invalid_client", 401)
        state_of(request).revoke(str(form.get("token")))
        return Response(status_code=200)

    base = f"/{network}/oauth"
    return [
        Route(f"{base}/authorize", authorize, methods=["GET", "POST"]),
        Route(f"{base}/token", token, methods=["POST"]),
        Route(f"{base}/revoke", revoke, methods=["POST"]),
    ]


def _consent(name: str, asked: dict[str, str]) -> str:
    owners = "".join(
        f'<label><input type="radio" name="owner" value="{key}"{" checked" if key == "orrery" else ""}> {html.escape(owner)}</label>'
        for key, owner in OWNERS.items()
    )
    scopes = "".join(
        f'<label><input type="checkbox" name="may" value="{html.escape(s)}" checked> {html.escape(s)}</label>'
        for s in asked.get("scope", "").split()
    )
    hidden = '<input type="hidden" name="chosen" value="1">' + "".join(
        f'<input type="hidden" name="{html.escape(k)}" value="{html.escape(v)}">' for k, v in asked.items()
    )
    return _PAGE.format(network=html.escape(name), owners=owners, hidden=hidden, scopes=scopes)


def _back(redirect: str, answer: dict[str, str]) -> Response:
    joiner = "&" if urlsplit(redirect).query else "?"
    return RedirectResponse(f"{redirect}{joiner}{urlencode(answer)}", status_code=303)


def _refuse(error: str, status: int = 400) -> Response:
    return JSONResponse({"error": error}, status_code=status)
