"""What the stand-ins remember: grants, posts sent to them, faults. One file, written whole and atomically."""

import hashlib
import json
import os
import secrets
from collections.abc import Sequence
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any

from dakika_standins.world.model import World, WorldComment, WorldPost

SEED = 20
TOKEN_LIFE = timedelta(hours=1)


class NotReady(Exception):
    """What was brought is still being worked on; `seconds` says for how long."""

    def __init__(self, seconds: float) -> None:
        super().__init__(f"{seconds:.0f} s")
        self.seconds = seconds


class MediaRefused(Exception):
    """What was brought could not be worked on."""


class State:
    """The world and what happened in it since. `now` may be fixed for tests and pictures."""

    def __init__(self, path: Path, *, fixed_now: datetime | None = None) -> None:
        self.path = path
        # Where this process answers, as whoever asked last called it; identifiers of open standards are addresses.
        self.address = "http://127.0.0.1:9000"
        self.fixed_now = fixed_now
        self.data: dict[str, Any] = {
            "anchor": self.now().date().isoformat(), "tokens": {}, "refresh": {}, "codes": {}, "sent": [], "keys": {},
            "faults": {}, "removed": [], "clicked": {}, "corrected": {}, "hooks": {}, "called": {}, "uploads": {}, "brought": {},
            "remarks": {}, "boosts": {}, "browsers": {},
        }  # fmt: skip
        if path.exists():
            self.data.update(json.loads(path.read_text()))
            # Earlier ones kept a single text.
            self.data["remarks"] = {k: v for k, v in self.data["remarks"].items() if isinstance(v, dict)}
        self.world = World(seed=SEED, anchor=date.fromisoformat(self.data["anchor"]))
        self.calls: dict[str, list[float]] = {}
        # Files that come in parts, until they are whole: what is there, how long, of which type.
        self.parts: dict[str, tuple[bytearray, int, str]] = {}
        self.sent_posts: list[WorldPost] = [self._rebuild(entry) for entry in self.data["sent"]]
        self._ordered: dict[str, tuple[tuple[int, int], list[WorldPost]]] = {}
        self._by_id: dict[str, WorldPost] = {}

    def now(self) -> datetime:
        """The world's clock."""
        return self.fixed_now or datetime.now(tz=UTC)

    def save(self) -> None:
        """Write everything to the disk before an answer goes out."""
        self.path.parent.mkdir(parents=True, exist_ok=True)
        draft = self.path.with_suffix(".new")
        with draft.open("w") as file:
            json.dump(self.data, file)
            file.flush()
            os.fsync(file.fileno())
        draft.replace(self.path)

    def reset(self) -> None:
        """Begin anew with today as the anchor."""
        self.path.unlink(missing_ok=True)
        self.__init__(self.path, fixed_now=self.fixed_now)  # type: ignore[misc]

    # -- posts

    def posts(self, key: str) -> list[WorldPost]:
        """Posts of an account that are up now, newest first."""
        mark = (len(self.sent_posts), len(self.data["removed"]))
        known = self._ordered.get(key)
        if known is None or known[0] != mark:
            removed = set(self.data["removed"])
            mine = [p for p in self.sent_posts if p.account == key]
            posts = [p for p in self.world.all_posts_of(key) + mine if p.id not in removed]
            known = (mark, sorted(posts, key=lambda p: (p.published_at, p.id), reverse=True))
            self._ordered[key] = known
        now, posts = self.now(), known[1]
        first = next((i for i, post in enumerate(posts) if post.published_at <= now), len(posts))
        return posts[first:]

    def forget_order(self) -> None:
        """The world's posts changed under us."""
        self._ordered.clear()
        self._by_id.clear()

    def find(self, post_id: str) -> WorldPost | None:
        """A post that is up, by its identifier."""
        if post_id not in self._by_id:
            self._by_id = {p.id: p for key in self.world.accounts for p in self.world.all_posts_of(key)}
            self._by_id |= {p.id: p for p in self.sent_posts}
        post = self._by_id.get(post_id)
        is_up = post is not None and post.published_at <= self.now() and post_id not in self.data["removed"]
        return post if is_up else None

    def counters(self, post: WorldPost, at: datetime | None = None) -> dict[str, int]:
        """A post's counters as its network tells them: the world's, where they were corrected less so much."""
        share = float(self.data["corrected"].get(post.id, 1.0))
        seen = self.world.counters(post, at or self.now())
        own = len(self.data["remarks"].get(post.id, {}))
        if own and "comments" in seen:
            seen = {**seen, "comments": seen["comments"] + own}
        return seen if share == 1.0 else {name: round(value * share) for name, value in seen.items()}

    def comments(self, post: WorldPost) -> list[WorldComment]:
        """Comments under a post now, oldest first, those that were taken away left out."""
        removed = set(self.data["removed"])
        by = self.world.accounts[post.account].handle
        own = [
            WorldComment(id=one["id"], author=by, text=one["text"], at=datetime.fromisoformat(one["at"]))
            for one in self.data["remarks"].get(post.id, {}).values()
        ]
        every = [*own, *self.world.comments(post, self.now())]
        return sorted((c for c in every if c.id not in removed), key=lambda c: c.at)

    def send(
        self, key: str, *, text: str, format: str, idempotency_key: str, card: dict[str, Any] | None = None,
        countries: Sequence[str] = (),
    ) -> tuple[WorldPost, bool]:  # fmt: skip
        """Publish once per idempotency key: the post, and whether it is new. card: what stands on its link's card.

        countries: those whose people see it alone; none of them is everybody.
        """
        known = self.data["keys"].get(f"{key}:{idempotency_key}") if idempotency_key else None
        if known is not None:
            return next(p for p in self.sent_posts if p.id == known), False
        number = len(self.data["sent"])
        share = self.world.share_of(key, countries, self.now().date())
        post = self.world.published_here(key, text=text, at=self.now(), format=format, number=number, share=share)
        self.data["sent"].append(
            {"key": key, "text": text, "format": format, "at": post.published_at.isoformat(), "number": number,
             "id": post.id, "card": card, "countries": list(countries), "share": share}
        )  # fmt: skip
        if idempotency_key:
            self.data["keys"][f"{key}:{idempotency_key}"] = post.id
        self.sent_posts.append(post)
        self.save()
        return post, True

    def say_first(self, post: WorldPost, text: str, once: str) -> str:
        """What the owner writes under a post of its own, once per its own word; its identifier."""
        said = self.data["remarks"].setdefault(post.id, {})
        if once not in said:
            said[once] = {"id": f"{post.id}-own{len(said)}", "text": text, "at": self.now().isoformat()}
            self.save()
        return str(said[once]["id"])

    def keep_upload(self, network: str, owner: str, body: bytes, media_type: str) -> str:
        """Remember a file that was brought for a post: the same bytes have the same identifier."""
        identifier = hashlib.sha256(body).hexdigest()[:24]
        name = f"{network}:{owner}:{identifier}"
        self.data["uploads"][name] = media_type
        self.data["brought"].setdefault(name, self.now().timestamp())
        if self.fault(network, "lapses"):
            self.data["faults"][f"{network}.revoked"] = 1.0
        self.save()
        return identifier

    def begin_parts(self, network: str, owner: str, digest: str, size: int, media_type: str) -> tuple[str, int]:
        """A file that comes in parts: what it is called, and how many bytes of it are there. The same goes on."""
        name = f"{network}:{owner}:{digest}"
        self.parts.setdefault(name, (bytearray(), size, media_type))
        return digest, len(self.parts[name][0])

    def add_part(self, network: str, owner: str, digest: str, at: int, part: bytes) -> tuple[int, str | None] | None:
        """Another part: how many bytes are there, and what the file is called once it is whole.

        None where no such file is begun, or the part does not go on where the file ends.
        """
        begun = self.parts.get(f"{network}:{owner}:{digest}")
        if begun is None or at != len(begun[0]) or at + len(part) > begun[1]:
            return None
        body, size, media_type = begun
        body += part
        if len(body) < size:
            return len(body), None
        del self.parts[f"{network}:{owner}:{digest}"]
        if hashlib.sha256(body).hexdigest() != digest:
            return None
        return size, self.keep_upload(network, owner, bytes(body), media_type)

    def uploaded(self, network: str, owner: str, identifiers: list[str]) -> list[str] | None:
        """The media types of files that an owner brought; None where one of them is not there.

        Raises NotReady while they are still being worked on, MediaRefused where that came out badly.
        """
        names = [f"{network}:{owner}:{identifier}" for identifier in identifiers]
        begun = [self.data["brought"][name] for name in names if name in self.data["brought"]]
        left = max(begun, default=0.0) + self.fault(network, "processing") - self.now().timestamp()
        if self.fault(network, "processing") and left > 0:
            raise NotReady(left)
        if names and self.fault(network, "media_refused"):
            raise MediaRefused
        found = [self.data["uploads"].get(f"{network}:{owner}:{identifier}") for identifier in identifiers]
        return None if None in found else found

    def _rebuild(self, entry: dict[str, Any]) -> WorldPost:
        return self.world.published_here(
            entry["key"], text=entry["text"], at=datetime.fromisoformat(entry["at"]), format=entry["format"],
            number=entry["number"], identifier=entry["id"], share=float(entry.get("share", 1.0)),
        )  # fmt: skip

    # -- grants

    def grant(self, network: str, owner: str, scope: str) -> dict[str, Any]:
        """Tokens for everything that an owner has on a network."""
        access, refresh = secrets.token_urlsafe(24), secrets.token_urlsafe(24)
        until = datetime.now(tz=UTC) + TOKEN_LIFE
        self.data["tokens"][access] = {"network": network, "owner": owner, "scope": scope, "until": until.isoformat()}
        self.data["refresh"][refresh] = {"network": network, "owner": owner, "scope": scope}
        self.save()
        return {
            "access_token": access, "refresh_token": refresh, "token_type": "Bearer", "scope": scope,
            "expires_in": int(TOKEN_LIFE.total_seconds()),
        }  # fmt: skip

    def owner_of(self, network: str, token: str) -> dict[str, Any] | None:
        """The grant behind an access token, if it holds for the network and has not lapsed."""
        grant = self.data["tokens"].get(token)
        if not grant or grant["network"] != network:
            return None
        return grant if datetime.fromisoformat(grant["until"]) > datetime.now(tz=UTC) else None

    def revoke(self, token: str) -> None:
        """Take a token back, of either kind."""
        self.data["tokens"].pop(token, None)
        self.data["refresh"].pop(token, None)
        self.save()

    # -- webhooks

    def subscribe(self, key: str, *, url: str, secret: str) -> None:
        """Tell an address about new comments of an account; a later word replaces the earlier."""
        self.data["hooks"][key] = {"url": url, "secret": secret}
        self.save()

    # -- faults

    def fault(self, network: str, kind: str) -> float:
        """Strength of a fault that is switched on (its share of requests, or seconds for slow), else 0."""
        return float(self.data["faults"].get(f"{network}.{kind}", 0.0))
