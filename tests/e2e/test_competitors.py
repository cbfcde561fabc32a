"""Promise: from where we stand to what would change it in a few steps: a set, a place, a gap, a target, an idea, a letter."""

import re

from playwright.sync_api import Page, expect
from waiting import opened

from scripts.stack import Stack

HOME = "orrery-house"


def go(page: Page, stack: Stack, path: str) -> None:
    opened(page, f"{stack.address}/{HOME}/{path}")


def test_a_set_is_made_and_everything_is_told_of_it_alone(page: Page, stack: Stack) -> None:
    go(page, stack, "competitors/sets")
    page.get_by_role("button", name="Make a set").click()
    sheet = page.get_by_role("dialog", name="Make a set")
    sheet.get_by_label("Name").fill("Two museums")
    sheet.get_by_role("checkbox", name=re.compile("^Tide Hall$")).first.check()
    sheet.get_by_role("button", name=re.compile("^Make the set")).click()
    page.get_by_role("link", name="Two museums").click()
    expect(page).to_have_url(re.compile(r"competitors\?set=\d+"))
    table = page.get_by_role("table", name="Profiles")
    expect(table.get_by_text("Tide Hall").first).to_be_visible()
    expect(table.get_by_text("Gnomon Gallery")).to_have_count(0)
    # The set goes along from view to view.
    page.get_by_role("link", name="Presence").click()
    expect(page).to_have_url(re.compile(r"presence.*set=\d+"))


def test_a_figure_of_the_table_opens_its_basis_and_a_competitor_its_profiles(page: Page, stack: Stack) -> None:
    go(page, stack, "competitors")
    page.get_by_role("button", name="Basis of interactions for 1,000 followers, Orrery House").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_text("Thousands of followers at publishing")).to_be_visible()
    expect(sheet.get_by_text(re.compile("public figures alone"))).to_be_visible()
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Profiles of Gnomon Gallery").click()
    expect(page.get_by_role("link", name="Gnomon Gallery")).to_have_count(3)


def test_the_gap_becomes_a_target_that_is_followed_in_results(page: Page, stack: Stack) -> None:
    # On short videos Halfmoon gets several times what we do, by the world's own making.
    go(page, stack, "competitors/gap?network=vignette")
    page.get_by_role("button", name="Against").click()
    page.get_by_role("menuitemradio", name=re.compile("Halfmoon")).click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("fewer than Halfmoon")
    row = page.get_by_role("row").filter(has_text="Audience of a post")
    row.get_by_role("button", name="set a target").click()
    sheet = page.get_by_role("dialog")
    aimed = float(sheet.get_by_label("Value aimed at").input_value())
    sheet.get_by_role("button", name="Set the target").click()
    expect(sheet).to_have_count(0)
    go(page, stack, "results")
    aims = page.get_by_role("region", name=re.compile("target"))
    followers = aims.get_by_role("listitem").filter(has_text=re.compile("^Followers"))
    expect(followers).to_contain_text(f"of {aimed:,.0f}")
    expect(followers).to_contain_text("days left")


def test_a_post_of_theirs_becomes_an_idea_that_leads_back(page: Page, stack: Stack) -> None:
    go(page, stack, "competitors/posts")
    page.get_by_role("button", name="keep as an idea").first.click()
    sheet = page.get_by_role("dialog", name="Keep as an idea")
    sheet.get_by_label("What is worth taking from it").fill("begins with a question")
    sheet.get_by_role("button", name="Keep the idea").click()
    expect(page.get_by_text(re.compile("It is among the ideas"))).to_be_visible()
    page.get_by_role("button", name="I have seen these").click()
    expect(page.get_by_role("button", name=re.compile("0 are new since"))).to_be_visible()
    go(page, stack, "plan/ideas?text=begins with a question")
    page.get_by_role("list", name="Ideas").get_by_role("button").first.click()
    expect(page.get_by_text(re.compile("times typical")).first).to_be_visible()
    page.get_by_role("link", name=re.compile("^from a post")).click()
    expect(page).to_have_url(re.compile(r"results/posts/\d+"))
