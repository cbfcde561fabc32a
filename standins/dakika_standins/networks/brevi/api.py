"""Brevi's API: one address per verb, page numbers, epoch seconds, errors in the body, client tokens."""

from datetime import UTC, datetime
from typing import Any

import regex
from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import Grant, NetworkApi, in_seconds
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.hashtags import figures_of
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

SORT = {
    "text": "plain", "link": "linked", "image": "pictured", "album": "pictured", "short_video": "moving",
    "long_video": "moving",
}  # fmt: skip
WORDS = {
    "impressions": "shown", "reactions": "likes", "comments": "replies", "shares": "passes", "link_clicks": "taps",
    "shares_with_words": "remarks",
}  # fmt: skip
LONGEST, LINK_COUNTS, MOST_AT_ONCE = 300, 24, 100
MOST_ATTACHED = 4


def length_of(text: str) -> int:
    """User-perceived characters, an address counting 24."""
    links = regex.findall(r"https?://\S*[^\s.,;:!?]", text)
    for link in links:
        text = text.replace(link, "", 1)
    return len(regex.findall(r"\X", text)) + LINK_COUNTS * len(links)


class Brevi(NetworkApi):
    """Short text."""

    key, name = "brevi", "Brevi"
    takes = ("image/",)

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """An error in Brevi's older style."""
        return JSONResponse({"ok": False, "error": reason}, status_code=status, headers=headers)

    def answer(self, result: Any, left: int) -> Response:
        """The limit stands in the body."""
        return JSONResponse({"ok": True, **result, "limits": {"left": left}})

    def retry_after(self, seconds: float) -> str:
        """A date (RFC 9110, 10.2.3)."""
        return in_seconds(seconds)

    def application(self, request: Request) -> str:
        """The application stands in the query."""
        return request.query_params.get("app", "")

    def account_id(self, account: Account) -> str:
        """Number of an account."""
        return f"b{account.handle}"

    # -- shapes

    def describe(self, state: State, account: Account) -> dict[str, Any]:
        """An account as shown."""
        now = state.now()
        return {
            "no": self.account_id(account), "name": account.handle, "title": account.name,
            "fans": state.world.followers(account.key, now.date()), "follows": 210,
            "notes": len(state.posts(account.key)), "image": f"/pictures/{account.key}.svg", "now": int(now.timestamp()),
        }  # fmt: skip

    def note(self, state: State, post: WorldPost, *, is_own: bool) -> dict[str, Any]:
        """A note with its counters."""
        return {
            "no": post.id, "t": int(post.published_at.timestamp()), "body": post.text, "sort": SORT[post.format],
            "lang": post.language, "attached": picture_of(post),
            "stats": self.counts(state, post, WORDS, is_own=is_own),
        }  # fmt: skip

    def is_owner(self, grant: Grant | None, account: Account) -> bool:
        """Whether the one who asks sees what only an owner sees."""
        return grant is not None and grant["owner"] == account.owner

    # -- verbs

    async def mine(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Accounts of the authorisation's owner."""
        if grant is None:
            return self.refuse(401, "who_are_you")
        return {"accounts": [self.describe(state, a) for a in self.accounts(state, grant["owner"])]}

    async def show(self, request: Request, state: State, grant: Grant | None) -> Any:
        """An account by name."""
        account = self.public(state, request.query_params.get("name", ""))
        return {"account": self.describe(state, account)} if account else self.refuse(404, "nobody_by_that_name")

    async def search(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Accounts by a part of their name."""
        return {"accounts": [self.describe(state, a) for a in self.like(state, request.query_params.get("like", ""))]}

    async def tag(self, request: Request, state: State, grant: Grant | None) -> Any:
        """What is known of a hashtag: uses, mood in hundredths, and what stands beside it."""
        found = figures_of(self.key, request.query_params.get("word", ""), state.now())
        if found is None:
            return self.refuse(404, "no_such_tag")
        return {"tag": {
            "word": found.word, "uses": found.uses, "uses_7d": found.week, "up": round(found.warm * 100),
            "down": round(found.cold * 100), "beside": ",".join(found.related), "hidden": int(found.is_restricted),
        }}  # fmt: skip

    async def listing(self, request: Request, state: State, grant: Grant | None) -> Any:
        """A numbered page of notes."""
        account = self.public(state, request.query_params.get("name", ""))
        if account is None:
            return self.refuse(404, "nobody_by_that_name")
        try:
            page = max(1, int(request.query_params.get("page", "1")))
            per = min(100, max(1, int(request.query_params.get("per", "40"))))
        except ValueError:
            return self.refuse(400, "bad_page")
        posts = state.posts(account.key)
        is_own = self.is_owner(grant, account)
        part = self.part(state, posts, (page - 1) * per, per)
        return {
            "page": page, "pages": -(-len(posts) // per), "now": int(state.now().timestamp()),
            "items": [self.note(state, p, is_own=is_own) for p in part],
        }  # fmt: skip

    async def many(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Notes by number; those that are gone are left out."""
        found = [self.any_post(state, i) for i in request.query_params.get("nos", "").split(",")[:MOST_AT_ONCE]]
        return {
            "now": int(state.now().timestamp()),
            "items": [
                self.note(state, p, is_own=self.is_owner(grant, state.world.accounts[p.account])) for p in found if p
            ],
        }

    async def days(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Fans by day."""
        account = self.own(state, grant, request.query_params.get("name", "")) if grant else None
        if account is None:
            return self.refuse(403, "not_yours")
        since = datetime.fromtimestamp(int(request.query_params.get("since", "0")), tz=UTC).date()
        days = self.follower_days(state, account, since)
        midnight = [int(datetime(d.year, d.month, d.day, tzinfo=UTC).timestamp()) for d, *_ in days]
        return {"days": [[at, *numbers] for at, (_, *numbers) in zip(midnight, days, strict=True)]}

    async def online(self, request: Request, state: State, grant: Grant | None) -> Any:
        """When fans are there, by hour of the UTC week."""
        account = self.own(state, grant, request.query_params.get("name", "")) if grant else None
        if account is None:
            return self.refuse(403, "not_yours")
        return {"hours_utc": self.online_hours(state, account), "places": account.zones}

    async def fans(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Who the fans are: numbers of people by country and by language."""
        account = self.own(state, grant, request.query_params.get("name", "")) if grant else None
        if account is None:
            return self.refuse(403, "not_yours")
        today = state.now().date()
        made, total = state.world.audience(account.key, today), state.world.followers(account.key, today)
        return {k: {name: round(share * total) for name, share in made[k].items()} for k in ("country", "language")}

    async def replies(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Replies to a note since an instant."""
        post = self.own_post(state, grant, request.query_params.get("no", "")) if grant else None
        if post is None:
            return self.refuse(404, "no_such_note")
        since = int(request.query_params.get("since", "0"))
        rows = [{"no": c.id, "who": c.author, "body": c.text, "t": int(c.at.timestamp())} for c in state.comments(post)]
        return {"replies": [row for row in rows if int(str(row["t"])) >= since]}

    async def send(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Publish once per client_token."""
        form = dict(await request.form())
        account = self.own(state, grant, str(form.get("name", ""))) if grant else None
        if account is None or grant is None:
            return self.refuse(403, "not_yours")
        if "write" not in grant["scope"].split():
            return self.refuse(403, "scope")
        body = str(form.get("body", ""))
        if not body.strip() or length_of(body) > LONGEST:
            return self.refuse(422, "body_length")
        if not form.get("client_token"):
            return self.refuse(400, "client_token")
        wanted = [one for one in str(form.get("attach", "")).split(",") if one]
        attached = state.uploaded("brevi", grant["owner"], wanted)
        if attached is None or len(attached) > MOST_ATTACHED:
            return self.refuse(422, "attach")
        kind = self.format_of(attached, body)
        post, is_new = state.send(account.key, text=body, format=kind, idempotency_key=str(form["client_token"]))
        return {"note": self.note(state, post, is_own=True), "again": not is_new}

    async def put_media(self, request: Request, state: State, grant: Grant) -> Any:
        """Bring a picture for a note."""
        taken = await self.take_in(request, state, grant)
        return taken if isinstance(taken, Response) else {"media": taken}


def brevi_routes() -> list[Route]:
    """All of Brevi."""
    api = Brevi()
    public = {
        "tag.show": api.tag, "account.mine": api.mine, "account.show": api.show, "account.find": api.search, "account.list": api.listing,
        "note.many": api.many, "account.days": api.days, "account.presence": api.online, "account.fans": api.fans,
        "note.replies": api.replies,
    }  # fmt: skip
    return [
        *oauth_routes("brevi", "Brevi"),
        *(api.route(f"/api/{verb}", handler, is_public=True) for verb, handler in public.items()),
        api.route("/api/note.send", api.send, methods=["POST"]),
        api.route("/api/media.put", api.put_media, methods=["POST"]),
    ]
