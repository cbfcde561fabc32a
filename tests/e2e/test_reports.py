"""Promise: a month's report from a template, a figure moved, a text corrected, on paper and opened by somebody outside."""

import io
import re
import time
from collections.abc import Callable
from typing import Any

import numpy as np
from defusedxml import ElementTree
from PIL import Image
from playwright.sync_api import Browser, Locator, Page, expect
from pypdf import PdfReader
from pypdfium2 import PdfDocument
from waiting import opened

from scripts.stack import Stack

HOME = "orrery-house"
# Of dots that are means over four by four, so many may differ clearly between screen and paper; where the pages are two,
# one in sixteen and more does.
SAME_PAGE = 0.03


def go(page: Page, stack: Stack, path: str) -> None:
    opened(page, f"{stack.address}/{HOME}/{path}")


def saved(page: Page) -> None:
    expect(page.get_by_role("status").filter(has_text=re.compile("^Saved$"))).to_be_visible()


def until(is_so: Callable[[], bool]) -> None:
    end = time.monotonic() + 60
    while not is_so():
        assert time.monotonic() < end
        time.sleep(0.2)


def kept_at(page: Page, api: str, y: int, h: int) -> None:
    """The second figure of the first page is kept at a row, so many rows high."""

    def is_there() -> bool:
        item = page.request.get(api).json()["pages"][0]["items"][1]
        return (item["y"], item["h"]) == (y, h)

    until(is_there)


def begin(page: Page, stack: Stack, name: str) -> str:
    go(page, stack, "reports")
    page.get_by_role("button", name="Make a report").click()
    page.get_by_role("dialog").get_by_role("button", name=re.compile(f"^{name}")).click()
    expect(page).to_have_url(re.compile(r"/reports/\d+$"))
    return re.findall(r"/reports/(\d+)", page.url)[0]


def test_a_month_from_a_template_to_somebody_outside(page: Page, stack: Stack, chromium: Browser) -> None:
    report = begin(page, stack, "Monthly report")
    page.get_by_label("Title of the report").fill("The month of the two moons")
    figures = page.locator("[data-item]").nth(1)
    expect(figures).to_be_visible()
    # By keyboard: two rows shorter, then one down.
    figures.focus()
    for key in ("Shift+ArrowUp", "Shift+ArrowUp", "ArrowDown"):
        page.keyboard.press(key)
    api = f"{stack.address}/api/brands/{HOME}/reports/{report}"
    kept_at(page, api, 3, 4)
    # By pointer: back up again.
    box = figures.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 60, box["y"] + box["height"] - 30)
    page.mouse.down()
    page.mouse.move(box["x"] + 60, box["y"] + box["height"] - 60, steps=5)
    page.mouse.move(box["x"] + 60, box["y"] + box["height"] - 30 - 56, steps=5)
    page.mouse.up()
    kept_at(page, api, 2, 4)
    # The made words, with a word of one's own; the numbers stay bound.
    page.get_by_role("button", name="Edit the words").click()
    words = page.get_by_role("textbox", name="Words of the page")
    bound = words.locator("[data-bound]").count()
    assert bound > 1
    # One more of the page's numbers, where the words end.
    page.get_by_label("Put a number in").select_option(index=1)
    expect(words.locator("[data-bound]")).to_have_count(bound + 1)
    words.press("Control+Home")
    words.type("Two moons, and this: ")
    page.get_by_role("button", name="Keep", exact=True).click()
    until(lambda: page.request.get(api).json()["pages"][0]["words"] is not None)
    saved(page)
    kept = page.request.get(api).json()["pages"][0]["words"][0]
    assert kept[0]["text"].startswith("Two moons, and this: ")
    assert len([one for one in kept if one["item"]]) == bound + 1
    # A number in the words opens how it is made.
    page.get_by_role("region", name="The page").get_by_role("button", name=re.compile("^Basis of")).first.click()
    expect(page.get_by_role("dialog").get_by_text("Definition")).to_be_visible()
    page.keyboard.press("Escape")
    on_paper(page, api)
    # A colleague's change in between is not overwritten.
    asked = page.request.get(api).json()
    token = next(one["value"] for one in page.context.cookies() if one["name"] == "csrftoken")
    headers = {"X-CSRFToken": token, "Referer": stack.address}
    assert page.request.put(api, data={**asked, "label": "Theirs"}, headers=headers).ok
    page.get_by_label("Title of the report").fill("The month of the two moons, again")
    expect(page.get_by_role("alert")).to_contain_text("changed this report since you opened it")
    page.get_by_role("button", name="Keep mine").click()
    until(lambda: page.request.get(api).json()["title"].endswith("again"))
    outside(page, chromium)
    by_mail(page, stack)


