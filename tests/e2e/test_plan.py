"""Promise: a week for all eight networks is written once, with pictures and a video, goes out, and comes back in Results."""

import io
import re
from typing import Any

from dakika_server.media.testing import picture, video
from planning import EIGHT, authorised, bring, go, version, world
from playwright.sync_api import Browser, Page, expect
from waiting import until

from scripts import postgres
from scripts.browser import new_page, signed_in
from scripts.stack import Stack

GUEST = "guest@ninthbell.example"


def test_a_post_for_all_eight_networks_with_pictures_and_a_video(page: Page, stack: Stack) -> None:
    for network in EIGHT:
        world(stack, "faults", {f"{network.lower()}.{kind}": 0 for kind in ("slow", "revoked", "error500")})
    go(page, stack, "plan/new")
    page.get_by_label("Working title").fill("Everywhere at once")
    expect(page.get_by_role("checkbox", name=re.compile("Vignette"))).to_be_visible()
    for box in page.get_by_role("checkbox").all():
        box.uncheck()
    for network in EIGHT:
        page.get_by_role("checkbox", name=re.compile(rf"^{network}: Orrery House$")).check()
    page.get_by_role("textbox", name="Text for all").fill("It strikes eight, on eight networks.")
    bring(page, "strike.png", "image/png", picture(900, 1200, "PNG"))
    expect(page.get_by_text("Vignette wants a video with every post.")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Schedule"))).to_be_disabled()
    # Where a network must differ: a film for two, a title for two, a board for one.
    page.get_by_label("Title", exact=True).fill("It strikes eight")
    for network in ("Vignette", "Longplay"):
        version(page, network)
        for taken in page.get_by_role("button", name=re.compile("^Take .* out$")).all():
            taken.click()
        if network == "Vignette":
            bring(page, "strike.mp4", "video/mp4", video(frames=100, width=90))
        else:
            page.get_by_role("button", name="Pictures and videos").click()
            page.get_by_role("dialog").get_by_role("button", name="strike.mp4").click()
            page.get_by_role("dialog").get_by_role("button", name="Done").click()
    version(page, "Corkboard")
    page.get_by_label("Board", exact=True).select_option(label="From the workshop")
    expect(page.get_by_role("button", name=re.compile("^Schedule"))).to_be_enabled()
    page.get_by_role("button", name="Preview").click()
    expect(page.get_by_role("article", name="Preview on Corkboard")).to_contain_text("It strikes eight")
    page.get_by_role("button", name=re.compile("^All versions")).click()
    page.get_by_role("textbox", name="First comment").fill("Doors at eight.")
    page.get_by_role("button", name="Save as draft").click()
    expect(page).to_have_url(re.compile(r"/plan/\d+$"))
    authorised(stack)
    page.get_by_role("button", name="Publish in five minutes").click()
    expect(page.get_by_role("timer").first).to_contain_text("goes out in")
    page.get_by_role("button", name="Send it at once").click()
    planned = page.url.rpartition("/")[2]
    rows = f"SELECT count(*) FROM plan_version WHERE planned_post_id = {planned}"

    def out() -> bool:
        told = postgres.sql(f"SELECT state, error FROM plan_version WHERE planned_post_id = {planned}", stack.name)
        assert "failed" not in told, told
        return postgres.sql(f"{rows} AND state = 'published' AND post_id IS NOT NULL", stack.name).strip() == "8"

    until(out, seconds=180)
    until(lambda: postgres.sql(f"{rows} AND first_comment_state = 'done'", stack.name).strip() == "4")
    sent = [entry for entry in world(stack, "sent") if "strikes eight" in entry["text"]]
    assert len(sent) == len(EIGHT)
    go(page, stack, f"plan/{planned}")
    expect(page.get_by_role("link", name="its results")).to_have_count(8)
    page.get_by_role("link", name="its results").first.click()
    expect(page.get_by_text("Readings").locator("xpath=following-sibling::dd[1]")).not_to_have_text("0")
    go(page, stack, "plan/files?text=strike")
    page.get_by_role("button", name=re.compile("strike.png")).click()
    expect(page.get_by_role("link", name=re.compile("Everywhere at once on Pictor, published"))).to_be_visible()


def test_a_post_is_dragged_to_another_day_and_an_hour_and_clashes_are_named(page: Page, stack: Stack) -> None:
    go(page, stack, "plan?view=month")
    page.get_by_role("button", name="The month after").click()
    page.get_by_role("button", name=re.compile("^Open")).nth(20).click()
    expect(page).to_have_url(re.compile("view=day"))
    day = re.search(r"day=([\d-]+)", page.url).group(1)  # type: ignore[union-attr]
    go(page, stack, f"plan/new?at={day}T10:00:00Z")
    page.get_by_label("Working title").fill("To be dragged")
    page.get_by_role("textbox", name="Text for all").fill("Three words or more, to be moved about.")
    page.get_by_role("button", name=re.compile("^Schedule for")).click()
    chip = page.get_by_role("region", name="Week").get_by_role("link", name=re.compile("To be dragged"))
    expect(chip).to_contain_text("10:00")
    page.wait_for_timeout(2_000)  # what stands above the hours comes after them
    before = chip.bounding_box()
    assert before is not None
    # Two hours down: 34 pixels an hour, by the point at which it is held.
    page.mouse.move(before["x"] + 12, before["y"] + 4)
    page.mouse.down()
    for down in (20, 50, 72):
        page.mouse.move(before["x"] + 14, before["y"] + 4 + down, steps=3)
    page.mouse.up()
    expect(page.get_by_text(re.compile("^Moved to "))).to_be_visible()
    expect(chip).not_to_contain_text("10:00")
    dragged = chip.inner_text()[:5]
    chip.focus()
    page.keyboard.press("Alt+ArrowUp")
    expect(chip).not_to_contain_text(dragged)


def test_two_editors_of_one_post_see_each_other_and_nothing_is_overwritten(
    page: Page, stack: Stack, chromium: Browser, editor_state: Any
) -> None:
    go(page, stack, "plan/new")
    page.get_by_label("Working title").fill("Of two minds")
    page.get_by_role("textbox", name="Text for all").fill("As it was.")
    page.get_by_role("button", name="Save as draft").click()
    expect(page).to_have_url(re.compile(r"/plan/\d+$"))
    path = page.url.partition("orrery-house/")[2]
    role = (
        "UPDATE brands_membership SET role = '{}' WHERE user_id = (SELECT id FROM accounts_user WHERE email = '"
        + GUEST
        + "')"
    )
    postgres.sql(role.format("author"), stack.name)
    other = signed_in(chromium, stack.address, email=GUEST)
    try:
        other.set_default_timeout(60_000)
        go(other, stack, path)
        theirs = other.get_by_role("textbox", name="Text for all")
        expect(theirs).to_have_value("As it was.")
        expect(page.get_by_text(re.compile("has this post open too"))).to_be_visible()
        page.get_by_role("textbox", name="Text for all").fill("Mine.")
        theirs.fill("Theirs.")
        other.get_by_role("button", name="Save as draft").click()
        expect(other.get_by_text("Saved.")).to_be_visible()
        page.get_by_role("button", name="Save as draft").click()
        table = page.get_by_role("table")
        expect(table).to_contain_text("Theirs.")
        expect(table).to_contain_text("Mine.")
        page.get_by_role("button", name="Go on with mine").click()
        page.get_by_role("button", name="Save as draft").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        go(other, stack, path)
        expect(other.get_by_role("textbox", name="Text for all")).to_have_value("Mine.")
    finally:
        other.context.close()
        postgres.sql(role.format("viewer"), stack.name)


def test_a_pause_holds_and_is_ended_knowingly(page: Page, stack: Stack) -> None:
    go(page, stack, "plan")
    page.get_by_role("button", name="Pause everything, or a profile").click()
    page.get_by_role("dialog").get_by_label("Why").fill("A fire next door")
    page.get_by_role("dialog").get_by_role("button", name="Pause", exact=True).click()
    expect(page.get_by_text("Everything is paused")).to_be_visible()
    page.get_by_role("button", name="End the pause").click()
    page.get_by_role("button", name="End it").click()
    expect(page.get_by_text("Everything is paused")).to_have_count(0)


def test_a_picture_is_worked_on_and_the_first_stays(page: Page, stack: Stack) -> None:
    go(page, stack, "plan/files")
    page.get_by_label("Files to bring").set_input_files(
        {"name": "plain.png", "mimeType": "image/png", "buffer": io.BytesIO(picture(600, 300, "PNG")).getvalue()}
    )
    page.get_by_role("button", name=re.compile("^plain.png|plain.png$")).first.wait_for()
    expect(page.get_by_role("button", name="Open and work on it")).to_be_visible()
    page.get_by_role("button", name="Open and work on it").click()
    sheet = page.get_by_role("dialog")
    sheet.get_by_role("button", name="1:1", exact=True).click()
    sheet.get_by_label("Words on it").fill("Open late")
    sheet.get_by_role("button", name="Make another file of it").click()
    expect(page.get_by_text(re.compile("^300 × 300"))).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("plain.png"))).to_have_count(2)


def test_a_large_file_comes_in_parts(page: Page, stack: Stack) -> None:
    import numpy as np
    from PIL import Image

    out = io.BytesIO()
    Image.fromarray(np.random.default_rng(2).integers(0, 255, (2450, 2450, 3), dtype=np.uint8)).save(out, "PNG")
    assert out.tell() > 16_000_000
    go(page, stack, "plan/files")
    with page.expect_response(re.compile(r"/media/uploads/\d+\?start=16000000")) as last:
        page.get_by_label("Files to bring").set_input_files(
            {"name": "noise.png", "mimeType": "image/png", "buffer": out.getvalue()}
        )
    assert last.value.status == 200
    expect(page.get_by_text(re.compile("^2450 × 2450"))).to_be_visible()


def test_a_stranger_finds_no_files_of_the_brand(stack: Stack, chromium: Browser) -> None:
    stranger = new_page(chromium)
    try:
        answer = stranger.request.get(f"{stack.address}/api/brands/orrery-house/media")
        assert answer.status == 401 or answer.status == 403
    finally:
        stranger.context.close()
