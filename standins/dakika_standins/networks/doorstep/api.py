"""Doorstep's API: questions as POST, dates as three numbers, figures by day that the asker adds up."""

import base64
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.http import Grant, NetworkApi, in_seconds
from dakika_standins.networks.oauth import oauth_routes
from dakika_standins.sites.drawings import picture_of
from dakika_standins.state import State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.scenario import Account

WORDS = {"impressions": "viewsOfPost", "link_clicks": "linkOpened", "calls": "called", "directions": "directions",
         "bookings": "booked"}  # fmt: skip
LONGEST, MOST_AT_ONCE = 1500, 20
BUTTONS = ("Learn more", "Book", "Order", "Call")


def three(day: date) -> list[int]:
    """A day as Doorstep writes it."""
    return [day.year, day.month, day.day]


class Doorstep(NetworkApi):
    """Local listings."""

    key, name, calls_per_minute = "doorstep", "Doorstep", 60

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """A problem in words."""
        return JSONResponse({"problem": reason, "about": detail}, status_code=status, headers=headers)

    def retry_after(self, seconds: float) -> str:
        """A date (RFC 9110, 10.2.3)."""
        return in_seconds(seconds)

    def account_id(self, account: Account) -> str:
        """Identifier of a place."""
        return f"place/{account.handle}"

    def place(self, state: State, account: Account) -> dict[str, Any]:
        """A place as shown."""
        now = state.now()
        return {
            "place": self.account_id(account), "name": account.name, "verified": not account.is_personal,
            "savedBy": state.world.followers(account.key, now.date()), "picture": f"/pictures/{account.key}.svg",
            "day": three(now.date()), "second": int(now.timestamp()) % 86400,
        }  # fmt: skip

    def notice(self, post: WorldPost) -> dict[str, Any]:
        """A notice without figures."""
        at = post.published_at.astimezone(UTC)
        kind = {"text": "words", "image": "picture", "link": "button"}[post.format]
        return {
            "notice": post.id, "day": three(at.date()), "second": at.hour * 3600 + at.minute * 60 + at.second,
            "words": post.text, "kind": kind, "photo": picture_of(post),
        }  # fmt: skip

    def by_day(self, state: State, post: WorldPost) -> list[dict[str, Any]]:
        """What a notice got on each UTC day since it was put up: differences of its counters."""
        now = state.now()
        share = float(state.data["corrected"].get(post.id, 1.0))
        rows, before = [], dict.fromkeys(WORDS, 0)
        day = post.published_at.astimezone(UTC).date()
        while day <= now.astimezone(UTC).date():
            end = min(now, datetime.combine(day + timedelta(days=1), time(), tzinfo=UTC))
            seen = {name: round(value * share) for name, value in state.world.counters(post, end).items()}
            gained = {WORDS[name]: seen[name] - before[name] for name in WORDS}
            if any(gained.values()) or not rows:
                rows.append({"day": three(day), **gained})
            before, day = seen, day + timedelta(days=1)
        return rows

    # -- questions

    async def places(self, request: Request, state: State, grant: Grant) -> Any:
        """Places of the authorisation's owner."""
        return {"places": [self.place(state, a) for a in self.accounts(state, grant["owner"])]}

    async def notices(self, request: Request, state: State, grant: Grant) -> Any:
        """Notices of a place: skip and take."""
        asked = await request.json()
        account = self.own(state, grant, str(asked.get("place")))
        if account is None:
            return self.refuse(404, "no such place of yours")
        skip, take = max(0, int(asked.get("skip", 0))), min(50, max(1, int(asked.get("take", 25))))
        posts = state.posts(account.key)
        return {"of": len(posts), "notices": [self.notice(p) for p in self.part(state, posts, skip, take)]}

    async def figures(self, request: Request, state: State, grant: Grant) -> Any:
        """Figures of notices by day."""
        wanted = list((await request.json()).get("notices", []))[:MOST_AT_ONCE]
        found = {str(i): self.own_post(state, grant, str(i)) for i in wanted}
        now = state.now()
        return {
            "figures": {i: self.by_day(state, post) for i, post in found.items() if post},
            "day": three(now.date()), "second": int(now.timestamp()) % 86400,
        }  # fmt: skip

    async def saved(self, request: Request, state: State, grant: Grant) -> Any:
        """How many keep a place, by day."""
        asked = await request.json()
        account = self.own(state, grant, str(asked.get("place")))
        if account is None:
            return self.refuse(404, "no such place of yours")
        days = self.follower_days(state, account, date(*asked.get("since", three(state.now().date()))))
        return {"saved": [[three(day), *numbers] for day, *numbers in days]}

    async def found_by(self, request: Request, state: State, grant: Grant) -> Any:
        """How people found the place, in percent."""
        account = self.own(state, grant, str((await request.json()).get("place")))
        if account is None:
            return self.refuse(404, "no such place of yours")
        made = state.world.audience(account.key, state.now().date())["source"]
        return {"foundBy": {name: round(share * 100, 1) for name, share in made.items()}}

    async def put_up(self, request: Request, state: State, grant: Grant) -> Any:
        """Put a notice up, once per stamp."""
        asked = await request.json()
        account = self.own(state, grant, str(asked.get("place")))
        if account is None or "place.post" not in grant["scope"].split():
            return self.refuse(403, "not yours, or not allowed")
        words, stamp = str(asked.get("words", "")), str(asked.get("stamp", ""))
        if not stamp or not words.strip() or len(words) > LONGEST:
            return self.refuse(422, "words or stamp")
        if asked.get("button") not in (None, *BUTTONS):
            return self.refuse(422, "button")
        attached = []
        if asked.get("photo"):
            try:
                photo = base64.b64decode(str(asked["photo"]["data"]), validate=True)
            except (ValueError, KeyError, TypeError):
                return self.refuse(422, "photo")
            attached = [str(asked["photo"].get("type", ""))]
            if not photo or not attached[0].startswith("image/"):
                return self.refuse(422, "photo")
        kind = self.format_of(attached, words)
        post, _ = state.send(account.key, text=words, format=kind, idempotency_key=stamp)
        return self.notice(post)


def doorstep_routes() -> list[Route]:
    """All of Doorstep."""
    api = Doorstep()
    questions = {
        "places": api.places, "notices": api.notices, "figures": api.figures, "saved": api.saved,
        "foundBy": api.found_by, "putUp": api.put_up,
    }  # fmt: skip
    return [
        *oauth_routes("doorstep", "Doorstep"),
        *(api.route(f"/1/{name}", handler, methods=["POST"]) for name, handler in questions.items()),
    ]
