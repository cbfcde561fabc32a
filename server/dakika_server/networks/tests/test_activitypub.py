"""Promise: public actors are read as the open standards have it: WebFinger, ActivityStreams 2.0, ActivityPub."""

import json
from typing import Any

import pytest

from dakika_server.networks.connectors import activitypub
from dakika_server.networks.connectors.base import NotFound, Target, Unavailable
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.fetcher import Fetched, FetchError

# ActivityPub (W3C Recommendation, 2018), section 3 and example 9: an actor, in its own words (from memory).
ACTOR = {
    "@context": ["https://www.w3.org/ns/activitystreams", {"@language": "ja"}], "type": "Person",
    "id": "https://kenzoishii.example.com/", "following": "https://kenzoishii.example.com/following.json",
    "followers": "https://kenzoishii.example.com/followers.json", "inbox": "https://kenzoishii.example.com/inbox.json",
    "outbox": "https://kenzoishii.example.com/feed.json", "preferredUsername": "kenzoishii", "name": "石井健蔵",
    "icon": ["https://kenzoishii.example.com/image/165987aklre4"],
}  # fmt: skip
# RFC 7033, section 3.1 and 4.4: a JRD; the link of type activity+json is what ActivityPub servers add.
JRD = {
    "subject": "acct:kenzoishii@kenzoishii.example.com",
    "links": [
        {"rel": "http://webfinger.example/rel/profile-page", "href": "https://www.example.com/~carol/"},
        {"rel": "self", "type": "application/activity+json", "href": "https://kenzoishii.example.com/"},
    ],
}
# ActivityStreams 2.0 (W3C Recommendation, 2017): a page of an ordered collection, a Note inside a Create; and what is to
# be passed over: an Announce of somebody else's note, a bare link, a Note without a date.
NOTE = {
    "type": "Note", "id": "https://kenzoishii.example.com/notes/1", "published": "2015-02-10T15:04:55Z",
    "content": "<p>This is a note.</p><p>With <a href='https://x.example/'>https://x.example/</a></p>",
    "likes": {"type": "Collection", "totalItems": 3}, "replies": "https://kenzoishii.example.com/notes/1/replies",
}  # fmt: skip
PAGE = {
    "@context": "https://www.w3.org/ns/activitystreams", "type": "OrderedCollectionPage",
    "orderedItems": [
        {"type": "Create", "object": NOTE}, {"type": "Announce", "object": "https://other.example/notes/9"},
        "https://kenzoishii.example.com/activities/3", {"type": "Create", "object": {"type": "Note", "id": "x"}},
    ],
    "next": "https://elsewhere.example/page/2",
}  # fmt: skip
PAGES: dict[str, Any] = {
    "https://kenzoishii.example.com/.well-known/webfinger?resource=acct%3Akenzoishii%40kenzoishii.example.com": JRD,
    ACTOR["id"]: ACTOR,
    ACTOR["outbox"]: {"type": "OrderedCollection", "totalItems": 2, "first": "https://kenzoishii.example.com/p1"},
    "https://kenzoishii.example.com/p1": PAGE,
    NOTE["id"]: NOTE,
    NOTE["replies"]: {"type": "Collection", "totalItems": 5},
}  # type: ignore[dict-item]
TARGET = Target(handle="kenzoishii@kenzoishii.example.com", external_id=str(ACTOR["id"]), is_own=False)


@pytest.fixture
def web(monkeypatch: Any) -> dict[str, Any]:
    """A web of these documents alone."""
    pages = dict(PAGES)

    def fetch(address: str, **_: Any) -> Fetched:
        if address not in pages:
            raise FetchError(f"{address} answers with status 404.")
        body = pages[address]
        content = body if isinstance(body, bytes) else json.dumps(body).encode()
        return Fetched(status=200, address=address, content=content, headers={})

    monkeypatch.setattr(activitypub, "fetch", fetch)
    return pages


def test_an_actor_is_found_by_name_and_host(web: Any) -> None:
    with connected("activitypub") as api:
        account = api.account(TARGET)
    assert (account.external_id, account.name, account.posts) == (ACTOR["id"], "石井健蔵", 2)
    # Its followers are kept from us: that is no error.
    assert account.followers == 0


def test_notes_are_read_and_the_rest_is_passed_over(web: Any) -> None:
    with connected("activitypub") as api:
        page = api.page(TARGET, None)
    (post,) = page.posts
    assert post.external_id == NOTE["id"]
    assert post.published_at.isoformat() == "2015-02-10T15:04:55+00:00"
    assert post.text == "This is a note.\nWith https://x.example/"
    assert post.format == "link"
    # Totals that are only named are missing on the page, and asked for when counters are read.
    assert post.metrics == {"reactions": 3}
    # A next page on another host is not followed.
    assert page.cursor is None


def test_counters_ask_for_totals_that_are_only_named_and_leave_out_what_is_gone(web: Any) -> None:
    with connected("activitypub") as api:
        said = api.counters_of(TARGET, [str(NOTE["id"]), "https://kenzoishii.example.com/notes/gone"])
    assert {key: metrics for key, (metrics, _) in said.by_post.items()} == {NOTE["id"]: {"reactions": 3, "comments": 5}}


@pytest.mark.parametrize("handle", ["", "nobody", "@", "a@", "@host.example", "nobody@kenzoishii.example.com"])
def test_names_that_lead_nowhere_say_so(handle: str, web: Any) -> None:
    with connected("activitypub") as api, pytest.raises(NotFound):
        api.account(Target(handle=handle, external_id="", is_own=False))


@pytest.mark.parametrize("body", [b"", b"[]", b"<html>", b"[" * 100_000, b'{"a": NaN}{'])
def test_what_is_no_document_is_unavailable(body: bytes, web: Any) -> None:
    web[ACTOR["outbox"]] = body
    with connected("activitypub") as api, pytest.raises(Unavailable):
        api.page(TARGET, None)


@pytest.mark.parametrize("total", [-1, True, "7", None, 2.5])
def test_a_total_that_is_no_count_is_missing(total: Any, web: Any) -> None:
    web["https://kenzoishii.example.com/p1"] = {
        "orderedItems": [{"type": "Create", "object": {**NOTE, "likes": {"totalItems": total}}}]
    }
    with connected("activitypub") as api:
        assert api.page(TARGET, None).posts[0].metrics == {}
