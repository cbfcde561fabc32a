"""What tests in the browser share where posts are written and go out: the stand-ins' side, versions, files."""

import json
import re
import urllib.request
from typing import Any

from playwright.sync_api import Page, expect

from scripts import postgres
from scripts.stack import Stack

EIGHT = ("Brevi", "Commons", "Corkboard", "Doorstep", "Guildhall", "Longplay", "Pictor", "Vignette")


def go(page: Page, stack: Stack, path: str) -> None:
    page.goto(f"{stack.address}/orrery-house/{path}")


def world(stack: Stack, path: str, body: dict[str, Any] | None = None) -> Any:
    address = f"http://127.0.0.1:{stack.standins_port}/control/{path}"
    data = json.dumps(body).encode() if body is not None else None
    with urllib.request.urlopen(urllib.request.Request(address, data=data), timeout=10) as answer:
        return json.load(answer)


def version(page: Page, network: str) -> None:
    page.get_by_role("button", name=re.compile(f"^Orrery House.* on {network}")).first.click()


def bring(page: Page, name: str, media_type: str, content: bytes) -> None:
    """A new file from the picker, looked into by the worker."""
    page.get_by_role("button", name="Pictures and videos").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Files to bring").set_input_files({"name": name, "mimeType": media_type, "buffer": content})
    expect(sheet.get_by_role("button", name=name)).to_have_attribute("aria-pressed", "true")
    sheet.get_by_role("button", name="Done").click()


def authorised(stack: Stack) -> None:
    """Renewing is the business of Sources; here every profile may be published to."""
    postgres.sql("UPDATE sources_credential SET is_lapsed = false, expires_at = now() + interval '1 day'", stack.name)
