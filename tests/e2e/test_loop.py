"""Promise: the whole loop can be walked in the browser: collect, measure, compare, trace, time, plan, publish, collect again."""

import json
import os
import re
import signal
import urllib.request
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from waiting import opened, until

from scripts import postgres
from scripts.browser import signed_in
from scripts.stack import Stack

HOME = "orrery-house"
CLICKS_OF = (
    """SELECT count(*) FROM links_click c JOIN links_trackedlink l ON l.id = c.link_id WHERE l.code = '{code}'"""
)


def world(stack: Stack, path: str, body: dict[str, Any] | None = None) -> Any:
    address = f"http://127.0.0.1:{stack.standins_port}/control/{path}"
    data = json.dumps(body).encode() if body is not None else None
    with urllib.request.urlopen(urllib.request.Request(address, data=data), timeout=10) as answer:
        return json.load(answer)


def minutes_late(at: str, due: str) -> float:
    """Minutes from the local minute that was chosen to the instant at which the network took the post."""
    from datetime import datetime
    from zoneinfo import ZoneInfo

    chosen = datetime.fromisoformat(due).replace(tzinfo=ZoneInfo("Europe/Lisbon"))
    return (datetime.fromisoformat(at) - chosen).total_seconds() / 60


def go(page: Page, stack: Stack, path: str) -> None:
    page.goto(f"{stack.address}/{HOME}/{path}")


def test_results_open_to_their_basis_and_posts(page: Page, stack: Stack) -> None:
    go(page, stack, "results")
    page.get_by_role("button", name="Basis of Engagement by reach").click()
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("report no reach")
    expect(sheet).to_contain_text("÷")
    sheet.get_by_role("link", name="The posts behind it").click()
    table = page.get_by_role("table", name="Posts")
    # Until they are there, the rows of before stand in their places and can be opened as well.
    with page.expect_response(re.compile(r"/results/posts\?.*sort=-index")):
        table.get_by_role("button", name="Index").click()
    expect(page).to_have_url(re.compile("sort=-index"))
    expect(table.get_by_role("columnheader", name="Index")).to_have_attribute("aria-sort", "descending")
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    page.get_by_role("rowgroup").focus()
    page.keyboard.press("j")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("a typical post at 72 hours")
    page.go_back()
    expect(page).to_have_url(re.compile("sort=-index"))


def test_the_period_moves_by_keyboard_and_stays_in_the_address(page: Page, stack: Stack) -> None:
    go(page, stack, "results?first=2026-10-01&last=2026-10-28")
    page.get_by_role("slider", name=re.compile("Period begins")).focus()
    page.keyboard.press("ArrowLeft")
    expect(page).to_have_url(re.compile("first=2026-09-30"))
    formats = page.get_by_role("button", name="Formats studied")
    formats.click()
    page.get_by_role("menuitemcheckbox", name="Short video").click()
    expect(page).to_have_url(re.compile("format=short_video"))
    page.get_by_role("menuitemcheckbox", name="Image").click()
    page.get_by_role("menuitemcheckbox", name="everything but these").click()
    expect(page).to_have_url(re.compile("format=%21image%2Cshort_video"))
    page.keyboard.press("Escape")
    expect(formats).to_have_text("image or short video")


