"""Promise: those who may only look meet no door that leads to a refusal: whatever they press, nothing is forbidden."""

from typing import Any

import pytest
from playwright.sync_api import Browser, Page
from waiting import Calls, opened

from scripts.browser import new_page, signed_in
from scripts.stack import Stack

VIEWER = "guest@ninthbell.example"
SCREENS = [
    "brands", "results", "results/posts", "results/posts/1", "results/groups?by=tag", "results/traffic", "results/findings", "results/paid",
    "results/metrics", "competitors", "competitors/benchmark", "competitors/axes", "competitors/posts", "competitors/presence",
    "competitors/works", "competitors/gap", "competitors/sets", "links?new=1", "links/1", "links/pages", "links/rules", "site/sites",
    "site/attribution", "timing", "timing?read=ranked", "timing/rhythm", "timing/trials",
    "foresight", "foresight/calibration", "plan", "plan?view=month", "plan?view=list", "plan?view=slots", "plan/new", "plan/files",
    "plan/campaigns", "plan/campaigns/1", "plan/many", "plan/review", "plan/tasks", "plan/ideas", "plan/ideas/new", "plan/hashtags", "plan/rules", "plan/rules?rule=1", "plan/feed", "plan/messages", "reports", "reports?new=1", "reports/1", "reports/2?page=cover", "sources?open=competitor", "team", "team/you", "team/notices", "sources/health", "sources/feeds",
    "sources/brand", "sources/import", "sources/profiles/1",
]  # fmt: skip
# Each in turn, as somebody would who tries everything; what opens is closed again.
PRESS = """async () => {
    const drawn = () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
    const here = location.href;
    const found = [...document.querySelectorAll('main button')].filter((b) => b.offsetParent && !b.disabled);
    for (const button of found.slice(0, 40)) {
        if (!button.isConnected || location.href !== here) continue;
        button.click();
        await drawn();
        document.activeElement?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', bubbles: true }));
    }
    await drawn();
    return found.length;
}"""


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
    calls = Calls(viewer)
    viewer.on(
        "response",
        lambda answer: refused.append(f"{answer.request.method} {answer.url}") if answer.status == 403 else None,
    )
    for screen in SCREENS:
        opened(viewer, f"{stack.address}/orrery-house/{screen}")
        pressed[screen] = viewer.evaluate(PRESS)
        calls.answered()
        assert refused == [], screen
        refusals = viewer.get_by_text("You may look at this brand but not change it.").count()
        assert refusals <= (screen in ("plan/new", "plan/ideas/new")), screen
    assert sum(pressed.values()) > 60, pressed
