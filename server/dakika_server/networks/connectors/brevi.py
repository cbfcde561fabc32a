"""Brevi: verbs, page numbers, epoch seconds, counters in the list itself."""

from collections.abc import Iterator
from datetime import UTC, date, datetime, time
from typing import Any

from dakika_core.networks.definition import Format

from dakika_server.networks.connectors.base import Account, FollowerDay, NetworkPost, Presence, Published
from dakika_server.networks.connectors.client import ClientConnector

FORMATS = {"plain": Format.TEXT, "linked": Format.LINK, "pictured": Format.IMAGE, "moving": Format.SHORT_VIDEO}
PER_PAGE = 100


class BreviConnector(ClientConnector):
    """Brevi in our words."""

    @property
    def _app(self) -> dict[str, str]:
        return {"app": self._app_id}

    def offered_accounts(self) -> list[Account]:
        """Accounts that the authorisation covers; Brevi takes any kind."""
        said = self._client.call("GET", "/api/account.mine", headers=self._own)
        return [_account(entry) for entry in said["accounts"]]

    def account(self, handle: str, external_id: str) -> Account:
        """One's own account."""
        said = self._client.call("GET", "/api/account.show", params={"name": handle}, headers=self._own)
        return _account(said["account"])

    def public_account(self, handle: str) -> Account:
        """Anybody's account."""
        return _account(self._client.call("GET", "/api/account.show", params={"name": handle, **self._app})["account"])

    def follower_days(self, handle: str, external_id: str, since: date) -> list[FollowerDay]:
        """Followers by day."""
        start = int(datetime.combine(since, time(), tzinfo=UTC).timestamp())
        said = self._client.call("GET", "/api/account.days", params={"name": handle, "since": start}, headers=self._own)
        return [
            FollowerDay(day=datetime.fromtimestamp(at, tz=UTC).date(), followers=total, gained=new, lost=gone)
            for at, total, new, gone in said["days"]
        ]

    def presence(self, handle: str, external_id: str) -> Presence:
        """When the audience is online."""
        said = self._client.call("GET", "/api/account.presence", params={"name": handle}, headers=self._own)
        return Presence(hours_utc=said["hours_utc"], zones=said["places"])

    def posts(self, handle: str, external_id: str, *, is_own: bool) -> Iterator[list[NetworkPost]]:
        """Notes newest first."""
        number, last = 1, 1
        while number <= last:
            params = {"name": handle, "page": number, "per": PER_PAGE, **({} if is_own else self._app)}
            said = self._client.call("GET", "/api/account.list", params=params, headers=self._own if is_own else {})
            as_of = datetime.fromtimestamp(said["now"], tz=UTC)
            yield [self._post(handle, note, as_of) for note in said["items"]]
            number, last = number + 1, said["pages"]

    def publish(self, handle: str, external_id: str, *, text: str, idempotency_key: str) -> Published:
        """Publish; Brevi keeps the form's client_token."""
        form = {"name": handle, "body": text, "client_token": idempotency_key}
        note = self._client.call("POST", "/api/note.send", data=form, headers=self._own)["note"]
        return Published(
            external_id=note["no"], url=_url(handle, note["no"]), published_at=datetime.fromtimestamp(note["t"], tz=UTC)
        )

    def _post(self, handle: str, note: dict[str, Any], as_of: datetime) -> NetworkPost:
        stats = note["stats"]
        published = datetime.fromtimestamp(note["t"], tz=UTC)
        return NetworkPost(
            external_id=note["no"], published_at=published, format=FORMATS[note["sort"]], text=note["body"],
            url=_url(handle, note["no"]), as_of=max(as_of, published),
            metrics={ours: int(stats[theirs]) for theirs, ours in self._definition.metrics.items() if theirs in stats},
            raw=stats,
        )  # fmt: skip


def _url(handle: str, number: str) -> str:
    return f"https://brevi.example/{handle}/{number}"


def _account(said: dict[str, Any]) -> Account:
    return Account(
        external_id=said["no"], handle=said["name"], name=said["title"], picture=said["image"], followers=said["fans"],
        posts=said["notes"], as_of=datetime.fromtimestamp(said["now"], tz=UTC),
    )  # fmt: skip
