"""Pictor's API: offsets, RFC 9110 dates, figures as lists of name and value, faults with a number and words."""

from datetime import UTC, datetime
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins import boosts
from dakika_standins.http import Grant, NetworkApi, http_date
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.hashtags import figures_of
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

TYPE = {"image": "single", "album": "set", "short_video": "moving"}
WORDS = {
    "impressions": "seen", "reach": "viewers", "reactions": "hearts", "comments": "remarks", "saves": "kept",
    "shares": "passed", "profile_visits": "profile_opens", "follows": "new_followers",
}  # fmt: skip
MOST_AT_ONCE = 30
WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")


class Pictor(NetworkApi):
    """Pictures."""

    key, name, calls_per_minute = "pictor", "Pictor", 300
    takes = ("image/", "video/")

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """A fault: a number and words."""
        body = {"fault": {"number": status * 10, "words": f"{reason} {detail}".strip()}}
        return JSONResponse(body, status_code=status, headers=headers)

    def answer(self, result: Any, left: int) -> Response:
        """What is left of the limit stands in a header of its own shape."""
        return JSONResponse(result, headers={"Quota": f"left={left};per=minute"})

    def application(self, request: Request) -> str:
        """The application names itself in a header."""
        return request.headers.get("pictor-app", "")

    def account_id(self, account: Account) -> str:
        """Number of an account."""
        return f"7{sum(ord(c) * 31**i for i, c in enumerate(account.handle)) % 10**11:011d}"

    # -- shapes

    def portrait(self, state: State, account: Account) -> dict[str, Any]:
        """An account as shown."""
        now = state.now()
        return {
            "account_id": self.account_id(account), "login": account.handle, "shown_as": account.name,
            "kind": "private" if account.is_personal else "business",
            "followers": state.world.followers(account.key, now.date()), "pictures": len(state.posts(account.key)),
            "portrait": f"/pictures/{account.key}.svg", "at": http_date(now),
        }  # fmt: skip

    def figures(self, state: State, post: WorldPost, *, is_own: bool) -> list[dict[str, Any]]:
        """Figures as a list."""
        return [{"name": n, "value": v} for n, v in self.counts(state, post, WORDS, is_own=is_own).items()]

    def picture(self, state: State, account: Account, post: WorldPost, *, is_own: bool) -> dict[str, Any]:
        """A picture with its figures."""
        return {
            "picture_id": post.id, "published": http_date(post.published_at), "type": TYPE[post.format],
            "caption": post.text, "file": picture_of(post), "page": f"https://pictor.example/{account.handle}/{post.id}",
            "figures": self.figures(state, post, is_own=is_own), **({"paid": post.is_boosted or bool(boosts.paid_of(state, post))} if is_own else {}),
        }  # fmt: skip

    def listing(self, request: Request, state: State, account: Account, *, is_own: bool) -> Any:
        """Pictures from an offset on."""
        try:
            offset = max(0, int(request.query_params.get("offset", "0")))
            limit = min(60, max(1, int(request.query_params.get("limit", "30"))))
        except ValueError:
            return self.refuse(400, "offset and limit are numbers")
        posts = state.posts(account.key)
        return {
            "total": len(posts), "offset": offset, "at": http_date(state.now()),
            "pictures": [
                self.picture(state, account, p, is_own=is_own) for p in self.part(state, posts, offset, limit)
            ],
        }  # fmt: skip

    # -- one's own

    async def mine(self, request: Request, state: State, grant: Grant) -> Any:
        """Accounts of the authorisation's owner, private ones too."""
        return {"accounts": [self.portrait(state, a) for a in self.accounts(state, grant["owner"])]}

    async def containers(self, request: Request, state: State, grant: Grant) -> Any:
        """Bring a picture or a short video."""
        if self.own(state, grant, request.path_params["account"]) is None:
            return self.refuse(404, "No such account")
        taken = await self.take_in(request, state, grant)
        return taken if isinstance(taken, Response) else {"container": taken}

    async def publish(self, request: Request, state: State, grant: Grant) -> Any:
        """Show what was brought, once per word that is said with it."""
        account = self.own(state, grant, request.path_params["account"])
        if account is None or "compose" not in grant["scope"].split():
            return self.refuse(403, "not yours, or not allowed")
        asked = await request.json()
        words, once = str(asked.get("caption", "")), str(asked.get("once", ""))
        shown = state.uploaded("pictor", grant["owner"], [str(one) for one in asked.get("containers", [])])
        if not shown or len(shown) > 10:
            return self.refuse(422, "one to ten pictures, or a short video, are required")
        if not once or len(words) > 2000 or "http" in words or words.count("#") > 25:
            return self.refuse(422, "caption or once")
        post, _ = state.send(account.key, text=words, format=self.format_of(shown, words), idempotency_key=once)
        return {"picture": self.picture(state, account, post, is_own=True), "at": http_date(state.now())}

    async def one(self, request: Request, state: State, grant: Grant) -> Any:
        """One account, its pictures, its followers by day, its hours, its people: by the last word of the address."""
        account = self.own(state, grant, request.path_params["account"])
        if account is None or account.is_personal:
            return self.refuse(404, "no such business account")
        what = request.path_params.get("what", "")
        if what == "pictures":
            return self.listing(request, state, account, is_own=True)
        if what == "followers":
            return self.followers(request, state, account)
        if what == "hours":
            return self.hours(state, account)
        if what == "people":
            made = state.world.audience(account.key, state.now().date())
            return {
                f"by_{k}": [{"name": n, "share": s} for n, s in made[k].items()]
                for k in ("age", "gender", "country", "city")
            }
        return self.portrait(state, account) if not what else self.refuse(404, "no such thing")

    def followers(self, request: Request, state: State, account: Account) -> Any:
        """Followers by day, days as eight digits."""
        today = state.now().date()
        since = datetime.strptime(request.query_params.get("from", f"{today:%Y%m%d}"), "%Y%m%d").date()  # noqa: DTZ007
        return {
            "days": [
                {"date": f"{day:%Y%m%d}", "followers": total, "joined": joined, "left": left}
                for day, total, joined, left in self.follower_days(state, account, since)
            ]
        }

    def hours(self, state: State, account: Account) -> Any:
        """Who is there by weekday and hour, UTC."""
        hours = self.online_hours(state, account)
        week = {name: hours[i * 24 : i * 24 + 24] for i, name in enumerate(WEEKDAYS)}
        return {"zone": "UTC", "week": week, "living_in": account.zones}

    async def pictures(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Figures of pictures by number, everybody's or the owner's."""
        wanted = request.query_params.get("ids", "").split(",")[:MOST_AT_ONCE]
        rows = []
        for post in (self.any_post(state, i) for i in wanted):
            if post:
                is_own = grant is not None and state.world.accounts[post.account].owner == grant["owner"]
                rows.append({"picture_id": post.id, "figures": self.figures(state, post, is_own=is_own)})
        return {"at": http_date(state.now()), "pictures": rows}

    async def remarks(self, request: Request, state: State, grant: Grant) -> Any:
        """Remarks under a picture, the newest first, from an offset on."""
        post = self.own_post(state, grant, request.path_params["picture"])
        if post is None:
            return self.refuse(404, "no such picture")
        offset = int(request.query_params.get("offset", "0"))
        comments = state.comments(post)[::-1]
        rows = [
            {"remark_id": c.id, "by": c.author, "words": c.text, "written": http_date(c.at)}
            for c in comments[offset : offset + 50]
        ]
        return {"total": len(comments), "remarks": rows}

    async def remark(self, request: Request, state: State, grant: Grant) -> Any:
        """Say something under a picture of one's own, once per word."""
        post = self.own_post(state, grant, request.path_params["picture"])
        asked = await request.json()
        words, once = str(asked.get("words", "")), str(asked.get("once", ""))
        if post is None:
            return self.refuse(404, "no such picture")
        if not words.strip() or not once or state.fault(self.key, "no_remarks"):
            return self.refuse(422, "words or once")
        return {"remark_id": state.say_first(post, words, once)}

    async def hook(self, request: Request, state: State, grant: Grant) -> Any:
        """Have new remarks told to an address."""
        body = await request.json()
        account = self.own(state, grant, str(body.get("account_id")))
        if account is None:
            return self.refuse(404, "no such business account")
        state.subscribe(account.key, url=str(body["call"]), secret=str(body["secret"]))
        return {"hooked": True}

    # -- pushes: what they bring stands with them alone, not among a picture's figures

    def push(self, state: State, boost: dict[str, Any]) -> dict[str, Any]:
        """A push as shown; money in cents, figures as a list."""
        seen = boosts.told(state, boost)
        words = {"impressions": "seen", "reach": "viewers", "reactions": "hearts", "link_clicks": "taps"}
        return {
            "push_id": boost["id"], "picture_id": boost["post"], "state": boosts.status(state, boost),
            "money": {"given": boost["cents"], "gone": seen["cents"], "in": boosts.CURRENCY},
            "figures": [{"name": words[name], "value": seen[name]} for name in boosts.COUNTS],
            "at": http_date(state.now()),
        }  # fmt: skip

    async def pushed(self, request: Request, state: State, grant: Grant) -> Any:
        """Show a picture to more people for money, once per word that is said with it."""
        asked = await request.json()
        post = self.own_post(state, grant, str(asked.get("picture_id")))
        if post is None or "compose" not in grant["scope"].split():
            return self.refuse(403, "not yours, or not allowed")
        if state.fault(self.key, "no_promotions"):
            return self.refuse(422, "this picture is not pushed")
        try:
            made, _ = boosts.begin(
                state, post, cents=int(asked.get("cents", 0)),
                starts=datetime.fromtimestamp(float(asked["from"]), UTC),
                ends=datetime.fromtimestamp(float(asked["to"]), UTC), countries=list(asked.get("where", [])),
                ages=list(asked.get("who", [])), link=str(asked.get("leads_to") or ""), once=str(asked.get("once", "")),
            )  # fmt: skip
        except boosts.BoostRefused as error:
            return self.refuse(422, str(error))
        return self.push(state, made)

    async def one_push(self, request: Request, state: State, grant: Grant) -> Any:
        """A push; a POST to its end ends it."""
        boost = boosts.boosts(state).get(request.path_params["push"])
        if boost is None or state.world.accounts[boost["account"]].owner != grant["owner"]:
            return self.refuse(404, "no such push")
        if request.method == "POST":
            boosts.stop(state, boost)
        return self.push(state, boost)

    # -- anybody's

    async def browse(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Accounts by a part of their name."""
        return {"accounts": [self.portrait(state, a) for a in self.like(state, request.query_params.get("like", ""))]}

    async def topic(self, request: Request, state: State, grant: Grant | None) -> Any:
        """A hashtag by its word: how many pictures carry it, and what goes with it."""
        found = figures_of(self.key, request.path_params["word"], state.now())
        if found is None:
            return self.refuse(404, "no pictures of that topic")
        shown = "no" if found.is_restricted else "yes"
        return {"topic": {"pictures": found.uses, "also": list(found.related), "shown": shown}}

    async def browse_one(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Somebody's account, or its pictures."""
        account = self.public(state, request.path_params["login"])
        if account is None:
            return self.refuse(404, "nobody of that login")
        if request.path_params.get("what") == "pictures":
            return self.listing(request, state, account, is_own=False)
        return self.portrait(state, account)


def pictor_routes() -> list[Route]:
    """All of Pictor."""
    api = Pictor()
    return [
        *oauth_routes("pictor", "Pictor"),
        api.route("/2/accounts", api.mine),
        api.route("/2/accounts/{account}", api.one),
        api.route("/2/accounts/{account}/containers", api.containers, methods=["POST"]),
        api.route("/2/accounts/{account}/show", api.publish, methods=["POST"]),
        api.route("/2/accounts/{account}/{what}", api.one),
        api.route("/2/pictures", api.pictures, is_public=True),
        api.route("/2/pictures/{picture}/remarks", api.remarks),
        api.route("/2/pictures/{picture}/say", api.remark, methods=["POST"]),
        api.route("/2/pushes", api.pushed, methods=["POST"]),
        api.route("/2/pushes/{push}", api.one_push),
        api.route("/2/pushes/{push}/end", api.one_push, methods=["POST"]),
        api.route("/2/hooks", api.hook, methods=["POST"]),
        api.route("/2/topics/{word}", api.topic, is_public=True),
        api.route("/2/browse", api.browse, is_public=True),
        api.route("/2/browse/{login}", api.browse_one, is_public=True),
        api.route("/2/browse/{login}/{what}", api.browse_one, is_public=True),
    ]
