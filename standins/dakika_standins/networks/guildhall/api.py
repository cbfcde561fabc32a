"""Guildhall's API: pages by Link header (RFC 8288), milliseconds, tag URIs (RFC 4151), figures asked for apart, plain-text errors."""

from datetime import datetime, timedelta
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, PlainTextResponse, Response
from starlette.routing import Route

from dakika_standins.http import Grant, NetworkApi
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

WORDS = {
    "impressions": "timesShown", "reach": "membersReached", "reactions": "nods", "comments": "replies",
    "shares": "relays", "link_clicks": "opened",
}  # fmt: skip
PER_PAGE, MOST_AT_ONCE, LONGEST = 40, 100, 3000
_TAG = "tag:guildhall.example,2026:"


def milliseconds(at: datetime) -> int:
    """An instant as Guildhall writes it."""
    return int(at.timestamp() * 1000)


class Guildhall(NetworkApi):
    """Working life."""

    key, name, calls_per_minute = "guildhall", "Guildhall", 200
    takes = ("image/", "video/", "application/pdf")

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """One line of text, and the kind in a header."""
        return PlainTextResponse(
            f"{reason}. {detail}".strip(), status, {"Guildhall-Problem": reason, **(headers or {})}
        )

    def application(self, request: Request) -> str:
        """The application names itself in a header."""
        return request.headers.get("guildhall-application", "")

    def account_id(self, account: Account) -> str:
        """Tag URI of an organisation."""
        return f"{_TAG}organisation/{account.handle}"

    # -- shapes

    def organisation(self, state: State, account: Account) -> dict[str, Any]:
        """An organisation as shown."""
        now = state.now()
        return {
            "id": self.account_id(account), "slug": account.handle, "name": account.name, "logo": f"/pictures/{account.key}.svg",
            "followerTotal": state.world.followers(account.key, now.date()), "asOf": milliseconds(now),
        }  # fmt: skip

    def update(self, post: WorldPost, account: Account) -> dict[str, Any]:
        """An update without its figures."""
        return {
            "id": f"{_TAG}update/{post.id}", "publishedAt": milliseconds(post.published_at), "commentary": post.text,
            "contents": {"text": "words", "link": "article", "image": "image"}[post.format],
            "page": f"https://guildhall.example/organisations/{account.handle}/updates/{post.id}",
            "locale": {"en": "en_GB", "pt": "pt_PT", "el": "el_GR"}[post.language], "sponsored": post.is_boosted,
            "media": picture_of(post),
        }  # fmt: skip

    # -- handlers

    async def organisations(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Those that one administers, or anybody's by a part of the name."""
        if "named" in request.query_params:
            return {
                "organisations": [self.organisation(state, a) for a in self.like(state, request.query_params["named"])]
            }
        if grant is None:
            return self.refuse(401, "unauthorised")
        return {"organisations": [self.organisation(state, a) for a in self.accounts(state, grant["owner"])]}

    async def one(self, request: Request, state: State, grant: Grant | None) -> Any:
        """An organisation."""
        account = self.public(state, request.path_params["slug"])
        return self.organisation(state, account) if account else self.refuse(404, "no-such-organisation")

    async def updates(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Updates by page; the next page's address stands in the Link header. POST publishes once per Request-Id."""
        account = self.public(state, request.path_params["slug"])
        if account is None:
            return self.refuse(404, "no-such-organisation")
        if request.method == "POST":
            return await self.publish(request, state, grant, account)
        page = max(0, int(request.query_params.get("page", "0")))
        posts = state.posts(account.key)
        part = self.part(state, posts, page * PER_PAGE, PER_PAGE)
        headers = {"X-Calls-Left": "-"}
        if (page + 1) * PER_PAGE < len(posts):
            headers["Link"] = f'</guildhall/rest/organisations/{account.handle}/updates?page={page + 1}>; rel="next"'
        body = {"asOf": milliseconds(state.now()), "updates": [self.update(p, account) for p in part]}
        return JSONResponse(body, headers=headers)

    async def publish(self, request: Request, state: State, grant: Grant | None, account: Account) -> Any:
        """Publish an update of words."""
        if grant is None or account.owner != grant["owner"] or "org.write" not in grant["scope"].split():
            return self.refuse(403, "not-yours")
        asked = await request.json()
        text = str(asked.get("commentary", ""))
        attached = state.uploaded("guildhall", grant["owner"], [str(one) for one in asked.get("assets", [])])
        if attached is None:
            return self.refuse(422, "assets")
        key = request.headers.get("request-id", "")
        if not key or not text.strip() or len(text) > LONGEST:
            return self.refuse(422, "commentary-or-request-id")
        if not self.is_card(state, grant, asked.get("card"), ("heading", "abstract"), "asset"):
            return self.refuse(422, "card")
        countries = [str(one.get("code")) for one in asked.get("targets", []) if one.get("kind") == "country"]
        if not self.is_audience(countries):
            return self.refuse(422, "targets")
        kind = self.format_of(attached, text)
        post, is_new = state.send(
            account.key, text=text, format=kind, idempotency_key=key, card=asked.get("card"), countries=countries,
        )  # fmt: skip
        return JSONResponse(self.update(post, account), status_code=201 if is_new else 200)

    async def assets(self, request: Request, state: State, grant: Grant) -> Any:
        """Bring a picture, video or document for an update."""
        account = self.public(state, request.path_params["slug"])
        if account is None or account.owner != grant["owner"]:
            return self.refuse(404, "no-such-organisation")
        taken = await self.take_in(request, state, grant)
        return taken if isinstance(taken, Response) else JSONResponse({"asset": taken}, status_code=201)

    async def figures(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Figures of updates by identifier: all to their owner, what everybody sees to others."""
        wanted = list((await request.json()).get("ids", []))
        if not 0 < len(wanted) <= MOST_AT_ONCE:
            return self.refuse(400, "too-many-or-none", f"1 to {MOST_AT_ONCE}")
        found = {}
        for identifier in map(str, wanted):
            post = self.any_post(state, identifier.rpartition("/")[2])
            if post:
                is_own = grant is not None and state.world.accounts[post.account].owner == grant["owner"]
                found[identifier] = self.counts(state, post, WORDS, is_own=is_own)
        return {"asOf": milliseconds(state.now()), "figures": found}

    async def followers(self, request: Request, state: State, grant: Grant) -> Any:
        """Follower changes of the last so many days."""
        account = self.own(state, grant, request.path_params["slug"])
        if account is None:
            return self.refuse(403, "not-yours")
        today = state.now().date()
        days = min(int(request.query_params.get("days", "30")), (today - state.world.begins).days)
        rows = []
        for day, total, gained, lost in self.follower_days(state, account, today - timedelta(days=days)):
            start = datetime(day.year, day.month, day.day, tzinfo=state.now().tzinfo)
            rows.append({"day": milliseconds(start), "total": total, "change": [gained, lost]})
        return {"days": rows}

    async def audience(self, request: Request, state: State, grant: Grant) -> Any:
        """Shares by country, city and how followers came."""
        account = self.own(state, grant, request.path_params["slug"])
        if account is None:
            return self.refuse(403, "not-yours")
        made = state.world.audience(account.key, state.now().date())
        return {"shares": {k: made[k] for k in ("country", "city", "source")}}

    async def replies(self, request: Request, state: State, grant: Grant) -> Any:
        """Replies to an update."""
        post = self.own_post(state, grant, request.path_params["update"])
        if post is None:
            return self.refuse(404, "no-such-update")
        return {
            "replies": [
                {"id": c.id, "member": c.author, "text": c.text, "at": milliseconds(c.at)} for c in state.comments(post)
            ]
        }

    async def reply_first(self, request: Request, state: State, grant: Grant) -> Any:
        """Reply under an update of one's own, once per Request-Id."""
        post = self.own_post(state, grant, request.path_params["update"])
        text, once = str((await request.json()).get("text", "")), request.headers.get("request-id", "")
        if post is None:
            return self.refuse(404, "no-such-update")
        if not text.strip() or not once or state.fault(self.key, "no_remarks"):
            return self.refuse(422, "text-or-request-id")
        return {"id": state.say_first(post, text, once)}


def guildhall_routes() -> list[Route]:
    """All of Guildhall."""
    api = Guildhall()
    organisation = "/rest/organisations/{slug}"
    return [
        *oauth_routes("guildhall", "Guildhall"),
        api.route("/rest/organisations", api.organisations, is_public=True),
        api.route("/rest/figures", api.figures, is_public=True, methods=["POST"]),
        api.route("/rest/updates/{update}/replies", api.replies),
        api.route("/rest/updates/{update}/replies", api.reply_first, methods=["POST"]),
        api.route(organisation, api.one, is_public=True),
        api.route(f"{organisation}/updates", api.updates, is_public=True, methods=["GET", "POST"]),
        api.route(f"{organisation}/assets", api.assets, methods=["POST"]),
        api.route(f"{organisation}/followers", api.followers),
        api.route(f"{organisation}/audience", api.audience),
    ]
