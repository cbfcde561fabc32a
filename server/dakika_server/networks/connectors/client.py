"""The one HTTP client of the connectors: time-outs, retries that honour Retry-After, errors in our words."""

import json
import random
import time
from collections.abc import Callable, Mapping, Sequence
from datetime import UTC, date, datetime
from typing import Any

import httpx
from dakika_core.networks.definition import NetworkDefinition
from dakika_core.sources.retry import retry_after_seconds, wait_seconds
from dakika_core.values.numbers import whole_number

from dakika_server.networks.connectors.base import (
    Account,
    BoostOut,
    BoostSeen,
    Counters,
    FollowerDay,
    HashtagSeen,
    MediaOut,
    NetworkComment,
    NetworkPost,
    NotAuthorised,
    NotFound,
    Page,
    PostOut,
    Presence,
    Published,
    Refused,
    Target,
    Unavailable,
)
from dakika_server.networks.trusted import trusted

TIMEOUT_SECONDS = 10.0
TRIES = 3
# A longer wait is not spent inside a job: the run lies down and another one gets the worker.
LONGEST_WAIT_SECONDS = 4.0
SLOW_SECONDS = 2.0
LARGEST_ANSWER = 8 * 1024 * 1024


class NetworkClient:
    """Calls to one network. `sleep` is given in tests."""

    def __init__(
        self,
        name: str,
        base: str,
        *,
        headers: dict[str, str] | None = None,
        sleep: Callable[[float], None] = time.sleep,
    ) -> None:
        self.name = name
        self.requests = self.slow = self.refused = 0
        self.calls_left: int | None = None
        self._sleep = sleep
        self._chance = random.Random()
        self._client = httpx.Client(
            base_url=base, headers=headers, timeout=TIMEOUT_SECONDS, follow_redirects=False, verify=trusted()
        )

    def __enter__(self) -> "NetworkClient":
        return self

    def __exit__(self, *_: object) -> None:
        self._client.close()

    def call(self, method: str, path: str, **arguments: Any) -> dict[str, Any]:
        """The JSON object that a call is answered with. Raises as `ask` does."""
        response = self.ask(method, path, **arguments)
        try:
            body = response.json()
        except (json.JSONDecodeError, UnicodeDecodeError):
            body = None
        if not isinstance(body, dict):
            raise Unavailable(f"{self.name} answered with something that is not JSON.")
        return body

    def ask(self, method: str, path: str, **arguments: Any) -> httpx.Response:
        """The answer to a call that is safe to repeat; tries again with growing, jittered waits.

        Raises NotAuthorised, NotFound, Refused, or Unavailable once the tries are used up or the
        network asks for a longer wait than is reasonable inside a job.
        """
        for attempt in range(1, TRIES + 1):
            try:
                return self._once(method, path, **arguments)
            except Unavailable as error:
                self.refused += 1
                wait = error.wait_seconds
                if attempt == TRIES or (wait is not None and wait > LONGEST_WAIT_SECONDS):
                    raise
                self._sleep(wait if wait is not None else wait_seconds(attempt, self._chance))
        raise AssertionError

    def _once(self, method: str, path: str, **arguments: Any) -> httpx.Response:
        self.requests += 1
        begun = time.monotonic()
        try:
            response = self._client.request(method, path, **arguments)
        except httpx.TimeoutException:
            raise Unavailable(f"{self.name} did not answer within {TIMEOUT_SECONDS:.0f} s.") from None
        except httpx.HTTPError:
            raise Unavailable(f"The connection to {self.name} broke off.") from None
        finally:
            self.slow += time.monotonic() - begun > SLOW_SECONDS
        if len(response.content) > LARGEST_ANSWER:
            raise Refused(f"{self.name} answered with more than {LARGEST_ANSWER // 1024 // 1024} MB.")
        left = response.headers.get("X-Calls-Left", "")
        self.calls_left = whole_number(left) if left else self.calls_left
        self._raise_for(response)
        return response

    def _raise_for(self, response: httpx.Response) -> None:
        status = response.status_code
        if status < 400:
            return
        said = _said(response)
        if status == 401:
            raise NotAuthorised(f"{self.name} no longer accepts the authorisation. Renew it.")
        if status in (404, 410):
            raise NotFound(f"{self.name} knows no such account or post.")
        if status == 429 or status >= 500:
            wait = retry_after_seconds(response.headers.get("Retry-After"), now=datetime.now(tz=UTC))
            what = "is asked too often" if status == 429 else "has trouble"
            raise Unavailable(f"{self.name} {what} (status {status}).", wait_seconds=wait)
        raise Refused(f"{self.name} refused (status {status}{': ' + said if said else ''}).")


def _said(response: httpx.Response) -> str:
    """What an error says, from the fields in which networks usually say it."""
    try:
        body = response.json()
    except (json.JSONDecodeError, UnicodeDecodeError):
        return ""
    if not isinstance(body, dict):
        return ""
    return str(body.get("detail") or body.get("title") or body.get("error") or body.get("problem") or "")[:200]


