"""Promise: axe finds no serious violation on any screen, light or dark, and screens hold at 1024 and 1920."""

import gzip
import re
from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, Page
from waiting import Calls, opened

from scripts.browser import new_page
from scripts.paths import WEB
from scripts.stack import Stack

AXE = (WEB / "node_modules" / "axe-core" / "axe.min.js").read_text()
SCREENS = [
    "brands",
    "results", "results?basis=er_reach", "results?view=several", "results?day=2026-11-10&last=2026-11-20",
    "results/posts", "results/posts?by=format", "results/posts?form=cards", "results/posts/1", "results/groups?by=tag",
    "results/followers", "results/audience", "results/audience/sheet", "results/traffic", "results/findings", "results/paid",
    "results/metrics", "competitors", "competitors/benchmark", "competitors/axes", "competitors/posts", "competitors/presence",
    "competitors/works", "competitors/gap", "competitors/sets", "links", "links?new=1",
    "links/1", "links?new=many", "links/pages", "links/rules", "site",
    "site/attribution", "site/sites", "timing", "timing?read=ranked", "timing/rhythm", "timing/trials",
    "foresight", "foresight/calibration", "plan", "plan?view=month", "plan?view=list", "plan?view=slots", "plan/new", "plan/files",
    "plan/campaigns", "plan/campaigns/1", "plan/many", "plan/review", "plan/tasks", "plan/ideas", "plan/ideas/new", "plan/hashtags", "plan/rules", "plan/rules?rule=1", "plan/feed", "plan/messages", "reports", "reports?new=1", "reports/1", "reports/2?page=cover", "sources", "sources?open=network", "sources?open=competitor",
    "team", "team/you", "team/log", "team/notices", "team/programs", "team/webhooks", "team/status", "sources/health", "sources/networks", "sources/feeds", "sources/brand", "sources/profiles/1", "sources/import",
]  # fmt: skip
WIDTHS = (1024, 1920)
EVERYTHING = "['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']"
# Structure is the same in the dark; what can differ there are colours.
COLOURS = "['color-contrast', 'link-in-text-block']"
FIND = """async () => (await axe.run(document, {runOnly: %s})).violations
    .filter((v) => ['serious', 'critical'].includes(v.impact))
    .map((v) => v.id + ': ' + v.nodes.slice(0, 3).map((n) => n.html.slice(0, 160) + ' ' + n.failureSummary).join(' | '))"""


@pytest.fixture(scope="module")
def visited(chromium: Browser, editor_state: Any) -> Iterator[Page]:
    """One window that goes from screen to screen, as a person's does."""
    page = new_page(chromium, state=editor_state)
    yield page
    page.context.close()


@pytest.mark.parametrize("screen", SCREENS)
def test_no_serious_violation_and_nothing_breaks_out_sideways(screen: str, stack: Stack, visited: Page) -> None:
    visited.emulate_media(color_scheme="light")
    visited.set_viewport_size({"width": 1280, "height": 800})
    calls = Calls(visited)
    opened(visited, f"{stack.address}/orrery-house/{screen}")
    # What the screen does not wait for comes in, too.
    calls.answered()
    visited.evaluate(AXE)
    assert visited.evaluate(FIND % EVERYTHING) == []
    visited.emulate_media(color_scheme="dark")
    visited.wait_for_selector("html[data-theme=dark]")
    assert visited.evaluate(FIND % COLOURS) == []
    for width in WIDTHS:
        visited.set_viewport_size({"width": width, "height": 800})
        assert visited.evaluate("document.documentElement.scrollWidth") <= width


def test_the_first_scripts_are_small(stack: Stack) -> None:
    page = (WEB / "dist" / "index.html").read_text()
    first = re.findall(r'(?:src|href)="/([^"]+\.js)"', page)
    assert first
    assert sum(len(gzip.compress((WEB / "dist" / name).read_bytes())) for name in first) < 250_000
