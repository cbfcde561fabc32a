"""Corkboard's API: JSON:API documents, whole addresses for the next page, local times with their offset."""

from datetime import date, datetime, timedelta, timezone
from typing import Any
from urllib.parse import urlencode

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import Grant, NetworkApi
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost, seed_of
from dakika_standins.world.scenario import Account

WORDS = {"impressions": "glances", "saves": "pins", "link_clicks": "outbound", "comments": "comments"}
BOARDS = ("From the workshop", "Night sky", "The house", "Made by hand")
OFFSET = timezone(timedelta(hours=-3))
MOST_AT_ONCE = 50
MEDIA = "application/vnd.api+json"


def local(at: datetime) -> str:
    """An instant in Corkboard's own zone, ISO 8601 with its offset."""
    return at.astimezone(OFFSET).isoformat()


class Corkboard(NetworkApi):
    """Boards."""

    key, name, calls_per_minute = "corkboard", "Corkboard", 120
    takes = ("image/",)

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """Error objects of JSON:API."""
        body = {"errors": [{"status": str(status), "title": reason, "detail": detail}]}
        return JSONResponse(body, status_code=status, headers=headers, media_type=MEDIA)

    def answer(self, result: Any, left: int) -> Response:
        """A document, with what is left in its meta."""
        meta = {**result.pop("meta", {}), "calls_left": left}
        return JSONResponse({**result, "meta": meta, "jsonapi": {"version": "1.1"}}, media_type=MEDIA)

    def application(self, request: Request) -> str:
        """The application stands in the query."""
        return request.query_params.get("application", "")

    # -- shapes

    def account_resource(self, state: State, account: Account) -> dict[str, Any]:
        """An account as a resource."""
        now = state.now()
        attributes = {
            "name": account.handle, "title": account.name, "image": f"/pictures/{account.key}.svg",
            "followers": state.world.followers(account.key, now.date()), "pins": len(state.posts(account.key)),
        }  # fmt: skip
        return {"type": "accounts", "id": f"cb-{account.handle}", "attributes": attributes}

    def account_id(self, account: Account) -> str:
        """Identifier of an account."""
        return f"cb-{account.handle}"

    def pin(self, state: State, post: WorldPost, *, is_own: bool) -> dict[str, Any]:
        """A pin as a resource; its board is related."""
        handle = state.world.accounts[post.account].handle
        board = BOARDS[seed_of("board", post.id) % len(BOARDS)]
        attributes = {
            "title": post.text[:60], "text": post.text, "pinned": local(post.published_at),
            "image": picture_of(post),
            "page": f"https://corkboard.example/{handle}/pins/{post.id}",
            "figures": self.counts(state, post, WORDS, is_own=is_own),
        }  # fmt: skip
        related = {"board": {"data": {"type": "boards", "id": board}}}
        return {"type": "pins", "id": post.id, "attributes": attributes, "relationships": related}

    # -- handlers

    async def accounts_list(self, request: Request, state: State, grant: Grant | None) -> Any:
        """One's own accounts, or anybody's by filter[like]."""
        text = request.query_params.get("filter[like]")
        if text is None and grant is None:
            return self.refuse(401, "Not authorised")
        found = self.like(state, text) if text is not None or grant is None else self.accounts(state, grant["owner"])
        return {"data": [self.account_resource(state, a) for a in found], "meta": {"at": local(state.now())}}

    async def account_one(self, request: Request, state: State, grant: Grant | None) -> Any:
        """An account."""
        account = self.public(state, request.path_params["account"])
        if account is None:
            return self.refuse(404, "No such account")
        return {"data": self.account_resource(state, account), "meta": {"at": local(state.now())}}

    async def pins(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Pins of an account; links.next is the whole address of the next page."""
        account = self.public(state, request.path_params["account"])
        if account is None:
            return self.refuse(404, "No such account")
        number = max(1, int(request.query_params.get("page[number]", "1")))
        size = min(50, max(1, int(request.query_params.get("page[size]", "25"))))
        posts = state.posts(account.key)
        is_own = grant is not None and grant["owner"] == account.owner
        part = self.part(state, posts, (number - 1) * size, size)
        query = {**request.query_params, "page[number]": number + 1, "page[size]": size}
        following = f"{request.url.path}?{urlencode(query)}" if number * size < len(posts) else None
        return {
            "data": [self.pin(state, p, is_own=is_own) for p in part], "links": {"next": following},
            "meta": {"at": local(state.now())},
        }  # fmt: skip

    async def images(self, request: Request, state: State, grant: Grant) -> Any:
        """Bring a picture for a pin."""
        taken = await self.take_in(request, state, grant)
        return taken if isinstance(taken, Response) else {"data": {"type": "images", "id": taken}}

    async def boards(self, request: Request, state: State, grant: Grant) -> Any:
        """The boards of an account."""
        if self.own(state, grant, request.path_params["account"]) is None:
            return self.refuse(403, "Not yours")
        return {"data": [{"type": "boards", "id": name, "attributes": {"name": name}} for name in BOARDS]}

    async def pin_up(self, request: Request, state: State, grant: Grant) -> Any:
        """Put a pin up, once per its own word: a picture, a title and a board are required."""
        given = dict((await request.json()).get("data", {}).get("attributes", {}))
        account = self.own(state, grant, request.path_params["account"])
        if account is None or "pins.write" not in grant["scope"].split():
            return self.refuse(403, "Not yours, or not allowed")
        shown = state.uploaded("corkboard", grant["owner"], [str(given.get("image"))])
        title, text, once = (str(given.get(name, "")) for name in ("title", "text", "once"))
        if not shown or not once or not 0 < len(title) <= 100 or len(text) > 500 or given.get("board") not in BOARDS:
            return self.refuse(422, "Picture, title, board or once", f"boards are {', '.join(BOARDS)}")
        words = f"{title}. {text}".strip() if text else title
        post, _ = state.send(account.key, text=words, format="image", idempotency_key=once)
        return {"data": self.pin(state, post, is_own=True), "meta": {"at": local(state.now())}}

    async def many(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Pins by filter[id]."""
        wanted = request.query_params.get("filter[id]", "").split(",")[:MOST_AT_ONCE]
        owner = grant["owner"] if grant else None
        found = [self.any_post(state, i) for i in wanted]
        return {
            "data": [self.pin(state, p, is_own=state.world.accounts[p.account].owner == owner) for p in found if p],
            "meta": {"at": local(state.now())},
        }

    async def followers(self, request: Request, state: State, grant: Grant) -> Any:
        """Followers by day."""
        account = self.own(state, grant, request.path_params["account"])
        if account is None:
            return self.refuse(403, "Not yours")
        since = date.fromisoformat(request.query_params.get("filter[since]", str(state.now().date())))
        return {
            "data": [
                {"type": "follower-days", "id": str(day), "attributes": {"followers": n, "came": came, "went": went}}
                for day, n, came, went in self.follower_days(state, account, since)
            ]
        }

    async def people(self, request: Request, state: State, grant: Grant) -> Any:
        """Who follows."""
        account = self.own(state, grant, request.path_params["account"])
        if account is None:
            return self.refuse(403, "Not yours")
        made = state.world.audience(account.key, state.now().date())
        return {"data": [{"type": "make-ups", "id": k, "attributes": made[k]} for k in ("age", "gender", "country")]}

    async def comments_of(self, request: Request, state: State, grant: Grant) -> Any:
        """Comments on a pin."""
        post = self.own_post(state, grant, request.path_params["pin"])
        if post is None:
            return self.refuse(404, "No such pin")
        return {
            "data": [
                {"type": "comments", "id": c.id, "attributes": {"author": c.author, "text": c.text, "at": local(c.at)}}
                for c in state.comments(post)
            ]
        }


def corkboard_routes() -> list[Route]:
    """All of Corkboard."""
    api = Corkboard()
    return [
        *oauth_routes("corkboard", "Corkboard"),
        api.route("/api/accounts", api.accounts_list, is_public=True),
        api.route("/api/pins", api.many, is_public=True),
        api.route("/api/pins/{pin}/comments", api.comments_of),
        api.route("/api/accounts/{account}", api.account_one, is_public=True),
        api.route("/api/accounts/{account}/pins", api.pins, is_public=True),
        api.route("/api/images", api.images, methods=["POST"]),
        api.route("/api/accounts/{account}/boards", api.boards),
        api.route("/api/accounts/{account}/new-pins", api.pin_up, methods=["POST"]),
        api.route("/api/accounts/{account}/follower-days", api.followers),
        api.route("/api/accounts/{account}/make-ups", api.people),
    ]
