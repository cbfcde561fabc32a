"""docs/screenshots/: one picture of each main view, from the demo, at a fixed minute."""

import os
import sys
from pathlib import Path

from scripts.browser import browser, signed_in
from scripts.paths import ROOT
from scripts.stack import Stack
from scripts.steps import step

FIXED_NOW = "2026-11-24T10:40:00+00:00"
VIEWS = {
    "results": "results",
    "results-basis": "results?basis=er_reach",
    "posts": "results/posts?sort=-index",
    "post": "",
    "competitors": "competitors",
    "links": "links",
    "timing": "timing",
    "plan": "plan",
    "compose": "plan/new",
    "sources": "sources",
    "import": "sources/import",
}


def draw(folder: Path, address: str, *, fixed_now: str = FIXED_NOW, only: set[str] | None = None) -> None:
    """Take the pictures, Results and Timing also in the dark."""
    with browser() as opened:
        for scheme in ("light", "dark"):
            page = signed_in(opened, address, scheme=scheme, fixed_now=fixed_now)
            for name, path in VIEWS.items():
                if (only and name not in only) or (scheme == "dark" and name not in (only or {"results", "timing"})):
                    continue
                if name == "post":
                    page.goto(f"{address}/orrery-house/results/posts?sort=-index")
                    page.get_by_role("row").nth(1).click()
                else:
                    page.goto(f"{address}/orrery-house/{path}")
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
        stack.start_rest()
        with step("Taking the pictures"):
            draw(ROOT / "docs" / "screenshots", stack.address)
    finally:
        stack.stop()
    return 0


if __name__ == "__main__":
    sys.exit(main())