def test_connect_a_page_refuse_a_person_and_follow_competitors(page: Page, stack: Stack) -> None:
    go(page, stack, "sources")
    page.get_by_role("button", name="Connect a profile").click()
    page.get_by_role("button", name="Connect on Commons").click()
    page.get_by_role("button", name="Cancel").click()
    expect(page.get_by_text("You cancelled at the network")).to_be_visible()
    page.get_by_role("button", name="Connect a profile").click()
    page.get_by_role("button", name="Connect on Commons").click()
    page.get_by_role("button", name="Allow").click()
    dialog = page.get_by_role("dialog", name="Which of these shall be connected?")
    expect(dialog).to_contain_text("not personal accounts")
    expect(dialog.get_by_label("Mirela Duarte")).to_be_disabled()
    dialog.get_by_label("Orrery House Shop").check()
    dialog.get_by_role("button", name="Connect 1 profile").click()
    row = page.get_by_role("row").filter(has_text="@orreryshop")
    expect(row).to_contain_text("complete", timeout=60_000)
    page.get_by_role("button", name="Follow a competitor").click()
    dialog = page.get_by_role("dialog", name="Follow a competitor")
    dialog.get_by_label("Address of their web site").fill(f"http://127.0.0.1:{stack.standins_port}/wrong/inside")
    dialog.get_by_role("button", name="Find their profiles").click()
    expect(dialog.get_by_role("alert")).to_contain_text("internal address")
    dialog.get_by_label("Address of their web site").fill(f"http://127.0.0.1:{stack.standins_port}/sites/gnomongallery")
    dialog.get_by_role("button", name="Find their profiles").click()
    expect(dialog).to_contain_text("6 profiles named on the page")
    expect(dialog.get_by_label(re.compile("@gnomongallery on Commons"))).to_be_disabled()
    dialog.get_by_role("button", name="Follow 3 profiles").click()
    theirs = page.get_by_role("region", name="Competitors' profiles")
    expect(theirs.get_by_role("row").filter(has_text="@gnomongallery")).to_have_count(6)
    page.get_by_role("button", name="Follow a competitor").click()
    dialog.get_by_role("tab", name="By name or handle").click()
    dialog.get_by_label("Network").select_option("brevi")
    dialog.get_by_label("Handle").fill("nobody-here")
    dialog.get_by_role("button", name="Follow", exact=True).click()
    expect(dialog).to_contain_text("no page called")
    dialog.get_by_label("Handle").fill("brass")
    dialog.get_by_role("button", name="Brass & Beam").click()
    dialog.get_by_role("button", name="Follow", exact=True).click()
    row = theirs.get_by_role("row").filter(has_text="@brassandbeam").filter(has=page.get_by_role("img", name="Brevi"))
    expect(row).to_contain_text("complete", timeout=60_000)
    go(page, stack, "competitors?rows=profile")
    expect(page.get_by_role("table", name="Profiles")).to_contain_text("Orrery House Shop")


def test_health_leads_to_renewing_in_one_consent(page: Page, stack: Stack) -> None:
    go(page, stack, "sources/health")
    row = page.get_by_role("listitem", name="Orrery House on Guildhall")
    expect(row).to_contain_text("The authorisation has lapsed.")
    row.get_by_role("button", name="Renew Orrery House on Guildhall").click()
    page.get_by_role("button", name="Allow").click()
    expect(page.get_by_text("The authorisation of Orrery House is renewed")).to_be_visible()
    ours = page.get_by_role("region", name="Our profiles").get_by_role("row")
    expect(ours.filter(has_text="Guildhall, @orreryhouse")).to_contain_text("complete", timeout=60_000)
    go(page, stack, "sources/health")
    expect(page.get_by_role("listitem", name="Orrery House on Guildhall")).not_to_contain_text("lapsed")
    expect(page.get_by_role("listitem", name="Orrery House on Brevi")).to_contain_text("3 days are missing")


def test_a_link_is_made_opened_and_its_click_is_there_at_once(page: Page, stack: Stack) -> None:
    go(page, stack, "links")
    page.get_by_role("button", name="Make a link").first.click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Leads to").fill("javascript:alert(1)")
    sheet.get_by_role("button", name="Make the link").click()
    expect(sheet.get_by_role("alert")).to_contain_text("https://")
    sheet.get_by_label("Leads to").fill(f"http://127.0.0.1:{stack.standins_port}/sites/orreryhouse/tickets")
    sheet.get_by_label("Name").fill("Tickets, loop")
    sheet.get_by_label("For network").select_option("brevi")
    sheet.get_by_label("Campaign").first.select_option(label="The Repaired Hour")
    expect(sheet.get_by_label("campaign", exact=True)).to_have_value("the-repaired-hour")
    sheet.get_by_role("button", name="Make the link").click()
    page.get_by_role("link", name="Tickets, loop").first.click()
    short = page.get_by_role("link", name=re.compile(rf"^http.*:{stack.links_port}"))
    with page.expect_popup() as popup:
        short.click()
    expect(popup.value).to_have_url(re.compile("utm_campaign=the-repaired-hour.*dk="))
    popup.value.close()
    # The browser of the tests calls itself headless: its click is there at once, but apart, with the reason.
    page.get_by_role("button", name="show bots").click()
    page.get_by_role("button", name="Spread over").click()
    page.get_by_role("menuitemradio", name="bots' reason").click()
    expect(page.get_by_text("known crawlers")).to_be_visible()
    address = short.get_attribute("href") or ""
    person = {
        "User-Agent": "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36"
    }
    urllib.request.urlopen(urllib.request.Request(address, headers=person), timeout=10).close()
    expect(page.get_by_role("heading", name=re.compile("^1 click")).first).to_be_visible()
    page.get_by_role("button", name="Pause it").click()
    expect(page.get_by_text("paused", exact=True)).to_be_visible()

    def status() -> int:
        try:
            return int(urllib.request.urlopen(urllib.request.Request(address, headers=person), timeout=10).status)
        except urllib.error.HTTPError as error:
            return error.code

    until(lambda: status() == 410)
    expect(page.get_by_text("came after it had ended")).to_be_visible()


