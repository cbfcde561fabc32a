"""Brevi: verbs, page numbers, epoch seconds, counters in the list itself."""

from collections.abc import Sequence
from datetime import UTC, date, datetime, time
from typing import Any

from dakika_core.networks.definition import Format

from dakika_server.networks.connectors.base import (
    Account,
    Counters,
    FollowerDay,
    HashtagSeen,
    MediaOut,
    NetworkComment,
    NetworkPost,
    Page,
    PostOut,
    Presence,
    Published,
    Target,
)
from dakika_server.networks.connectors.client import ClientConnector, epoch

FORMATS = {"plain": Format.TEXT, "linked": Format.LINK, "pictured": Format.IMAGE, "moving": Format.SHORT_VIDEO}


class BreviConnector(ClientConnector):
    """Brevi in our words."""

    batch = 100

    def _ask(self, verb: str, target: Target | None = None, **params: Any) -> dict[str, Any]:
        is_own = target is not None and target.is_own
        if target is not None:
            params["name"] = target.handle
        if not is_own:
            params["app"] = self._app_id
        said = self._client.call("GET", f"/api/{verb}", params=params, headers=self._own if is_own else {})
        self._client.calls_left = said.get("limits", {}).get("left")
        return said

    def offered_accounts(self) -> list[Account]:
        """Accounts that the authorisation covers; Brevi takes any kind."""
        said = self._client.call("GET", "/api/account.mine", headers=self._own)
        return [_account(entry) for entry in said["accounts"]]

    def account(self, target: Target) -> Account:
        """An account."""
        return _account(self._ask("account.show", target)["account"])

    def search(self, text: str) -> list[Account]:
        """Accounts by a part of their name."""
        return [_account(entry) for entry in self._ask("account.find", like=text)["accounts"]]

    def hashtag(self, word: str) -> HashtagSeen:
        """What is known of a hashtag; its mood comes in hundredths."""
        said = self._ask("tag.show", word=word)["tag"]
        return HashtagSeen(
            uses=said["uses"], week=said["uses_7d"], warm=said["up"] / 100, cold=said["down"] / 100,
            related=tuple(filter(None, said["beside"].split(","))), is_restricted=bool(said["hidden"]),
        )  # fmt: skip

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Followers by day."""
        start = int(datetime.combine(since, time(), tzinfo=UTC).timestamp())
        return [
            FollowerDay(day=epoch(at).date(), followers=total, gained=new, lost=gone)
            for at, total, new, gone in self._ask("account.days", target, since=start)["days"]
        ]

    def presence(self, target: Target) -> Presence:
        """When the audience is online."""
        said = self._ask("account.presence", target)
        return Presence(hours_utc=said["hours_utc"], zones=said["places"])

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up; Brevi counts people, so shares are worked out."""
        said = self._ask("account.fans", target)
        found = {}
        for dimension in self._definition.offer.audience:
            total = sum(said[dimension].values())
            found[dimension] = {name: count / total for name, count in said[dimension].items() if total}
        return found

    def page(self, target: Target, cursor: str | None) -> Page:
        """Notes newest first."""
        said = self._ask("account.list", target, page=int(cursor or 1), per=self.batch)
        following = str(said["page"] + 1) if said["page"] < said["pages"] else None
        as_of = epoch(said["now"])
        return Page(posts=[self._post(target.handle, note, as_of) for note in said["items"]], cursor=following)

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Counters of notes by number."""
        said = self._ask("note.many", target, nos=",".join(external_ids))
        found = {note["no"]: (self._metrics(note["stats"]), note["stats"]) for note in said["items"]}
        return Counters(as_of=epoch(said["now"]), by_post=found)

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Replies since an instant."""
        said = self._ask("note.replies", target, no=post_id, since=int(since.timestamp()) if since else 0)
        return [
            NetworkComment(external_id=c["no"], author=c["who"], text=c["body"], written_at=epoch(c["t"]))
            for c in said["replies"]
        ]

    def _brought(self, target: Target, media: MediaOut) -> str:
        return str(self._bring("/api/media.put", media)["media"])

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a picture."""
        self._brought(target, media)

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Publish; Brevi keeps the form's client_token."""
        brought = [self._brought(target, media) for media in self._fitting(post, most=4, videos=False)]
        form = {
            "name": target.handle, "body": post.text, "attach": ",".join(brought), "client_token": idempotency_key
        }  # fmt: skip
        note = self._client.call("POST", "/api/note.send", data=form, headers=self._own)["note"]
        return Published(external_id=note["no"], url=_url(target.handle, note["no"]), published_at=epoch(note["t"]))

    def _post(self, handle: str, note: dict[str, Any], as_of: datetime) -> NetworkPost:
        published = epoch(note["t"])
        return NetworkPost(
            external_id=note["no"], published_at=published, format=FORMATS[note["sort"]], text=note["body"],
            url=_url(handle, note["no"]), as_of=max(as_of, published), metrics=self._metrics(note["stats"]),
            raw=note["stats"], language=note.get("lang", ""), picture=note.get("attached", ""),
        )  # fmt: skip


def _url(handle: str, number: str) -> str:
    return f"https://brevi.example/{handle}/{number}"


def _account(said: dict[str, Any]) -> Account:
    return Account(
        external_id=said["no"], handle=said["name"], name=said["title"], picture=said["image"], followers=said["fans"],
        posts=said["notes"], as_of=epoch(said["now"]),
    )  # fmt: skip
