"""Promise: a feed's items come once each, whatever its form, and a hostile one costs nothing."""

from datetime import timedelta
from typing import Any

import httpx
import pytest
from dakika_core.sources.feeds import FeedError, parse_feed

from dakika_server.networks.fetcher import Fetched, FetchError, place_for_people
from dakika_server.shared import clock
from dakika_server.sources.feeds import fetch_items
from dakika_server.sources.models import Feed, FeedItem

HOME = "/api/brands/orrery-house/sources/feeds"

# RFC 4287, section 1.1: its own example of a single-entry feed document.
RFC_4287 = b"""<?xml version="1.0" encoding="utf-8"?>
<feed xmlns="http://www.w3.org/2005/Atom">
  <title>Example Feed</title>
  <link href="http://example.org/"/>
  <updated>2003-12-13T18:30:02Z</updated>
  <author><name>John Doe</name></author>
  <id>urn:uuid:60a76c80-d399-11d9-b93C-0003939e0af6</id>
  <entry>
    <title>Atom-Powered Robots Run Amok</title>
    <link href="http://example.org/2003/12/13/atom03"/>
    <id>urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a</id>
    <updated>2003-12-13T18:30:02Z</updated>
    <summary>Some text.</summary>
  </entry>
</feed>"""
# RSS 2.0 (2009), in the manner of its sample: entity-encoded HTML, RFC 822 dates, a guid that is no address.
RSS_20 = b"""<?xml version="1.0"?><rss version="2.0"><channel><title>Liftoff News</title><link>http://liftoff.example/</link>
<description>x</description><item><title>Star City</title><link>/news/2003/news-starcity.asp</link>
<description>How do Americans get ready? &lt;a href="http://x.example/"&gt;Star City&lt;/a&gt;.&lt;script&gt;alert(1)&lt;/script&gt;</description>
<pubDate>Tue, 03 Jun 2003 09:39:21 GMT</pubDate><guid isPermaLink="false">573</guid></item>
<item><title>No date, no guid</title><link>javascript:alert(1)</link></item></channel></rss>"""


def test_atom_as_the_standard_has_it() -> None:
    feed = parse_feed(RFC_4287, "http://example.org/feed")
    assert (feed.title, feed.site) == ("Example Feed", "http://example.org/")
    (item,) = feed.items
    assert item["guid"] == "urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a"
    assert item["address"] == "http://example.org/2003/12/13/atom03"
    assert item["published_at"].isoformat() == "2003-12-13T18:30:02+00:00"
    assert item["summary"] == "Some text."


def test_rss_with_everything_it_allows() -> None:
    feed = parse_feed(RSS_20, "http://liftoff.example/rss")
    first, second = feed.items
    assert first["address"] == "http://liftoff.example/news/2003/news-starcity.asp"
    assert first["published_at"].isoformat() == "2003-06-03T09:39:21+00:00"
    assert first["summary"] == "How do Americans get ready? Star City."
    assert second["address"] == ""
    assert second["published_at"] is None


@pytest.mark.parametrize("content", [b"", b"<html><title>x</title></html>", b"\x00\xff", b'{"version": "x"}'])
def test_what_is_no_feed_is_said(content: bytes) -> None:
    with pytest.raises(FeedError):
        parse_feed(content, "http://example.org/")


def test_entities_that_swell_are_not_read() -> None:
    bomb = b'<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><rss version="2.0"/>'
    with pytest.raises(FeedError, match="entities"):
        parse_feed(bomb, "http://example.org/")


@pytest.mark.django_db
@pytest.mark.parametrize("path", ["/feeds/halfmoon.rss", "/feeds/halfmoon.atom", "/sites/halfmoon"])
def test_followed_by_its_own_address_or_a_pages(path: str, editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    answer = client.post(HOME, {"address": f"{world.address}{path}"}, content_type="application/json")
    assert answer.status_code == 201, answer.content
    items = FeedItem.objects.count()
    assert items > 5
    assert fetch_items(Feed.objects.get().pk) == 0
    assert Feed.objects.get().message == ""
    Feed.objects.update(etag="", modified="")
    assert fetch_items(Feed.objects.get().pk) == 0
    assert FeedItem.objects.count() == items
    again = client.post(HOME, {"address": f"{world.address}{path}"}, content_type="application/json")
    assert again.status_code == 409
    assert client.delete(f"{HOME}/{Feed.objects.get().pk}").status_code == 204
    assert client.get(HOME).json()["feeds"] == []
    assert FeedItem.objects.count() == items


@pytest.mark.django_db
def test_a_feed_that_fails_is_asked_less_and_less_often_and_says_why(editor: Any, client_of: Any, world: Any) -> None:
    client = client_of(editor)
    client.post(HOME, {"address": f"{world.address}/feeds/halfmoon.atom"}, content_type="application/json")
    Feed.objects.update(address=f"{world.address}/wrong/entities")
    waits = []
    for _ in range(4):
        fetch_items(Feed.objects.get().pk)
        waits.append(Feed.objects.get().next_at - clock.now())
    assert waits[3] > waits[0] * 4
    assert waits[3] < timedelta(days=2, hours=1)
    assert "entities" in Feed.objects.get().message
    assert client.get("/api/brands/orrery-house/sources/health").json()["feeds"][0]["failures"] == 4


def hostile(brand: Any, monkeypatch: pytest.MonkeyPatch, content: bytes | Exception) -> Feed:
    feed = Feed.objects.create(
        brand=brand, address="http://f.example/feed", title="F", added_at=clock.now(), next_at=clock.now()
    )

    def given(*_: Any, **__: Any) -> Fetched:
        if isinstance(content, Exception):
            raise content
        return Fetched(status=200, address=feed.address, content=content, headers={"content-type": "text/xml"})

    monkeypatch.setattr("dakika_server.sources.feeds.fetch", given)
    assert fetch_items(feed.pk) == 0
    feed.refresh_from_db()
    return feed


@pytest.mark.django_db
def test_a_feed_that_takes_minutes_to_read_is_ended_and_asked_again_later(
    brand: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Repeated openings that are never closed: once 250 s in the process that publishes."""
    monkeypatch.setattr("dakika_server.sources.feeds.READING_SECONDS", 3)
    swollen = b"<rss version='2.0'><channel><item><guid>1</guid><description>" + b"&lt;!--" * 350_000
    feed = hostile(brand, monkeypatch, swollen + b"</description></item></channel></rss>")
    assert "far longer to read" in feed.message
    assert feed.failures == 1
    assert feed.next_at > clock.now() + timedelta(minutes=30)


@pytest.mark.django_db
@pytest.mark.parametrize("error", [ValueError("odd"), httpx.InvalidURL("http:x"), UnicodeError("x"), RecursionError()])
def test_whatever_a_follow_up_meets_is_written_down_with_its_next_time(
    error: Exception, brand: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    feed = hostile(brand, monkeypatch, error)
    assert feed.message == "What came from there could not be taken in."
    assert feed.next_at > clock.now() + timedelta(minutes=30)


def test_people_who_look_at_slow_pages_take_few_places(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("dakika_server.networks.fetcher.LONGEST_WAIT_SECONDS", 0.05)
    with place_for_people(), place_for_people(), pytest.raises(FetchError, match="Try again"), place_for_people():
        pass
    with place_for_people():
        pass
