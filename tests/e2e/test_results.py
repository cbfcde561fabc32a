"""Promise: in the browser an analyst narrows, picks, tags, compares, defines and saves, and what they chose is kept."""

import csv
import io
import re

from playwright.sync_api import Page, expect
from pypdf import PdfReader
from waiting import Calls, opened

from scripts.stack import Stack

HOME = "orrery-house"


def go(page: Page, stack: Stack, path: str) -> None:
    calls = Calls(page)
    opened(page, f"{stack.address}/{HOME}/{path}")
    calls.answered()


def test_what_is_studied_stays_in_the_address_and_back_works(page: Page, stack: Stack) -> None:
    go(page, stack, "results")
    page.get_by_role("button", name="Narrow to a tag").click()
    page.get_by_role("menuitemradio", name="workshop").click()
    expect(page).to_have_url(re.compile(r"tag=\d+"))
    page.get_by_role("link", name="Posts", exact=True).click()
    expect(page.get_by_role("heading", name=re.compile(r"^\d+ posts?$"))).to_be_visible()
    expect(page).to_have_url(re.compile(r"results/posts\?.*tag=\d+"))
    page.go_back()
    expect(page).to_have_url(re.compile(r"results\?.*tag=\d+"))
    page.go_back()
    expect(page).not_to_have_url(re.compile(r"tag="))


def test_chosen_figures_are_kept(page: Page, stack: Stack) -> None:
    go(page, stack, "results")
    page.get_by_role("button", name="Choose figures").click()
    page.get_by_placeholder("Find a metric").fill("save rate")
    page.get_by_role("checkbox", name=re.compile("Save rate")).check()
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_role("button", name="Basis of Save rate")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name="Basis of Save rate")).to_be_visible()
    page.get_by_role("button", name="All at once").click()
    expect(page.get_by_role("listitem", name="Save rate")).to_be_visible()


def test_posts_are_picked_and_tagged_by_keyboard(page: Page, stack: Stack) -> None:
    go(page, stack, "results/posts")
    page.get_by_role("rowgroup", name=re.compile("j and k walk")).focus()
    for key in ("j", "x", "Shift+J", "Shift+J"):
        page.keyboard.press(key)
    expect(page.get_by_text("3 posts picked")).to_be_visible()
    page.keyboard.press("t")
    page.get_by_label("Find a tag, or name a new one").fill("to look at again")
    page.keyboard.press("Enter")
    expect(page.get_by_text("3 posts changed.")).to_be_visible()
    page.get_by_role("button", name="Done").click()
    page.get_by_role("button", name="Narrow to a tag").click()
    page.get_by_role("menuitemradio", name="to look at again").click()
    expect(page.get_by_role("heading", name="3 posts")).to_be_visible()


def test_a_rule_shows_what_it_would_catch_before_it_does(page: Page, stack: Stack) -> None:
    go(page, stack, "results/groups?by=tag")
    page.get_by_role("button", name="Tags", exact=True).click()
    page.get_by_label("Name of a new tag").fill("pendulums")
    page.keyboard.press("Enter")
    page.get_by_label("What the rule looks for").fill("pendulums")
    expect(page.get_by_text(re.compile(r"It would catch \d+ posts? of"))).to_be_visible()
    page.get_by_role("button", name="Add the rule and tag them").click()
    expect(page.get_by_text(re.compile(r"tagged; new ones will be"))).to_be_visible()
    expect(page.get_by_text("The text holds the words “pendulums”")).to_be_visible()


def test_a_metric_of_ones_own_is_written_and_used(page: Page, stack: Stack) -> None:
    go(page, stack, "results/metrics")
    page.get_by_role("button", name="A metric of our own").click()
    page.get_by_label("Name").fill("Quiet applause")
    formula = page.get_by_role("combobox", name="Formula")
    formula.fill("reactions / reech")
    expect(page.get_by_text("Did you mean reach?")).to_be_visible()
    formula.fill("")
    formula.press_sequentially("react")
    page.get_by_role("option", name="reactions", exact=True).wait_for()
    page.keyboard.press("Enter")
    formula.press_sequentially(" / reach")
    expect(page.get_by_text(re.compile(r"% in .* before"))).to_be_visible()
    page.get_by_role("button", name="Make the metric").click()
    expect(page.get_by_role("cell", name=re.compile("Quiet applause"))).to_be_visible()
    go(page, stack, "results/posts")
    page.get_by_role("button", name="Columns").click()
    page.get_by_placeholder("Find a metric").fill("quiet")
    page.get_by_role("checkbox", name=re.compile("Quiet applause")).check()
    page.get_by_role("button", name="Done").click()
    page.get_by_role("button", name="Quiet applause").click()
    expect(page).to_have_url(re.compile("sort=-own_quiet_applause"))
    expect(page.get_by_role("columnheader", name="Quiet applause")).to_have_attribute("aria-sort", "descending")


