"""Promise: the sites say who owns them in open standards, their feeds are the standards' own, and people follow what is sent."""

import asyncio
import hashlib
import hmac
import json
from datetime import datetime, timedelta
from typing import Any
from xml.etree import ElementTree

import httpx
import pytest
from icalendar import Calendar
from starlette.testclient import TestClient

from dakika_standins.audience import LINK, _follow, tell_of_comments
from dakika_standins.state import State
from dakika_standins.tests.conftest import NOW
from dakika_standins.world.clicks import AGENTS

ATOM = "{http://www.w3.org/2005/Atom}"


@pytest.mark.parametrize("site", ["orreryhouse", "gnomongallery"])
def test_a_page_names_its_owners_profiles_and_feeds(site: str, http: TestClient) -> None:
    page = http.get(f"/sites/{site}/night-openings").text
    data = json.loads(page.partition('<script type="application/ld+json">')[2].partition("</script>")[0])
    assert data["@type"] == "Organization"
    assert any(site in address for address in data["sameAs"])
    assert f'href="/feeds/{site}.atom"' in page
    assert "<h1>Night openings</h1>" in page


def test_what_is_asked_for_is_written_as_text(http: TestClient) -> None:
    page = http.get("/sites/orreryhouse/%3Cscript%3Ealert(1)%3C%2Fscript%3E").text
    assert "<script>alert" not in page.lower()
    assert http.get("/sites/nobodys").status_code == 404


