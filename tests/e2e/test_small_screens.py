"""Promise: from 1,000 px down to 360 every view is one column that scrolls one way (WCAG 2.2, 1.4.10), worked by touch."""

import re
from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from waiting import opened

from scripts.stack import Stack

HOME = "orrery-house"
VIEWS = (
    "brands", "results", "results/difference", "results/posts", "results/groups", "results/followers", "results/audience",
    "results/traffic", "results/findings", "results/paid", "results/metrics", "competitors", "competitors/benchmark", "competitors/axes", "competitors/posts", "competitors/presence",
    "competitors/works", "competitors/gap", "competitors/sets", "links", "site",
    "site/attribution", "site/sites", "links/pages", "links/rules", "timing", "timing?read=ranked", "timing/rhythm", "timing/trials",
    "foresight", "foresight/calibration", "plan", "plan?view=month", "plan?view=list", "plan?view=slots", "plan/new", "plan/files",
    "plan/campaigns", "plan/campaigns/1", "plan/many", "plan/review", "plan/tasks", "plan/ideas", "plan/ideas/new", "plan/hashtags", "plan/rules", "plan/rules?rule=1", "plan/feed", "plan/messages", "reports", "reports?new=1", "reports/1", "reports/2?page=cover", "sources",
    "team", "team/you", "team/log", "team/notices", "team/programs", "team/webhooks", "team/status", "sources/health", "sources/import", "sources/feeds", "sources/networks", "sources/brand",
)  # fmt: skip
# What sticks out of the page at the right, unless it lies in something that scrolls or is cut there on purpose.
STICKS_OUT = """() => {
  const wide = document.documentElement.clientWidth;
  const isHeld = (e) => {
    for (let p = e.parentElement; p && p !== document.body; p = p.parentElement)
      if (/auto|scroll|hidden|clip/.test(getComputedStyle(p).overflowX)) return true;
    return false;
  };
  return [...document.querySelectorAll('body *')]
    .filter((e) => e.getBoundingClientRect().width && e.getBoundingClientRect().right > wide + 1 && !isHeld(e))
    .map((e) => `${e.tagName} ${e.textContent.slice(0, 40)}`).slice(0, 3);
}"""


@pytest.fixture
def phone(chromium: Browser, editor_state: Any) -> Iterator[Page]:
    """The signed-in person's phone."""
    context = chromium.new_context(viewport={"width": 360, "height": 740}, has_touch=True, storage_state=editor_state)
    opened = context.new_page()
    opened.set_default_timeout(60_000)
    yield opened
    context.close()


def test_every_view_fits_a_phone(phone: Page, stack: Stack) -> None:
    found = {}
    for view in VIEWS:
        opened(phone, f"{stack.address}/{HOME}/{view}")
        wide = phone.evaluate("document.documentElement.scrollWidth")
        if wide > 360:
            found[view] = (wide, phone.evaluate(STICKS_OUT))
    assert found == {}


def test_areas_stand_in_a_menu_and_a_tap_on_a_chart_opens_the_day(phone: Page, stack: Stack) -> None:
    phone.goto(f"{stack.address}/{HOME}/links")
    phone.get_by_role("button", name="Area: Links").tap()
    phone.get_by_role("menuitem", name="Results").tap()
    expect(phone).to_have_url(re.compile(f"/{HOME}/results"))
    # Whether its days open is known once the spikes are.
    expect(phone.get_by_text("A day opens the posts behind it")).to_be_visible()
    chart = phone.get_by_role("img", name="Interactions by day")
    box = chart.bounding_box()
    assert box is not None
    chart.tap(position={"x": box["width"] / 2, "y": 60})
    expect(phone.get_by_role("dialog", name=re.compile("Interactions on"))).to_be_visible()
