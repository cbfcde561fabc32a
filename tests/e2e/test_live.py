"""Promise: what changes is seen as it happens, in every tab, by one stream; and nothing is asked for nothing."""

import re
import urllib.error
import urllib.request
from typing import Any

from playwright.sync_api import Page, expect
from waiting import opened

from scripts.stack import Stack

HOME = "orrery-house"


class _Stay(urllib.request.HTTPRedirectHandler):
    def redirect_request(self, *args: Any, **kwargs: Any) -> None:
        """Where a short link leads is of no interest here."""


def click(stack: Stack, code: str) -> None:
    """Follow a short link as a person's browser does, and stop at the redirect."""
    asked = urllib.request.Request(
        f"{stack.links_address}/{code}",
        headers={"User-Agent": "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0"},
    )
    try:
        urllib.request.build_opener(_Stay).open(asked, timeout=10)
    except urllib.error.HTTPError as answer:
        assert answer.code == 302


def test_a_click_shows_itself_where_nobody_asks(page: Page, stack: Stack) -> None:
    streams: list[str] = []
    page.context.on("request", lambda r: streams.append(r.url) if "/events?ticket" in r.url else None)
    with page.expect_response(re.compile(r"/events\?ticket")):
        opened(page, f"{stack.address}/{HOME}/links")
    other = page.context.new_page()
    opened(other, f"{stack.address}/{HOME}/plan")
    expect(other.get_by_role("heading").first).to_be_visible()
    assert len(streams) == 1, "one stream for all tabs"
    row = page.get_by_role("row").filter(has=page.get_by_role("link")).nth(1)
    code = (row.locator("td").nth(2).text_content() or "").strip()
    with page.expect_response(lambda r: r.url.split("?")[0].endswith(f"{HOME}/links"), timeout=8_000):
        click(stack, code)
    other.close()
