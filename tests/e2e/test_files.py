"""Promise: somebody's real export leads to figures, by clicks alone: ten files of the corpus, each held against its truth."""

import re

import pytest
from dakika_server.sources.tests.corpus.files import all_cases, as_csv, day_files, table
from dakika_server.sources.tests.corpus.truth import DAYS, POSTS
from playwright.sync_api import Page, expect

from scripts.stack import Stack

HOME = "orrery-house"
BY_NAME = {case.name: case for case in all_cases()}
# What a person has to say, if anything: each is done by clicks below.
TRIED = (
    "de, windows-1252", "el, windows-1253", "tr, workbook", "month name, French", "date and time in two columns",
    "a title above, in a workbook", "OpenDocument", "an archive", "JSON, nested", "identifiers as powers of ten",
)  # fmt: skip


def upload(page: Page, stack: Stack, name: str, content: bytes) -> None:
    page.goto(f"{stack.address}/{HOME}/sources/import")
    page.get_by_label("File to bring in").set_input_files(
        {"name": name, "mimeType": "application/octet-stream", "buffer": content}
    )
    page.wait_for_url(re.compile(r"/sources/import/\d+"))


def bring_in(page: Page, into: str) -> None:
    page.get_by_label("The rows belong to").select_option("new")
    page.get_by_label("Its name").fill(into)
    page.get_by_label("Its network").fill("Parchment")
    page.get_by_role("button", name=re.compile("^Bring in")).click()
    until_figures(page)


def until_figures(page: Page) -> None:
    expect(page.get_by_role("link", name="See them in Results")).to_be_visible(timeout=60_000)
    expect(page.get_by_text(re.compile("worked out"))).to_have_count(0, timeout=60_000)


def see_them(page: Page, posts: int, interactions: int) -> None:
    page.get_by_role("link", name="See them in Results").click()
    expect(page.get_by_role("heading", level=1)).to_have_text(f"{posts} posts")
    expect(page.get_by_text("All of them").locator("xpath=..")).to_contain_text(f"{interactions:,}")


def interactions_of(metrics: tuple[str, ...] = ("reactions", "comments", "shares")) -> int:
    return sum(getattr(post, key) for post in POSTS for key in metrics)


@pytest.mark.parametrize("name", [n if n in BY_NAME else f"date: {n}" for n in TRIED])
def test_a_file_leads_to_its_figures_by_clicks(name: str, page: Page, stack: Stack) -> None:
    case = BY_NAME[name]
    upload(page, stack, case.file_name, case.content)
    expect(page.get_by_role("heading", name="14 rows can be read")).to_be_visible()
    bring_in(page, f"Page {TRIED.index(name.removeprefix('date: '))}")
    see_them(page, len(POSTS), interactions_of())
    # Months later their counts are final, and the sentence says that it stands on them.
    expect(page.get_by_role("button", name="Age at which posts are compared")).to_have_text("at their final count")


def test_dates_that_can_be_read_both_ways_are_asked_about(page: Page, stack: Stack) -> None:
    case = BY_NAME["days that can be read both ways"]
    upload(page, stack, case.file_name, case.content)
    # Of a new profile nothing was told yet.
    page.get_by_label("The rows belong to").select_option("new")
    expect(page.get_by_role("heading", name="This cannot come in yet")).to_be_visible()
    question = page.get_by_role("group", name="In which order are the dates written?")
    question.get_by_text("the month comes first", exact=True).locator("xpath=..").get_by_role("button").click()
    expect(page.get_by_role("heading", name=re.compile("rows can be read"))).to_be_visible()


def test_a_file_of_several_accounts_goes_to_several_profiles(page: Page, stack: Stack) -> None:
    rows = table((*table()[0], "Account"), more=lambda p: ("pier_watch" if p.comments % 4 == 1 else "tide_notes",))
    upload(page, stack, "2026-10-31.csv", as_csv(rows))
    expect(page.get_by_label("The rows belong to")).to_have_value("rows")
    expect(page.get_by_role("button", name=re.compile("^Bring in"))).to_be_disabled()
    page.get_by_label("pier_watch").first.select_option("make")
    page.get_by_label("Network of pier_watch").fill("Parchment")
    page.get_by_label("tide_notes").first.select_option("leave")
    page.get_by_role("button", name=re.compile("^Bring in")).click()
    until_figures(page)
    expect(page.get_by_text("rows of tide_notes are left out, as was said")).to_be_visible()


def test_two_columns_of_one_count_add_up_by_clicks(page: Page, stack: Stack) -> None:
    case = BY_NAME["two columns that add up"]
    upload(page, stack, case.file_name, case.content)
    for column in ("Hearts", "Thumbs"):
        page.get_by_label(column).select_option("reactions")
        expect(page.get_by_label(column)).to_be_enabled()
    bring_in(page, "Added up")
    see_them(page, len(POSTS), interactions_of())


def test_days_with_a_column_each_stand_in_results(page: Page, stack: Stack) -> None:
    file_name, content = day_files()["wide"]
    upload(page, stack, file_name, content)
    expect(page.get_by_label("Layout")).to_have_value("wide")
    bring_in(page, "Its days")
    page.get_by_role("link", name="See them in Results").click()
    page.get_by_role("link", name="Summary", exact=True).click()
    expect(page.get_by_text(f"{DAYS[-1][1]['followers']:,}", exact=True).first).to_be_visible()
    # Nobody asked for interactions, and there are none: the chart is of what there is.
    expect(page.get_by_role("heading", name="Followers by day")).to_be_visible()
