"""Commons: resources, cursors, ISO 8601, insights asked for in batches."""

from collections.abc import Iterator
from datetime import date, datetime
from typing import Any

from dakika_core.networks.definition import Format

from dakika_server.networks.connectors.base import Account, FollowerDay, NetworkPost, Presence, Published
from dakika_server.networks.connectors.client import ClientConnector

FORMATS = {
    "note": Format.TEXT, "link": Format.LINK, "photo": Format.IMAGE, "album": Format.ALBUM,
    "clip": Format.SHORT_VIDEO, "film": Format.LONG_VIDEO,
}  # fmt: skip
PAGE = 50


class CommonsConnector(ClientConnector):
    """Commons in our words."""

    @property
    def _public(self) -> dict[str, str]:
        return {"X-App-Id": self._app_id}

    def offered_accounts(self) -> list[Account]:
        """Pages, and the personal account, which cannot be connected."""
        return [_account(page) for page in self._client.call("GET", "/v1/me/pages", headers=self._own)["data"]]

    def account(self, handle: str, external_id: str) -> Account:
        """One's own page."""
        return _account(self._client.call("GET", f"/v1/pages/{external_id}", headers=self._own))

    def public_account(self, handle: str) -> Account:
        """Anybody's page."""
        return _account(self._client.call("GET", f"/v1/directory/{handle}", headers=self._public))

    def follower_days(self, handle: str, external_id: str, since: date) -> list[FollowerDay]:
        """Followers by day."""
        rows = self._client.call(
            "GET", f"/v1/pages/{external_id}/followers/daily", params={"since": since.isoformat()}, headers=self._own
        )["data"]
        return [
            FollowerDay(day=date.fromisoformat(r["day"]), followers=r["total"], gained=r["new"], lost=r["gone"])
            for r in rows
        ]

    def presence(self, handle: str, external_id: str) -> Presence:
        """When the audience is online."""
        said = self._client.call("GET", f"/v1/pages/{external_id}/presence", headers=self._own)
        return Presence(hours_utc=said["hours"], zones=said["zones"])

    def posts(self, handle: str, external_id: str, *, is_own: bool) -> Iterator[list[NetworkPost]]:
        """Posts newest first; one's own with insights, others' with their public counts."""
        path = f"/v1/pages/{external_id}/posts" if is_own else f"/v1/directory/{handle}/posts"
        headers = self._own if is_own else self._public
        after: str | None = ""
        while after is not None:
            page = self._client.call("GET", path, params={"limit": PAGE, "after": after}, headers=headers)
            counts: dict[str, dict[str, Any]] = {p["id"]: p.get("counts", {}) for p in page["data"]}
            as_of = page["as_of"]
            if is_own and counts:
                answer = self._client.call(
                    "GET", "/v1/insights", params={"posts": ",".join(list(counts)[:PAGE])}, headers=headers
                )
                counts, as_of = answer["data"], answer["as_of"]
            yield [self._post(p, counts.get(p["id"], {}), datetime.fromisoformat(as_of)) for p in page["data"]]
            after = page["paging"]["after"]

    def publish(self, handle: str, external_id: str, *, text: str, idempotency_key: str) -> Published:
        """Publish; Commons keeps the header Idempotency-Key."""
        said = self._client.call(
            "POST", f"/v1/pages/{external_id}/posts", json={"message": text},
            headers={**self._own, "Idempotency-Key": idempotency_key},
        )  # fmt: skip
        return Published(
            external_id=said["id"], url=said["permalink"], published_at=datetime.fromisoformat(said["created_at"])
        )

    def _post(self, said: dict[str, Any], counts: dict[str, Any], as_of: datetime) -> NetworkPost:
        metrics = {}
        for theirs, ours in self._definition.metrics.items():
            if theirs in counts:
                value = counts[theirs]
                metrics[ours] = sum(value.values()) if isinstance(value, dict) else int(value)
        published = datetime.fromisoformat(said["created_at"])
        return NetworkPost(
            external_id=said["id"], published_at=published, format=FORMATS[said["kind"]],
            text=said["message"], url=said["permalink"], as_of=max(as_of, published), metrics=metrics, raw=counts,
        )  # fmt: skip


def _account(said: dict[str, Any]) -> Account:
    is_personal = said["kind"] == "personal"
    return Account(
        external_id=said["id"], handle=said["handle"], name=said["name"], picture=said["picture"],
        followers=said["followers_count"], posts=said["posts_count"], as_of=datetime.fromisoformat(said["as_of"]),
        refusal="Commons opens pages to applications, not personal accounts." if is_personal else "",
    )  # fmt: skip