def test_a_site_counts_only_for_whom_it_was_told_to(http: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    assert "visit.js" not in http.get("/sites/orreryhouse/tickets").text
    monkeypatch.setenv("DAKIKA_PUBLIC_ADDRESS", "http://127.0.0.1:8000")
    page = http.get("/sites/orreryhouse/tickets").text
    assert '<script async src="http://127.0.0.1:8000/visit.js" data-site="demo-orreryhouse">' in page
    assert "Order for 14.00" in page
    assert "visit.js" not in http.get("/sites/gnomongallery/tickets").text


def test_both_forms_of_a_feed_hold_the_same_items(http: TestClient) -> None:
    rss = ElementTree.fromstring(http.get("/feeds/halfmoon.rss").text)
    atom = ElementTree.fromstring(http.get("/feeds/halfmoon.atom").text)
    titles = [item.findtext("title") for item in rss.iter("item")]
    assert 0 < len(titles) <= 20
    assert titles == [entry.findtext(f"{ATOM}title") for entry in atom.iter(f"{ATOM}entry")]
    # RFC 4287, 4.1.2: an entry has an id, a title and an instant of its last change.
    for entry in atom.iter(f"{ATOM}entry"):
        assert entry.findtext(f"{ATOM}id", "").startswith("tag:halfmoon.example,2026:")
        assert datetime.fromisoformat(entry.findtext(f"{ATOM}updated", "")) <= NOW


def test_an_unchanged_feed_is_not_sent_again(http: TestClient) -> None:
    first = http.get("/feeds/halfmoon.rss")
    again = http.get("/feeds/halfmoon.rss", headers={"If-None-Match": first.headers["ETag"]})
    assert (again.status_code, again.content) == (304, b"")
    other = http.get("/feeds/halfmoon.atom", headers={"If-None-Match": first.headers["ETag"]})
    assert other.status_code == 200
    assert http.get("/feeds/halfmoon.json").status_code == 404


@pytest.mark.parametrize(
    ("text", "link"),
    [
        ("Tickets: http://127.0.0.1:8040/ab12cd", "http://127.0.0.1:8040/ab12cd"),
        ("Old: http://localhost:8000/l/ab12cd, come", "http://localhost:8000/l/ab12cd"),
        ("(http://127.0.0.1/x_-9)", "http://127.0.0.1/x_-9"),
        ("A page, no link: http://127.0.0.1:9000/sites/orreryhouse", None),
        ("Elsewhere: https://orrery.example/tickets", None),
    ],
)
def test_people_follow_short_links_of_this_machine_alone(text: str, link: str | None) -> None:
    found = LINK.search(text)
    assert (found[0] if found else None) == link


def follow(state: State, answer: Any) -> list[httpx.Request]:
    """The first sent post's link followed once, as `answer` lets it."""
    seen: list[httpx.Request] = []

    def take(request: httpx.Request) -> httpx.Response:
        seen.append(request)
        if isinstance(answer, Exception):
            raise answer
        return httpx.Response(answer)

    async def run() -> None:
        async with httpx.AsyncClient(transport=httpx.MockTransport(take)) as client:
            await _follow(client, state, state.sent_posts[0], "http://127.0.0.1:8040/ab12cd")

    asyncio.run(run())
    return seen


@pytest.fixture
def sent(state: State) -> State:
    """A post that went out some hours ago, so that people saw it by now."""
    state.fixed_now = NOW - timedelta(hours=9)
    state.send("commons-orreryhouse", text="http://127.0.0.1:8040/ab12cd", format="link", idempotency_key="k")
    state.fixed_now = NOW
    return state


def test_as_many_click_as_the_network_says_and_never_more(sent: State) -> None:
    wanted = sent.counters(sent.sent_posts[0])["link_clicks"]
    rounds = [follow(sent, 302) for _ in range(wanted // 20 + 2)]
    assert sum(map(len, rounds)) == wanted > 0
    assert max(map(len, rounds)) <= 20
    assert {request.headers["User-Agent"] for made in rounds for request in made} <= set(AGENTS)
    assert {request.headers["Referer"] for made in rounds for request in made} == {"https://commons.example/"}
    # What was clicked is remembered over a restart: nobody clicks twice for one number.
    assert State(sent.path, fixed_now=NOW).data["clicked"] == {sent.sent_posts[0].id: wanted}


def test_a_link_that_does_not_answer_is_tried_again_later(sent: State) -> None:
    assert len(follow(sent, httpx.ConnectError("away"))) == 1
    assert sent.data["clicked"] == {}
    assert len(follow(sent, 302)) > 1


def told(state: State, status: int) -> list[httpx.Request]:
    """What subscribers hear in one round, who answer so."""
    heard: list[httpx.Request] = []

    def take(request: httpx.Request) -> httpx.Response:
        heard.append(request)
        return httpx.Response(status)

    async def run() -> None:
        async with httpx.AsyncClient(transport=httpx.MockTransport(take)) as client:
            await tell_of_comments(client, state)

    asyncio.run(run())
    return heard


def test_a_call_is_signed_and_made_again_until_it_is_taken(state: State) -> None:
    state.subscribe("pictor-orreryhouse", url="http://127.0.0.1:8000/hooks/pictor/1", secret="quiet")
    first, second = told(state, 500), told(state, 202)
    assert len(first) == len(second) > 0
    assert told(state, 202) == []
    for request in second:
        mark = hmac.new(b"quiet", request.content, hashlib.sha256).hexdigest()
        assert request.headers["Signature-256"] == mark
        assert json.loads(request.content)["event"] == "comment"


def test_the_hand_on_the_world_corrects_removes_and_begins_anew(http: TestClient, state: State) -> None:
    post = state.posts("commons-orreryhouse")[10]
    before = state.counters(post)["impressions"]
    http.post("/control/correct", json={"id": post.id, "share": 0.5})
    assert state.counters(post)["impressions"] == round(before * 0.5)
    http.post("/control/remove", json={"id": post.id})
    assert state.find(post.id) is None
    assert post.id not in http.get("/control/truth", params={"key": "commons-orreryhouse"}).json()
    http.post("/control/bulk", json={"key": "commons-orreryhouse", "count": 50})
    assert sum(p.id.startswith("bulk") for p in state.posts("commons-orreryhouse")) == 50
    http.post("/control/reset")
    assert state.find(post.id) is not None
    assert state.counters(post)["impressions"] == before
    assert http.get("/control/sent").json() == []


def test_what_was_being_written_when_the_power_went_does_not_spoil_what_was(state: State) -> None:
    state.grant("commons", "orrery", "read")
    state.path.with_suffix(".new").write_text('{"tokens": {"half')
    assert State(state.path, fixed_now=NOW).data["tokens"] == state.data["tokens"]


def test_a_programme_is_a_calendar_that_other_libraries_read(http: TestClient) -> None:
    """Read back by the icalendar package."""
    said = http.get("/programmes/orreryhouse.ics")
    found = Calendar.from_ical(said.content)
    assert [str(event["SUMMARY"]) for event in found.walk("VEVENT")] == ["Open until midnight", "Tour of the roof"]
    assert found.walk("VEVENT")[0]["DTSTART"].dt.weekday() == 3
    again = http.get("/programmes/orreryhouse.ics", headers={"If-None-Match": said.headers["etag"]})
    assert (again.status_code, http.get("/programmes/nobody.ics").status_code) == (304, 404)
