"""Promise: bots are counted apart, people are not taken for bots, and nobody can be told from a hash."""

import json
from pathlib import Path

import crawleruseragents
import fake_useragent
import pytest

from dakika_core.links.agents import browser_of, device_of
from dakika_core.links.bots import BotReason, classify, known_crawlers
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
