"""What every connector offers, in our words. A network is added by one class and one definition file."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date, datetime
from typing import Any, Protocol

from dakika_core.networks.definition import Format


class NetworkError(Exception):
    """Something at the network went wrong; the text says what, for people."""


class NotAuthorised(NetworkError):
    """The authorisation has lapsed or was taken back: the person must renew it."""


class NotFound(NetworkError):
    """The network knows no such account."""


class Refused(NetworkError):
    """The network will not do this, and asking again will not help."""


class Unavailable(NetworkError):
    """The network is down, slow or too busy: later may help. wait_seconds as it asked for, if it did."""

    def __init__(self, message: str, *, wait_seconds: float | None = None) -> None:
        super().__init__(message)
        self.wait_seconds = wait_seconds


@dataclass(frozen=True, kw_only=True)
class Tokens:
    """What an authorisation gives. Never logged, stored encrypted."""

    access: str = field(repr=False)
    refresh: str = field(repr=False)
    expires_at: datetime


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
    """A post with its counters as of an instant; what is not reported is absent."""

    external_id: str
    published_at: datetime
    format: Format
    text: str
    url: str
    as_of: datetime
    metrics: dict[str, int]
    raw: dict[str, Any]


@dataclass(frozen=True, kw_only=True)
class Published:
    """A post that the network has taken."""

    external_id: str
    url: str
    published_at: datetime


class Connector(Protocol):
    """A network's API in our words. `requests` counts calls, `calls_left` is the network's own word on its limit."""

    @property
    def requests(self) -> int:
        """Calls made so far."""
        ...

    @property
    def calls_left(self) -> int | None:
        """What the network says is left of its limit."""
        ...

    def offered_accounts(self) -> list[Account]:
        """Accounts that the authorisation covers."""
        ...

    def account(self, handle: str, external_id: str) -> Account:
        """One's own account."""
        ...

    def public_account(self, handle: str) -> Account:
        """Anybody's account by handle. Raises NotFound."""
        ...

    def follower_days(self, handle: str, external_id: str, since: date) -> list[FollowerDay]:
        """Followers by day; one's own only."""
        ...

    def presence(self, handle: str, external_id: str) -> Presence:
        """When the audience is online; one's own only."""
        ...

    def posts(self, handle: str, external_id: str, *, is_own: bool) -> Iterator[list[NetworkPost]]:
        """Pages of posts with readings, newest first."""
        ...

    def publish(self, handle: str, external_id: str, *, text: str, idempotency_key: str) -> Published:
        """Publish once per key."""
        ...