def test_a_day_opens_the_posts_behind_it(page: Page, stack: Stack) -> None:
    go(page, stack, "results")
    chart = page.get_by_role("img", name="Interactions by day")
    chart.focus()
    for key in ("End", "ArrowLeft", "ArrowLeft", "Enter"):
        page.keyboard.press(key)
    sheet = page.get_by_role("dialog", name=re.compile("Interactions on"))
    expect(sheet.get_by_text(re.compile("robust standard deviations"))).to_be_visible()
    page.get_by_role("button", name="Study this day alone").click()
    expect(page).to_have_url(re.compile(r"first=(\d{4}-\d\d-\d\d).*last=\1"))


def test_gains_and_losses_can_each_be_hidden(page: Page, stack: Stack) -> None:
    go(page, stack, "results/followers")
    page.get_by_role("checkbox", name=re.compile("^gained")).click()
    expect(page).to_have_url(re.compile("hide=gained"))
    page.get_by_role("button", name="as a table").click()
    expect(page.get_by_role("columnheader", name="Lost")).to_be_visible()


def test_findings_are_looked_for_pinned_and_dismissed(page: Page, stack: Stack) -> None:
    go(page, stack, "results/findings")
    page.get_by_role("button", name="Look again now").click()
    # The worker looks, after what it has in hand: on a busy machine that takes its time.
    expect(page.get_by_text(re.compile("in the data as they are now"))).to_be_visible(timeout=120_000)
    first = page.get_by_role("listitem").filter(has=page.get_by_role("button", name="Pin")).first
    name = first.get_by_role("heading").inner_text()
    first.get_by_role("button", name="Pin").click()
    expect(page.get_by_text("pinned", exact=True)).to_be_visible()
    page.reload()
    expect(page.get_by_role("heading", level=2).first).to_have_text(name)
    page.get_by_role("button", name="Unpin").click()
    page.get_by_role("listitem").filter(has_text=name).get_by_role("button", name="Dismiss").click()
    expect(page.get_by_role("heading", name=name)).to_have_count(0)
    page.get_by_role("button", name=re.compile("dismissed")).click()
    page.get_by_role("button", name="Bring back").first.click()


def test_tables_and_charts_are_saved_with_their_definitions(page: Page, stack: Stack) -> None:
    go(page, stack, "results?metric=reach")
    for label, holds in (("Chart as SVG", "<title>"), ("Table as CSV", "Formula: reach.")):
        page.get_by_role("button", name="Save as a file").click()
        with page.expect_download() as caught:
            page.get_by_role("menuitemradio", name=label).click()
        text = caught.value.path().read_text()
        assert holds in text
        assert "Orrery House" in text
    rows = list(csv.reader(io.StringIO(text)))
    assert (rows[0][:2], rows[1][0]) == (["Dakika export", "results.days"], "day")
    page.get_by_role("button", name="Save as a file").click()
    with page.expect_download() as caught:
        page.get_by_role("menuitemradio", name="Chart as PNG").click()
    assert caught.value.path().read_bytes()[:8] == b"\x89PNG\r\n\x1a\n"


def test_the_audience_fits_one_page_of_paper(page: Page, stack: Stack) -> None:
    go(page, stack, "results/audience")
    page.get_by_role("link", name="One page for advertisers").click()
    expect(page.get_by_role("heading", level=1, name="Orrery House")).to_be_visible()
    # The browser's own printing and the server's are the same page.
    for paper in (page.pdf(format="A4", prefer_css_page_size=True), saved_pdf(page)):
        read = PdfReader(io.BytesIO(paper))
        assert len(read.pages) == 1
        text = read.pages[0].extract_text()
        assert "Orrery House" in text
        assert "Followers by network" in text
        assert "Save as PDF" not in text


def saved_pdf(page: Page) -> bytes:
    with page.expect_download() as caught:
        page.get_by_role("button", name="Save as PDF").click()
    assert re.fullmatch(r"orrery-house-audience-[\d-]{21}\.pdf", caught.value.suggested_filename)
    return caught.value.path().read_bytes()
