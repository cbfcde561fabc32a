"""Promise: bots are counted apart, people are not taken for bots, and nobody can be told from a hash."""

import json
import re
from pathlib import Path

import crawleruseragents
import fake_useragent
import pytest

from dakika_core.links.agents import browser_of, device_of
from dakika_core.links.bots import BotReason, classify, is_program, known_crawlers
from dakika_core.links.visitors import visitor_hash

PATTERNS = known_crawlers()
# Agent strings of ordinary browsers, from memory, with the names left out that are nobody's business here.
BROWSERS = [
    "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36",
    "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Safari/537.36",
    "Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101",
]


def test_every_known_crawler_is_recognised() -> None:
    """The package's own instances (crawler-user-agents): all of them."""
    instances = [agent for entry in crawleruseragents.CRAWLER_USER_AGENTS_DATA for agent in entry.get("instances", [])]
    assert len(instances) > 2000
    assert all(PATTERNS.match(agent) for agent in instances)


def real_agents() -> list[dict[str, str]]:
    """Agent strings seen in the world with their kind of device and browser (the package fake-useragent, 2.2.0)."""
    path = Path(fake_useragent.__file__).parent / "data" / "browsers.jsonl"
    return [json.loads(line) for line in path.read_text().splitlines()]


def test_no_real_browser_is_taken_for_a_crawler() -> None:
    """Precision apart from recall: of some seven thousand agent strings of people not one is a bot's."""
    agents = real_agents()
    assert len(agents) > 6000
    assert [told["useragent"] for told in agents if PATTERNS.match(told["useragent"])] == []


def test_crawlers_that_nobody_has_listed_yet_are_mostly_recognised(capsys: pytest.CaptureFixture[str]) -> None:
    """Recall beyond the list: each crawler is looked for by its form and the others' patterns, as if it were new."""
    entries = [entry for entry in crawleruseragents.CRAWLER_USER_AGENTS_DATA if entry.get("instances")]
    every = [re.compile(entry["pattern"]) for entry in entries]
    known = found = by_form = 0
    for place, entry in enumerate(entries):
        for agent in entry["instances"]:
            known += 1
            by_form += is_program(agent)
            found += is_program(agent) or any(p.search(agent) for i, p in enumerate(every) if i != place)
    people = [told["useragent"] for told in real_agents()]
    wrong = sum(is_program(agent) for agent in people)
    with capsys.disabled():
        print(
            f"\n  crawlers as if new: recall {found / known:.1%}, by form alone {by_form / known:.1%}; "
            f"people taken for them {wrong / len(people):.2%}"
        )
    assert by_form / known > 0.85
    assert found / known > 0.9
    assert wrong / len(people) <= 0.0005


@pytest.mark.parametrize(
    ("agent", "is_one"),
    [
        ("Java/11", True), ("python-requests/2.32", True), ("Tideline/2.0", True), ("-", True),
        ("Mozilla/5.0 (compatible; TideCrawl/1.0; +https://tide.example/about)", True),
        ("Mozilla/5.0 (compatible; Tidebot)", True), ("Fetcher (ops@tide.example)", True),
        ("Mozilla/5.0 (Linux; Android 13; CUBOT NOTE S) AppleWebKit/537.36", False),
        ("Mozilla/5.0 (Linux; Android 13; Robotics One) AppleWebKit/537.36", False),
        ("Opera/9.80 (X11; Linux) Presto", False), *((agent, False) for agent in BROWSERS),
    ],
)  # fmt: skip
def test_programs_are_told_by_their_form(agent: str, is_one: bool) -> None:
    assert is_program(agent) is is_one


def test_device_and_browser_agree_with_who_collected_them() -> None:
    """The collection's own labels: devices to one in a thousand, browsers to one in a hundred."""
    agents = real_agents()
    kinds = {"mobile": "phone", "desktop": "computer", "tablet": "tablet"}
    devices = sum(device_of(told["useragent"]) == kinds[told["type"]] for told in agents)
    browsers = sum(browser_of(told["useragent"]) == told["browser"] for told in agents)
    assert devices / len(agents) > 0.999
    assert browsers / len(agents) > 0.98


@pytest.mark.parametrize("agent", BROWSERS)
def test_people_are_people(agent: str) -> None:
    assert classify("GET", {"user-agent": agent}, PATTERNS) is BotReason.NONE


@pytest.mark.parametrize(
    ("method", "headers", "reason"),
    [
        ("HEAD", {"user-agent": BROWSERS[0]}, BotReason.METHOD),
        ("GET", {"user-agent": BROWSERS[0], "sec-purpose": "prefetch;prerender"}, BotReason.PREFETCH),
        ("GET", {"user-agent": BROWSERS[0], "purpose": "prefetch"}, BotReason.PREFETCH),
        ("GET", {}, BotReason.NO_AGENT),
        ("GET", {"user-agent": "curl/8.5.0"}, BotReason.AGENT),
    ],
)
def test_the_reason_is_named(method: str, headers: dict[str, str], reason: BotReason) -> None:
    assert classify(method, headers, PATTERNS) is reason


def test_devices() -> None:
    assert [device_of(agent) for agent in BROWSERS] == ["phone", "computer", "computer"]
    assert device_of("") == "other"


def test_a_visitor_is_the_same_for_a_day_and_nobody_the_day_after() -> None:
    today, tomorrow = b"a" * 16, b"b" * 16
    assert visitor_hash("192.0.2.1", "x", today) == visitor_hash("192.0.2.1", "x", today)
    assert visitor_hash("192.0.2.1", "x", today) != visitor_hash("192.0.2.1", "x", tomorrow)
    assert visitor_hash("192.0.2.1", "x", today) != visitor_hash("192.0.2.2", "x", today)
    with pytest.raises(ValueError, match="16 bytes"):
        visitor_hash("192.0.2.1", "x", b"short")
