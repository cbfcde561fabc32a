"""Promise: another program is told what happens here, signed and within seconds, and one sees on the screen that it was."""

import re

from playwright.sync_api import Page, expect

from scripts.stack import Stack

PASSWORD = "half past nine"


def test_another_program_is_told_what_somebody_changes(page: Page, stack: Stack) -> None:
    standins = f"http://127.0.0.1:{stack.standins_port}"
    page.goto(f"{stack.address}/orrery-house/team/webhooks")
    page.get_by_role("button", name="Tell one").click()
    page.get_by_label("Whom it tells").fill("The board in the workshop")
    page.get_by_label("Its address").fill(f"{standins}/programs/board")
    page.get_by_role("checkbox", name=re.compile("Somebody changed something")).check()
    page.get_by_role("button", name="Tell it").click()
    secret = page.get_by_text(re.compile("^dakika_hook_"))
    # Whoever signed in long ago is asked whether it is they.
    password = page.get_by_label("Password")
    expect(secret.or_(password)).to_be_visible()
    if password.is_visible():
        password.fill(PASSWORD)
        page.get_by_role("button", name="It is me").click()
    control = f"{standins}/control/programs/board"
    page.request.post(control, data={"secrets": [secret.inner_text()]})
    page.get_by_role("button", name="I have it").click()

    page.get_by_role("button", name="Try it").click()
    history = page.get_by_role("list", name="What it was told")
    expect(history.get_by_role("button").filter(has_text="test")).to_contain_text("taken", timeout=60_000)
    history.get_by_role("button").filter(has_text="test").click()
    expect(history.get_by_text("Nothing happened. It works.")).to_be_visible()

    answer = page.request.get(control).json()["taken"]
    assert "test" in [one["kind"] for one in answer]
    assert {one["brand"] for one in answer} == {"orrery-house"}
    page.get_by_role("button", name="Take away").click()
    page.get_by_role("button", name="Take it away").click()
    expect(page.get_by_role("heading", name="No other program is told anything")).to_be_visible()
