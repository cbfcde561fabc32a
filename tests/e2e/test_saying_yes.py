"""Promise: twenty posts from a file go into free slots, a guest says yes on a phone and sends one back, and it is counted."""

import re
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Browser, Page, expect
from waiting import until

from scripts import postgres
from scripts.stack import Stack

PHONE = {"width": 390, "height": 800}
CAMPAIGN = "The Longest Night"


def go(page: Page, stack: Stack, path: str) -> None:
    page.goto(f"{stack.address}/orrery-house/{path}")


@pytest.fixture
def alone(stack: Stack) -> Iterator[None]:
    """What this changes for everybody of the brand is put back: other tests go on in the same installation."""
    postgres.sql("UPDATE sources_credential SET is_lapsed = false, expires_at = now() + interval '1 day'", stack.name)
    yield
    nights = "(SELECT id FROM plan_plannedpost WHERE title ~ '^Night [0-9]+$')"
    for table in ("batchrow", "version", "reviewverdict", "look"):
        postgres.sql(f"DELETE FROM plan_{table} WHERE planned_post_id IN {nights}", stack.name)
    postgres.sql(f"DELETE FROM plan_plannedpost WHERE id IN {nights}", stack.name)
    postgres.sql("DELETE FROM plan_reviewrules", stack.name)
    postgres.sql("DELETE FROM timing_standingslot", stack.name)
    postgres.sql("DELETE FROM timing_rhythm", stack.name)


def add_slot(page: Page, day: str, time: str) -> None:
    name = f"Another slot of Orrery House on Brevi, {day}"
    page.get_by_role("button", name=name).click()
    page.get_by_role("textbox", name=name).fill(time)
    page.get_by_role("button", name="add", exact=True).click()
    expect(page.get_by_text(f"Every week at {time} now.")).to_be_visible()


def test_twenty_posts_from_a_file_are_approved_by_a_guest_and_counted(
    page: Page, chromium: Browser, stack: Stack, alone: None
) -> None:
    go(page, stack, "plan/campaigns")
    page.get_by_role("button", name="A new campaign").click()
    page.get_by_label("Name", exact=True).fill(CAMPAIGN)
    page.get_by_label("What it is to reach").select_option(label="posts")
    page.get_by_label("How much").fill("20")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_role("heading", name=CAMPAIGN)).to_be_visible()
    campaign = page.url.partition("?")[0]

    go(page, stack, "plan?view=slots")
    # Days after tomorrow: what is asked for at a minute that comes soon would not be asked for again below.
    for days in (2, 5):
        add_slot(page, f"{datetime.now(UTC) + timedelta(days):%a}", "19:30")
    page.get_by_role("button", name="Who says yes before posts go out").click()
    page.get_by_label("First", exact=True).select_option(label="a guest with a link, an approver or an admin")
    page.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text("Posts wait for a yes from now on.")).to_be_visible()

    rows = "".join(f'Brevi,"Night {i}: the house stays open.",{CAMPAIGN},Night {i}\n' for i in range(1, 21))
    table = f"Network,Text,Campaign,Working title\n{rows}".encode()
    go(page, stack, "plan/many")
    page.get_by_label("Choose a table").set_input_files({"name": "nights.csv", "mimeType": "text/csv", "buffer": table})
    page.get_by_label("They go out").select_option(label="into the free standing slots of their profiles")
    page.get_by_role("checkbox", name="Ask for a yes for each").check()
    page.get_by_role("button", name="Read it so").click()
    rows_shown = page.get_by_role("region", name="The rows of the table").get_by_role("listitem")
    expect(rows_shown.filter(has_text="19:30").first).to_be_visible()
    expect(page.get_by_text("All 20 rows are right.")).to_be_visible()
    page.get_by_role("button", name="Make 20 posts").click()
    expect(page.get_by_text("20 posts made.")).to_be_visible()

    go(page, stack, "plan")
    page.get_by_role("button", name="Guests and their links").click()
    page.get_by_label("Who it is for").fill("Cleo")
    page.get_by_role("checkbox", name=CAMPAIGN).check()
    page.get_by_role("button", name="Make the link").click()
    link = page.locator(".select-all").inner_text()
    assert re.fullmatch(rf"{re.escape(stack.address)}/guest#[\w-]{{43}}", link)

    context = chromium.new_context(viewport=PHONE, locale="en-GB", reduced_motion="reduce")
    try:
        phone = context.new_page()
        phone.goto(link)
        expect(phone.get_by_text("20 posts wait for your yes.")).to_be_visible()
        assert phone.url == f"{stack.address}/guest"
        assert phone.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
        phone.get_by_role("button", name=re.compile("^Night 1 ")).click()
        phone.get_by_role("button", name="Yes, as it is").click()
        expect(phone.get_by_text("It goes out at its minute.")).to_be_visible()
        phone.get_by_role("button", name="All posts").click()
        phone.get_by_role("button", name=re.compile("^Night 2 ")).click()
        phone.get_by_role("button", name="Ask for a change").click()
        phone.get_by_label("What is to be changed").fill("Until midnight, not open.")
        phone.get_by_role("button", name="Send it back").click()
        expect(phone.get_by_text("A change: Until midnight, not open.")).to_be_visible()
        phone.reload()
        expect(phone.get_by_text("18 posts wait for your yes.")).to_be_visible()
        # The team's own pages stay shut.
        phone.goto(f"{stack.address}/orrery-house/plan")
        expect(phone.get_by_role("button", name="Sign in")).to_be_visible()
    finally:
        context.close()

    go(page, stack, "plan/review")
    expect(page.get_by_role("navigation", name="Posts that wait").get_by_role("button")).to_have_count(0)
    states = "SELECT string_agg(state || ' ' || n, ', ' ORDER BY state) FROM (SELECT state, count(*) n FROM plan_plannedpost WHERE title LIKE 'Night %' AND title <> 'Night opening' GROUP BY 1) x"
    assert postgres.sql(states, stack.name).strip() == "draft 1, in_review 18, scheduled 1"
    at = "UPDATE plan_version SET due_at = now() WHERE state = 'scheduled' AND text LIKE 'Night 1: %'"
    postgres.sql(at, stack.name)
    out = "SELECT count(*) FROM plan_version WHERE state = 'published' AND text LIKE 'Night 1: %'"
    until(lambda: postgres.sql(out, stack.name).strip() == "1", seconds=90)

    page.goto(campaign)
    expect(page.get_by_role("heading", name="1 post is out, 19 to come")).to_be_visible()
    expect(page.get_by_role("status").filter(has_text="1 of 20 posts (5 %)")).to_be_visible()
    page.get_by_role("button", name="Remove it").click()
    page.get_by_role("dialog").get_by_role("button", name="Remove it").first.click()
    expect(page.get_by_text(f"{CAMPAIGN} is removed. Its posts stay.")).to_be_visible()
    assert postgres.sql("SELECT count(*) FROM plan_plannedpost WHERE title LIKE 'Night %'", stack.name).strip() != "0"