def test_make_click_buy_on_the_site_and_see_it_credited(page: Page, stack: Stack, chromium: Browser) -> None:
    go(page, stack, "links?new=1")
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Leads to").fill(f"http://127.0.0.1:{stack.standins_port}/sites/orreryhouse/membership")
    sheet.get_by_label("Name").fill("Membership, bought")
    sheet.get_by_label("For network").select_option("guildhall")
    sheet.get_by_label("Chosen word").fill("be-a-member")
    sheet.get_by_role("button", name="Make the link").click()
    expect(page.get_by_text(re.compile("be-a-member is ready"))).to_be_visible()
    visitor = chromium.new_context(
        user_agent="Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101", ignore_https_errors=True
    ).new_page()
    for attempt in range(2):  # the click must have come in before the visit is told; the first page comes right after
        with visitor.expect_response(re.compile("/collect/")):
            visitor.goto(f"{stack.links_address}/Be-A-Member")
        if attempt == 0:
            visitor.get_by_role("button", name="You may remember me here").click()
            until(lambda: postgres.sql(CLICKS_OF.format(code="be-a-member"), stack.name) != "0")
    with visitor.expect_response(re.compile("/collect/")):
        visitor.get_by_role("link", name="Order for 48.00").click()
    visitor.context.close()
    go(page, stack, "site/attribution")
    latest = page.get_by_role("region", name="The latest, one by one")
    latest.get_by_role("button", name=re.compile("Membership.*Guildhall")).first.click()
    way = page.get_by_role("dialog", name="How it came about")
    expect(way.get_by_text("Guildhall").first).to_be_visible()
    expect(way.get_by_text("€48.00", exact=False)).to_be_visible()
    way.get_by_label("Stage of this contact").fill("member")
    way.get_by_role("button", name="Keep").click()
    expect(page.get_by_text("The stage is kept.")).to_be_visible()


def test_many_links_from_a_pasted_table_and_a_page_that_lists_them(page: Page, stack: Stack) -> None:
    go(page, stack, "links")
    page.get_by_role("button", name="Make many").first.click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("List or table").fill(
        "url;name\nhttps://orrery.example/a;Pasted one\nnonsense;Pasted two\nhttps://orrery.example/c;Pasted three"
    )
    sheet.get_by_role("button", name="Look at it").click()
    expect(sheet.get_by_text("1 row cannot")).to_be_visible()
    sheet.get_by_role("button", name="Make 2 links").click()
    expect(page.get_by_text("2 links made.")).to_be_visible()
    page.get_by_label("Search the links").fill("Pasted")
    expect(page.get_by_role("link", name="Pasted three")).to_be_visible()
    page.get_by_role("link", name="Pages", exact=True).click()
    page.get_by_role("button", name="Make a page").first.click()
    sheet.get_by_label("Title", exact=True).fill("On now")
    sheet.get_by_label("Address").fill("orreryhouse")
    sheet.get_by_label("Add a link").select_option(label="Pasted one")
    sheet.get_by_role("button", name="Keep the page").click()
    expect(sheet.get_by_text("taken already")).to_be_visible()
    sheet.get_by_label("Address").fill("orrery-now")
    sheet.get_by_role("button", name="Keep the page").click()
    expect(page.get_by_text("On now is shown as it is now.")).to_be_visible()
    page.get_by_role("link", name="Rules", exact=True).click()
    page.get_by_label("campaign", exact=True).fill("{nothing}")
    page.get_by_role("button", name="Keep the rules").click()
    expect(page.get_by_role("alert")).to_contain_text("There is no place {nothing}")


def test_from_an_hour_to_a_draft_at_that_hour(page: Page, stack: Stack) -> None:
    go(page, stack, "timing")
    # A free hour of the coming week, with its day; missed stretches have drafts of their own.
    first = page.get_by_role("button", name=re.compile(r"^Draft for \w{3} \d+ \w{3}")).first
    name = (first.get_attribute("aria-label") or "").removeprefix("Draft for ")
    first.click()
    expect(page.get_by_role("button", name=f"Schedule for {name}")).to_be_visible()


