"""Vignette: one address, JSON-RPC 2.0, a cursor that is an instant."""

from collections.abc import Sequence
from datetime import UTC, date, datetime, time
from typing import Any

from dakika_core.networks.definition import Format

from dakika_server.networks.connectors.base import (
    Account,
    Counters,
    FollowerDay,
    MediaOut,
    NetworkComment,
    NetworkPost,
    NotFound,
    Page,
    PostOut,
    Presence,
    Published,
    Refused,
    Target,
)
from dakika_server.networks.connectors.client import ClientConnector, as_published, epoch

NOT_FOUND = -32004


class VignetteConnector(ClientConnector):
    """Vignette in our words."""

    batch = 60

    def _ask(self, method: str, *, is_own: bool, **params: Any) -> dict[str, Any]:
        """The result of a call; JSON-RPC tells of errors in the body."""
        headers = self._own if is_own else {"X-Client": self._app_id}
        body = {"jsonrpc": "2.0", "id": 1, "method": method, "params": params}
        found: dict[str, Any] = self._told(self._client.call("POST", "/rpc", json=body, headers=headers))["result"]
        return found

    def _told(self, said: dict[str, Any]) -> dict[str, Any]:
        """An answer that is no error: those come with the status of success."""
        if "error" in said:
            if said["error"].get("code") == NOT_FOUND:
                raise NotFound(f"{self._definition.name} knows no such account or post.")
            raise Refused(f"{self._definition.name} refused: {str(said['error'].get('message'))[:200]}.")
        return said

    def offered_accounts(self) -> list[Account]:
        """Accounts that the authorisation covers."""
        said = self._ask("accounts.mine", is_own=True)
        return [self._account(entry, said["clock"]) for entry in said["accounts"]]

    def account(self, target: Target) -> Account:
        """An account."""
        said = self._ask("accounts.get", is_own=target.is_own, account=target.handle)
        return self._account(said["account"], said["clock"])

    def search(self, text: str) -> list[Account]:
        """Accounts by a part of their name."""
        said = self._ask("accounts.find", is_own=False, like=text)
        return [self._account(entry, said["clock"]) for entry in said["accounts"]]

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Followers by day, told as columns."""
        start = int(datetime.combine(since, time(), tzinfo=UTC).timestamp())
        said = self._ask("followers.days", is_own=True, account=target.external_id, since=start)
        columns = zip(said["day"], said["total"], said["came"], said["went"], strict=True)
        return [
            FollowerDay(day=date.fromisoformat(day), followers=total, gained=came, lost=went)
            for day, total, came, went in columns
        ]

    def presence(self, target: Target) -> Presence:
        """When the audience is online."""
        said = self._ask("followers.hours", is_own=True, account=target.external_id)
        return Presence(hours_utc=said["hours"], zones=dict(said["zones"]))

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up, told as rows."""
        found: dict[str, dict[str, float]] = {}
        for dimension, segment, share in self._ask("followers.people", is_own=True, account=target.external_id)["rows"]:
            found.setdefault(dimension, {})[segment] = share
        return found

    def page(self, target: Target, cursor: str | None) -> Page:
        """Clips newest first."""
        said = self._ask("clips.list", is_own=target.is_own, account=target.handle, before=int(cursor or 0))
        posts = [self._post(clip, epoch(said["clock"])) for clip in said["clips"]]
        return Page(posts=posts, cursor=str(said["before"]) if said["before"] else None)

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Figures of clips by identifier."""
        said = self._ask("clips.get", is_own=target.is_own, ids=list(external_ids))
        found = {clip["id"]: (self._metrics(clip["figures"]), clip["figures"]) for clip in said["clips"]}
        return Counters(as_of=epoch(said["clock"]), by_post=found)

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Notes under a clip."""
        return [
            NetworkComment(external_id=c["id"], author=c["who"], text=c["words"], written_at=epoch(c["when"]))
            for c in self._ask("notes.list", is_own=True, clip=post_id)["notes"]
        ]

    def _brought(self, target: Target, media: MediaOut) -> str:
        if media.address:
            try:
                said = self._client.call("POST", "/slots", json={"fetch": media.address}, headers=self._own)
                return str(self._told(said)["slot"])
            except Refused:
                # What it cannot reach is brought to it.
                pass
        return str(self._told(self._bring("/slots", media))["slot"])

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a clip."""
        self._brought(target, media)

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Bring the video, then put the clip up; Vignette keeps the word `once`."""
        (video,) = self._fitting(post, at_least=1, most=1)
        slot = self._brought(target, video)
        said = self._ask(
            "clips.publish", is_own=True, account=target.handle, slot=slot, words=post.text, once=idempotency_key
        )
        return as_published(self._post(said["clip"], epoch(said["clock"])))

    def _post(self, said: dict[str, Any], as_of: datetime) -> NetworkPost:
        published = epoch(int(said["up_since"]))
        return NetworkPost(
            external_id=said["id"], published_at=published, format=Format.SHORT_VIDEO, text=said["words"],
            url=said["at"], as_of=max(as_of, published), metrics=self._metrics(said["figures"]), raw=said["figures"],
            picture=said.get("cover", ""),
        )  # fmt: skip

    def _account(self, said: dict[str, Any], clock: int) -> Account:
        return Account(
            external_id=said["id"], handle=said["at_name"], name=said["title"], picture=said["face"],
            followers=said["followers"], posts=said["clips"], as_of=epoch(clock),
            refusal=self._refusal(is_business=said["business"]),
        )  # fmt: skip
