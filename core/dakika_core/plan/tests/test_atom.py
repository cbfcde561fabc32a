"""Promise: a feed is read by whoever reads Atom (RFC 4287), and nothing that was written becomes markup of ours."""

import uuid
from datetime import UTC, datetime, timedelta
from xml.etree import ElementTree as ET

import feedparser
from hypothesis import given
from hypothesis import strategies as st

from dakika_core.plan.atom import NAMESPACE, AtomEntry, AtomFeed, as_atom, content_of

NOW = datetime(2026, 11, 29, 18, 30, 5, tzinfo=UTC)


def entry(text: str = "It strikes again.", **more: object) -> AtomEntry:
    told = {"guid": uuid.UUID(int=7), "title": "The repaired hour", "published_at": NOW, "updated_at": NOW} | more
    return AtomEntry(text=text, **told)  # type: ignore[arg-type]


def feed(*entries: AtomEntry) -> AtomFeed:
    return AtomFeed(
        guid=uuid.UUID(int=1), title="Orrery House: news", author="Orrery House", address="https://a.example/f.atom",
        site="https://orrery.example/", updated_at=NOW, entries=entries,
    )  # fmt: skip


def test_a_reader_finds_what_was_written() -> None:
    """Read by feedparser, the reader that the feeds one follows are read with."""
    told = entry("It strikes again.\nAt ten.\n\nCome: https://a.example/x?a=1&b=2.", link="https://l.example/abc",
                 picture="https://a.example/p.jpg", picture_words='The "clock"', seen="https://a.example/s.gif")  # fmt: skip
    found = feedparser.parse(as_atom(feed(told)))
    assert not found.bozo
    assert (found.version, found.feed.title, found.feed.author) == ("atom10", "Orrery House: news", "Orrery House")
    (one,) = found.entries
    assert (one.id, one.title, one.link) == (uuid.UUID(int=7).urn, "The repaired hour", "https://l.example/abc")
    assert (one.published, one.updated) == ("2026-11-29T18:30:05Z", "2026-11-29T18:30:05Z")
    content = one.content[0].value
    assert "It strikes again.<br" in content
    assert 'href="https://a.example/x?a=1&amp;b=2"' in content
    assert content.count("<img") == 2


def test_what_the_standard_asks_of_every_feed_and_entry() -> None:
    """RFC 4287, 4.1.1 and 4.1.2: exactly one id, title and updated each; an author; a self link; unique ids."""
    root = ET.fromstring(as_atom(feed(entry(), entry(guid=uuid.UUID(int=8), title="", text=""))))
    for element in (root, *root.findall(f"{{{NAMESPACE}}}entry")):
        for tag in ("id", "title", "updated"):
            (found,) = element.findall(f"{{{NAMESPACE}}}{tag}")
            assert found.text
    assert root.find(f"{{{NAMESPACE}}}author/{{{NAMESPACE}}}name") is not None
    assert [one.get("rel") for one in root.findall(f"{{{NAMESPACE}}}link")] == ["self", "alternate"]


def test_instants_are_told_in_utc() -> None:
    lisbon = datetime.fromisoformat("2026-07-01T10:00:00+01:00")
    assert b"<published>2026-07-01T09:00:00Z</published>" in as_atom(feed(entry(published_at=lisbon)))
    assert timedelta() == NOW - NOW


def test_nothing_that_was_written_becomes_markup() -> None:
    content = content_of(entry('<script>alert(1)</script> "><img src=x onerror=alert(1)> https://a.example/"onload=x'))
    assert "<script" not in content
    assert "<img" not in content
    assert 'onload=x"' not in content


@given(st.text(max_size=200), st.text(max_size=80))
def test_whatever_is_written_the_document_stays_one(text: str, title: str) -> None:
    found = ET.fromstring(as_atom(feed(entry(text, title=title))))
    assert found.tag == f"{{{NAMESPACE}}}feed"