def test_write_schedule_publish_and_see_it_come_back(page: Page, stack: Stack) -> None:
    go(page, stack, "plan/new")
    page.get_by_label("Working title").fill("Loop post")
    page.get_by_label("Campaign").select_option(label="Night Openings")
    common = page.get_by_role("textbox", name="Text for all")
    common.fill("x" * 301)
    expect(page.get_by_text("1 character too long for Brevi.")).to_be_visible()
    expect(page.get_by_role("button", name="Publish in five minutes")).to_be_disabled()
    page.reload()
    expect(common).to_have_value("x" * 301)
    common.fill("The loop closes tonight.")
    # The shop's page was connected on the way: this post is for the two main profiles.
    for other in ("Orrery House Shop", "Doorstep", "Guildhall"):
        box = page.get_by_role("checkbox", name=re.compile(other))
        if box.count():
            box.uncheck()
    page.get_by_role("button", name=re.compile("^Orrery House on Commons")).first.click()
    page.get_by_role("textbox", name=re.compile("^Orrery House on Commons")).fill(
        "The loop closes tonight, with more words on Commons."
    )
    page.get_by_role("button", name="tracked link").first.click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_label("Leads to").fill(f"http://127.0.0.1:{stack.standins_port}/sites/orreryhouse/night-openings")
    sheet.get_by_role("button", name="Make the link").click()
    page.get_by_role("button", name=re.compile("^Orrery House on Brevi")).click()
    brevi = page.get_by_role("textbox", name=re.compile("^Orrery House on Brevi"))
    expect(brevi).to_have_value(re.compile(rf"tonight\.\s.*:{stack.links_port}/[a-z0-9]{{7}}", re.DOTALL))
    minute = page.evaluate(
        """() => new Intl.DateTimeFormat('sv-SE', {dateStyle: 'short', timeStyle: 'short', timeZone: 'Europe/Lisbon'})
              .format(new Date(Date.now() + 62000))"""
    )
    day, clock = minute.split(" ")
    page.get_by_label("Day", exact=True).fill(day)
    page.get_by_label("Time", exact=True).fill(clock)
    page.get_by_role("button", name=re.compile("^Schedule for")).click()
    chip = page.get_by_role("region", name="Week").get_by_role("link", name=re.compile("Loop post"))
    # A machine that is slower than a minute shows the one when the other has come.
    expect(chip).to_contain_text(re.compile("scheduled|publishing|published"))
    expect(chip).to_contain_text("published", timeout=120_000)
    sent = [entry for entry in world(stack, "sent") if "loop closes" in entry["text"]]
    assert len(sent) == 2
    assert all(0 <= minutes_late(entry["at"], minute) < 1 for entry in sent)
    chip.click()
    page.get_by_role("link", name="its results").first.click()
    expect(page.get_by_text("Night Openings", exact=True)).to_be_visible()
    expect(page.get_by_text("Readings").locator("xpath=following-sibling::dd[1]")).not_to_have_text("0", timeout=30_000)


def test_a_worker_killed_while_sending_neither_doubles_nor_loses(page: Page, stack: Stack) -> None:
    world(stack, "faults", {"commons.slow": 4})
    go(page, stack, "plan/new")
    page.get_by_label("Working title").fill("Survivor")
    for box in page.get_by_role("checkbox").all():
        box.uncheck()
    page.get_by_role("checkbox", name=re.compile("Commons.*Orrery House$")).first.check()
    page.get_by_role("textbox", name="Text for all").fill("This one survives a kill.")
    page.get_by_role("button", name="Publish in five minutes").click()
    expect(page.get_by_role("timer")).to_contain_text("goes out in")
    page.get_by_role("button", name="Send it at once").click()
    expect(page.get_by_text("publishing")).to_be_visible(timeout=20_000)
    worker = stack.processes.pop("worker")
    os.killpg(worker.pid, signal.SIGKILL)
    worker.wait()
    world(stack, "faults", {"commons.slow": 0})
    stack.start("worker")
    fate = page.get_by_role("listitem").filter(has_text=re.compile("^Commons:"))
    expect(fate).to_contain_text("published", timeout=120_000)
    assert len([e for e in world(stack, "sent") if "survives a kill" in e["text"]]) == 1


