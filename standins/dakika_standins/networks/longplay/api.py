"""Longplay's API: tokens to continue, lengths as ISO 8601 durations, figures as CSV reports, errors as small XML."""

import csv
import io
from datetime import date
from typing import Any
from xml.sax.saxutils import escape

from starlette.requests import Request
from starlette.responses import Response
from starlette.routing import Route

from dakika_standins.http import Grant, NetworkApi
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost, seed_of
from dakika_standins.world.rules import RULES
from dakika_standins.world.scenario import Account

WORDS = {
    "video_views": "views", "video_seconds": "watch_seconds", "video_completions": "full_views", "reactions": "thumbs",
    "comments": "comments", "shares": "shares", "follows": "gained", "unfollows": "lost",
}  # fmt: skip
PER_PAGE, MOST_AT_ONCE = 20, 100
LARGEST_PART = 8_000_000


class Longplay(NetworkApi):
    """Long video."""

    key, name, calls_per_minute = "longplay", "Longplay", 100
    takes = ("image/", "video/")

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """A small XML document."""
        body = f'<?xml version="1.0"?><problem code="{status}">{escape(reason)} {escape(detail)}</problem>'
        return Response(body, status_code=status, headers=headers, media_type="application/xml")

    def application(self, request: Request) -> str:
        """The application stands in the query."""
        return request.query_params.get("app", "")

    def account_id(self, account: Account) -> str:
        """Identifier of a channel."""
        return f"ch_{account.handle}"

    # -- shapes

    def channel(self, state: State, account: Account) -> dict[str, Any]:
        """A channel as shown."""
        now = state.now()
        return {
            "channel": self.account_id(account), "handle": account.handle, "title": account.name,
            "art": f"/pictures/{account.key}.svg", "subscribers": state.world.followers(account.key, now.date()),
            "uploads": len(state.posts(account.key)), "asOf": now.isoformat(),
        }  # fmt: skip

    def video(self, post: WorldPost) -> dict[str, Any]:
        """A video without its figures."""
        seconds = 20 + seed_of("length", post.id) % (70 if post.format == "short_video" else 1600)
        return {
            "video": post.id, "title": post.text[:90], "description": post.text,
            "still": picture_of(post),
            "aired": post.published_at.isoformat(), "length": f"PT{seconds // 60}M{seconds % 60}S",
            "watch": f"https://longplay.example/watch/{post.id}",
        }  # fmt: skip

    def report(self, rows: list[list[Any]], state: State) -> Response:
        """A CSV report; what is up to when stands in a header."""
        out = io.StringIO()
        csv.writer(out).writerows(rows)
        return Response(out.getvalue(), media_type="text/csv", headers={"Report-Until": state.now().isoformat()})

    # -- handlers

    async def channels(self, request: Request, state: State, grant: Grant | None) -> Any:
        """One's own channels, or anybody's: ?like= a part of the name, ?handle= exactly."""
        if "handle" in request.query_params:
            found = self.public(state, request.query_params["handle"])
            return {"channels": [self.channel(state, found)] if found else []}
        if "like" in request.query_params:
            return {"channels": [self.channel(state, a) for a in self.like(state, request.query_params["like"])]}
        if grant is None:
            return self.refuse(401, "unauthorised")
        return {"channels": [self.channel(state, a) for a in self.accounts(state, grant["owner"])]}

    async def uploads(self, request: Request, state: State, grant: Grant | None) -> Any:
        """Videos, and a token to continue with."""
        account = self.public(state, request.path_params["channel"])
        if account is None:
            return self.refuse(404, "no such channel")
        token = request.query_params.get("continue", "")
        start = int(token.removeprefix("from-") or 0)
        posts = state.posts(account.key)
        following = f"from-{start + PER_PAGE}" if start + PER_PAGE < len(posts) else None
        return {"videos": [self.video(p) for p in self.part(state, posts, start, PER_PAGE)], "continue": following}

    async def bring(self, request: Request, state: State, grant: Grant) -> Any:
        """Bring the bytes of a video, or of its still."""
        taken = await self.take_in(request, state, grant)
        return taken if isinstance(taken, Response) else {"upload": taken}

    async def begin_parts(self, request: Request, state: State, grant: Grant) -> Any:
        """Say that a file comes in parts: its length, its SHA-256, its media type. One that broke off goes on."""
        asked = await request.json()
        size, digest, media_type = int(asked.get("bytes", 0)), str(asked.get("sha256", "")), str(asked.get("type", ""))
        if "channel.upload" not in grant["scope"].split():
            return self.refuse(403, "scope", "channel.upload")
        if not 0 < size <= self.largest_upload or len(digest) != 64 or not media_type.startswith(self.takes):
            return self.refuse(415, "not a file that is taken", media_type)
        name, there = state.begin_parts(self.key, grant["owner"], digest, size, media_type)
        return {"parts": name, "at": there}

    async def next_part(self, request: Request, state: State, grant: Grant) -> Any:
        """The next part, from ?at= on; the last one is answered with what the file is called."""
        body = await request.body()
        if len(body) > LARGEST_PART:
            return self.refuse(413, "part too large")
        at = int(request.query_params.get("at", "-1"))
        done = state.add_part(self.key, grant["owner"], request.path_params["parts"], at, body)
        if done is None:
            return self.refuse(409, "goes on elsewhere, or is another file")
        return {"at": done[0], "upload": done[1]}

    async def air(self, request: Request, state: State, grant: Grant) -> Any:
        """Air a video, once per its own word: a video and a title are required."""
        account = self.own(state, grant, request.path_params["channel"])
        if account is None or "channel.upload" not in grant["scope"].split():
            return self.refuse(403, "not yours, or not allowed")
        asked = await request.json()
        title, words, once = (str(asked.get(name, "")) for name in ("title", "description", "once"))
        wanted = [str(asked.get("upload")), *([str(asked["still"])] if asked.get("still") else [])]
        shown = state.uploaded("longplay", grant["owner"], wanted)
        if not shown or not shown[0].startswith("video/") or any(not one.startswith("image/") for one in shown[1:]):
            return self.refuse(422, "a video is required")
        if not once or not 0 < len(title) <= 100 or len(words) > 5000:
            return self.refuse(422, "title, description or once")
        text = f"{title}. {words}".strip() if words else title
        post, _ = state.send(account.key, text=text, format="long_video", idempotency_key=once)
        return {"video": self.video(post)}

    async def figures(self, request: Request, state: State, grant: Grant | None) -> Any:
        """A report of videos' figures up to now: all columns to the owner, the public ones to others."""
        found = [self.any_post(state, i) for i in request.query_params.get("videos", "").split(",")[:MOST_AT_ONCE]]
        owner = grant["owner"] if grant else None
        is_own = bool(owner) and all(state.world.accounts[p.account].owner == owner for p in found if p)
        names = [WORDS[ours] for ours in (RULES[self.key].own if is_own else RULES[self.key].public)]
        rows: list[list[Any]] = [["video", *names]]
        for post in found:
            if post:
                seen = self.counts(state, post, WORDS, is_own=is_own)
                rows.append([post.id, *[seen[name] for name in names]])
        return self.report(rows, state)

    async def subscribers(self, request: Request, state: State, grant: Grant) -> Any:
        """A report of subscribers by day."""
        account = self.own(state, grant, request.query_params.get("channel", ""))
        if account is None:
            return self.refuse(403, "not your channel")
        since = date.fromisoformat(request.query_params.get("since", str(state.now().date())))
        days = map(list, self.follower_days(state, account, since))
        return self.report([["day", "subscribers", "gained", "lost"], *days], state)

    async def people(self, request: Request, state: State, grant: Grant) -> Any:
        """A report of who watches: dimension, segment, per mille."""
        account = self.own(state, grant, request.query_params.get("channel", ""))
        if account is None:
            return self.refuse(403, "not your channel")
        made = state.world.audience(account.key, state.now().date())
        rows: list[list[Any]] = [["dimension", "segment", "per_mille"]]
        for dimension in ("age", "gender", "country", "source"):
            rows += [[dimension, name, round(share * 1000, 1)] for name, share in made[dimension].items()]
        return self.report(rows, state)

    async def hours(self, request: Request, state: State, grant: Grant) -> Any:
        """A report of who is there: hour of the UTC week, viewers."""
        account = self.own(state, grant, request.query_params.get("channel", ""))
        if account is None:
            return self.refuse(403, "not your channel")
        hours = [[i, viewers] for i, viewers in enumerate(self.online_hours(state, account))]
        return self.report([["hour_of_week", "viewers"], *hours], state)

    async def comments_of(self, request: Request, state: State, grant: Grant) -> Any:
        """Comments on a video."""
        post = self.own_post(state, grant, request.path_params["video"])
        if post is None:
            return self.refuse(404, "no such video")
        rows = [
            {"comment": c.id, "name": c.author, "text": c.text, "made": c.at.isoformat()} for c in state.comments(post)
        ]
        return {"comments": rows}

    async def comment_first(self, request: Request, state: State, grant: Grant) -> Any:
        """Comment on a video of one's own, once per its own word."""
        post = self.own_post(state, grant, request.path_params["video"])
        asked = await request.json()
        text, once = str(asked.get("text", "")), str(asked.get("once", ""))
        if post is None:
            return self.refuse(404, "no such video")
        if not text.strip() or not once or state.fault(self.key, "no_remarks"):
            return self.refuse(422, "text or once")
        return {"comment": state.say_first(post, text, once)}


def longplay_routes() -> list[Route]:
    """All of Longplay."""
    api = Longplay()
    return [
        *oauth_routes("longplay", "Longplay"),
        api.route("/v3/channels", api.channels, is_public=True),
        api.route("/v3/channels/{channel}/uploads", api.uploads, is_public=True),
        api.route("/v3/uploads", api.bring, methods=["POST"]),
        api.route("/v3/uploads/parts", api.begin_parts, methods=["POST"]),
        api.route("/v3/uploads/parts/{parts}", api.next_part, methods=["PUT"]),
        api.route("/v3/channels/{channel}/videos", api.air, methods=["POST"]),
        api.route("/v3/reports/videos.csv", api.figures, is_public=True),
        api.route("/v3/reports/subscribers.csv", api.subscribers),
        api.route("/v3/reports/people.csv", api.people),
        api.route("/v3/reports/hours.csv", api.hours),
        api.route("/v3/videos/{video}/comments", api.comments_of),
        api.route("/v3/videos/{video}/comments", api.comment_first, methods=["POST"]),
    ]
