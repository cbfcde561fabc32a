"""Corkboard: JSON:API documents, whole addresses for the next page, local times with their offset."""

from collections.abc import Sequence
from datetime import date, datetime
from typing import Any
from urllib.parse import parse_qs, urlsplit

from dakika_core.networks.definition import Format

from dakika_server.networks.connectors.base import (
    Account,
    Counters,
    FollowerDay,
    MediaOut,
    NetworkComment,
    NetworkPost,
    Page,
    PostOut,
    Published,
    Target,
)
from dakika_server.networks.connectors.client import ClientConnector, as_published


class CorkboardConnector(ClientConnector):
    """Corkboard in our words."""

    batch = 50

    def _ask(self, path: str, *, is_own: bool, **params: Any) -> dict[str, Any]:
        given = params if is_own else {**params, "application": self._app_id}
        said = self._client.call("GET", f"/api{path}", params=given, headers=self._own if is_own else {})
        self._client.calls_left = said.get("meta", {}).get("calls_left")
        return said

    def offered_accounts(self) -> list[Account]:
        """Accounts that the authorisation covers."""
        said = self._ask("/accounts", is_own=True)
        return [_account(entry, said["meta"]["at"]) for entry in said["data"]]

    def account(self, target: Target) -> Account:
        """An account."""
        said = self._ask(f"/accounts/{target.handle}", is_own=target.is_own)
        return _account(said["data"], said["meta"]["at"])

    def search(self, text: str) -> list[Account]:
        """Accounts by a part of their name."""
        said = self._ask("/accounts", is_own=False, **{"filter[like]": text})
        return [_account(entry, said["meta"]["at"]) for entry in said["data"]]

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Followers by day."""
        path = f"/accounts/{target.external_id}/follower-days"
        rows = self._ask(path, is_own=True, **{"filter[since]": since.isoformat()})["data"]
        return [
            FollowerDay(
                day=date.fromisoformat(r["id"]), followers=r["attributes"]["followers"], gained=r["attributes"]["came"],
                lost=r["attributes"]["went"],
            )
            for r in rows
        ]  # fmt: skip

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up, a resource for each dimension."""
        rows = self._ask(f"/accounts/{target.external_id}/make-ups", is_own=True)["data"]
        return {row["id"]: row["attributes"] for row in rows}

    def page(self, target: Target, cursor: str | None) -> Page:
        """Pins newest first. Only the page's number is taken from the next address, never the address itself."""
        params = {"page[number]": cursor or "1", "page[size]": str(self.batch)}
        said = self._ask(f"/accounts/{target.handle}/pins", is_own=target.is_own, **params)
        following = parse_qs(urlsplit(said["links"]["next"] or "").query).get("page[number]")
        as_of = datetime.fromisoformat(said["meta"]["at"])
        return Page(posts=[self._post(pin, as_of) for pin in said["data"]], cursor=following[0] if following else None)

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Figures of pins by identifier."""
        said = self._ask("/pins", is_own=target.is_own, **{"filter[id]": ",".join(external_ids)})
        figures = {pin["id"]: pin["attributes"]["figures"] for pin in said["data"]}
        found = {key: (self._metrics(counts), counts) for key, counts in figures.items()}
        return Counters(as_of=datetime.fromisoformat(said["meta"]["at"]), by_post=found)

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Comments on a pin."""
        return [
            NetworkComment(
                external_id=c["id"], author=c["attributes"]["author"], text=c["attributes"]["text"],
                written_at=datetime.fromisoformat(c["attributes"]["at"]),
            )
            for c in self._ask(f"/pins/{post_id}/comments", is_own=True)["data"]
        ]  # fmt: skip

    def _brought(self, target: Target, media: MediaOut) -> str:
        return str(self._bring("/api/images", media)["data"]["id"])

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a picture."""
        self._brought(target, media)

    def choices(self, target: Target, option: str) -> list[str]:
        """The account's boards."""
        said = self._client.call("GET", f"/api/accounts/{target.external_id}/boards", headers=self._own)
        return [str(one["attributes"]["name"]) for one in said["data"]] if option == "board" else []

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Bring the picture, then put the pin up; Corkboard keeps the word `once`. The board is an option."""
        (picture,) = self._fitting(post, at_least=1, most=1, videos=False)
        image = self._brought(target, picture)
        attributes = {
            "title": post.title, "text": post.text, "link": post.link, "board": post.options.get("board", ""),
            "image": image, "alt": picture.words, "once": idempotency_key,
        }  # fmt: skip
        said = self._client.call(
            "POST", f"/api/accounts/{target.external_id}/new-pins", headers=self._own,
            json={"data": {"type": "pins", "attributes": attributes}},
        )  # fmt: skip
        return as_published(self._post(said["data"], datetime.fromisoformat(said["meta"]["at"])))

    def _post(self, said: dict[str, Any], as_of: datetime) -> NetworkPost:
        given = said["attributes"]
        published = datetime.fromisoformat(given["pinned"])
        return NetworkPost(
            external_id=said["id"], published_at=published, format=Format.IMAGE, text=given["text"], url=given["page"],
            as_of=max(as_of, published), metrics=self._metrics(given["figures"]),
            raw={**given["figures"], "board": said["relationships"]["board"]["data"]["id"]},
            picture=given.get("image", ""),
        )  # fmt: skip


def _account(said: dict[str, Any], at: str) -> Account:
    given = said["attributes"]
    return Account(
        external_id=said["id"], handle=given["name"], name=given["title"], picture=given["image"],
        followers=given["followers"], posts=given["pins"], as_of=datetime.fromisoformat(at),
    )  # fmt: skip