def test_bring_in_somebodys_own_file_and_take_it_out_again(page: Page, stack: Stack) -> None:
    go(page, stack, "sources/import")
    picker = page.get_by_label("File to bring in")
    picker.set_input_files({"name": "wrong.csv", "mimeType": "text/csv", "buffer": b"Date,Likes\n"})
    expect(page.get_by_role("alert")).to_contain_text("no rows")
    rows = "When;Words;Thumbs up;Replies;Displayed so often\n" + "\n".join(
        f"{day:02d}/10/2026 09:30;An old post, number {day};{10 + day};2;{900 + day}" for day in range(1, 21)
    )
    picker.set_input_files(
        {"name": "old.csv", "mimeType": "text/csv", "buffer": (rows + "\n99/99/2026;x;1;1;1").encode()}
    )
    expect(page.get_by_role("heading", name="20 rows can be read, 1 row cannot")).to_be_visible()
    expect(page.get_by_text("is not a date that can be read")).to_be_visible()
    page.get_by_label("Displayed so often").select_option(label="Impressions")
    expect(page.get_by_role("columnheader", name="Impressions")).to_be_visible()
    page.get_by_label("The rows belong to").select_option("new")
    page.get_by_label("Its name").fill("The old page")
    page.get_by_label("Its network").fill("Parchment")
    page.get_by_role("button", name="Bring in 20 rows").click()
    expect(page.get_by_role("heading", name="1 row was left out, and why")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="download them").click()
    assert "99/99/2026" in download.value.path().read_text()
    home = page.url
    page.get_by_role("link", name="See them in Results").click()
    page.goto(f"{stack.address}/{HOME}/results/posts?first=2026-10-01&last=2026-10-31&text=old")
    page.get_by_label("Search the texts").fill("An old post")
    expect(page.get_by_role("heading", level=1)).to_have_text("20 posts")
    page.goto(home)
    page.get_by_role("button", name="Undo: take out what it brought").click()
    expect(page.get_by_text("taken out", exact=True)).to_be_visible()
    page.goto(f"{stack.address}/{HOME}/results/posts?first=2026-10-01&last=2026-10-31")
    page.get_by_label("Search the texts").fill("An old post")
    expect(page.get_by_role("heading", level=1)).to_have_text(re.compile("^(0 posts|No posts?)"))


def test_follow_a_feed_and_make_a_brand(page: Page, stack: Stack) -> None:
    go(page, stack, "sources/feeds")
    page.get_by_label("Follow a feed").fill(f"http://127.0.0.1:{stack.standins_port}/wrong/entities")
    page.get_by_role("button", name="Follow", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("entities")
    page.get_by_label("Follow a feed").fill(f"http://127.0.0.1:{stack.standins_port}/sites/tidehall")
    page.get_by_role("button", name="Follow", exact=True).click()
    expect(page.get_by_role("button", name="Tide Hall: news", exact=True)).to_be_visible()
    go(page, stack, "sources/brand/new")
    page.get_by_label("Name").fill("Harbour Bell")
    page.get_by_label("Time zone").fill("Nowhere/Land")
    page.get_by_role("button", name="Make the brand").click()
    expect(page.get_by_role("alert")).to_contain_text("no time zone")
    page.get_by_label("Time zone").fill("Europe/Lisbon")
    page.get_by_role("button", name="Make the brand").click()
    expect(page).to_have_url(re.compile("/harbour-bell/sources$"))
    expect(page.get_by_text("Nothing is collected yet")).to_be_visible()


def test_who_may_only_look_is_offered_nothing_to_change(chromium: Browser, stack: Stack) -> None:
    page = signed_in(chromium, stack.address, email="guest@ninthbell.example")
    for path, name in (
        ("plan", "Write a post"),
        ("sources", "Collect now"),
        ("links", "Make a link"),
        ("sources/import", "Choose a file"),
        ("sources/feeds", "Follow a feed"),
    ):
        opened(page, f"{stack.address}/{HOME}/{path}")
        expect(page.get_by_text(name)).to_have_count(0)
    page.context.close()


@pytest.mark.parametrize("path", ["results/posts/999999", "links/999999", "nonsense", "plan/999999"])
def test_what_is_not_there_says_so(path: str, page: Page, stack: Stack) -> None:
    go(page, stack, path)
    expect(page.get_by_role("alert")).to_be_visible()
