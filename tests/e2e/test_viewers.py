"""Promise: those who may only look meet no door that leads to a refusal: whatever they press, nothing is forbidden."""

from typing import Any

import pytest
from playwright.sync_api import Browser, Page

from scripts.browser import new_page, signed_in
from scripts.stack import Stack

VIEWER = "guest@ninthbell.example"
SCREENS = [
    "results", "results/posts", "results/posts/1", "results/groups?by=tag", "results/traffic", "results/findings",
    "results/metrics", "competitors", "links?new=1", "links/1", "links/pages", "links/rules", "links/sites",
    "links/attribution", "timing", "plan", "plan/new", "sources?open=competitor", "sources/health", "sources/feeds",
    "sources/brand", "sources/import", "sources/profiles/1",
]  # fmt: skip
# Each in turn, as somebody would who tries everything; what opens is closed again.
PRESS = """async () => {
    const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
    const here = location.href;
    const found = [...document.querySelectorAll('main button')].filter((b) => b.offsetParent && !b.disabled);
    for (const button of found.slice(0, 40)) {
        if (!button.isConnected || location.href !== here) continue;
        button.click();
        await wait(30);
        document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    }
    await wait(150);
    return found.length;
}"""
SETTLED = """() => document.querySelector('main h1, main h2, main h3') !== null
    && document.querySelector('[role=status][aria-label]') === null"""


@pytest.fixture(scope="module")
def viewer(stack: Stack, chromium: Browser) -> Any:
    opened = signed_in(chromium, stack.address, email=VIEWER)
    state = opened.context.storage_state()
    opened.context.close()
    page = new_page(chromium, state=state)
    yield page
    page.context.close()


def test_nothing_that_may_be_pressed_is_forbidden(viewer: Page, stack: Stack) -> None:
    refused: list[str] = []
    pressed: dict[str, int] = {}
    viewer.on(
        "response",
        lambda answer: refused.append(f"{answer.request.method} {answer.url}") if answer.status == 403 else None,
    )
    for screen in SCREENS:
        viewer.goto(f"{stack.address}/orrery-house/{screen}")
        viewer.wait_for_function(SETTLED)
        pressed[screen] = viewer.evaluate(PRESS)
        assert refused == [], screen
        assert viewer.get_by_text("You may look at this brand but not change it.").count() <= (screen == "plan/new"), (
            screen
        )
    assert sum(pressed.values()) > 60, pressed
