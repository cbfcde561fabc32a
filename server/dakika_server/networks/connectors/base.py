"""What every connector offers, in our words. A network is added by one class and one definition file.

In the trade's words: API adapter, integration.
"""

import hashlib
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime
from enum import StrEnum
from typing import IO, Any, Protocol

from dakika_core.networks.definition import Format

PIECE = 1 << 20


class NetworkError(Exception):
    """Something at the network went wrong; the text says what, for people."""


class NotAuthorised(NetworkError):
    """The authorisation has lapsed or was taken back: the person must renew it."""


class NotFound(NetworkError):
    """The network knows no such account or post."""


class Refused(NetworkError):
    """The network will not do this, and asking again will not help."""


class Unavailable(NetworkError):
    """The network is down, slow or too busy: later may help. wait_seconds as it asked for, if it did."""

    def __init__(self, message: str, *, wait_seconds: float | None = None) -> None:
        super().__init__(message)
        self.wait_seconds = wait_seconds


@dataclass(frozen=True, kw_only=True)
class Tokens:
    """What an authorisation gives. Never logged, stored encrypted. scopes are those that were granted."""

    access: str = field(repr=False)
    refresh: str = field(repr=False)
    expires_at: datetime
    scopes: frozenset[str] = frozenset()


@dataclass(frozen=True, kw_only=True)
class Target:
    """A profile as a connector needs it."""

    handle: str
    external_id: str
    is_own: bool


@dataclass(frozen=True, kw_only=True)
class Account:
    """An account as a network shows it. refusal says why it cannot be connected, or is empty."""

    external_id: str
    handle: str
    name: str
    picture: str
    followers: int
    posts: int | None
    as_of: datetime
    refusal: str = ""


@dataclass(frozen=True, kw_only=True)
class FollowerDay:
    """Followers at the end of a day, gained and lost on it."""

    day: date
    followers: int
    gained: int
    lost: int


@dataclass(frozen=True, kw_only=True)
class Presence:
    """How many of the audience are online at each hour of the UTC week (168 values), and in which zones they live."""

    hours_utc: list[int]
    zones: dict[str, float]


@dataclass(frozen=True, kw_only=True)
class NetworkPost:
    """A post with its counters as of an instant; what is not reported is absent.

    language is the ISO 639 code that the network gives, is_boosted whether money was spent on it;
    both only where the network says.
    """

    external_id: str
    published_at: datetime
    format: Format
    text: str
    url: str
    as_of: datetime
    metrics: dict[str, int]
    raw: dict[str, Any]
    language: str = ""
    is_boosted: bool | None = None
    picture: str = ""


@dataclass(frozen=True, kw_only=True)
class Page:
    """Posts, newest first, and what to ask for next; None when there is nothing older."""

    posts: Sequence[NetworkPost]
    cursor: str | None


@dataclass(frozen=True, kw_only=True)
class Counters:
    """Counters of posts asked for by identifier: metrics and the network's own words. Absent ones are gone."""

    as_of: datetime
    by_post: dict[str, tuple[dict[str, int], dict[str, Any]]]


@dataclass(frozen=True, kw_only=True)
class NetworkComment:
    """What somebody wrote under a post."""

    external_id: str
    author: str
    text: str
    written_at: datetime


@dataclass(frozen=True, kw_only=True)
class HashtagSeen:
    """A hashtag as a network's public search tells of it.

    uses: all of them; week: of the last seven days, None where it does not say. warm, cold: shares (0 to 1) of its
    posts by their mood. is_restricted: the network hides posts that carry it.
    """

    uses: int
    week: int | None
    warm: float | None
    cold: float | None
    related: tuple[str, ...] = ()
    is_restricted: bool = False


@dataclass(frozen=True, kw_only=True)
class MediaOut:
    """A picture, video or document to be sent with a post. content opens its bytes, anew for each try.

    words say what is to be seen, for those who do not see it. size is in bytes, 0 where they are not counted. address
    is where a network may fetch the bytes itself for a while; empty where it cannot.
    """

    name: str
    media_type: str
    content: Callable[[], IO[bytes]]
    words: str = ""
    width: int | None = None
    height: int | None = None
    seconds: float | None = None
    size: int = 0
    address: str = ""

    @property
    def is_video(self) -> bool:
        """Whether it moves."""
        return self.media_type.startswith("video/")

    def __iter__(self) -> Iterator[bytes]:
        """Its bytes in pieces, from the beginning each time: nobody holds a large file as a whole."""
        with self.content() as file:
            while piece := file.read(PIECE):
                yield piece

    def digest(self) -> str:
        """SHA-256 of its bytes, in hexadecimal digits."""
        found = hashlib.sha256()
        for piece in self:
            found.update(piece)
        return found.hexdigest()


