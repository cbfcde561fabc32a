"""Vignette's API: one address, JSON-RPC 2.0, a cursor that is an instant, errors as JSON-RPC has them."""

from datetime import UTC, datetime
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import Grant, NetworkApi
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

WORDS = {
    "video_views": "plays", "reach": "watchers", "reactions": "claps", "comments": "notes", "shares": "sends",
    "video_seconds": "seconds", "video_completions": "to_the_end",
}  # fmt: skip
PER_PAGE, MOST_AT_ONCE = 40, 60
CODES = {401: -32001, 403: -32003, 404: -32004, 429: -32029}


class NoSuch(Exception):
    """Nothing of that name."""


class Vignette(NetworkApi):
    """Short vertical video."""

    key, name, calls_per_minute = "vignette", "Vignette", 240
    takes = ("video/",)

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """An error object; only limits, and what is still worked on, are told by the status too."""
        error = {"code": CODES.get(status, -32602), "message": reason, "data": detail}
        shown = status if status in (401, 429, 503) else 200
        return JSONResponse({"jsonrpc": "2.0", "id": None, "error": error}, shown, headers)

    def application(self, request: Request) -> str:
        """The application names itself in a header."""
        return request.headers.get("x-client", "")

    # -- shapes

    def account_shape(self, state: State, account: Account) -> dict[str, Any]:
        """An account as shown."""
        now = state.now()
        return {
            "id": f"v-{account.handle}", "at_name": account.handle, "title": account.name, "business": not account.is_personal,
            "followers": state.world.followers(account.key, now.date()), "clips": len(state.posts(account.key)),
            "face": f"/pictures/{account.key}.svg",
        }  # fmt: skip

    def account_id(self, account: Account) -> str:
        """Identifier of an account."""
        return f"v-{account.handle}"

    def clip(self, state: State, post: WorldPost, *, is_own: bool) -> dict[str, Any]:
        """A clip with its figures."""
        handle = state.world.accounts[post.account].handle
        return {
            "id": post.id, "up_since": str(int(post.published_at.timestamp())), "words": post.text,
            "cover": picture_of(post),
            "at": f"https://vignette.example/@{handle}/{post.id}", "figures": self.counts(state, post, WORDS, is_own=is_own),
        }  # fmt: skip

    # -- methods

    async def call(self, request: Request, state: State, grant: Grant | None) -> Any:
        """One call of JSON-RPC 2.0."""
        body = await request.json()
        method = getattr(self, "do_" + str(body.get("method", "")).replace(".", "_"), None)
        if method is None:
            return self.refuse(400, "Method not found", str(body.get("method")))
        try:
            result = method(state, grant, dict(body.get("params") or {}))
        except NoSuch as error:
            return self.refuse(404, "Nothing of that name", str(error))
        return {"jsonrpc": "2.0", "id": body.get("id"), "result": {**result, "clock": int(state.now().timestamp())}}

    def do_accounts_mine(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Accounts of the authorisation's owner."""
        if grant is None:
            raise NoSuch("authorisation")
        return {"accounts": [self.account_shape(state, a) for a in self.accounts(state, grant["owner"])]}

    def do_accounts_get(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """An account."""
        return {"account": self.account_shape(state, self._anybody(state, params))}

    def do_accounts_find(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Accounts by a part of their name."""
        return {"accounts": [self.account_shape(state, a) for a in self.like(state, str(params.get("like", "")))]}

    async def slots(self, request: Request, state: State, grant: Grant) -> Any:
        """Bring the bytes of a clip, or the address where they can be fetched; this one address is no call."""
        if request.headers.get("content-type", "").startswith("application/json"):
            taken = await self.take_from(str((await request.json()).get("fetch", "")), state, grant)
        else:
            taken = await self.take_in(request, state, grant)
        return taken if isinstance(taken, Response) else {"slot": taken}

    def do_clips_publish(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Put a clip up, once per its own word."""
        account = self.own(state, grant, str(params.get("account", ""))) if grant else None
        if account is None or grant is None or "clips:write" not in grant["scope"].split():
            raise NoSuch("account of yours")
        words, once = str(params.get("words", "")), str(params.get("once", ""))
        shown = state.uploaded("vignette", grant["owner"], [str(params.get("slot"))])
        if not shown or not shown[0].startswith("video/"):
            raise NoSuch("slot with a video")
        if not once or len(words) > 2000:
            raise NoSuch("words that are not too long, said once")
        post, _ = state.send(account.key, text=words, format="short_video", idempotency_key=once)
        return {"clip": self.clip(state, post, is_own=True)}

    def do_clips_list(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Clips that were up before an instant, newest first."""
        account = self._anybody(state, params)
        before = int(params.get("before") or 2**40)
        posts = state.posts(account.key)
        older = [p for p in posts if int(p.published_at.timestamp()) < before]
        start = len(posts) - len(older)
        part = self.part(state, posts, start, PER_PAGE)
        is_own = grant is not None and grant["owner"] == account.owner
        more = int(part[-1].published_at.timestamp()) if part and start + PER_PAGE < len(posts) else None
        return {"clips": [self.clip(state, p, is_own=is_own) for p in part], "before": more}

    def do_clips_get(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Clips by identifier."""
        found = [self.any_post(state, str(i)) for i in list(params.get("ids", []))[:MOST_AT_ONCE]]
        owner = grant["owner"] if grant else None
        return {
            "clips": [self.clip(state, p, is_own=state.world.accounts[p.account].owner == owner) for p in found if p]
        }

    def do_followers_days(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Followers by day, as columns."""
        account = self._own(state, grant, params)
        since = datetime.fromtimestamp(int(params.get("since", 0)), tz=UTC).date()
        day, total, came, went = zip(*self.follower_days(state, account, since), strict=True)
        return {"day": list(map(str, day)), "total": total, "came": came, "went": went}

    def do_followers_hours(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Who is there by hour of the UTC week."""
        account = self._own(state, grant, params)
        return {"hours": self.online_hours(state, account), "zones": [[z, s] for z, s in account.zones.items()]}

    def do_followers_people(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Who follows, as rows."""
        made = state.world.audience(self._own(state, grant, params).key, state.now().date())
        return {"rows": [[k, name, share] for k in ("age", "gender", "country") for name, share in made[k].items()]}

    def do_notes_list(self, state: State, grant: Grant | None, params: dict[str, Any]) -> dict[str, Any]:
        """Notes under a clip."""
        post = self.own_post(state, grant, str(params.get("clip"))) if grant else None
        if post is None:
            raise NoSuch("clip")
        rows = [
            {"id": c.id, "who": c.author, "words": c.text, "when": int(c.at.timestamp())} for c in state.comments(post)
        ]
        return {"notes": rows}

    def _anybody(self, state: State, params: dict[str, Any]) -> Account:
        found = self.public(state, str(params.get("account", "")))
        if found is None:
            raise NoSuch("account")
        return found

    def _own(self, state: State, grant: Grant | None, params: dict[str, Any]) -> Account:
        found = self.own(state, grant, str(params.get("account", ""))) if grant else None
        if found is None:
            raise NoSuch("account")
        return found


def vignette_routes() -> list[Route]:
    """All of Vignette."""
    api = Vignette()
    return [
        *oauth_routes("vignette", "Vignette"),
        api.route("/rpc", api.call, is_public=True, methods=["POST"]),
        api.route("/slots", api.slots, methods=["POST"]),
    ]
