"""Longplay: tokens to continue, figures as CSV reports."""

import csv
import io
from collections.abc import Sequence
from dataclasses import replace
from datetime import date, datetime
from typing import Any

import httpx
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
    Target,
    Unavailable,
)
from dakika_server.networks.connectors.client import ClientConnector, as_published, with_counters

# Larger files come in parts of so many bytes.
PART = 4_000_000
SHORT_MINUTES = ("PT0M", "PT1M")


class LongplayConnector(ClientConnector):
    """Longplay in our words."""

    batch = 100

    def _ask(self, path: str, *, is_own: bool, **params: Any) -> httpx.Response:
        given = params if is_own else {**params, "app": self._app_id}
        return self._client.ask("GET", f"/v3{path}", params=given, headers=self._own if is_own else {})

    def _report(self, name: str, *, is_own: bool, **params: Any) -> tuple[list[dict[str, str]], datetime]:
        """Rows of a CSV report by the names in its head, and up to when it goes."""
        response = self._ask(f"/reports/{name}.csv", is_own=is_own, **params)
        return list(csv.DictReader(io.StringIO(response.text))), datetime.fromisoformat(
            response.headers["Report-Until"]
        )

    def offered_accounts(self) -> list[Account]:
        """Channels that the authorisation covers."""
        return [_account(entry) for entry in self._ask("/channels", is_own=True).json()["channels"]]

    def account(self, target: Target) -> Account:
        """A channel."""
        found = self._ask("/channels", is_own=target.is_own, handle=target.handle).json()["channels"]
        if not found:
            raise NotFound(f"{self._definition.name} knows no such account or post.")
        return _account(found[0])

    def search(self, text: str) -> list[Account]:
        """Channels by a part of their name."""
        return [_account(entry) for entry in self._ask("/channels", is_own=False, like=text).json()["channels"]]

    def follower_days(self, target: Target, since: date) -> list[FollowerDay]:
        """Subscribers by day."""
        rows, _ = self._report("subscribers", is_own=True, channel=target.external_id, since=since.isoformat())
        return [
            FollowerDay(
                day=date.fromisoformat(r["day"]), followers=int(r["subscribers"]), gained=int(r["gained"]),
                lost=int(r["lost"]),
            )
            for r in rows
        ]  # fmt: skip

    def presence(self, target: Target) -> Presence:
        """When the audience is online; Longplay says nothing of its zones."""
        rows, _ = self._report("hours", is_own=True, channel=target.external_id)
        return Presence(hours_utc=[int(r["viewers"]) for r in rows], zones={})

    def audience(self, target: Target) -> dict[str, dict[str, float]]:
        """Make-up, in per mille."""
        rows, _ = self._report("people", is_own=True, channel=target.external_id)
        found: dict[str, dict[str, float]] = {}
        for row in rows:
            found.setdefault(row["dimension"], {})[row["segment"]] = float(row["per_mille"]) / 1000
        return found

    def page(self, target: Target, cursor: str | None) -> Page:
        """Videos newest first, then their report."""
        params = {"continue": cursor} if cursor else {}
        said = self._ask(f"/channels/{target.handle}/uploads", is_own=target.is_own, **params).json()
        posts = [_post(video) for video in said["videos"]]
        if posts:
            posts = with_counters(posts, self.counters_of(target, [p.external_id for p in posts]))
        return Page(posts=posts, cursor=said["continue"])

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """A report of videos by identifier."""
        rows, until = self._report("videos", is_own=target.is_own, videos=",".join(external_ids))
        return Counters(as_of=until, by_post={row["video"]: (self._metrics(row), dict(row)) for row in rows})

    def _brought(self, target: Target, media: MediaOut) -> str:
        if media.size <= PART:
            return str(self._bring("/v3/uploads", media)["upload"])
        return self._brought_in_parts(media)

    def _brought_in_parts(self, media: MediaOut) -> str:
        """A large file, part by part: one that broke off goes on where it was. Longplay knows it by its SHA-256."""
        asked = {"bytes": media.size, "sha256": media.digest(), "type": media.media_type}
        begun = self._client.call("POST", "/v3/uploads/parts", json=asked, headers=self._own)
        at, headers = int(begun["at"]), {**self._own, "Content-Type": media.media_type}
        with media.content() as file:
            file.seek(at)
            while part := file.read(PART):
                said = self._client.call(
                    "PUT", f"/v3/uploads/parts/{begun['parts']}", params={"at": at}, content=part, headers=headers
                )
                at += len(part)
                if said["upload"]:
                    return str(said["upload"])
        raise Unavailable("Longplay has all of the file and does not say so.")

    def bring(self, target: Target, media: MediaOut) -> None:
        """Bring a video, or its still."""
        self._brought(target, media)

    def say_first(self, target: Target, post_id: str, text: str, *, idempotency_key: str) -> None:
        """Comment on a video of one's own."""
        asked = {"text": text, "once": idempotency_key}
        self._client.call("POST", f"/v3/videos/{post_id}/comments", json=asked, headers=self._own)

    def publish(self, target: Target, post: PostOut, *, idempotency_key: str) -> Published:
        """Bring the video, and a picture as its still where there is one, then air it; Longplay keeps `once`."""
        videos = replace(post, media=tuple(one for one in post.media if one.is_video))
        (video,) = self._fitting(videos, at_least=1, most=1)
        asked = {
            "title": post.title, "description": post.text, "once": idempotency_key,
            "upload": self._brought(target, video),
        }  # fmt: skip
        for still in _still_of(post):
            asked["still"] = self._brought(target, still)
        said = self._client.call("POST", f"/v3/channels/{target.handle}/videos", json=asked, headers=self._own)
        return as_published(_post(said["video"]))

    def comments(self, target: Target, post_id: str, since: datetime | None) -> list[NetworkComment]:
        """Comments on a video."""
        return [
            NetworkComment(
                external_id=c["comment"], author=c["name"], text=c["text"], written_at=datetime.fromisoformat(c["made"])
            )
            for c in self._ask(f"/videos/{post_id}/comments", is_own=True).json()["comments"]
        ]


def _still_of(post: PostOut) -> tuple[MediaOut, ...]:
    return tuple(one for one in post.media if not one.is_video)[:1]


def _post(said: dict[str, Any]) -> NetworkPost:
    published = datetime.fromisoformat(said["aired"])
    is_short = said["length"].startswith(SHORT_MINUTES)
    return NetworkPost(
        external_id=said["video"], published_at=published, text=said["description"], url=said["watch"],
        format=Format.SHORT_VIDEO if is_short else Format.LONG_VIDEO, as_of=published, metrics={}, raw={},
        picture=said.get("still", ""),
    )  # fmt: skip


def _account(said: dict[str, Any]) -> Account:
    return Account(
        external_id=said["channel"], handle=said["handle"], name=said["title"], picture=said["art"],
        followers=said["subscribers"], posts=said["uploads"], as_of=datetime.fromisoformat(said["asOf"]),
    )  # fmt: skip
