"""Debian's Chromium through Playwright, for pictures and measurements."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, sync_playwright

from scripts.system import chromium

ARGUMENTS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync",
]  # fmt: skip
EDITOR, PASSWORD = "mira@ninthbell.example", "half past nine"


@contextmanager
def browser() -> Iterator[Browser]:
    """A headless browser for as long as the block runs."""
    with sync_playwright() as playwright:
        opened = playwright.chromium.launch(executable_path=chromium(), args=ARGUMENTS)
        try:
            yield opened
        finally:
            opened.close()


def new_page(opened: Browser, *, scheme: str = "light", state: Any = None) -> Page:
    """A page at 1280x800; `state` is what a context that had signed in left."""
    context: BrowserContext = opened.new_context(
        viewport={"width": 1280, "height": 800},
        color_scheme=scheme,
        locale="en-GB",
        reduced_motion="reduce",  # type: ignore[arg-type]
        storage_state=state,
    )
    return context.new_page()


def signed_in(
    opened: Browser, address: str, *, scheme: str = "light", fixed_now: str = "", email: str = EDITOR
) -> Page:
    """A page on which somebody is signed in."""
    page = new_page(opened, scheme=scheme)
    if fixed_now:
        page.clock.set_fixed_time(fixed_now)
    page.goto(address)
    page.get_by_label("E-mail address").fill(email)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation", name="Areas").wait_for()
    return page
