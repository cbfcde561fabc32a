"""Promise: an installation of one's own starts empty, lets its first person in once, and ends when it is asked to."""

import json
import re
import signal
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pytest
from installing import first_address, installed
from playwright.sync_api import Browser, expect

from scripts.browser import new_page
from scripts.serve import Installation

PASSWORD = "half past nine o'clock"


@pytest.fixture
def installation(tmp_path: Path) -> Iterator[Installation]:
    with installed(tmp_path, "dakika_serving", 8_300) as made:
        yield made


def test_the_first_person_begins_and_finds_what_to_do(installation: Installation, chromium: Browser) -> None:
    address = first_address(installation)
    home = installation.settings["DAKIKA_PUBLIC_ADDRESS"]
    assert address.startswith(f"{home}/begin#")
    page = new_page(chromium)
    page.set_default_timeout(60_000)
    page.goto(address)
    page.get_by_label("Your name").fill("Mira Dahl")
    page.get_by_label("E-mail address").fill("mira@ninthbell.example")
    page.get_by_label("Password").fill("short")
    page.get_by_label("Your first brand").fill("Orrery House")
    page.get_by_label("Its time zone").select_option("Europe/Lisbon")
    page.get_by_role("button", name="Begin").click()
    # What is wrong is said beside it, and nothing that was typed is lost.
    expect(page.get_by_text("a password has at least 15")).to_be_visible()
    expect(page.get_by_label("Your first brand")).to_have_value("Orrery House")
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Begin").click()
    expect(page).to_have_url(re.compile(r"/orrery-house/results"))
    expect(page.get_by_role("heading", name="Nothing is known of these days")).to_be_visible()
    expect(page.get_by_role("heading", name="The first figures of Orrery House")).to_be_visible()
    page.get_by_role("link", name="Bring in a file that a network gave you").click()
    expect(page).to_have_url(re.compile(r"/sources/import"))
    # No stand-in is offered: nobody could say yes there.
    page.goto(f"{home}/orrery-house/sources?open=network")
    expect(page.get_by_role("heading", name="No network can be connected here yet")).to_be_visible()
    # Full screens to look at beside one's own empty ones, made of nothing that stands outside, and gone again.
    page.goto(f"{home}/orrery-house/results")
    page.get_by_role("button", name="Show me with the demo").click()
    page.get_by_role("link", name="Open the demo").click(timeout=300_000)
    expect(page).to_have_url(re.compile("/orrery-house-demo/results"))
    expect(page.get_by_text("Invented figures, to look around")).to_be_visible()
    expect(page.get_by_role("heading", name="Interactions by day")).to_be_visible()
    page.get_by_role("button", name="Take the demo away").click()
    page.get_by_role("button", name="Take it away").click()
    expect(page).to_have_url(re.compile("/orrery-house/results"))
    expect(page.get_by_role("heading", name="Nothing is known of these days")).to_be_visible()
    # The same address lets nobody in again.
    other = new_page(chromium)
    other.goto(address)
    for label, value in (("Your name", "Another"), ("E-mail address", "a@x.example"), ("Password", PASSWORD), ("Your first brand", "B")):  # fmt: skip
        other.get_by_label(label).fill(value)
    other.get_by_role("button", name="Begin").click()
    expect(other.get_by_text("This address lets nobody in any more")).to_be_visible()
    assert first_address(installation) == ""
    # A worker says that it lives within some seconds.
    until = time.monotonic() + 60
    while True:
        try:
            with urllib.request.urlopen(f"{home}/ready", timeout=10) as answer:
                assert json.load(answer) == {"ok": True, "failing": []}
            break
        except urllib.error.HTTPError:
            assert time.monotonic() < until
            time.sleep(0.5)
    running = dict(installation.processes)
    page.context.close()
    other.context.close()
    installation.stop()
    # Some say with the signal itself that it was what ended them; nobody had to be killed.
    assert {process.returncode for process in running.values()} <= {0, -signal.SIGTERM}