def on_paper(page: Page, api: str) -> None:
    with page.expect_download() as loading:
        page.get_by_role("button", name="Save as a file").click()
        page.get_by_role("menuitemradio", name="Pages as PDF").click()
    paper = PdfReader(io.BytesIO(loading.value.path().read_bytes()))
    assert len(paper.pages) == 6
    assert {(round(one.mediabox.width), round(one.mediabox.height)) for one in paper.pages} == {(842, 595)}
    root: Any = paper.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"]
    assert "/StructTreeRoot" in root
    assert [one.title for one in paper.outline if not isinstance(one, list)] == ["The month of the two moons"]
    text = paper.pages[1].extract_text()
    assert "Two moons, and this:" in text
    # What stands on paper is what the server shows.
    shown = page.request.get(f"{api}/shown").json()["pages"][0]
    numbers = [one["text"] for one in shown["words"][0] if one["item"]]
    assert all(number in text.replace("\n", " ") for number in numbers), numbers
    fonts = [font for one in paper.pages for font in fonts_of(one)]
    assert fonts
    assert all(is_embedded(font) for font in fonts)
    as_on_screen(page, loading.value.path().read_bytes())


def as_on_screen(page: Page, paper: bytes) -> None:
    """A page on screen and the same on paper, pixel by pixel; and it is not just any page that would do.

    Both are drawn by one engine, but the fonts of a PDF are smoothed in another way: edges of letters differ, so that
    what is held against each other are means over four by four dots, and few of those may differ clearly.
    """
    editing, usual = page.url, page.viewport_size
    # All of them at once: what is scrolled to would lie half under the shell's head.
    page.set_viewport_size({"width": 1280, "height": 5200})
    page.goto(editing.partition("?")[0] + "/print")
    sheets = page.locator(".sheet-page")
    expect(sheets).to_have_count(6)
    page.evaluate("document.fonts.ready")
    page.wait_for_function("[...document.images].every((image) => image.complete)")
    with PdfDocument(paper) as read:
        drawn = [small(one.render(scale=96 / 72).to_pil()) for one in read]
    for at in (0, 1, 2):
        seen = small(Image.open(io.BytesIO(sheets.nth(at).screenshot())))
        apart = [differing(seen, other) for other in drawn]
        assert apart[at] < SAME_PAGE, (at, apart)
        assert apart[at] < 0.6 * min(one for i, one in enumerate(apart) if i != at), (at, apart)
    page.set_viewport_size(usual or {"width": 1280, "height": 800})
    page.goto(editing)
    saved(page)


def small(picture: Image.Image) -> Any:
    return np.asarray(picture.convert("L").resize((280, 198), Image.Resampling.BOX), dtype=float)


def differing(one: Any, other: Any) -> float:
    """The part of the dots that differ by more than a tenth of the way from black to white."""
    return float((np.abs(one - other) > 26).mean())


def is_embedded(font: Any) -> bool:
    """Its glyphs are in the file: as procedures (ISO 32000-1, 9.6.5, Type 3) or as a font program (9.9)."""
    if font["/Subtype"] == "/Type3":
        return "/CharProcs" in font
    of = font["/DescendantFonts"][0].get_object() if "/DescendantFonts" in font else font
    return any(name in of["/FontDescriptor"] for name in ("/FontFile", "/FontFile2", "/FontFile3"))


def fonts_of(page: Any) -> list[Any]:
    return [font.get_object() for font in page["/Resources"].get("/Font", {}).get_object().values()]


def outside(page: Page, chromium: Browser) -> None:
    page.get_by_role("button", name="Give it to others").click()
    sheet = page.get_by_role("dialog", name="Give it to others")
    sheet.get_by_label("For whom").fill("Cleo")
    sheet.get_by_label("Password").fill("half past nine")
    sheet.get_by_role("button", name="Make the link").click()
    address = sheet.get_by_text(re.compile("/report#")).text_content() or ""
    phone = chromium.new_context(viewport={"width": 390, "height": 844}, locale="en-GB").new_page()
    phone.goto(address)
    phone.get_by_label("Its password").fill("quarter to")
    phone.get_by_role("button", name="Open it").click()
    expect(phone.get_by_role("alert")).to_contain_text("not the password")
    phone.get_by_label("Its password").fill("half past nine")
    phone.get_by_role("button", name="Open it").click()
    expect(phone.get_by_role("heading", level=1)).to_have_text("The month of the two moons, again")
    expect(phone.get_by_text(re.compile("Two moons, and this:"))).to_be_visible()
    assert phone.evaluate("document.documentElement.scrollWidth") <= 390
    expect(sheet.get_by_text(re.compile("1 visit"))).to_be_visible()
    sheet.get_by_role("button", name="Take it back").click()
    expect(sheet.get_by_text(re.compile("taken back"))).to_be_visible()
    phone.reload()
    expect(phone.get_by_role("heading", level=1)).to_have_text("This link opens nothing")
    phone.context.close()


