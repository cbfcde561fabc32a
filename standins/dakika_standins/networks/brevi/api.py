"""Brevi's API: one address per verb, page numbers, epoch seconds, errors in the body, client tokens."""

from datetime import UTC, datetime, timedelta
from email.utils import format_datetime
from typing import Any

import regex
from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import bearer, state_of, wait_before_next, with_faults
from dakika_standins.networks.oauth import CLIENTS, oauth_routes
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

SORT = {
    "text": "plain",
    "link": "linked",
    "image": "pictured",
    "album": "pictured",
    "short_video": "moving",
    "long_video": "moving",
}
LONGEST, LINK_COUNTS = 300, 24


def refuse(status: int, code: str, headers: dict[str, str] | None = None) -> Response:
    """An error in Brevi's older style."""
    return JSONResponse({"ok": False, "error": code}, status_code=status, headers=headers)


def length_of(text: str) -> int:
    """User-perceived characters, an address counting 24."""
    links = regex.findall(r"https?://\S*[^\s.,;:!?]", text)
    for link in links:
        text = text.replace(link, "", 1)
    return len(regex.findall(r"\X", text)) + LINK_COUNTS * len(links)


def brevi_routes() -> list[Route]:
    """All of Brevi."""

    def describe(state: State, account: Account) -> dict[str, Any]:
        now = state.now()
        return {
            "no": f"b{account.handle}", "name": account.handle, "title": account.name,
            "fans": state.world.followers(account.key, now.date()), "follows": 210,
            "notes": len(state.posts(account.key)), "image": f"/pictures/{account.key}.svg", "now": int(now.timestamp()),
        }  # fmt: skip

    def note(state: State, post: WorldPost, *, is_own: bool) -> dict[str, Any]:
        seen = state.world.counters(post, state.now())
        stats = {"likes": seen["reactions"], "replies": seen["comments"], "passes": seen["shares"]}
        if is_own:
            stats |= {"shown": seen["impressions"], "taps": seen["link_clicks"]}
        return {
            "no": post.id, "t": int(post.published_at.timestamp()), "body": post.text, "sort": SORT[post.format],
            "stats": stats,
        }  # fmt: skip

    def endpoint(handler: Any, *, needs_owner: bool) -> Any:
        async def answer(request: Request) -> Response:
            async def go() -> Response:
                state = state_of(request)
                left, wait = wait_before_next(request, "brevi")
                if wait:
                    when = format_datetime(datetime.now(tz=UTC) + timedelta(seconds=int(wait) + 1), usegmt=True)
                    return refuse(429, "too_fast", {"Retry-After": when})
                grant = None if state.fault("brevi", "revoked") else state.owner_of("brevi", bearer(request))
                if needs_owner and grant is None:
                    return refuse(401, "who_are_you")
                if grant is None and request.query_params.get("app") not in CLIENTS:
                    return refuse(401, "who_are_you")
                result = await handler(request, state, grant)
                if isinstance(result, Response):
                    return result
                return JSONResponse({"ok": True, **result, "limits": {"left": left}})

            return await with_faults("brevi", request, go)

        return answer

    def owned(state: State, grant: dict[str, Any], name: str) -> Account | None:
        account = state.world.account("brevi", name)
        return account if account and account.owner == grant["owner"] else None

    async def mine(request: Request, state: State, grant: dict[str, Any]) -> Any:
        found = [a for a in state.world.accounts.values() if a.network == "brevi" and a.owner == grant["owner"]]
        return {"accounts": [describe(state, a) for a in found]}

    async def show(request: Request, state: State, grant: Any) -> Any:
        account = state.world.account("brevi", request.query_params.get("name", ""))
        return {"account": describe(state, account)} if account else refuse(404, "nobody_by_that_name")

    async def listing(request: Request, state: State, grant: Any) -> Any:
        account = state.world.account("brevi", request.query_params.get("name", ""))
        if account is None:
            return refuse(404, "nobody_by_that_name")
        try:
            page = max(1, int(request.query_params.get("page", "1")))
            per = min(100, max(1, int(request.query_params.get("per", "40"))))
        except ValueError:
            return refuse(400, "bad_page")
        posts = state.posts(account.key)
        start = (page - 1) * per
        if page > 1 and state.fault("brevi", "duplicate_page"):
            start -= 3
        is_own = grant is not None and grant["owner"] == account.owner
        part = posts[start : (page - 1) * per + per]
        pages = -(-len(posts) // per)
        return {
            "page": page, "pages": pages, "now": int(state.now().timestamp()),
            "items": [note(state, p, is_own=is_own) for p in part],
        }  # fmt: skip

    async def days(request: Request, state: State, grant: dict[str, Any]) -> Any:
        account = owned(state, grant, request.query_params.get("name", ""))
        if account is None:
            return refuse(403, "not_yours")
        today = state.now().date()
        since = max(
            datetime.fromtimestamp(int(request.query_params.get("since", "0")), tz=UTC).date(), state.world.begins
        )
        rows = []
        for i in range((today - since).days + 1):
            day = since + timedelta(days=i)
            gained, lost = state.world.followers_moved(account.key, day)
            start = int(datetime(day.year, day.month, day.day, tzinfo=UTC).timestamp())
            rows.append([start, state.world.followers(account.key, day), gained, lost])
        return {"days": rows}

    async def online(request: Request, state: State, grant: dict[str, Any]) -> Any:
        account = owned(state, grant, request.query_params.get("name", ""))
        if account is None:
            return refuse(403, "not_yours")
        curve = state.world.activity(account.key, state.now().date()) * state.world.followers(
            account.key, state.now().date()
        )
        return {"hours_utc": [round(v) for v in curve], "places": account.zones}

    async def send(request: Request, state: State, grant: dict[str, Any]) -> Any:
        form = dict(await request.form())
        account = owned(state, grant, str(form.get("name", "")))
        if account is None:
            return refuse(403, "not_yours")
        if "write" not in grant["scope"].split():
            return refuse(403, "scope")
        body = str(form.get("body", ""))
        if not body.strip() or length_of(body) > LONGEST:
            return refuse(422, "body_length")
        if not form.get("client_token"):
            return refuse(400, "client_token")
        kind = "link" if "http" in body else "text"
        post, is_new = state.send(account.key, text=body, format=kind, idempotency_key=str(form["client_token"]))
        return {"note": note(state, post, is_own=True), "again": not is_new}

    api = "/brevi/api"
    return [
        *oauth_routes("brevi", "Brevi"),
        Route(f"{api}/account.mine", endpoint(mine, needs_owner=True)),
        Route(f"{api}/account.show", endpoint(show, needs_owner=False)),
        Route(f"{api}/account.list", endpoint(listing, needs_owner=False)),
        Route(f"{api}/account.days", endpoint(days, needs_owner=True)),
        Route(f"{api}/account.presence", endpoint(online, needs_owner=True)),
        Route(f"{api}/note.send", endpoint(send, needs_owner=True), methods=["POST"]),
    ]
