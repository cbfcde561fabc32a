"""Guildhall: the next page in the Link header (RFC 8288), milliseconds, figures asked for apart."""

from collections.abc import Sequence
from datetime import UTC, date, datetime
from typing import Any

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
from dakika_server.networks.connectors.client import ClientConnector, epoch, with_counters

FORMATS = {"words": Format.TEXT, "article": Format.LINK, "image": Format.IMAGE}
BASE = "/rest/organisations"


class GuildhallConnector(ClientConnector):
    """Guildhall in our words."""

    batch = 100

    def _headers(self, *, is_own: bool) -> dict[str, str]:
        return self._own if is_own else {"Guildhall-Application": self._app_id}

    def offered_accounts(self) -> list[Account]:
        """Organisations that the person administers."""
        return [self._account(one) for one in self._client.call("GET", BASE, headers=self._own)["organisations"]]

    def account(self, target: Target) -> Account:
        """An organisation."""
        headers = self._headers(is_own=target.is_own)
        return self._account(self._client.call("GET", f"{BASE}/{target.handle}", headers=headers))

    def search(self, text: str) -> list[Account]:
        """Organisations by a part of their name."""
        said = self._client.call("GET", BASE, params={"named": text}, headers=self._headers(is_own=False))
        return [self._account(one) for one in said["organisations"]]

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Changes by day; Guildhall counts days back from today."""
        days = max(1, (datetime.now(tz=UTC).date() - since).days)
        path = f"{BASE}/{target.handle}/followers"
        rows = self._client.call("GET", path, params={"days": days}, headers=self._own)["days"]
        return [
            FollowerDay(day=_instant(r["day"]).date(), followers=r["total"], gained=r["change"][0], lost=r["change"][1])
            for r in rows
        ]

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up, as shares."""
        found: dict[str, dict[str, float]] = self._client.call(
            "GET", f"{BASE}/{target.handle}/audience", headers=self._own
        )["shares"]
        return found

    def page(self, target: Target, cursor: str | None) -> Page:
        """Updates newest first, then their figures."""
        response = self._client.ask(
            "GET", f"{BASE}/{target.handle}/updates", params={"page": cursor or "0"},
            headers=self._headers(is_own=target.is_own),
        )  # fmt: skip
        said = response.json()
        as_of = _instant(said["asOf"])
        posts = [_post(update, as_of) for update in said["updates"]]
        if posts:
            posts = with_counters(posts, self.counters_of(target, [p.external_id for p in posts]))
        following = response.links.get("next", {}).get("url", "")
        return Page(posts=posts, cursor=following.rpartition("page=")[2] or None)

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Figures of updates by identifier."""
        headers = self._headers(is_own=target.is_own)
        said = self._client.call("POST", "/rest/figures", json={"ids": list(external_ids)}, headers=headers)
        found = {key: (self._metrics(counts), counts) for key, counts in said["figures"].items()}
        return Counters(as_of=_instant(said["asOf"]), by_post=found)

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Replies to an update."""
        said = self._client.call("GET", f"/rest/updates/{post_id.rpartition('/')[2]}/replies", headers=self._own)
        return [
            NetworkComment(external_id=c["id"], author=c["member"], text=c["text"], written_at=_instant(c["at"]))
            for c in said["replies"]
        ]

    def _brought(self, target: Target, media: MediaOut) -> str:
        return str(self._bring(f"{BASE}/{target.handle}/assets", media)["asset"])

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a picture, video or paper."""
        self._brought(target, media)

    def say_first(self, target: Target, post_id: str, text: str, *, idempotency_key: str) -> None:
        """Reply under an update of one's own."""
        headers = {**self._own, "Request-Id": idempotency_key}
        self._client.call(
            "POST", f"/rest/updates/{post_id.rpartition('/')[2]}/replies", json={"text": text}, headers=headers
        )

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Publish; Guildhall keeps the header Request-Id."""
        home = f"{BASE}/{target.handle}"
        assets = [self._brought(target, media) for media in self._fitting(post, most=9)]
        asked: dict[str, Any] = {"commentary": post.text, "assets": assets}
        shown_in = [one for one in post.options.get("shown_in", "").split(",") if one]
        if shown_in:
            asked["targets"] = [{"kind": "country", "code": code} for code in shown_in]
        if post.card is not None:
            picture = post.card.picture and self._brought(target, post.card.picture)
            asked["card"] = {"heading": post.card.title, "abstract": post.card.text, "asset": picture}
        said = self._client.call(
            "POST", f"{home}/updates", json=asked,
            headers={**self._own, "Request-Id": idempotency_key},
        )  # fmt: skip
        return Published(external_id=said["id"], url=said["page"], published_at=_instant(said["publishedAt"]))

    def _account(self, said: dict[str, Any]) -> Account:
        return Account(
            external_id=said["id"], handle=said["slug"], name=said["name"], picture=said["logo"],
            followers=said["followerTotal"], posts=None, as_of=_instant(said["asOf"]),
        )  # fmt: skip


def _instant(milliseconds: int) -> datetime:
    return epoch(milliseconds / 1000)


def _post(said: dict[str, Any], as_of: datetime) -> NetworkPost:
    published = _instant(said["publishedAt"])
    return NetworkPost(
        external_id=said["id"], published_at=published, format=FORMATS[said["contents"]], text=said["commentary"],
        url=said["page"], as_of=max(as_of, published), metrics={}, raw={},
        language=str(said.get("locale", "")).partition("_")[0], is_boosted=said.get("sponsored"),
        picture=said.get("media", ""),
    )  # fmt: skip
