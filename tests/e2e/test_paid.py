"""Promise: from a post to a boost that runs and is stopped, its money within the month's limit; and a feed's items by rule."""

import re

from playwright.sync_api import Locator, Page, expect
from waiting import opened

from scripts.stack import Stack

HOME = "orrery-house"


def go(page: Page, stack: Stack, path: str) -> None:
    opened(page, f"{stack.address}/{HOME}/{path}")


def _money(words: Locator) -> list[float]:
    """The amounts that stand in some words."""
    return [float(one) for one in re.findall(r"\d+\.\d\d", words.inner_text().replace(",", ""))]


def test_a_post_is_boosted_within_the_limit_and_stopped(page: Page, stack: Stack) -> None:
    go(page, stack, "results/paid")
    expect(page.get_by_role("heading", level=1)).to_contain_text(re.compile("were paid and brought"))
    # What this month holds already depends on the day: 50 more may be spent, whatever it is.
    left, limit = _money(page.get_by_text(re.compile(r"EUR left of")).first)
    limit = limit - left + 50
    page.get_by_role("button", name="Another limit").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label(re.compile("All boosts of a month")).fill(f"{limit:.2f}")
    sheet.get_by_role("button", name="Keep it").click()
    expect(page.get_by_text(re.compile(rf"50.00 EUR of {limit:.2f} EUR left"))).to_be_visible()
    asked = f"{stack.address}/api/brands/{HOME}/results/posts?network=commons&first=2026-07-01&last=2026-07-31"
    posts = page.request.get(asked).json()["posts"]
    go(page, stack, f"results/posts/{posts[0]['id']}")
    page.get_by_role("button", name="Boost it").click()
    sheet = page.get_by_role("dialog", name="Boost this post")
    sheet.get_by_label(re.compile("Budget in EUR")).fill("100")
    sheet.get_by_label("Leads to").fill("https://orreryhouse.example/tickets")
    sheet.get_by_role("button", name=re.compile("Spend up to 100.00 EUR")).click()
    # More than is left is refused, with what is left.
    expect(sheet.get_by_text(re.compile(rf"has [\d.]+ EUR left of {limit:.2f}"))).to_be_visible()
    sheet.get_by_label(re.compile("Budget in EUR")).fill("7.50")
    sheet.get_by_role("button", name=re.compile("Spend up to 7.50 EUR")).click()
    expect(sheet).to_have_count(0)
    part = page.get_by_role("region", name="Paid for")
    expect(part.get_by_role("link", name=re.compile("of 7.50, runs"))).to_be_visible(timeout=60_000)
    part.get_by_role("link", name=re.compile("of 7.50, runs")).click()
    row = page.get_by_role("row").filter(has_text="of 7.50")
    row.get_by_role("button", name="Stop it").click()
    expect(row.get_by_text(re.compile("^over"))).to_be_visible(timeout=60_000)


def test_a_cost_opens_what_it_is_made_of(page: Page, stack: Stack) -> None:
    go(page, stack, "results/paid")
    page.get_by_role("button", name="Basis of Cost per click").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_text(re.compile("paid clicks", re.IGNORECASE)).first).to_be_visible()
    expect(sheet.get_by_text(re.compile("spend", re.IGNORECASE)).first).to_be_visible()


def test_a_rule_is_tried_begun_and_taken_away(page: Page, stack: Stack) -> None:
    go(page, stack, "plan/rules")
    page.get_by_role("button", name="A new rule").click()
    page.get_by_label("What they become").select_option("scheduled")
    page.get_by_label("Name of the rule").fill("Passed on")
    page.get_by_role("checkbox", name=re.compile("^Commons")).first.check()
    tried = page.get_by_role("region", name="What it does")
    expect(tried.get_by_text(re.compile("^Commons, ")).first).to_be_visible()
    page.reload()
    # Nothing typed is lost.
    expect(page.get_by_label("Name of the rule")).to_have_value("Passed on")
    page.get_by_role("button", name="Begin").click()
    listed = page.get_by_role("region", name="Rules")
    expect(listed.get_by_role("button", name=re.compile("Passed on"))).to_be_visible()
    page.get_by_role("button", name="Switch it off").click()
    expect(listed.get_by_text("Switched off")).to_be_visible()
    page.get_by_role("button", name="Take it away").click()
    page.get_by_role("dialog").get_by_role("button", name="Take it away").click()
    expect(listed.get_by_role("button", name=re.compile("Passed on"))).to_have_count(0)
