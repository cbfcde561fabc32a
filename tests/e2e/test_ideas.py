"""Promise: a page or a picture that one comes upon is an idea in two steps, and a draft that stays linked in one more."""

import re

from playwright.sync_api import Page, expect
from waiting import until

from scripts import postgres
from scripts.stack import Stack

PIXEL = (
    "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="  # one pixel, PNG
)
HAND_OVER = """([name, content]) => {
  const form = document.createElement("form");
  form.method = "post"; form.action = "/share"; form.enctype = "multipart/form-data";
  for (const [key, value] of Object.entries({title: "A comet at dawn", text: "See https://a.example/comet"})) {
    const field = document.createElement("input"); field.name = key; field.value = value; form.append(field);
  }
  const bytes = Uint8Array.from(atob(content), (one) => one.charCodeAt(0));
  const carried = new DataTransfer(); carried.items.add(new File([bytes], name, {type: "image/png"}));
  const files = document.createElement("input"); files.type = "file"; files.name = "pictures"; files.files = carried.files;
  form.append(files); document.body.append(form); form.submit();
}"""


def test_what_a_device_hands_over_is_an_idea_with_its_picture_and_then_a_draft(page: Page, stack: Stack) -> None:
    page.goto(f"{stack.address}/orrery-house/plan/ideas")
    page.evaluate("() => navigator.serviceWorker.ready")
    until(lambda: page.evaluate("() => navigator.serviceWorker.controller !== null"))
    page.evaluate(HAND_OVER, ["comet.png", PIXEL])
    expect(page.get_by_label("The idea in a few words")).to_have_value("A comet at dawn")
    expect(page).to_have_url(re.compile("/plan/ideas/new"))
    expect(page.get_by_label("Page", exact=True)).to_have_value("https://a.example/comet")
    expect(page.get_by_label("Note")).to_have_value("See")
    expect(page.get_by_role("button", name=re.compile("^Open comet"))).to_be_visible()
    page.get_by_label("For", exact=True).select_option(label="Orrery House")
    page.get_by_label("Commons").check()
    page.get_by_role("button", name="Keep the idea").click()
    expect(page.get_by_role("list", name="Ideas").get_by_text("A comet at dawn")).to_be_visible()
    page.get_by_role("button", name="Said").click()
    page.get_by_role("button", name=re.compile("for it")).click()
    page.get_by_label("Say something").fill("Before the clouds come back.")
    page.get_by_role("button", name="Say it").click()
    expect(page.get_by_text("Before the clouds come back.")).to_be_visible()
    page.get_by_role("button", name="Write a draft").click()
    expect(page.get_by_label("Text for all")).to_have_value("https://a.example/comet")
    page.get_by_role("link", name="The idea that it was written from").click()
    expect(page.get_by_role("region", name="Written from it").get_by_text("A comet at dawn")).to_be_visible()
    kept = postgres.sql("SELECT count(*) FROM plan_plannedpost WHERE title = 'A comet at dawn'", stack.name)
    assert kept.strip() == "2"


def test_a_mark_in_the_browser_takes_a_page_along(page: Page, stack: Stack) -> None:
    page.goto(f"{stack.address}/orrery-house/plan/ideas")
    page.get_by_role("button", name="From a page").click()
    mark = page.get_by_role("link", name="Keep as an idea").get_attribute("href") or ""
    assert mark.startswith("javascript:")
    with page.context.expect_page() as opened:
        page.evaluate(mark.removeprefix("javascript:"))
    new = opened.value
    expect(new.get_by_label("Page", exact=True)).to_have_value(re.compile(r"/orrery-house/plan/ideas$"))
    expect(new.get_by_label("The idea in a few words")).to_have_value(re.compile("Dakika$"))
    new.close()
