"""Commons' API: resources, cursor paging, ISO 8601, problem documents (RFC 9457), Idempotency-Key, webhooks."""

import base64
from datetime import date, datetime, timedelta
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins import boosts
from dakika_standins.http import Grant, NetworkApi
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.hashtags import figures_of
from dakika_standins.world.model import WorldPost, kinds_of_reactions
from dakika_standins.world.scenario import Account

KIND = {"text": "note", "link": "link", "image": "photo", "album": "album", "short_video": "clip", "long_video": "film"}
LONGEST = 5000
MOST_ATTACHED = 10
MOST_AT_ONCE = 50
PLACES = {"orrery": ("Orrery House", "The roof terrace", "The old harbour clock"), "lantern": ("Quay 4", "On board")}


def as_of(now: datetime) -> datetime:
    """Insights are made up every five minutes."""
    return now.replace(minute=now.minute // 5 * 5, second=0, microsecond=0)


class Commons(NetworkApi):
    """Pages and feed."""

    key, name = "commons", "Commons"
    takes = ("image/", "video/")

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """An RFC 9457 problem document."""
        body = {"type": "about:blank", "title": reason, "status": status, "detail": detail}
        return JSONResponse(body, status_code=status, headers=headers, media_type="application/problem+json")

    def account_id(self, account: Account) -> str:
        """Identifier of a page."""
        return f"pg-{account.handle}"

    # -- shapes

    def page(self, state: State, account: Account) -> dict[str, Any]:
        """A page as shown."""
        now = state.now()
        return {
            "id": self.account_id(account), "name": account.name, "handle": account.handle,
            "kind": "personal" if account.is_personal else "page",
            "followers_count": state.world.followers(account.key, now.date()), "following_count": 120,
            "posts_count": len(state.posts(account.key)), "picture": f"/pictures/{account.key}.svg",
            "as_of": now.isoformat(),
        }  # fmt: skip

    def post(self, account: Account, post: WorldPost) -> dict[str, Any]:
        """A post as shown."""
        return {
            "id": post.id, "created_at": post.published_at.isoformat(), "kind": KIND[post.format], "message": post.text,
            "permalink": f"https://commons.example/{account.handle}/{post.id}", "lang": post.language,
            "picture": picture_of(post),
        }  # fmt: skip

    def insight(self, state: State, post: WorldPost) -> dict[str, Any]:
        """A post's figures in Commons' words."""
        # A post is up at once; its counters speak from the last five minutes' mark on, or from now when younger.
        made = max(as_of(state.now()), min(post.published_at + timedelta(seconds=1), state.now()))
        seen = state.counters(post, made)
        # What was paid for is among them, and told beside them as a part.
        paid = boosts.paid_of(state, post, made)
        feelings = kinds_of_reactions(post, seen["reactions"])
        part = {
            "promoted": {"views": paid["impressions"], "people": paid["reach"], "feelings": {"like": paid["reactions"]},
                         "link_taps": paid["link_clicks"]},
        } if paid else {}  # fmt: skip
        return {
            "views": seen["impressions"] + paid.get("impressions", 0), "people": seen["reach"] + paid.get("reach", 0),
            "feelings": {**feelings, "like": feelings["like"] + paid.get("reactions", 0)},
            "answers": seen["comments"], "forwards": seen["shares"],
            "link_taps": seen["link_clicks"] + paid.get("link_clicks", 0), "hides": seen["negative"], **part,
        }  # fmt: skip

    def public_counts(self, state: State, post: WorldPost) -> dict[str, int]:
        """What everybody sees of a post."""
        names = {"reactions": "feelings", "comments": "answers", "shares": "forwards"}
        return self.counts(state, post, names, is_own=False)

    def listing(self, request: Request, state: State, account: Account, *, is_public: bool) -> Any:
        """A page of posts behind a cursor."""
        try:
            limit = min(100, max(1, int(request.query_params.get("limit", "25"))))
            after = int(base64.urlsafe_b64decode(request.query_params.get("after") or "MA==").decode() or 0)
        except ValueError:
            return self.refuse(400, "Cursor is not valid")
        posts = state.posts(account.key)
        data = []
        for post in self.part(state, posts, after, limit):
            entry = self.post(account, post)
            if is_public:
                entry["counts"] = self.public_counts(state, post)
            else:
                entry["is_promoted"] = post.is_boosted or bool(boosts.paid_of(state, post))
            data.append(entry)
        has_more = after + limit < len(posts)
        cursor = base64.urlsafe_b64encode(str(after + limit).encode()).decode() if has_more else None
        return {"data": data, "paging": {"after": cursor}, "as_of": as_of(state.now()).isoformat()}

    # -- one's own

    async def pages(self, request: Request, state: State, grant: Grant) -> Any:
        """Accounts of the authorisation's owner, the personal one among them."""
        return {"data": [self.page(state, a) for a in self.accounts(state, grant["owner"])]}

    async def one_page(self, request: Request, state: State, grant: Grant) -> Any:
        """One page."""
        account = self.own(state, grant, request.path_params["page"])
        return self.page(state, account) if account else self.refuse(404, "No such page")

    async def posts(self, request: Request, state: State, grant: Grant) -> Any:
        """List, or publish once per Idempotency-Key."""
        account = self.own(state, grant, request.path_params["page"])
        if account is None:
            return self.refuse(404, "No such page")
        if request.method == "GET":
            return self.listing(request, state, account, is_public=False)
        if "publish" not in grant["scope"].split():
            return self.refuse(403, "Scope is missing", "publish")
        asked = await request.json()
        text = str(asked.get("message", ""))
        attached = state.uploaded(
            "commons", grant["owner"], [str(one.get("media")) for one in asked.get("attachments", [])]
        )
        if attached is None or len(attached) > MOST_ATTACHED:
            return self.refuse(422, "Attachments", f"up to {MOST_ATTACHED} that were brought before")
        if not text.strip() or len(text) > LONGEST:
            return self.refuse(422, "Message is empty or too long", f"1 to {LONGEST} characters")
        if not self.is_card(state, grant, asked.get("link"), ("title", "summary"), "media"):
            return self.refuse(422, "Link", "a title and a summary of at most 200 characters, a picture brought before")
        key = request.headers.get("idempotency-key", "")
        if not key:
            return self.refuse(400, "Idempotency-Key is required")
        countries = (asked.get("audience") or {}).get("countries", [])
        if not self.is_audience(countries) or asked.get("place", "") not in ("", *PLACES.get(account.owner, ())):
            return self.refuse(422, "Audience or place", "countries of two letters; places of the page's own")
        kind = self.format_of(attached, text)
        post, is_new = state.send(
            account.key, text=text, format=kind, idempotency_key=key, card=asked.get("link"), countries=countries,
        )  # fmt: skip
        return JSONResponse(self.post(account, post), status_code=201 if is_new else 200)

    async def places(self, request: Request, state: State, grant: Grant) -> Any:
        """Places that the page's posts may be of."""
        account = self.own(state, grant, request.path_params["page"])
        if account is None:
            return self.refuse(404, "No such page")
        return {"data": [{"name": name} for name in PLACES.get(account.owner, ())]}

    async def media(self, request: Request, state: State, grant: Grant) -> Any:
        """Bring a picture or video for a post."""
        if self.own(state, grant, request.path_params["page"]) is None:
            return self.refuse(404, "No such page")
        taken = await self.take_in(request, state, grant)
        return taken if isinstance(taken, Response) else JSONResponse({"media": taken}, status_code=201)

    async def insights(self, request: Request, state: State, grant: Grant) -> Any:
        """Figures of up to 50 posts; what is gone is left out."""
        wanted = [p for p in request.query_params.get("posts", "").split(",") if p]
        if not 0 < len(wanted) <= MOST_AT_ONCE:
            return self.refuse(400, f"Ask for 1 to {MOST_AT_ONCE} posts")
        found = {i: self.own_post(state, grant, i) for i in wanted}
        data = {i: self.insight(state, post) for i, post in found.items() if post}
        return {"as_of": as_of(state.now()).isoformat(), "data": data}

    async def daily(self, request: Request, state: State, grant: Grant) -> Any:
        """Followers by day."""
        account = self.own(state, grant, request.path_params["page"])
        if account is None:
            return self.refuse(404, "No such page")
        since = date.fromisoformat(request.query_params.get("since", str(state.now().date())))
        days = self.follower_days(state, account, since)
        return {"data": [{"day": str(d), "total": total, "new": new, "gone": gone} for d, total, new, gone in days]}

    async def online(self, request: Request, state: State, grant: Grant) -> Any:
        """When the audience is there, by hour of the UTC week."""
        account = self.own(state, grant, request.path_params["page"])
        if account is None:
            return self.refuse(404, "No such page")
        return {"zone": "UTC", "hours": self.online_hours(state, account), "zones": account.zones}

    async def people(self, request: Request, state: State, grant: Grant) -> Any:
        """Who the audience is: shares by dimension."""
        account = self.own(state, grant, request.path_params["page"])
        if account is None:
            return self.refuse(404, "No such page")
        made = state.world.audience(account.key, state.now().date())
        return {"day": str(state.now().date()), "data": {k: v for k, v in made.items() if k != "language"}}

    async def answers(self, request: Request, state: State, grant: Grant) -> Any:
        """Comments under a post, oldest first."""
        post = self.own_post(state, grant, request.path_params["post"])
        if post is None:
            return self.refuse(404, "No such post")
        rows = [
            {"id": c.id, "from": c.author, "message": c.text, "created_at": c.at.isoformat()}
            for c in state.comments(post)
        ]
        return {"data": rows, "complete": True}

    async def answer_first(self, request: Request, state: State, grant: Grant) -> Any:
        """Answer under a post of one's own, once per Idempotency-Key."""
        post = self.own_post(state, grant, request.path_params["post"])
        message, key = str((await request.json()).get("message", "")), request.headers.get("idempotency-key", "")
        if post is None:
            return self.refuse(404, "No such post")
        if not message.strip() or not key or state.fault(self.key, "no_remarks"):
            return self.refuse(422, "Message or Idempotency-Key")
        return {"id": state.say_first(post, message, key)}

    async def subscribe(self, request: Request, state: State, grant: Grant) -> Any:
        """Have new comments told to an address."""
        account = self.own(state, grant, request.path_params["page"])
        body = await request.json()
        if account is None or not str(body.get("url", "")).startswith("http"):
            return self.refuse(400, "No such page, or no address")
        state.subscribe(account.key, url=str(body["url"]), secret=str(body.get("secret", "")))
        return {"ok": True}

    # -- promotions

    def promotion(self, state: State, boost: dict[str, Any]) -> dict[str, Any]:
        """A promotion as shown, with what it spent and brought."""
        seen = boosts.told(state, boost)
        words = {"waits": "PENDING", "runs": "ACTIVE", "stopped": "STOPPED", "over": "COMPLETED"}
        return {
            "id": boost["id"], "post": boost["post"], "status": words[boosts.status(state, boost)],
            "budget": {"amount": f"{boost['cents'] / 100:.2f}", "currency": boosts.CURRENCY},
            "spent": {"amount": f"{seen['cents'] / 100:.2f}", "currency": boosts.CURRENCY},
            "starts_at": boost["starts"], "ends_at": boost["ends"],
            "results": {"views": seen["impressions"], "people": seen["reach"], "feelings": seen["reactions"],
                        "link_taps": seen["link_clicks"]},
            "as_of": state.now().isoformat(),
        }  # fmt: skip

    async def promote(self, request: Request, state: State, grant: Grant) -> Any:
        """Promote a post of one's own once per Idempotency-Key."""
        if "publish" not in grant["scope"].split():
            return self.refuse(403, "Scope is missing", "publish")
        asked = await request.json()
        post = self.own_post(state, grant, str(asked.get("post")))
        if post is None:
            return self.refuse(404, "No such post")
        budget, audience = asked.get("budget") or {}, asked.get("audience") or {}
        if state.fault(self.key, "no_promotions") or budget.get("currency") != boosts.CURRENCY:
            return self.refuse(422, "Promotion was refused", f"The account pays in {boosts.CURRENCY}")
        try:
            made, is_new = boosts.begin(
                state, post, cents=round(float(budget.get("amount", 0)) * 100), starts=boosts.instant(asked.get("starts_at")),
                ends=boosts.instant(asked.get("ends_at")), countries=list(audience.get("countries", [])),
                ages=list(audience.get("ages", [])), link=str(asked.get("link") or ""),
                once=request.headers.get("idempotency-key", ""),
            )  # fmt: skip
        except boosts.BoostRefused as error:
            return self.refuse(422, "Promotion was refused", str(error))
        return JSONResponse(self.promotion(state, made), status_code=201 if is_new else 200)

    async def one_promotion(self, request: Request, state: State, grant: Grant) -> Any:
        """A promotion; DELETE stops it."""
        boost = boosts.boosts(state).get(request.path_params["promotion"])
        if boost is None or state.world.accounts[boost["account"]].owner != grant["owner"]:
            return self.refuse(404, "No such promotion")
        if request.method == "DELETE":
            boosts.stop(state, boost)
        return self.promotion(state, boost)

    # -- anybody's

    async def search(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Pages by a part of their name."""
        return {"data": [self.page(state, a) for a in self.like(state, request.query_params.get("q", ""))]}

    async def hashtag(self, request: Request, state: State, grant: Grant | None) -> Any:
        """How much a hashtag is used, and how people feel under it."""
        found = figures_of(self.key, request.path_params["tag"], state.now())
        if found is None:
            return self.refuse(404, "Nobody uses this hashtag")
        return {
            "tag": found.word, "posts": {"all": found.uses, "week": found.week},
            "mood": {"warm": found.warm, "cold": found.cold}, "near": list(found.related),
            "restricted": found.is_restricted,
        }  # fmt: skip

    async def directory(self, request: Request, state: State, grant: Grant | None) -> Any:
        """A page by handle."""
        account = self.public(state, request.path_params["handle"])
        return self.page(state, account) if account else self.refuse(404, "No such page")

    async def directory_posts(self, request: Request, state: State, grant: Grant | None) -> Any:
        """A page's posts with what everybody sees of them."""
        account = self.public(state, request.path_params["handle"])
        if account is None:
            return self.refuse(404, "No such page")
        return self.listing(request, state, account, is_public=True)

    async def public_figures(self, request: Request, state: State, grant: Grant | None) -> Any:
        """What everybody sees of up to 50 posts."""
        wanted = [p for p in request.query_params.get("posts", "").split(",") if p][:MOST_AT_ONCE]
        found = {i: self.any_post(state, i) for i in wanted}
        data = {i: self.public_counts(state, post) for i, post in found.items() if post}
        return {"as_of": as_of(state.now()).isoformat(), "data": data}


def commons_routes() -> list[Route]:
    """All of Commons."""
    api = Commons()
    return [
        *oauth_routes("commons", "Commons"),
        api.route("/v1/me/pages", api.pages),
        api.route("/v1/insights", api.insights),
        api.route("/v1/promotions", api.promote, methods=["POST"]),
        api.route("/v1/promotions/{promotion}", api.one_promotion, methods=["GET", "DELETE"]),
        api.route("/v1/posts/{post}/answers", api.answers),
        api.route("/v1/posts/{post}/answers", api.answer_first, methods=["POST"]),
        api.route("/v1/pages/{page}", api.one_page),
        api.route("/v1/pages/{page}/posts", api.posts, methods=["GET", "POST"]),
        api.route("/v1/pages/{page}/places", api.places),
        api.route("/v1/pages/{page}/media", api.media, methods=["POST"]),
        api.route("/v1/pages/{page}/followers/daily", api.daily),
        api.route("/v1/pages/{page}/presence", api.online),
        api.route("/v1/pages/{page}/people", api.people),
        api.route("/v1/pages/{page}/subscriptions", api.subscribe, methods=["POST"]),
        api.route("/v1/directory", api.search, is_public=True),
        api.route("/v1/directory/figures", api.public_figures, is_public=True),
        api.route("/v1/directory/hashtags/{tag}", api.hashtag, is_public=True),
        api.route("/v1/directory/{handle}", api.directory, is_public=True),
        api.route("/v1/directory/{handle}/posts", api.directory_posts, is_public=True),
    ]
