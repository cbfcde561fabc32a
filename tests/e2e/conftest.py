"""The whole application on ports of its own, and a browser in front of it."""

import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect

from scripts.browser import browser, new_page, signed_in
from scripts.stack import Stack

# What is waited for comes by polling at the earliest after some seconds; a busy machine takes longer.
expect.set_options(timeout=60_000)
TRACES = Path(__file__).parents[2] / "test-results"


@pytest.fixture(scope="package")
def stack() -> Iterator[Stack]:
    """Stand-ins, worker and web server over a fresh demo."""
    made = Stack(name="dakika_e2e", first_web_port=8100, first_standins_port=9100)
    made.choose_ports()
    try:
        made.prepare(fresh=True)
        made.start_standins()
        made.load_demo()
        made.start_rest()
        yield made
    finally:
        made.stop()


@pytest.fixture(scope="package")
def chromium() -> Iterator[Browser]:
    # Playwright's loop would make Django think that tests run inside an event loop.
    os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "1"
    with browser() as opened:
        yield opened
    del os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"]


@pytest.fixture(scope="package")
def editor_state(stack: Stack, chromium: Browser) -> Any:
    """What a browser keeps of an editor who signed in: once for all tests, as for a person's day."""
    opened = signed_in(chromium, stack.address)
    state = opened.context.storage_state()
    opened.context.close()
    return state


@pytest.fixture
def page(chromium: Browser, editor_state: Any, request: Any) -> Iterator[Page]:
    """An editor at 1280x800; a picture is kept when the test fails."""
    opened = new_page(chromium, state=editor_state)
    opened.set_default_timeout(60_000)
    yield opened
    failed = getattr(request.node, "failed", False)
    if failed:
        TRACES.mkdir(exist_ok=True)
        opened.screenshot(path=TRACES / f"{request.node.name}.png")
    opened.context.close()


@pytest.hookimpl(hookwrapper=True)
def pytest_runtest_makereport(item: Any) -> Iterator[None]:
    outcome = yield
    item.failed = getattr(item, "failed", False) or outcome.get_result().failed  # type: ignore[attr-defined]
