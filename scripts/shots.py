"""docs/screenshots/: one picture of each main view, from the demo, at a fixed minute."""

import os
import sys
from pathlib import Path

from scripts.browser import browser, signed_in
from scripts.paths import ROOT
from scripts.stack import Stack
from scripts.steps import step

FIXED_NOW = "2026-11-24T10:40:00+00:00"
EXAMPLE_FILE = (
    "When (UTC);Words;Thumbs up;Replies;Seen\n"
    + "\n".join(
        f"{day:02d}/10/2026 09:30;From the old page, entry {day};{day * 7 % 40 + 4};{day % 5};{day * 37 % 400 + 300}"
        for day in range(1, 29)
    )
    + "\n99/99/2026;No such day;1;1;1\n03/10/2026;Less than nothing;-4;1;1\n"
).encode()
VIEWS = {
    "results": "results",
    "difference": "results/difference?metric=interactions",
    "posts": "results/posts?sort=-index",
    "post": "",
    "groups": "results/groups?by=format&first=2026-08-28&last=2026-11-24",
    "findings": "results/findings",
    "competitors": "competitors/axes?rows=profile&x=followers",
    "links": "links?first=2026-08-28&last=2026-11-24",
    "funnel": "site?first=2026-08-28&last=2026-11-24",
    "timing": "timing",
    "plan": "plan",
    "compose": "",
    "report": "reports/2",
    "campaign": "plan/campaigns/1",
    "ideas": "plan/ideas",
    "team": "team",
    "sources": "sources",
    "file": "",
}


def draw(folder: Path, address: str, *, fixed_now: str = FIXED_NOW, only: set[str] | None = None) -> None:
    """Take the pictures, Results also in the dark."""
    with browser() as opened:
        for scheme in ("light", "dark"):
            page = signed_in(opened, address, scheme=scheme, fixed_now=fixed_now)
            for name, path in VIEWS.items():
                if (only and name not in only) or (scheme == "dark" and name not in (only or {"results"})):
                    continue
                if name == "post":
                    page.goto(f"{address}/orrery-house/results/posts?sort=-index")
                    page.get_by_role("row").nth(1).click()
                elif name == "compose":
                    page.goto(f"{address}/orrery-house/plan?view=list")
                    page.get_by_role("link", name="The orrery by lamplight").first.click()
                    page.get_by_role("button", name="Orrery House on Commons").click()
                    page.get_by_role("button", name="Preview").click()
                elif name == "file":
                    page.goto(f"{address}/orrery-house/sources/import")
                    page.get_by_label("File to bring in").set_input_files(
                        {"name": "old-page.csv", "mimeType": "text/csv", "buffer": EXAMPLE_FILE}
                    )
                else:
                    page.goto(f"{address}/orrery-house/{path}")
                if name == "ideas":
                    page.get_by_role("button", name="Frost on the roof terrace").click()
                    page.get_by_role("button", name="First wording").click()
                    page.get_by_label("Wording 1").wait_for()
                page.wait_for_load_state("networkidle")
                page.wait_for_timeout(500)
                page.screenshot(path=folder / f"{name}{'-dark' if scheme == 'dark' else ''}.png")


def main() -> int:
    """A database of its own with a stopped clock, drawn and thrown away."""
    os.environ["DAKIKA_FIXED_NOW"] = FIXED_NOW
    stack = Stack(
        name="dakika_shots", first_web_port=8300, first_standins_port=9300, fixed_now=FIXED_NOW, has_worker=False
    )
    stack.choose_ports()
    try:
        stack.prepare(fresh=True)
        stack.start_standins()
        stack.load_demo()
        # No worker runs here, so that nothing moves while pictures are taken.
        stack.manage("look_ahead", advice="See the lines above.")
        stack.manage("look_into_files", advice="See the lines above.")
        stack.start_rest()
        with step("Taking the pictures"):
            draw(ROOT / "docs" / "screenshots", stack.address)
    finally:
        stack.stop()
    return 0


if __name__ == "__main__":
    sys.exit(main())
