"""Waiting for what happens, never for a time to pass: a busy machine takes longer, and a quick one waits for nothing."""

import time
from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page, Request

# What a screen has when it is there: a heading, and nothing that says it is loading or still of before.
SETTLED = """() => document.querySelector('main :is(h1, h2, h3)') !== null
    && document.querySelector('[role=status][aria-label], [aria-busy=true]') === null"""


def until(true: Callable[[], Any], seconds: float = 120.0) -> Any:
    """Wait until something holds; AssertionError when it never does."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        found = true()
        if found:
            return found
        time.sleep(0.05)
    raise AssertionError(f"it did not come about within {seconds} s")


def opened(page: Page, address: str) -> None:
    """Open an address and wait until its screen is there."""
    page.goto(address)
    page.wait_for_function(SETTLED)


class Calls:
    """The calls of a page that are on their way."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self._open: set[Request] = set()
        # Playwright marks its listeners, which methods of a set cannot be.
        # A stream of what changed never ends, and nobody waits for it.
        page.on("request", lambda call: None if "/events?" in call.url else self._open.add(call))
        page.on("requestfinished", lambda call: self._open.discard(call))  # noqa: PLW0108
        page.on("requestfailed", lambda call: self._open.discard(call))  # noqa: PLW0108

    def answered(self) -> None:
        """Wait until all of them are."""
        for _ in range(600):
            if not self._open:
                return
            self._page.wait_for_timeout(20)
        raise AssertionError(f"never answered: {[call.url for call in self._open]}")
