"""Promise: people come in by letter, sign in with more than a password, see where they are, and go with nothing lost.

Passkeys are held against Chromium's virtual authenticator (Chrome DevTools Protocol, WebAuthn domain).
"""

import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pyotp
import pytest
from installing import first_address, installed
from playwright.sync_api import Browser, Page, expect

from scripts.browser import new_page
from scripts.serve import Installation
from scripts.stack import Stack

TOMA, PASSWORD, ANOTHER = "toma@ninthbell.example", "kettle bridge orchard nine", "violet ladder under the moon"


def phone(chromium: Browser) -> Page:
    page = new_page(chromium)
    page.set_default_timeout(60_000)
    page.set_viewport_size({"width": 360, "height": 740})
    return page


def letter(page: Page, stack: Stack, subject: str) -> str:
    """The address that stands in the latest letter to Toma of a subject; what they are sent comes within seconds."""
    world = f"http://127.0.0.1:{stack.standins_port}/control/mail"
    for _ in range(120):
        found = [str(one) for one in page.request.get(world).json() if TOMA in str(one) and subject in str(one)]
        if found:
            (address,) = set(re.findall(r"http://[^\s'\"\\]+#[^\s'\"\\]+", found[-1]))
            return str(address)
        page.wait_for_timeout(500)
    raise AssertionError(f"no letter: {subject}")


def sign_in(page: Page, home: str, email: str, password: str) -> None:
    page.goto(home)
    page.get_by_label("E-mail address").fill(email)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()


def test_somebody_is_invited_comes_forgets_and_goes(page: Page, stack: Stack, chromium: Browser) -> None:
    page.goto(f"{stack.address}/orrery-house/team")
    page.get_by_label("Invite by e-mail").fill("toma(at)ninthbell")
    page.get_by_label("As", exact=True).select_option("author")
    page.get_by_role("button", name="Invite", exact=True).click()
    page.get_by_label("Invite by e-mail").fill(TOMA)
    page.get_by_role("button", name="Invite", exact=True).click()
    expect(page.get_by_text(f"A letter to {TOMA} is on its way")).to_be_visible()
    expect(page.get_by_role("region", name="Invited").get_by_text(TOMA)).to_be_visible()

    theirs = phone(chromium)
    theirs.goto(letter(page, stack, "invites you to Orrery House"))
    expect(theirs.get_by_role("heading", name="Work on Orrery House")).to_be_visible()
    theirs.get_by_label("Your name").fill("Toma Reyes")
    theirs.get_by_label("Password").fill("tomatomatomatoma")
    theirs.get_by_role("button", name="Come in").click()
    expect(theirs.get_by_text("This one is guessed early")).to_be_visible()
    expect(theirs.get_by_label("Your name")).to_have_value("Toma Reyes")
    theirs.get_by_label("Password").fill(PASSWORD)
    theirs.get_by_role("button", name="Come in").click()
    expect(theirs).to_have_url(re.compile("/orrery-house/results"))
    theirs.goto(f"{stack.address}/orrery-house/team")
    expect(theirs.get_by_role("heading", name=re.compile("work for Orrery House"))).to_be_visible()
    expect(theirs.get_by_label("Invite by e-mail")).to_have_count(0)
    assert theirs.evaluate("document.documentElement.scrollWidth") <= 360

    # Whoever looks at the team sees that they came, and another role counts at once.
    row = page.get_by_role("row", name=re.compile("Toma Reyes"))
    expect(row).to_be_visible()
    page.get_by_role("button", name="Role of Toma Reyes").click()
    page.get_by_role("menuitemradio", name=re.compile("^.?viewer")).click()
    expect(page.get_by_text("Toma Reyes is viewer now.")).to_be_visible()

    theirs.context.clear_cookies()
    theirs.goto(stack.address)
    theirs.get_by_label("E-mail address").fill(TOMA.upper())
    theirs.get_by_role("link", name="I forgot my password").click()
    expect(theirs.get_by_role("heading", name="A new password")).to_be_visible()
    expect(theirs.get_by_label("E-mail address")).to_have_value(TOMA.upper())
    theirs.get_by_role("button", name="Write to me").click()
    expect(theirs.get_by_role("heading", name="Look into your mail")).to_be_visible()
    theirs.goto(letter(page, stack, "A new password for Dakika"))
    theirs.get_by_label("New password").fill(ANOTHER)
    theirs.get_by_role("button", name="Set it").click()
    expect(theirs.get_by_role("heading", name="Your password is set")).to_be_visible()
    sign_in(theirs, stack.address, TOMA, PASSWORD)
    expect(theirs.get_by_text("do not go together")).to_be_visible()
    sign_in(theirs, stack.address, TOMA, ANOTHER)
    expect(theirs).to_have_url(re.compile("/orrery-house/results"))

    row.get_by_role("button", name="Let go Toma Reyes").click()
    page.get_by_role("button", name="Let Toma Reyes go").click()
    expect(page.get_by_text("Toma Reyes no longer works for Orrery House.")).to_be_visible()
    expect(row).to_have_count(0)
    theirs.goto(stack.address)
    expect(theirs.get_by_role("heading", name="No brand is yours yet")).to_be_visible()
    theirs.context.close()


