"""Promise: times are proposed, kept, tried and moved to in the browser, and a young post says where it is heading."""

import re

from playwright.sync_api import Page, expect

from scripts.stack import Stack

HOME = "orrery-house"


def go(page: Page, stack: Stack, path: str) -> None:
    page.goto(f"{stack.address}/{HOME}/{path}")


def test_three_profiles_are_proposed_times_and_keep_them(page: Page, stack: Stack) -> None:
    go(page, stack, "timing/rhythm")
    wishes = page.get_by_role("spinbutton", name=re.compile("^Times a week for"))
    expect(wishes.first).to_be_visible()
    for place in range(wishes.count()):
        wishes.nth(place).fill("3" if place < 3 else "0")
    page.get_by_role("button", name="Propose times for 3 profiles").click()
    expect(page.get_by_role("heading", name=re.compile("^Against today's hours: .*% expected"))).to_be_visible(
        timeout=60_000
    )
    one = page.get_by_role("article").first
    expect(one.get_by_role("button", name=re.compile("^Take .* out$"))).to_have_count(3)
    one.get_by_role("button", name="Keep these times").click()
    expect(page.get_by_text(re.compile("^The rhythm of .* is kept"))).to_be_visible()
    page.reload()
    expect(page.get_by_role("article").first.get_by_text("3 times a week")).to_be_visible()


def test_a_planned_post_is_dragged_to_another_hour(page: Page, stack: Stack) -> None:
    go(page, stack, "timing?whose=brand")
    ring = page.locator("[data-planned]").first
    expect(ring).to_be_visible(timeout=60_000)
    number = ring.get_attribute("data-planned")
    before = page.locator(f"[data-planned='{number}'] title").first.text_content()
    box = ring.bounding_box()
    strip = page.locator("[data-day='5']").bounding_box()
    assert box is not None
    assert strip is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    target = (strip["x"] + 44 + (strip["width"] - 78) * 20.5 / 24, strip["y"] + strip["height"] / 2)
    page.mouse.move(*target, steps=8)
    expect(page.get_by_text("let go to move it")).to_be_visible()
    page.mouse.up()
    expect(page.get_by_text(re.compile("^Moved to Sat"))).to_be_visible()
    moved = page.locator(f"[data-planned='{number}'] title").first
    expect(moved).not_to_have_text(before or "")
    assert (moved.text_content() or "").startswith("Sat 20:")


def test_a_trial_is_started_and_its_weeks_are_drawn(page: Page, stack: Stack) -> None:
    go(page, stack, "timing/trials")
    page.get_by_label("Name").fill("Lunch or evening")
    for name in ("Brevi", "Commons"):
        page.get_by_role("checkbox", name=f"Orrery House {name}", exact=True).check()
    page.get_by_label("Smallest difference worth knowing").select_option("1.5")
    expect(page.get_by_text(re.compile("weeks at most, to find a difference of 50%"))).to_be_visible(timeout=60_000)
    page.get_by_role("button", name=re.compile("^Start on")).click()
    expect(page.get_by_text("The trial is set; its weeks are drawn.")).to_be_visible()
    trial = page.get_by_role("article", name="Lunch or evening")
    expect(trial.get_by_text(re.compile("^0 of .* pairs of weeks are read"))).to_be_visible()
    expect(trial.get_by_role("cell").first).to_be_visible()
    trial.get_by_role("button", name="Put drafts at its times of four weeks").click()
    expect(page.get_by_text(re.compile(r"drafts? stand in the plan"))).to_be_visible()
    trial.get_by_role("button", name="Stop it").click()
    expect(trial.get_by_text("stopped")).to_be_visible()


def test_a_young_post_says_how_it_is_doing_and_where_it_is_heading(page: Page, stack: Stack) -> None:
    go(page, stack, "results")
    title = page.get_by_role("heading", name=re.compile("^Under way: "))
    expect(title).to_be_visible(timeout=60_000)
    page.get_by_role("link", name="all of them").click()
    # A post that went out a moment ago, by another test, has nothing yet to be held against.
    first = page.locator("tbody tr[title^='now '][title*=' typical at ']").first
    expect(first).to_have_attribute("title", re.compile(r"^now .* typical at .*, (heading for|at about)"))
    first.get_by_role("link").click()
    expect(page.get_by_text("by seven days").first).to_be_visible()
    expect(page.get_by_text("At its present age", exact=True)).to_be_visible()


def test_what_a_post_will_bring_is_said_while_its_hour_is_chosen(page: Page, stack: Stack) -> None:
    go(page, stack, "plan/new")
    expect(page.get_by_role("status").filter(has_text="By seven days")).to_be_visible(timeout=60_000)
    go(page, stack, "foresight/calibration")
    expect(page.get_by_role("heading", name=re.compile("projections held what came"))).to_be_visible(timeout=60_000)
