"""Promise: who asks for messages on the brand's page gets a post's, and the analyst sees that it was shown."""

import json
import re
import time
import urllib.request
from typing import Any

from playwright.sync_api import Page, expect
from waiting import opened

from scripts.stack import Stack

HOME = "orrery-house"


def control(stack: Stack, path: str, body: Any = None) -> Any:
    """The hand on the stand-ins."""
    address = f"http://127.0.0.1:{stack.standins_port}/control/{path}"
    data = None if body is None else json.dumps(body).encode()
    with urllib.request.urlopen(urllib.request.Request(address, data), timeout=30) as answer:
        return json.load(answer)


def test_a_message_is_asked_for_sent_shown_and_counted(page: Page, stack: Stack) -> None:
    api = f"{stack.address}/api/brands/{HOME}"
    before = page.request.get(f"{api}/plan/push").json()["channel"]
    (browser,) = control(stack, "browsers", {"subscribe": 1})
    # No push service can be reached from here: the browser is handed a stand-in's subscription.
    page.context.grant_permissions(["notifications"], origin=stack.address)
    page.add_init_script(f"""
      let asked = null;
      PushManager.prototype.subscribe = async (options) => {{
        if (options.applicationServerKey.length !== 65) throw new Error("no key");
        return (asked = {{ ...{json.dumps(browser)}, toJSON() {{ return {json.dumps(browser)}; }},
          unsubscribe: async () => {{ asked = null; return true; }} }});
      }};
      PushManager.prototype.getSubscription = async () => asked;
    """)
    page.goto(before["page"])
    page.get_by_role("button", name="Show me messages").click()
    expect(page.get_by_role("button", name="No more messages, please")).to_be_visible()
    opened(page, f"{stack.address}/{HOME}/plan/messages")
    expect(page.get_by_text(f"{before['browsers'] + 1} browsers")).to_be_visible()

    opened(page, f"{stack.address}/{HOME}/plan/new")
    page.get_by_label("Working title").fill("Silence")
    expect(page.get_by_role("checkbox", name=re.compile("Vignette"))).to_be_visible()
    for box in page.get_by_role("checkbox").all():
        box.uncheck()
    page.get_by_role("checkbox", name=re.compile(r"^Commons: Orrery House$")).check()
    words = "The great bell is silent. Come on Friday https://orreryhouse.example/tickets"
    page.get_by_role("textbox", name="Text for all").fill(words)
    page.get_by_role("checkbox", name=re.compile("^Also as a message to")).check()
    page.get_by_role("button", name="Publish in five minutes").click()
    # Publishing later and at once are asked for alike: the first is answered when the second can be asked for.
    expect(page.get_by_role("button", name="Send it at once")).to_be_visible()
    # Answered before another page is opened: what is only asked for goes with the page that asked.
    with page.expect_response(lambda answer: answer.url.endswith("/schedule")) as sent:
        page.get_by_role("button", name="Send it at once").click()
    assert sent.value.ok, sent.value.text()
    opened(page, f"{stack.address}/{HOME}/plan/messages")
    row = page.get_by_role("row").filter(has_text="The great bell is silent")
    count = before["browsers"] + 1
    # The row is there before the last of the browsers has it.
    expect(row).to_contain_text(f"{count} of {count}", timeout=150_000)

    mine = next(one for one in control(stack, "browsers")[::-1] if one["shown"])["shown"][0]
    session = page.context.new_cdp_session(page)
    known: list[Any] = []
    session.on("ServiceWorker.workerRegistrationUpdated", lambda told: known.extend(told["registrations"]))
    page.goto(before["page"])
    session.send("ServiceWorker.enable")
    until = time.monotonic() + 20
    while not any("/push/" in one["scopeURL"] for one in known) and time.monotonic() < until:
        page.wait_for_timeout(50)
    worker = next(one for one in known if "/push/" in one["scopeURL"])
    told = {"origin": stack.address, "registrationId": worker["registrationId"], "data": json.dumps(mine)}
    with page.context.expect_event("request", lambda asked: "/push/shown/" in asked.url):
        session.send("ServiceWorker.deliverPushMessage", told)
    shown = page.evaluate("""async () => (await (await navigator.serviceWorker.getRegistration()).getNotifications())
      .map((one) => [one.title, one.tag])""")
    assert shown == [[mine["title"], mine["tag"]]]