@pytest.fixture
def own(tmp_path: Path) -> Iterator[Installation]:
    """At a name: a passkey is bound to one."""
    with installed(tmp_path, "dakika_people", 8_380, host="localhost") as made:
        yield made


def authenticator(page: Page) -> Any:
    """A device that keeps passkeys and knows its owner."""
    client = page.context.new_cdp_session(page)
    client.send("WebAuthn.enable")
    client.send(
        "WebAuthn.addVirtualAuthenticator",
        {"options": {"protocol": "ctap2", "transport": "internal", "hasResidentKey": True, "hasUserVerification": True,
                     "isUserVerified": True, "automaticPresenceSimulation": True}},
    )  # fmt: skip
    return client


def test_more_than_a_password_lets_one_in(own: Installation, chromium: Browser) -> None:
    home = own.settings["DAKIKA_PUBLIC_ADDRESS"]
    page = new_page(chromium)
    page.set_default_timeout(60_000)
    page.goto(first_address(own))
    for label, value in (("Your name", "Mira"), ("E-mail address", "mira@ninthbell.example"), ("Password", PASSWORD),
                         ("Your first brand", "Orrery House")):  # fmt: skip
        page.get_by_label(label).fill(value)
    page.get_by_role("button", name="Begin").click()
    expect(page).to_have_url(re.compile("/orrery-house/results"))
    you = f"{home}/orrery-house/team/you"
    page.goto(you)
    expect(page.get_by_role("heading", name="Your password alone lets you in")).to_be_visible()

    # Codes: the secret as an application would read it, a wrong code first.
    page.get_by_role("button", name="Set up codes").click()
    secret = page.get_by_role("dialog").locator("code").inner_text().replace(" ", "")
    totp = pyotp.TOTP(secret)
    page.get_by_label("The code it shows now").fill("000000")
    page.get_by_role("button", name="Ask for codes from now on").click()
    expect(page.get_by_text("This is not the code of this minute")).to_be_visible()
    page.get_by_label("The code it shows now").fill(totp.now())
    page.get_by_role("button", name="Ask for codes from now on").click()
    dialog = page.get_by_role("dialog", name="Your recovery codes")
    expect(dialog.get_by_role("listitem")).to_have_count(10)
    codes = dialog.get_by_role("listitem").all_inner_texts()
    dialog.get_by_role("button", name="I have them").click()
    expect(page.get_by_role("heading", name="Your account is protected")).to_be_visible()

    # A passkey, and with it alone in again.
    authenticator(page)
    page.get_by_role("button", name="Add a passkey").click()
    page.get_by_label("What you call it").fill("The desk")
    page.get_by_role("button", name="Ask my device").click()
    expect(page.get_by_role("button", name="Take away The desk")).to_be_visible()
    page.get_by_role("button", name="You: Mira").click()
    page.get_by_role("menuitem", name="Sign out").click()
    page.get_by_role("button", name="With a passkey").click()
    expect(page).to_have_url(re.compile("/orrery-house/results"))

    # Elsewhere, without the device: the password, then a recovery code, once.
    other = new_page(chromium)
    other.set_default_timeout(60_000)
    sign_in(other, home, "mira@ninthbell.example", PASSWORD)
    other.get_by_label("The code of your device").fill("123456")
    other.get_by_role("button", name="Go on", exact=True).click()
    expect(other.get_by_text("This is not the code of this minute")).to_be_visible()
    other.get_by_label("The code of your device").fill(codes[0])
    other.get_by_role("button", name="Go on", exact=True).click()
    expect(other).to_have_url(re.compile("/orrery-house/results"))

    # Seen from the first, and ended there: what stands on the other screen stays behind a door.
    page.goto(you)
    expect(page.get_by_role("heading", name="You are signed in here and in 1 other place")).to_be_visible()
    expect(page.get_by_text("9 recovery codes left")).to_be_visible()
    page.get_by_role("button", name="Sign out everywhere else").click()
    expect(page.get_by_role("heading", name="You are signed in here alone")).to_be_visible()
    # Whatever is asked next tells it; where something asked by itself meanwhile, the door stands there already.
    other.locator("nav a", has_text="Links").dispatch_event("click")
    expect(other.get_by_role("dialog", name="Your session has ended")).to_be_visible()
    other.context.close()

    # The last admin does not go and leave a brand to nobody.
    page.goto(f"{home}/orrery-house/team")
    page.get_by_role("button", name="Leave Orrery House").click()
    page.get_by_role("dialog").get_by_role("button", name="Leave Orrery House").click()
    expect(page.get_by_text("Orrery House has no other admin")).to_be_visible()
    page.context.close()
