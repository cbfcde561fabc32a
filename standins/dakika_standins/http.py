"""What the networks' applications share: who is asking, rate limits, faults. Each network answers in a style of its own."""

import asyncio
import random
import time
from collections.abc import Awaitable, Callable
from datetime import UTC, date, datetime, timedelta
from email.utils import format_datetime
from typing import Any

import httpx
from starlette.requests import Request
from starlette.responses import JSONResponse, Response
from starlette.routing import Route

from dakika_standins.state import MediaRefused, NotReady, State
from dakika_standins.world.model import WorldPost
from dakika_standins.world.rules import FORMATS, RULES
from dakika_standins.world.scenario import Account

CALLS_PER_MINUTE = 600
LONGEST_ON_CARD = 200
CLIENTS = {"dakika": "stand-in-secret"}
Grant = dict[str, Any]
Handler = Callable[[Request, State, Any], Awaitable[Any]]


def state_of(request: Request) -> State:
    """The one state of the process."""
    state: State = request.app.state.world
    return state


def bearer(request: Request) -> str:
    """The access token of a request, or nothing."""
    kind, _, token = request.headers.get("authorization", "").partition(" ")
    return token if kind.lower() == "bearer" else ""


class NetworkApi:
    """One network's API. A subclass says how it refuses, how it identifies accounts, and which routes it has."""

    key = ""
    name = ""
    calls_per_minute = CALLS_PER_MINUTE

    # -- styles

    def refuse(self, status: int, reason: str, detail: str = "", headers: dict[str, str] | None = None) -> Response:
        """An error in the network's own style."""
        raise NotImplementedError

    def answer(self, result: Any, left: int) -> Response:
        """An answer in the network's own style; left is what is left of the limit."""
        return JSONResponse(result, headers={"X-Calls-Left": str(left)})

    def retry_after(self, seconds: float) -> str:
        """Retry-After in seconds; some networks give a date (RFC 9110, 10.2.3)."""
        return str(int(seconds) + 1)

    def application(self, request: Request) -> str:
        """Which application asks for what is public."""
        return request.headers.get("x-app-id", "")

    # -- accounts

    def account_id(self, account: Account) -> str:
        """Identifier of an account as this API gives it."""
        return account.handle

    def accounts(self, state: State, owner: str | None = None) -> list[Account]:
        """Accounts on this network, all or one owner's."""
        return [
            a for a in state.world.accounts.values() if a.network == self.key and (owner is None or a.owner == owner)
        ]

    def account(self, state: State, name: str) -> Account | None:
        """An account by handle or identifier."""
        return next((a for a in self.accounts(state) if name in (a.handle, self.account_id(a))), None)

    def public(self, state: State, name: str) -> Account | None:
        """Somebody's account as everybody may see it."""
        found = self.account(state, name)
        return None if found is None or found.is_personal else found

    def like(self, state: State, text: str) -> list[Account]:
        """Accounts whose name or handle holds the letters, at most eight."""
        low = text.lower().strip()
        found = [a for a in self.accounts(state) if not a.is_personal and low in f"{a.name} {a.handle}".lower()]
        return found[:8] if low else []

    def own(self, state: State, grant: Grant, name: str) -> Account | None:
        """An account that the authorisation covers."""
        found = self.account(state, name)
        return found if found and found.owner == grant["owner"] else None

    def own_post(self, state: State, grant: Grant, post_id: str) -> WorldPost | None:
        """A post of an account that the authorisation covers."""
        post = state.find(post_id)
        if post is None or state.world.accounts[post.account].network != self.key:
            return None
        return post if state.world.accounts[post.account].owner == grant["owner"] else None

    def any_post(self, state: State, post_id: str) -> WorldPost | None:
        """Anybody's post on this network."""
        post = state.find(post_id)
        return post if post and state.world.accounts[post.account].network == self.key else None

    def counts(self, state: State, post: WorldPost, names: dict[str, str], *, is_own: bool) -> dict[str, int]:
        """A post's counters in the network's words; names maps ours to theirs. The public sees fewer."""
        rules = RULES[self.key]
        seen = state.counters(post)
        return {names[ours]: seen[ours] for ours in (rules.own if is_own else rules.public) if ours in names}

    def part(self, state: State, posts: list[WorldPost], start: int, count: int) -> list[WorldPost]:
        """A page of posts.

        With the fault `duplicate_page` later pages begin with what was on the one before; with
        `late_page` the first one lags: the two newest and one from its middle are not yet on it.
        """
        shift = 3 if start and state.fault(self.key, "duplicate_page") else 0
        page = posts[max(0, start - shift) : start + count]
        if not start and state.fault(self.key, "late_page") and len(page) > 8:
            return [*page[2:5], *page[6:]]
        return page

    def follower_days(self, state: State, account: Account, since: date) -> list[tuple[date, int, int, int]]:
        """Followers at the end of each day from `since` to today, gained and lost on it."""
        today, first = state.now().date(), max(since, state.world.begins)
        days = [first + timedelta(days=i) for i in range((today - first).days + 1)]
        world = state.world
        return [(day, world.followers(account.key, day), *world.followers_moved(account.key, day)) for day in days]

    def online_hours(self, state: State, account: Account) -> list[int]:
        """How many of the followers are there at each hour of the UTC week."""
        today = state.now().date()
        curve = state.world.activity(account.key, today) * state.world.followers(account.key, today)
        return [round(v) for v in curve]

    # -- what is brought for posts

    # Which media types, by their beginning, and how many bytes of each.
    takes: tuple[str, ...] = ()
    largest_upload = 512_000_000

    async def take_in(self, request: Request, state: State, grant: Grant) -> Response | str:
        """Keep the body of a request for a post: its identifier, or what to refuse it with."""
        media_type = request.headers.get("content-type", "").partition(";")[0]
        body = await request.body()
        if RULES[self.key].scopes[1] not in grant["scope"].split():
            return self.refuse(403, "scope", RULES[self.key].scopes[1])
        if not body or len(body) > self.largest_upload or not media_type.startswith(self.takes or ("none",)):
            return self.refuse(415, "not a file that is taken", media_type)
        return state.keep_upload(self.key, grant["owner"], body, media_type)

    async def take_from(self, address: str, state: State, grant: Grant) -> Response | str:
        """Fetch a file for a post from an address: its identifier, or what to refuse it with. This machine's alone."""
        if httpx.URL(address).host not in ("127.0.0.1", "localhost"):
            return self.refuse(422, "address not reached")
        body = bytearray()
        try:
            async with httpx.AsyncClient(timeout=20) as client, client.stream("GET", address) as answer:
                answer.raise_for_status()
                async for chunk in answer.aiter_bytes():
                    body += chunk
                    if len(body) > self.largest_upload:
                        return self.refuse(415, "too large")
        except httpx.HTTPError:
            return self.refuse(422, "address not reached")
        media_type = answer.headers.get("content-type", "").partition(";")[0]
        if not body or not media_type.startswith(self.takes or ("none",)):
            return self.refuse(415, "not a file that is taken", media_type)
        return state.keep_upload(self.key, grant["owner"], bytes(body), media_type)

    def is_card(self, state: State, grant: Grant, card: Any, words: tuple[str, ...], picture: str) -> bool:
        """Whether what stands on a link's card is taken: nothing at all, or short words and a picture brought before."""
        if card is None:
            return True
        if not isinstance(card, dict) or any(len(str(card.get(word) or "")) > LONGEST_ON_CARD for word in words):
            return False
        shown = state.uploaded(self.key, grant["owner"], [str(card[picture])]) if card.get(picture) else []
        return shown is not None and all(one.startswith("image/") for one in shown)

    def is_audience(self, countries: Any) -> bool:
        """Whether countries are codes of two letters, as ISO 3166-1 has them."""
        return isinstance(countries, list) and all(
            isinstance(c, str) and len(c) == 2 and c.isupper() for c in countries
        )

    def format_of(self, media_types: list[str], text: str) -> str:
        """The format of a post of these files and words."""
        if any(one.startswith("video/") for one in media_types):
            return "long_video" if self.key == "longplay" else "short_video"
        if media_types:
            return "album" if len(media_types) > 1 and "album" in FORMATS.get(self.key, {"album": 1}) else "image"
        return "link" if "http" in text else "text"

    # -- routes

    def endpoint(self, handler: Handler, *, is_public: bool = False) -> Any:
        """A handler behind limits, faults and authorisation; it returns what to answer, or a Response."""

        async def answer(request: Request) -> Response:
            async def go() -> Response:
                state = state_of(request)
                left, wait = self._wait(request, state)
                if wait:
                    return self.refuse(429, "too_fast", headers={"Retry-After": self.retry_after(wait)})
                grant = None if state.fault(self.key, "revoked") else state.owner_of(self.key, bearer(request))
                if grant is None and not (is_public and self.application(request) in CLIENTS):
                    return self.refuse(401, "unauthorised", "Renew the authorisation.")
                if grant is not None and RULES[self.key].scopes[0] not in grant["scope"].split():
                    return self.refuse(403, "scope", RULES[self.key].scopes[0])
                try:
                    result = await handler(request, state, grant)
                except NotReady as error:
                    wait = {"Retry-After": self.retry_after(error.seconds)}
                    return self.refuse(503, "still_working_on_the_file", headers=wait)
                except MediaRefused:
                    return self.refuse(422, "file_refused", "Its pictures could not be read. Bring another.")
                if request.method == "POST" and random.random() < state.fault(self.key, "lost"):
                    return _CutResponse()  # it was done, and nobody hears of it
                return result if isinstance(result, Response) else self.answer(result, left)

            return await with_faults(self.key, request, go)

        return answer

    def route(self, path: str, handler: Handler, *, is_public: bool = False, methods: list[str] | None = None) -> Route:
        """A route below the network's own prefix."""
        return Route(f"/{self.key}{path}", self.endpoint(handler, is_public=is_public), methods=methods or ["GET"])

    def _wait(self, request: Request, state: State) -> tuple[int, float]:
        """Calls left in this minute, and seconds to wait when there are none."""
        if state.fault(self.key, "no_limit"):
            return self.calls_per_minute, 0.0
        limit = int(state.fault(self.key, "calls_per_minute")) or self.calls_per_minute
        now = time.monotonic()
        who = bearer(request) or self.application(request) or "nobody"
        calls = state.calls.setdefault(f"{self.key}:{who}", [])
        calls[:] = [at for at in calls if at > now - 60]
        if len(calls) >= limit:
            return 0, max(1.0, calls[0] + 60 - now)
        calls.append(now)
        return limit - len(calls), 0.0


def http_date(at: datetime) -> str:
    """An instant as RFC 9110, 5.6.7 has it."""
    return format_datetime(at.astimezone(UTC).replace(microsecond=0), usegmt=True)


def in_seconds(seconds: float) -> str:
    """A date so many seconds from now, in the form of RFC 9110."""
    return http_date(datetime.now(tz=UTC) + timedelta(seconds=int(seconds) + 1))


async def with_faults(network: str, request: Request, answer: Callable[[], Awaitable[Response]]) -> Response:
    """Answer, unless a fault that is switched on gets in the way."""
    state = state_of(request)
    slow = state.fault(network, "slow")
    if slow:
        await asyncio.sleep(slow)
    if random.random() < state.fault(network, "error500"):
        return Response("upstream unavailable", status_code=500)
    if random.random() < state.fault(network, "cut"):
        return _CutResponse()
    return await answer()


class _CutResponse(Response):
    """Promises more bytes than it sends, then hangs up."""

    async def __call__(self, scope: Any, receive: Any, send: Any) -> None:
        headers = [(b"content-length", b"5000"), (b"content-type", b"application/json")]
        await send({"type": "http.response.start", "status": 200, "headers": headers})
        await send({"type": "http.response.body", "body": b'{"data": [', "more_body": False})
