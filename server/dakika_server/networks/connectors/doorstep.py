"""Doorstep: questions as POST, dates as three numbers, figures by day that are added up here."""

import base64
from collections import Counter
from collections.abc import Sequence
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

from dakika_core.networks.definition import Format

from dakika_server.networks.connectors.base import (
    Account,
    Counters,
    FollowerDay,
    NetworkPost,
    NotFound,
    Page,
    PostOut,
    Published,
    Target,
)
from dakika_server.networks.connectors.client import ClientConnector, with_counters

FORMATS = {"words": Format.TEXT, "picture": Format.IMAGE, "button": Format.LINK}
TAKE = 40


class DoorstepConnector(ClientConnector):
    """Doorstep in our words. Nothing of it is public."""

    batch = 20

    def _ask(self, question: str, **asked: Any) -> dict[str, Any]:
        return self._client.call("POST", f"/1/{question}", json=asked, headers=self._own)

    def offered_accounts(self) -> list[Account]:
        """Places that the authorisation covers."""
        return [self._account(place) for place in self._ask("places")["places"]]

    def account(self, target: Target) -> Account:
        """A place of one's own."""
        if not target.is_own:
            raise self._not_offered("figures of other people's places")
        found = next((a for a in self.offered_accounts() if a.external_id == target.external_id), None)
        if found is None:
            raise NotFound(f"{self._definition.name} knows no such place of yours.")
        return found

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """How many keep the place, by day."""
        rows = self._ask("saved", place=target.external_id, since=[since.year, since.month, since.day])["saved"]
        return [FollowerDay(day=date(*day), followers=total, gained=came, lost=went) for day, total, came, went in rows]

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """How people found the place, in percent."""
        said = self._ask("foundBy", place=target.external_id)["foundBy"]
        return {"source": {name: percent / 100 for name, percent in said.items()}}

    def page(self, target: Target, cursor: str | None) -> Page:
        """Notices newest first, then their figures."""
        if not target.is_own:
            raise self._not_offered("figures of other people's places")
        skip = int(cursor or 0)
        said = self._ask("notices", place=target.external_id, skip=skip, take=TAKE)
        posts = [_post(notice) for notice in said["notices"]]
        filled: list[NetworkPost] = []
        for start in range(0, len(posts), self.batch):
            part = posts[start : start + self.batch]
            filled += with_counters(part, self.counters_of(target, [p.external_id for p in part]))
        return Page(posts=filled, cursor=str(skip + TAKE) if skip + TAKE < said["of"] else None)

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Sums of the days' figures: what is a counter elsewhere."""
        said = self._ask("figures", notices=list(external_ids))
        found = {}
        for key, days in said["figures"].items():
            total: Counter[str] = Counter()
            for day in days:
                total.update({name: count for name, count in day.items() if name != "day"})
            found[key] = (self._metrics(total), dict(total))
        return Counters(as_of=_instant(said), by_post=found)

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Put a notice up; Doorstep keeps the stamp."""
        given: dict[str, Any] = {"place": target.external_id, "words": post.text, "stamp": idempotency_key}
        if post.options.get("button"):
            given["button"] = post.options["button"]
        for media in self._fitting(post, most=1, videos=False):
            given["photo"] = {"type": media.media_type, "data": base64.b64encode(b"".join(media)).decode()}
        made = _post(self._ask("putUp", **given))
        return Published(external_id=made.external_id, url="", published_at=made.published_at)

    def _account(self, said: dict[str, Any]) -> Account:
        return Account(
            external_id=said["place"], handle=said["place"].removeprefix("place/"), name=said["name"],
            picture=said["picture"], followers=said["savedBy"], posts=None, as_of=_instant(said),
            refusal=self._refusal(is_business=said["verified"]),
        )  # fmt: skip


def _instant(said: dict[str, Any]) -> datetime:
    """Doorstep's day of three numbers and second of that day."""
    return datetime.combine(date(*said["day"]), time(), tzinfo=UTC) + timedelta(seconds=said["second"])


def _post(said: dict[str, Any]) -> NetworkPost:
    published = _instant(said)
    return NetworkPost(
        external_id=said["notice"], published_at=published, format=FORMATS[said["kind"]], text=said["words"], url="",
        as_of=published, metrics={}, raw={}, picture=said.get("photo", ""),
    )  # fmt: skip
