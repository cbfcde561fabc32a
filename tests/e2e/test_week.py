"""Promise: a week is planned from proposed times for all eight networks, with pictures and a video; it goes out at its
hours and its results come back.
"""

import re

from dakika_server.media.testing import picture, video
from planning import EIGHT, authorised, bring, go, version, world
from playwright.sync_api import Page, expect
from waiting import until

from scripts import postgres
from scripts.stack import Stack

OURS = "Orrery House"
FILMS = ("Longplay", "Vignette")


def test_a_week_from_proposals_goes_out_on_all_eight_networks(page: Page, stack: Stack) -> None:
    for network in EIGHT:
        world(stack, "faults", {f"{network.lower()}.{kind}": 0 for kind in ("slow", "revoked", "error500")})
    keep_proposed_times(page, stack)
    drafts = "SELECT count(*) FROM plan_plannedpost WHERE title = 'To be written'"
    before = int(postgres.sql(drafts, stack.name))
    for network in EIGHT:
        article = page.get_by_role("article", name=f"{OURS} on {network}", exact=True)
        article.get_by_role("button", name="Put drafts at its free slots of two weeks").click()
    until(lambda: int(postgres.sql(drafts, stack.name)) >= before + len(EIGHT))
    planned = {network: first_draft(stack, network) for network in EIGHT}
    for network, number in planned.items():
        write(page, stack, network, number)
    # The week passes.
    authorised(stack)
    numbers = ", ".join(str(number) for number in planned.values())
    chosen = f"planned_post_id IN ({numbers})"
    at = "now() + interval '3 seconds'"
    postgres.sql(f"UPDATE plan_plannedpost SET scheduled_at = {at} WHERE id IN ({numbers})", stack.name)
    postgres.sql(f"UPDATE plan_version SET due_at = {at} WHERE {chosen}", stack.name)

    def out() -> bool:
        told = postgres.sql(f"SELECT state, error FROM plan_version WHERE {chosen}", stack.name)
        assert "failed" not in told, told
        count = f"SELECT count(*) FROM plan_version WHERE {chosen} AND state = 'published' AND post_id IS NOT NULL"
        return postgres.sql(count, stack.name).strip() == str(len(EIGHT))

    until(out, seconds=240)
    sent = [entry for entry in world(stack, "sent") if "of this week" in entry["text"]]
    assert len(sent) == len(EIGHT)
    for network, number in planned.items():
        go(page, stack, f"plan/{number}")
        page.get_by_role("link", name="its results").click()
        expect(page.get_by_text(f"{network} of this week")).to_be_visible()
        expect(page.get_by_text("Readings").locator("xpath=following-sibling::dd[1]")).not_to_have_text("0")


def keep_proposed_times(page: Page, stack: Stack) -> None:
    """Once a week on each network, at the times that are proposed."""
    go(page, stack, "timing/rhythm")
    wishes = page.get_by_role("spinbutton", name=re.compile("^Times a week for"))
    expect(wishes.first).to_be_visible()
    for place in range(wishes.count()):
        wishes.nth(place).fill("0")
    for network in EIGHT:
        page.get_by_role("spinbutton", name=f"Times a week for {OURS} on {network}", exact=True).fill("1")
    page.get_by_role("button", name="Propose times for 8 profiles").click()
    expect(page.get_by_role("heading", name=re.compile("^Against today's hours"))).to_be_visible(timeout=120_000)
    for network in EIGHT:
        one = page.get_by_role("article", name=f"{OURS} on {network}", exact=True)
        one.get_by_role("button", name="Keep these times").click()
        expect(one.get_by_role("button", name=re.compile("^Put drafts"))).to_be_visible()


def first_draft(stack: Stack, network: str) -> int:
    """The first empty draft of a network's free slots."""
    return int(
        postgres.sql(
            "SELECT p.id FROM plan_plannedpost p JOIN plan_version v ON v.planned_post_id = p.id "
            "JOIN sources_profile s ON s.id = v.profile_id WHERE p.title = 'To be written' AND p.state = 'draft' "
            f"AND s.network = '{network.lower()}' AND s.name = '{OURS}' ORDER BY p.scheduled_at LIMIT 1",
            stack.name,
        )
    )


def write(page: Page, stack: Stack, network: str, number: int) -> None:
    """Words, a file and what else the network wants; then it waits for its hour."""
    go(page, stack, f"plan/{number}")
    page.get_by_label("Working title").fill(f"{network} this week")
    page.get_by_role("textbox", name="Text for all").fill(f"{network} of this week.")
    name = f"{network.lower()}.{'mp4' if network in FILMS else 'png'}"
    if network in FILMS:
        bring(page, name, "video/mp4", video(frames=100 + EIGHT.index(network), width=90))
    else:
        bring(page, name, "image/png", picture(760 + EIGHT.index(network), 1000, "PNG"))
    title = page.get_by_label("Title", exact=True)
    if network in ("Corkboard", "Longplay"):
        title.fill(f"{network} of this week")
    if network == "Corkboard":
        version(page, network)
        page.get_by_label("Board", exact=True).select_option(label="From the workshop")
    # What is not looked into yet cannot go out: the button waits.
    page.get_by_role("button", name=re.compile("^Schedule")).first.click()
    until(lambda: state_of(f"plan_plannedpost WHERE id = {number}", stack) == "scheduled")


def state_of(row: str, stack: Stack) -> str:
    """The state of a row."""
    return postgres.sql(f"SELECT state FROM {row}", stack.name).strip()
