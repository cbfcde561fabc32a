"""Public actors of any server that speaks ActivityPub (W3C), found by WebFinger (RFC 7033). Read only."""

import json
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any
from urllib.parse import quote, urlsplit

from dakika_core.networks.definition import Format
from dakika_core.sources.plain_text import text_of
from django.conf import settings

from dakika_server.networks.connectors.base import Account, Counters, NetworkPost, NotFound, Page, Target, Unavailable
from dakika_server.networks.connectors.client import ClientConnector
from dakika_server.networks.fetcher import FetchError, fetch
from dakika_server.shared import clock

ACCEPT = 'application/activity+json, application/ld+json; profile="https://www.w3.org/ns/activitystreams"'
ACTORS = ("Person", "Organization", "Service", "Group", "Application")
LARGEST = 2 * 1024 * 1024


class ActivityPubConnector(ClientConnector):
    """An actor's outbox in our words. A handle is name@host."""

    batch = 10
    _calls = 0

    @property
    def requests(self) -> int:
        """Calls made so far."""
        return self._calls

    def account(self, target: Target) -> Account:
        """An actor by handle."""
        actor = self._get(_actor_address(self._webfinger(target.handle)))
        if actor.get("type") not in ACTORS:
            raise NotFound(f"{target.handle} is no profile.")
        followers = _total(self._get_or_none(actor.get("followers")))
        outbox = self._get_or_none(actor.get("outbox"))
        return Account(
            external_id=str(actor["id"]), handle=target.handle.removeprefix("@"),
            picture=_picture(actor.get("icon")),
            name=text_of(str(actor.get("name") or actor.get("preferredUsername") or target.handle))[:200],
            followers=followers or 0, posts=_total(outbox), as_of=clock.now(),
        )  # fmt: skip

    def page(self, target: Target, cursor: str | None) -> Page:
        """A page of the outbox: public notes that the actor wrote (Create), newest first."""
        if cursor is None:
            outbox = self._get(str(self._get(target.external_id).get("outbox", "")))
            first = outbox.get("first")
            said = first if isinstance(first, dict) else self._get(str(first)) if first else outbox
        else:
            said = self._get(cursor)
        posts = []
        for activity in said.get("orderedItems") or []:
            note = activity.get("object") if isinstance(activity, dict) and activity.get("type") == "Create" else None
            if isinstance(note, dict) and note.get("id") and note.get("published"):
                posts.append(self._post(note))
        following = said.get("next")
        is_here = bool(following) and urlsplit(str(following)).netloc == urlsplit(target.external_id).netloc
        return Page(posts=posts, cursor=str(following) if is_here else None)

    def counters_of(self, target: Target, external_ids: Sequence[str]) -> Counters:
        """Totals of notes, one call each. Collections that are only named are asked for their total."""
        found = {}
        for address in external_ids:
            try:
                note = self._get(address)
            except NotFound:
                continue
            raw = {key: _total(note.get(key) if isinstance(note.get(key), dict) else self._get_or_none(note.get(key)))
                   for key in self._definition.metrics}  # fmt: skip
            found[address] = (self._metrics(raw), raw)
        return Counters(as_of=clock.now(), by_post=found)

    # -- help

    def _webfinger(self, handle: str) -> dict[str, Any]:
        name, _, host = handle.strip().removeprefix("@").partition("@")
        if not name or not host:
            raise NotFound("Write the handle as name@host, for example museum@social.example.")
        is_standin = host == urlsplit(settings.STANDINS_ADDRESS).netloc
        resource = quote(f"acct:{name}@{host}", safe="")
        base = settings.STANDINS_ADDRESS if is_standin else f"https://{host}"
        return self._get(f"{base}/.well-known/webfinger?resource={resource}", accept="application/jrd+json")

    def _get(self, address: str, *, accept: str = ACCEPT) -> dict[str, Any]:
        self._calls += 1
        try:
            fetched = fetch(address, accept=accept, most_bytes=LARGEST)
            body = json.loads(fetched.content)
        except FetchError as error:
            if "status 404" in str(error) or "status 410" in str(error):
                raise NotFound(f"Nothing is found at {urlsplit(address).hostname}.") from None
            raise Unavailable(str(error)) from None
        except (ValueError, RecursionError):
            raise Unavailable(f"{urlsplit(address).hostname} answered with something that is not JSON.") from None
        if not isinstance(body, dict):
            raise Unavailable(f"{urlsplit(address).hostname} answered with something else than a document.")
        return body

    def _get_or_none(self, address: Any) -> dict[str, Any] | None:
        """A document that may be kept from us: then it is missing, not an error."""
        if isinstance(address, dict):
            return address
        try:
            return self._get(str(address)) if address else None
        except (NotFound, Unavailable):
            return None

    def _post(self, note: dict[str, Any]) -> NetworkPost:
        published = datetime.fromisoformat(str(note["published"]))
        published = published if published.tzinfo else published.replace(tzinfo=UTC)
        raw = {key: _total(note.get(key)) for key in self._definition.metrics}
        text = text_of(str(note.get("content") or note.get("name") or ""))
        url = note.get("url")
        return NetworkPost(
            external_id=str(note["id"])[:200], published_at=published, format=_format_of(note, text), text=text,
            url=str(url if isinstance(url, str) else note["id"])[:2000], as_of=max(clock.now(), published),
            metrics=self._metrics(raw), raw=raw,
        )  # fmt: skip


def _actor_address(jrd: dict[str, Any]) -> str:
    for link in jrd.get("links") or []:
        kind = str(link.get("type", "")) if isinstance(link, dict) else ""
        if link.get("rel") == "self" and (kind.startswith("application/activity+json") or "activitystreams" in kind):
            return str(link.get("href", ""))
    raise NotFound("That name is known there, but it is no profile that can be followed.")


def _picture(icon: Any) -> str:
    """An actor's picture: an Image, its address alone, or a list of either (ActivityStreams 2.0, icon)."""
    first = icon[0] if isinstance(icon, list) and icon else icon
    url = first.get("url") if isinstance(first, dict) else first
    return url[:500] if isinstance(url, str) else ""


def _total(collection: Any) -> int | None:
    total = collection.get("totalItems") if isinstance(collection, dict) else None
    return total if isinstance(total, int) and not isinstance(total, bool) and total >= 0 else None


def _format_of(note: dict[str, Any], text: str) -> Format:
    given = note.get("attachment") or []
    kinds = [str(a.get("mediaType") or a.get("type") or "").lower() for a in given if isinstance(a, dict)]
    if any("video" in kind for kind in kinds):
        return Format.SHORT_VIDEO
    pictures = sum("image" in kind for kind in kinds)
    if pictures:
        return Format.ALBUM if pictures > 1 else Format.IMAGE
    return Format.LINK if "http://" in text or "https://" in text else Format.TEXT
