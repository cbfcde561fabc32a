"""Pictor: offsets, RFC 9110 dates, figures as lists of name and value."""

import re
from collections.abc import Sequence
from datetime import date, datetime
from email.utils import parsedate_to_datetime
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
from dakika_server.networks.connectors.client import ClientConnector, as_published

FORMATS = {"single": Format.IMAGE, "set": Format.ALBUM, "moving": Format.SHORT_VIDEO}
WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
AUDIENCE = {"age": "by_age", "gender": "by_gender", "country": "by_country", "city": "by_city"}

PUSHED = {"waits": BoostStatus.WAITING, "runs": BoostStatus.RUNNING, "stopped": BoostStatus.STOPPED,
          "over": BoostStatus.OVER}  # fmt: skip


class PictorConnector(ClientConnector):
    """Pictor in our words."""

    batch = 30

    def _ask(self, path: str, *, is_own: bool, **params: Any) -> dict[str, Any]:
        headers = self._own if is_own else {"Pictor-App": self._app_id}
        response = self._client.ask("GET", f"/2{path}", params=params, headers=headers)
        left = re.search(r"left=(\d+)", response.headers.get("Quota", ""))
        self._client.calls_left = int(left[1]) if left else None
        found: dict[str, Any] = response.json()
        return found

    def offered_accounts(self) -> list[Account]:
        """Business accounts, and private ones, which cannot be connected."""
        return [self._account(entry) for entry in self._ask("/accounts", is_own=True)["accounts"]]

    def account(self, target: Target) -> Account:
        """An account."""
        return self._account(self._ask(self._path(target), is_own=target.is_own))

    def search(self, text: str) -> list[Account]:
        """Accounts by a part of their name."""
        return [self._account(entry) for entry in self._ask("/browse", is_own=False, like=text)["accounts"]]

    def hashtag(self, word: str) -> HashtagSeen:
        """A topic, as Pictor calls it; of its mood and of its week nothing is told."""
        said = self._ask(f"/topics/{quote(word, safe='')}", is_own=False)["topic"]
        return HashtagSeen(uses=said["pictures"], week=None, warm=None, cold=None, related=tuple(said["also"]),
                           is_restricted=said["shown"] == "no")  # fmt: skip

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Followers by day; days are eight digits."""
        said = self._ask(f"{self._path(target)}/followers", is_own=True, **{"from": f"{since:%Y%m%d}"})
        return [
            FollowerDay(day=date.fromisoformat(r["date"]), followers=r["followers"], gained=r["joined"], lost=r["left"])
            for r in said["days"]
        ]

    def presence(self, target: Target) -> Presence:
        """When the audience is online: seven days of 24 hours."""
        said = self._ask(f"{self._path(target)}/hours", is_own=True)
        return Presence(hours_utc=[v for day in WEEKDAYS for v in said["week"][day]], zones=said["living_in"])

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up, as lists of name and share."""
        said = self._ask(f"{self._path(target)}/people", is_own=True)
        return {ours: {row["name"]: row["share"] for row in said[theirs]} for ours, theirs in AUDIENCE.items()}

    def page(self, target: Target, cursor: str | None) -> Page:
        """Pictures newest first, from an offset on."""
        offset = int(cursor or 0)
        said = self._ask(f"{self._path(target)}/pictures", is_own=target.is_own, offset=offset, limit=self.batch)
        following = str(offset + self.batch) if offset + self.batch < said["total"] else None
        as_of = parsedate_to_datetime(said["at"])
        return Page(posts=[self._post(picture, as_of) for picture in said["pictures"]], cursor=following)

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Figures of pictures by number."""
        said = self._ask("/pictures", is_own=target.is_own, ids=",".join(external_ids))
        found = {row["picture_id"]: self._figures(row) for row in said["pictures"]}
        return Counters(as_of=parsedate_to_datetime(said["at"]), by_post=found)

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Remarks, the newest first, until those that are known."""
        found: list[NetworkComment] = []
        total = 1
        while len(found) < total:
            said = self._ask(f"/pictures/{post_id}/remarks", is_own=True, offset=len(found))
            rows = [
                NetworkComment(
                    external_id=c["remark_id"], author=c["by"], text=c["words"],
                    written_at=parsedate_to_datetime(c["written"]),
                )
                for c in said["remarks"]
            ]  # fmt: skip
            found, total = found + rows, said["total"]
            if not rows or (since and rows[-1].written_at < since):
                break
        return found

    def subscribe(self, target: Target, *, address: str, secret: str) -> None:
        """Have new remarks told."""
        body = {"account_id": target.external_id, "call": address, "secret": secret}
        self._client.call("POST", "/2/hooks", json=body, headers=self._own)

    def _path(self, target: Target) -> str:
        return f"/accounts/{target.external_id}" if target.is_own else f"/browse/{target.handle}"

    def _figures(self, said: dict[str, Any]) -> tuple[dict[str, int], dict[str, Any]]:
        raw = {figure["name"]: figure["value"] for figure in said["figures"]}
        return self._metrics(raw), raw

    def _brought(self, target: Target, media: MediaOut) -> str:
        return str(self._bring(f"/2/accounts/{target.external_id}/containers", media)["container"])

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a picture or a short video."""
        self._brought(target, media)

    def say_first(self, target: Target, post_id: str, text: str, *, idempotency_key: str) -> None:
        """A remark under a picture of one's own."""
        asked = {"words": text, "once": idempotency_key}
        self._client.call("POST", f"/2/pictures/{post_id}/say", json=asked, headers=self._own)

    def boost(self, target: Target, boost: BoostOut, *, idempotency_key: str) -> BoostSeen:
        """Push a picture, as Pictor calls it; it keeps the word `once`, and counts in epoch seconds and cents."""
        asked = {
            "picture_id": boost.post_id, "cents": boost.cents, "from": boost.starts_at.timestamp(),
            "to": boost.ends_at.timestamp(), "where": list(boost.countries), "who": list(boost.ages),
            "leads_to": boost.link or None, "once": idempotency_key,
        }  # fmt: skip
        return self._push(self._client.call("POST", "/2/pushes", json=asked, headers=self._own))

    def boost_seen(self, target: Target, external_id: str) -> BoostSeen:
        """A push."""
        return self._push(self._client.call("GET", f"/2/pushes/{external_id}", headers=self._own))

    def stop_boost(self, target: Target, external_id: str) -> BoostSeen:
        """End a push."""
        return self._push(self._client.call("POST", f"/2/pushes/{external_id}/end", headers=self._own))

    def _push(self, said: dict[str, Any]) -> BoostSeen:
        raw = {figure["name"]: int(figure["value"]) for figure in said["figures"]}
        return BoostSeen(
            external_id=said["push_id"], status=PUSHED[said["state"]], as_of=parsedate_to_datetime(said["at"]),
            cents=int(said["money"]["gone"]), impressions=raw["seen"], reach=raw["viewers"],
            interactions=raw["hearts"], link_clicks=raw["taps"],
        )  # fmt: skip

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Bring what is to be seen, then show it; Pictor keeps the word `once`."""
        path = f"/2/accounts/{target.external_id}"
        containers = [self._brought(target, media) for media in self._fitting(post, at_least=1, most=10)]
        asked = {"containers": containers, "caption": post.text, "once": idempotency_key}
        said = self._client.call("POST", f"{path}/show", json=asked, headers=self._own)
        return as_published(self._post(said["picture"], parsedate_to_datetime(said["at"])))

    def _post(self, said: dict[str, Any], as_of: datetime) -> NetworkPost:
        published = parsedate_to_datetime(said["published"])
        metrics, raw = self._figures(said)
        return NetworkPost(
            external_id=said["picture_id"], published_at=published, format=FORMATS[said["type"]], text=said["caption"],
            url=said["page"], as_of=max(as_of, published), metrics=metrics, raw=raw,
            is_boosted=said.get("paid"), picture=said.get("file", ""),
        )  # fmt: skip

    def _account(self, said: dict[str, Any]) -> Account:
        return Account(
            external_id=said["account_id"], handle=said["login"], name=said["shown_as"], picture=said["portrait"],
            followers=said["followers"], posts=said["pictures"], as_of=parsedate_to_datetime(said["at"]),
            refusal=self._refusal(is_business=said["kind"] == "business"),
        )  # fmt: skip