@dataclass(frozen=True, kw_only=True)
class LinkCard:
    """What stands on the card of a link instead of what the page says; what is empty is left to the page."""

    title: str = ""
    text: str = ""
    picture: MediaOut | None = None


@dataclass(frozen=True, kw_only=True)
class PostOut:
    """A post as it is to be published, in our words. options are the network's own, such as a board."""

    text: str
    title: str = ""
    media: tuple[MediaOut, ...] = ()
    first_comment: str = ""
    link: str = ""
    card: LinkCard | None = None
    options: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Published:
    """A post that the network has taken."""

    external_id: str
    url: str
    published_at: datetime


@dataclass(frozen=True, kw_only=True)
class BoostOut:
    """A boost as it is to be begun. cents: never more in all; link: where its clicks are to lead, or nothing."""

    post_id: str
    cents: int
    currency: str
    starts_at: datetime
    ends_at: datetime
    countries: tuple[str, ...] = ()
    ages: tuple[str, ...] = ()
    link: str = ""


class BoostStatus(StrEnum):
    """How a boost stands at its network."""

    WAITING = "waiting"
    RUNNING = "running"
    STOPPED = "stopped"
    OVER = "over"


@dataclass(frozen=True, kw_only=True)
class BoostSeen:
    """A boost as its network tells of it: what it has spent (cents) and brought as of an instant."""

    external_id: str
    status: BoostStatus
    as_of: datetime
    cents: int
    impressions: int
    reach: int
    interactions: int
    link_clicks: int


class Connector(Protocol):
    """A network's API in our words.

    `requests` counts calls; `calls_left` is the network's own word on its limit; `slow` and
    `refused` count calls that took long or were turned away. `batch` is how many posts
    counters_of takes at once. What a network does not offer (its definition says what it
    does) raises Refused.
    """

    batch: int

    @property
    def requests(self) -> int:
        """Calls made so far."""
        ...

    @property
    def slow(self) -> int:
        """Calls that took longer than some seconds."""
        ...

    @property
    def refused(self) -> int:
        """Calls that were turned away or broke off."""
        ...

    @property
    def calls_left(self) -> int | None:
        """What the network says is left of its limit."""
        ...

    def offered_accounts(self) -> list[Account]:
        """Accounts that the authorisation covers."""
        ...

    def account(self, target: Target) -> Account:
        """An account, one's own or anybody's. Raises NotFound."""
        ...

    def search(self, text: str) -> list[Account]:
        """Public accounts whose name or handle holds the letters."""
        ...

    def hashtag(self, word: str) -> HashtagSeen:
        """What is publicly known of a hashtag, given without its sign. Raises NotFound for one that nobody uses."""
        ...

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Followers by day; one's own only."""
        ...

    def presence(self, target: Target) -> Presence:
        """When the audience is online; one's own only."""
        ...

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up of the audience: dimension to segment to share (0 to 1); one's own only."""
        ...

    def page(self, target: Target, cursor: str | None) -> Page:
        """A page of posts with counters where the list carries them; None asks for the newest."""
        ...

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Counters of at most `batch` posts."""
        ...

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Comments under one's own post, those since an instant where the network can tell, else all."""
        ...

    def subscribe(self, target: Target, *, address: str, secret: str) -> None:
        """Have the network call an address when something new is written; one's own only."""
        ...

    def choices(self, target: Target, option: str) -> list[str]:
        """What may be chosen for an option of the network's own, where each account has its own; one's own only."""
        ...

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a file to the network ahead of the post that it is for, so that the post is not late for it."""
        ...

    def say_first(self, target: Target, post_id: str, text: str, *, idempotency_key: str) -> None:
        """Write the first comment under a post of one's own, once per key."""
        ...

    def boost(self, target: Target, boost: BoostOut, *, idempotency_key: str) -> BoostSeen:
        """Begin a boost of a post of one's own, once per key: asked again, it answers with the one that is there."""
        ...

    def boost_seen(self, target: Target, external_id: str) -> BoostSeen:
        """How a boost stands. Raises NotFound."""
        ...

    def stop_boost(self, target: Target, external_id: str) -> BoostSeen:
        """Spend no more of a boost; one that is over stays so."""
        ...

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Publish once per key; what goes with the post is brought to the network before. Raises Refused.

        Brought again, the same bytes are the same file there: whatever is killed in between, one post comes of it.
        """
        ...