class ClientConnector:
    """What connectors share: the client, the definition, whose token, and "not offered" for what they leave out."""

    batch = 50

    def __init__(self, client: NetworkClient, definition: NetworkDefinition, token: str, app_id: str) -> None:
        self._client = client
        self._definition = definition
        self._own = {"Authorization": f"Bearer {token}"} if token else {}
        self._app_id = app_id

    @property
    def requests(self) -> int:
        """Calls made so far."""
        return self._client.requests

    @property
    def slow(self) -> int:
        """Calls that took longer than some seconds."""
        return self._client.slow

    @property
    def refused(self) -> int:
        """Calls that were turned away or broke off."""
        return self._client.refused

    @property
    def calls_left(self) -> int | None:
        """What the network says is left of its limit."""
        return self._client.calls_left

    # -- help for connectors

    def _metrics(self, theirs: Mapping[str, Any]) -> dict[str, int]:
        """The network's counters in our words; an absent one stays absent.

        One that is told by kind is their sum; a name such as "feelings.like" is one kind of it.
        """
        found = {}
        for their_name, ours in self._definition.metrics.items():
            value = theirs.get(their_name)
            if value is None and "." in their_name:
                counter, _, kind = their_name.partition(".")
                by_kind = theirs.get(counter)
                value = by_kind.get(kind) if isinstance(by_kind, dict) else None
            if value is not None and value != "":
                found[ours] = sum(map(int, value.values())) if isinstance(value, dict) else int(float(value))
        return found

    def _refusal(self, *, is_business: bool) -> str:
        """Why an account cannot be connected, or nothing."""
        rule = self._definition.accounts
        return rule.refusal if rule.needs_business and not is_business else ""

    def _fitting(self, post: PostOut, *, at_least: int = 0, most: int, videos: bool = True) -> tuple[MediaOut, ...]:
        """A post's pictures and videos, if the network takes so many. Raises Refused, saying what it wants."""
        name, count = self._definition.name, len(post.media)
        if count < at_least:
            raise Refused(f"{name} wants a picture or video with every post. Add one.")
        if count > most:
            raise Refused(f"{name} takes at most {most} with a post; this one has {count}. Take some out.")
        if any(one.is_video for one in post.media) and (not videos or count > 1):
            raise Refused(f"{name} takes {'no video' if not videos else 'a video alone'} with a post. Take it out.")
        return post.media

    def _bring(self, path: str, media: MediaOut) -> dict[str, Any]:
        """Bring a file to the network as the body of a call, which tells what it is called there."""
        headers = {**self._own, "Content-Type": media.media_type}
        if media.size:
            headers["Content-Length"] = str(media.size)
        # Iterated anew at each try.
        return self._client.call("POST", path, content=media, headers=headers)

    def hashtag(self, word: str) -> HashtagSeen:
        """Most networks tell nothing of hashtags; those that do have one of their own."""
        raise self._not_offered("figures of hashtags")

    def _not_offered(self, what: str) -> Refused:
        return Refused(f"{self._definition.name} offers no {what}.")

    # -- left out by networks that do not offer it

    def offered_accounts(self) -> list[Account]:
        """Accounts that the authorisation covers."""
        raise self._not_offered("authorisation")

    def search(self, text: str) -> list[Account]:
        """Public accounts by a part of their name."""
        raise self._not_offered("search")

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Followers by day."""
        raise self._not_offered("followers by day")

    def presence(self, target: Target) -> Presence:
        """When the audience is online."""
        raise self._not_offered("presence of the audience")

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up of the audience."""
        raise self._not_offered("make-up of the audience")

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Comments under a post."""
        raise self._not_offered("comments")

    def subscribe(self, target: Target, *, address: str, secret: str) -> None:
        """Webhooks."""
        raise self._not_offered("webhooks")

    def choices(self, target: Target, option: str) -> list[str]:
        """What may be chosen, as the network's definition has it."""
        return [choice for one in self._definition.options if one.key == option for choice in one.choices]

    def bring(self, target: Target, media: MediaOut) -> None:
        """Nothing is brought ahead where files travel within the post."""

    def say_first(self, target: Target, post_id: str, text: str, *, idempotency_key: str) -> None:
        """The first comment."""
        raise self._not_offered("first comments")

    def boost(self, target: Target, boost: BoostOut, *, idempotency_key: str) -> BoostSeen:
        """Begin a boost."""
        raise self._not_offered("boosts")

    def boost_seen(self, target: Target, external_id: str) -> BoostSeen:
        """How a boost stands."""
        raise self._not_offered("boosts")

    def stop_boost(self, target: Target, external_id: str) -> BoostSeen:
        """Spend no more of a boost."""
        raise self._not_offered("boosts")

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Publish once per key."""
        raise self._not_offered("publishing by its API")

    # -- what every network must say

    def account(self, target: Target) -> Account:
        """An account."""
        raise NotImplementedError

    def page(self, target: Target, cursor: str | None) -> Page:
        """A page of posts."""
        raise NotImplementedError

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Counters by identifier."""
        raise NotImplementedError


def as_published(post: NetworkPost) -> Published:
    """A post that a network answers publishing with."""
    return Published(external_id=post.external_id, url=post.url, published_at=post.published_at)


def with_counters(posts: Sequence[NetworkPost], counters: Counters) -> list[NetworkPost]:
    """Posts of a list that carries no counters, with those that were asked for apart."""
    from dataclasses import replace

    made = []
    for post in posts:
        metrics, raw = counters.by_post.get(post.external_id, ({}, {}))
        made.append(replace(post, metrics=metrics, raw=raw, as_of=max(counters.as_of, post.published_at)))
    return made


def epoch(seconds: float) -> datetime:
    """An instant from epoch seconds."""
    return datetime.fromtimestamp(float(seconds), tz=UTC)
