"""Commons: resources, cursors, ISO 8601, insights asked for in batches."""

from collections.abc import Sequence
from datetime import date, datetime
from typing import Any
from urllib.parse import quote

from dakika_core.networks.definition import Format

from dakika_server.networks.connectors.base import (
    Account,
    BoostOut,
    BoostSeen,
    BoostStatus,
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
from dakika_server.networks.connectors.client import ClientConnector, with_counters

FORMATS = {
    "note": Format.TEXT, "link": Format.LINK, "photo": Format.IMAGE, "album": Format.ALBUM,
    "clip": Format.SHORT_VIDEO, "film": Format.LONG_VIDEO,
}  # fmt: skip


PROMOTED = {
    "PENDING": BoostStatus.WAITING, "ACTIVE": BoostStatus.RUNNING, "STOPPED": BoostStatus.STOPPED,
    "COMPLETED": BoostStatus.OVER,
}  # fmt: skip


def _organic(counts: dict[str, Any]) -> dict[str, Any]:
    """Counters without what was paid for, which Commons counts among them and tells as a part beside them."""
    paid = counts.get("promoted")
    if not isinstance(paid, dict):
        return counts
    found = dict(counts)
    for name, value in paid.items():
        if isinstance(value, dict) and isinstance(found.get(name), dict):
            # Never below nothing: the two are not always counted at the same moment.
            found[name] = {kind: max(0, n - int(value.get(kind, 0))) for kind, n in found[name].items()}
        elif found.get(name) is not None:
            found[name] = max(0, int(found[name]) - int(value))
    return found


class CommonsConnector(ClientConnector):
    """Commons in our words."""

    batch = 50

    @property
    def _public(self) -> dict[str, str]:
        return {"X-App-Id": self._app_id}

    def offered_accounts(self) -> list[Account]:
        """Pages, and the personal account, which cannot be connected."""
        return [self._account(page) for page in self._client.call("GET", "/v1/me/pages", headers=self._own)["data"]]

    def account(self, target: Target) -> Account:
        """A page."""
        if target.is_own:
            return self._account(self._client.call("GET", f"/v1/pages/{target.external_id}", headers=self._own))
        return self._account(self._client.call("GET", f"/v1/directory/{target.handle}", headers=self._public))

    def search(self, text: str) -> list[Account]:
        """Pages by a part of their name."""
        said = self._client.call("GET", "/v1/directory", params={"q": text}, headers=self._public)
        return [self._account(page) for page in said["data"]]

    def hashtag(self, word: str) -> HashtagSeen:
        """How much a hashtag is used, and how people feel under it."""
        said = self._client.call("GET", f"/v1/directory/hashtags/{quote(word, safe='')}", headers=self._public)
        return HashtagSeen(
            uses=said["posts"]["all"], week=said["posts"]["week"], warm=said["mood"]["warm"],
            cold=said["mood"]["cold"], related=tuple(said["near"]), is_restricted=said["restricted"],
        )  # fmt: skip

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Followers by day."""
        path = f"/v1/pages/{target.external_id}/followers/daily"
        rows = self._client.call("GET", path, params={"since": since.isoformat()}, headers=self._own)["data"]
        return [
            FollowerDay(day=date.fromisoformat(r["day"]), followers=r["total"], gained=r["new"], lost=r["gone"])
            for r in rows
        ]

    def presence(self, target: Target) -> Presence:
        """When the audience is online."""
        said = self._client.call("GET", f"/v1/pages/{target.external_id}/presence", headers=self._own)
        return Presence(hours_utc=said["hours"], zones=said["zones"])

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up, as shares."""
        said = self._client.call("GET", f"/v1/pages/{target.external_id}/people", headers=self._own)
        found: dict[str, dict[str, float]] = said["data"]
        return found

    def page(self, target: Target, cursor: str | None) -> Page:
        """Posts newest first; one's own with insights, others' with their public counts."""
        path = f"/v1/pages/{target.external_id}/posts" if target.is_own else f"/v1/directory/{target.handle}/posts"
        headers = self._own if target.is_own else self._public
        said = self._client.call("GET", path, params={"limit": self.batch, "after": cursor or ""}, headers=headers)
        as_of = datetime.fromisoformat(said["as_of"])
        posts = [self._post(entry, as_of) for entry in said["data"]]
        if target.is_own and posts:
            posts = with_counters(posts, self.counters_of(target, [p.external_id for p in posts][: self.batch]))
        return Page(posts=posts, cursor=said["paging"]["after"])

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Insights of one's own posts, public figures of others'."""
        path, headers = ("/v1/insights", self._own) if target.is_own else ("/v1/directory/figures", self._public)
        said = self._client.call("GET", path, params={"posts": ",".join(external_ids)}, headers=headers)
        found = {key: (self._metrics(_organic(counts)), counts) for key, counts in said["data"].items()}
        return Counters(as_of=datetime.fromisoformat(said["as_of"]), by_post=found)

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Answers to a post, all of them."""
        said = self._client.call("GET", f"/v1/posts/{post_id}/answers", headers=self._own)
        return [
            NetworkComment(
                external_id=c["id"], author=c["from"], text=c["message"],
                written_at=datetime.fromisoformat(c["created_at"]),
            )
            for c in said["data"]
        ]  # fmt: skip

    def subscribe(self, target: Target, *, address: str, secret: str) -> None:
        """Have new answers told."""
        path = f"/v1/pages/{target.external_id}/subscriptions"
        self._client.call("POST", path, json={"url": address, "secret": secret}, headers=self._own)

    def _brought(self, target: Target, media: MediaOut) -> str:
        return str(self._bring(f"/v1/pages/{target.external_id}/media", media)["media"])

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a picture or video."""
        self._brought(target, media)

    def choices(self, target: Target, option: str) -> list[str]:
        """The page's places; everything else stands in the definition."""
        if option != "place":
            return super().choices(target, option)
        said = self._client.call("GET", f"/v1/pages/{target.external_id}/places", headers=self._own)
        return [str(one["name"]) for one in said["data"]]

    def say_first(self, target: Target, post_id: str, text: str, *, idempotency_key: str) -> None:
        """Answer under a post of one's own."""
        headers = {**self._own, "Idempotency-Key": idempotency_key}
        self._client.call("POST", f"/v1/posts/{post_id}/answers", json={"message": text}, headers=headers)

    def boost(self, target: Target, boost: BoostOut, *, idempotency_key: str) -> BoostSeen:
        """Promote a post, as Commons calls it; it keeps the header Idempotency-Key."""
        asked = {
            "post": boost.post_id, "budget": {"amount": f"{boost.cents / 100:.2f}", "currency": boost.currency},
            "starts_at": boost.starts_at.isoformat(), "ends_at": boost.ends_at.isoformat(),
            "audience": {"countries": list(boost.countries), "ages": list(boost.ages)}, "link": boost.link or None,
        }  # fmt: skip
        headers = {**self._own, "Idempotency-Key": idempotency_key}
        return self._promotion(self._client.call("POST", "/v1/promotions", json=asked, headers=headers))

    def boost_seen(self, target: Target, external_id: str) -> BoostSeen:
        """A promotion."""
        return self._promotion(self._client.call("GET", f"/v1/promotions/{external_id}", headers=self._own))

    def stop_boost(self, target: Target, external_id: str) -> BoostSeen:
        """A promotion that is deleted spends no more, and still tells what it spent."""
        return self._promotion(self._client.call("DELETE", f"/v1/promotions/{external_id}", headers=self._own))

    def _promotion(self, said: dict[str, Any]) -> BoostSeen:
        results = said["results"]
        return BoostSeen(
            external_id=said["id"], status=PROMOTED[said["status"]], as_of=datetime.fromisoformat(said["as_of"]),
            cents=round(float(said["spent"]["amount"]) * 100), impressions=results["views"], reach=results["people"],
            interactions=results["feelings"], link_clicks=results["link_taps"],
        )  # fmt: skip

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Publish; Commons keeps the header Idempotency-Key."""
        page = f"/v1/pages/{target.external_id}"
        attachments = [
            {"media": self._brought(target, media), "alt": media.words} for media in self._fitting(post, most=10)
        ]
        asked: dict[str, Any] = {"message": post.text, "attachments": attachments}
        if post.card is not None:
            picture = post.card.picture and self._brought(target, post.card.picture)
            asked["link"] = {"title": post.card.title, "summary": post.card.text, "media": picture}
        shown_in = [one for one in post.options.get("shown_in", "").split(",") if one]
        if shown_in:
            asked["audience"] = {"countries": shown_in}
        if post.options.get("place"):
            asked["place"] = post.options["place"]
        said = self._client.call(
            "POST", f"{page}/posts", json=asked,
            headers={**self._own, "Idempotency-Key": idempotency_key},
        )  # fmt: skip
        return Published(
            external_id=said["id"], url=said["permalink"], published_at=datetime.fromisoformat(said["created_at"])
        )

    def _post(self, said: dict[str, Any], as_of: datetime) -> NetworkPost:
        published, counts = datetime.fromisoformat(said["created_at"]), said.get("counts", {})
        return NetworkPost(
            external_id=said["id"], published_at=published, format=FORMATS[said["kind"]], text=said["message"],
            url=said["permalink"], as_of=max(as_of, published), metrics=self._metrics(counts), raw=counts,
            language=said.get("lang", ""), is_boosted=said.get("is_promoted"),
            picture=said.get("picture", ""),
        )  # fmt: skip

    def _account(self, said: dict[str, Any]) -> Account:
        return Account(
            external_id=said["id"], handle=said["handle"], name=said["name"], picture=said["picture"],
            followers=said["followers_count"], posts=said["posts_count"], as_of=datetime.fromisoformat(said["as_of"]),
            refusal=self._refusal(is_business=said["kind"] != "personal"),
        )  # fmt: skip
