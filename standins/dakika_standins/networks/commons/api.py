"""Commons' API: resources, cursor paging, ISO 8601, problem documents (RFC 9457), Idempotency-Key."""

import base64
from datetime import date, datetime, timedelta
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import bearer, state_of, wait_before_next, with_faults
from dakika_standins.networks.oauth import CLIENTS, oauth_routes
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

KIND = {"text": "note", "link": "link", "image": "photo", "album": "album", "short_video": "clip", "long_video": "film"}
LONGEST = 5000


def problem(status: int, title: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
    """An RFC 9457 problem document."""
    body = {"type": "about:blank", "title": title, "status": status, "detail": detail}
    return JSONResponse(body, status_code=status, headers=headers, media_type="application/problem+json")


def as_of(now: datetime) -> datetime:
    """Insights are made up every five minutes."""
    return now.replace(minute=now.minute // 5 * 5, second=0, microsecond=0)


def page_id(account: Account) -> str:
    """Identifier of a page."""
    return f"pg-{account.handle}"


def insight(state: State, post: WorldPost) -> dict[str, Any]:
    """A post's figures in Commons' words."""
    # A post is up at once; its counters speak from the last five minutes' mark on, or from now when younger.
    made = max(as_of(state.now()), min(post.published_at + timedelta(seconds=1), state.now()))
    seen = state.world.counters(post, made)
    if state.fault("commons", "corrected"):
        seen = {name: round(value * 0.97) for name, value in seen.items()}
    return {
        "views": seen["impressions"], "people": seen["reach"],
        "feelings": {"like": round(seen["reactions"] * 0.8), "wonder": seen["reactions"] - round(seen["reactions"] * 0.8)},
        "answers": seen["comments"], "forwards": seen["shares"], "link_taps": seen["link_clicks"],
        "hides": seen["negative"],
    }  # fmt: skip


class Commons:
    """The handlers; each is given the page that the caller may see."""

    def page(self, state: State, account: Account) -> dict[str, Any]:
        """A page as shown."""
        now = state.now()
        return {
            "id": page_id(account), "name": account.name, "handle": account.handle,
            "kind": "personal" if account.is_personal else "page",
            "followers_count": state.world.followers(account.key, now.date()), "following_count": 120,
            "posts_count": len(state.posts(account.key)), "picture": f"/pictures/{account.key}.svg",
            "as_of": now.isoformat(),
        }  # fmt: skip

    def post(self, account: Account, post: WorldPost) -> dict[str, Any]:
        """A post as shown, without figures."""
        return {
            "id": post.id, "created_at": post.published_at.isoformat(), "message": post.text, "kind": KIND[post.format],
            "permalink": f"https://commons.example/{account.handle}/{post.id}",
        }  # fmt: skip

    def listing(self, request: Request, account: Account, *, is_public: bool) -> Response:
        """A part of a page's posts, from the cursor on."""
        state = state_of(request)
        try:
            limit = min(int(request.query_params.get("limit", "25")), 50)
            after = int(base64.urlsafe_b64decode(request.query_params.get("after", "") or b"MA=="))
        except ValueError:
            return problem(400, "Bad cursor")
        posts = state.posts(account.key)
        start = max(0, after - 5) if after and state.fault("commons", "duplicate_page") else after
        part = posts[start : after + limit]
        data = []
        for post in part:
            entry = self.post(account, post)
            if is_public:
                seen = insight(state, post)
                entry["counts"] = {k: seen[k] for k in ("feelings", "answers", "forwards")}
            data.append(entry)
        following = (
            base64.urlsafe_b64encode(str(after + limit).encode()).decode() if after + limit < len(posts) else None
        )
        return JSONResponse({"data": data, "paging": {"after": following}, "as_of": as_of(state.now()).isoformat()})


def commons_routes() -> list[Route]:
    """All of Commons."""
    api = Commons()

    def endpoint(handler: Any, *, is_public: bool = False) -> Any:
        async def answer(request: Request) -> Response:
            async def go() -> Response:
                state = state_of(request)
                left, wait = wait_before_next(request, "commons")
                if wait:
                    return problem(429, "Too many requests", headers={"Retry-After": str(int(wait) + 1)})
                if is_public:
                    if request.headers.get("x-app-id") not in CLIENTS:
                        return problem(401, "Unknown application")
                    response: Response = await handler(request, state, None)
                else:
                    grant = state.owner_of("commons", bearer(request))
                    if grant is None or state.fault("commons", "revoked"):
                        return problem(401, "Token is not valid", "Renew the authorisation.")
                    response = await handler(request, state, grant)
                response.headers["X-Calls-Left"] = str(left)
                return response

            return await with_faults("commons", request, go)

        return answer

    def mine(state: State, grant: dict[str, Any], request: Request) -> Account | None:
        wanted = request.path_params["page"]
        return next(
            (a for a in state.world.accounts.values()
             if a.network == "commons" and a.owner == grant["owner"] and page_id(a) == wanted),
            None,
        )  # fmt: skip

    async def pages(request: Request, state: State, grant: dict[str, Any]) -> Response:
        found = [a for a in state.world.accounts.values() if a.network == "commons" and a.owner == grant["owner"]]
        return JSONResponse({"data": [api.page(state, a) for a in found]})

    async def page(request: Request, state: State, grant: dict[str, Any]) -> Response:
        account = mine(state, grant, request)
        return JSONResponse(api.page(state, account)) if account else problem(404, "No such page")

    async def posts(request: Request, state: State, grant: dict[str, Any]) -> Response:
        account = mine(state, grant, request)
        if account is None:
            return problem(404, "No such page")
        if request.method == "GET":
            return api.listing(request, account, is_public=False)
        if "publish" not in grant["scope"].split():
            return problem(403, "Scope is missing", "publish")
        body = await request.json()
        text = str(body.get("message", ""))
        if not text.strip() or len(text) > LONGEST:
            return problem(422, "Message is empty or too long", f"1 to {LONGEST} characters")
        key = request.headers.get("idempotency-key", "")
        if not key:
            return problem(400, "Idempotency-Key is required")
        kind = "link" if "http" in text else "text"
        post, is_new = state.send(account.key, text=text, format=kind, idempotency_key=key)
        return JSONResponse(api.post(account, post), status_code=201 if is_new else 200)

    async def insights(request: Request, state: State, grant: dict[str, Any]) -> Response:
        wanted = [p for p in request.query_params.get("posts", "").split(",") if p]
        if not 0 < len(wanted) <= 50:
            return problem(400, "Ask for 1 to 50 posts")
        owned = {
            p.id: p
            for a in state.world.accounts.values()
            if a.network == "commons" and a.owner == grant["owner"]
            for p in state.posts(a.key)
        }
        data = {i: insight(state, owned[i]) for i in wanted if i in owned}
        return JSONResponse({"as_of": as_of(state.now()).isoformat(), "data": data})

    async def daily(request: Request, state: State, grant: dict[str, Any]) -> Response:
        account = mine(state, grant, request)
        if account is None:
            return problem(404, "No such page")
        today = state.now().date()
        since = max(date.fromisoformat(request.query_params.get("since", str(today))), state.world.begins)
        days = [since + timedelta(days=i) for i in range((today - since).days + 1)]
        rows = []
        for day in days:
            gained, lost = state.world.followers_moved(account.key, day)
            rows.append(
                {"day": str(day), "total": state.world.followers(account.key, day), "new": gained, "gone": lost}
            )
        return JSONResponse({"data": rows})

    async def online(request: Request, state: State, grant: dict[str, Any]) -> Response:
        account = mine(state, grant, request)
        if account is None:
            return problem(404, "No such page")
        curve = state.world.activity(account.key, state.now().date()) * state.world.followers(
            account.key, state.now().date()
        )
        return JSONResponse({"zone": "UTC", "hours": [round(v) for v in curve], "zones": account.zones})

    async def directory(request: Request, state: State, grant: None) -> Response:
        account = state.world.account("commons", request.path_params["handle"])
        if account is None or account.is_personal:
            return problem(404, "No such page")
        return JSONResponse(api.page(state, account))

    async def directory_posts(request: Request, state: State, grant: None) -> Response:
        account = state.world.account("commons", request.path_params["handle"])
        if account is None or account.is_personal:
            return problem(404, "No such page")
        return api.listing(request, account, is_public=True)

    v1 = "/commons/v1"
    return [
        *oauth_routes("commons", "Commons"),
        Route(f"{v1}/me/pages", endpoint(pages)),
        Route(f"{v1}/insights", endpoint(insights)),
        Route(f"{v1}/pages/{{page}}", endpoint(page)),
        Route(f"{v1}/pages/{{page}}/posts", endpoint(posts), methods=["GET", "POST"]),
        Route(f"{v1}/pages/{{page}}/followers/daily", endpoint(daily)),
        Route(f"{v1}/pages/{{page}}/presence", endpoint(online)),
        Route(f"{v1}/directory/{{handle}}", endpoint(directory, is_public=True)),
        Route(f"{v1}/directory/{{handle}}/posts", endpoint(directory_posts, is_public=True)),
    ]