def by_mail(page: Page, stack: Stack) -> None:
    sheet = page.get_by_role("dialog", name="Give it to others")
    sheet.get_by_role("button", name="By mail").click()
    sheet.get_by_role("button", name="Send it regularly").click()
    sheet.get_by_label("To others", exact=True).fill("cleo@client.example")
    sheet.get_by_role("button", name="Keep it so").click()
    expect(sheet.get_by_text("to cleo@client.example")).to_be_visible()
    sheet.get_by_role("button", name="Send it to all now").click()
    # What was not collected of the days is told beside it: other tests bring profiles with holes to the same brand.
    sent = sheet.get_by_text(re.compile("^1 letter"))
    expect(sent).to_be_visible(timeout=90_000)
    world = f"http://127.0.0.1:{stack.standins_port}/control/mail"
    letters = [one for one in page.request.get(world).json() if "cleo@client.example" in str(one)]
    assert "The month of the two moons, again" in str(letters[0])
    assert "Two moons, and this:" in str(letters[0])
    sheet.get_by_role("link", name=re.compile(":")).first.click()
    expect(page.get_by_text(re.compile("^as it was sent"))).to_be_visible()
    expect(page.get_by_role("region", name="What changed since")).to_be_visible()


def test_a_chart_is_put_into_a_report_from_where_it_stands(page: Page, stack: Stack) -> None:
    go(page, stack, "results/groups")
    page.get_by_role("button", name="Save as a file").first.click()
    page.get_by_role("menuitemradio", name="Put into a report").click()
    sheet = page.get_by_role("dialog", name="Put into a report")
    sheet.get_by_role("button", name="A new report").click()
    sheet.get_by_role("link", name="Open it there").click()
    expect(page.get_by_role("group", name=re.compile("by format", re.IGNORECASE))).to_be_visible()
    page.get_by_role("button", name="Put something on the page").click()
    page.get_by_role("dialog").get_by_label("Find a figure").fill("country")
    page.get_by_role("dialog").get_by_role("button", name=re.compile("^What clicks came from")).click()
    expect(page.get_by_role("group", name=re.compile("by country", re.IGNORECASE))).to_be_visible()
    saved(page)
    page.keyboard.press("Control+z")
    expect(page.get_by_role("group", name=re.compile("by country", re.IGNORECASE))).to_have_count(0)
    page.keyboard.press("Control+Shift+z")
    in_line(page)
    as_pictures(page)


def in_line(page: Page) -> None:
    """Two figures are put under each other by keyboard alone; what would cover another one stays where it is."""
    first, second = page.locator("[data-item]").nth(0), page.locator("[data-item]").nth(1)
    expect(second).to_be_visible()

    def left(of: Locator) -> float:
        box = of.bounding_box()
        assert box is not None
        return round(box["x"])

    apart = left(second) - left(first)
    assert apart > 100
    for one in (first, second):
        one.focus()
        page.keyboard.press("Space")
    expect(page.get_by_role("heading", name="2 chosen")).to_be_visible()
    page.keyboard.press("Alt+ArrowLeft")
    expect(page.get_by_text("There they would lie over each other")).to_be_visible()
    assert left(second) - left(first) == apart
    page.keyboard.press("Escape")
    second.focus()
    for _ in range(4):
        page.keyboard.press("ArrowDown")
    for one in (first, second):
        one.focus()
        page.keyboard.press("Space")
    page.keyboard.press("Alt+ArrowLeft")
    until(lambda: left(second) == left(first))
    page.keyboard.press("Escape")
    saved(page)


def as_pictures(page: Page) -> None:
    """A figure of a page as PNG and as SVG: with its colours, and alone."""
    page.locator("[data-item]").nth(0).click(position={"x": 8, "y": 8})
    made = {}
    for form, name in (("png", "Picture as PNG"), ("svg", "Drawing as SVG")):
        with page.expect_download() as loading:
            page.get_by_role("button", name="Save this figure").click()
            page.get_by_role("menuitemradio", name=name).click()
        assert loading.value.suggested_filename.endswith(f".{form}")
        made[form] = loading.value.path().read_bytes()
    picture = Image.open(io.BytesIO(made["png"]))
    assert picture.width > 400
    assert len(picture.convert("RGB").getcolors(100_000) or []) > 8
    drawing = ElementTree.fromstring(made["svg"])
    assert drawing.tag.endswith("svg")
    words = " ".join("".join(drawing.itertext()).split())
    assert "by format" in words.lower()
    assert "script" not in {one.tag.rpartition("}")[2] for one in drawing.iter()}


def test_a_report_is_presented_by_keys(page: Page, stack: Stack) -> None:
    report = begin(page, stack, "Weekly review")
    go(page, stack, f"reports/{report}/present")
    expect(page.get_by_role("heading", level=1, name="Weekly review")).to_be_visible()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("heading", level=2, name="The week at a glance")).to_be_visible()
    page.keyboard.press("End")
    expect(page.get_by_text("4 of 4")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_role("complementary", name="Notes")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page).to_have_url(re.compile(rf"/reports/{report}$"))
