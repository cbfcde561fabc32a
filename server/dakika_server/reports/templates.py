"""What a report can begin from: pages of figures that the trade looks at every week or month (common practice).

In the trade's words: report template.
"""

import secrets
from collections.abc import Callable, Iterable
from typing import Any

from dakika_core.reports.languages import translated

Item = dict[str, Any]
CORE = "reach,interactions,er_reach,visits"


def new_name(taken: Iterable[str] = ()) -> str:
    """A name that nothing in a report has."""
    while True:
        name = secrets.token_hex(4)
        if name not in taken:
            return name


def _item(kind: str, x: int, y: int, w: int, h: int, drawing: str, title: str = "", **more: Any) -> Item:
    usual: Item = {"params": {}, "study": None, "cells": [], "rows": 12, "words": [], "asset": None}
    return {
        "id": new_name(),
        "kind": kind,
        "x": x,
        "y": y,
        "w": w,
        "h": h,
        "drawing": drawing,
        "title": title,
        **usual,
        **more,
    }


def _page(title: str, *items: Item, has_words: bool = True) -> dict[str, Any]:
    return {
        "id": new_name(), "title": title, "words": None, "has_words": has_words, "notes": "", "ground": "",
        "items": list(items),
    }  # fmt: skip


def _figures(metrics: str, y: int = 0) -> list[Item]:
    return [
        _item("results.course", 0, y, 12, 2, "tiles", params={"metrics": metrics}),
        _item("results.course", 0, y + 2, 12, 6, "course", params={"metrics": metrics.split(",")[0]}),
    ]


def _networks() -> dict[str, Any]:
    return _page(
        "By network",
        _item("competitors.presence", 0, 0, 12, 6, "table", study={}),
        has_words=False,
    )


def _posts() -> dict[str, Any]:
    return _page(
        "Posts that stood out",
        _item("results.top", 0, 0, 12, 4, "cards", params={"metric": "interactions", "limit": "6"}),
        _item("results.groups", 0, 4, 5, 4, "bars", "By format", params={"by": "format"}),
        _item("results.difference", 5, 4, 7, 4, "steps", params={"metric": "interactions"}),
    )


def _links() -> dict[str, Any]:
    return _page(
        "From link to goal",
        _item("site.traffic", 0, 0, 12, 2, "tiles"),
        _item("site.funnel", 0, 2, 7, 4, "table", params={"by": "network"}),
        _item("links.spread", 7, 2, 5, 4, "bars", "Clicks by country", params={"dimension": "country"}),
        _item("links.links", 0, 6, 12, 2, "table", "The most clicked", rows=4),
    )


def _others() -> dict[str, Any]:
    return _page(
        "Beside the others",
        _item("competitors.table", 0, 0, 12, 4, "table", rows=8),
        _item("competitors.band", 0, 4, 7, 4, "course", params={"metric": "interactions_per_1000"}),
        _item("competitors.gap", 7, 4, 5, 4, "bars"),
    )


def _weekly() -> list[dict[str, Any]]:
    return [_page("The week at a glance", *_figures(CORE)), _posts(), _links()]


def _monthly() -> list[dict[str, Any]]:
    return [
        _page("The month at a glance", *_figures(f"{CORE},conversions,followers")), _posts(), _networks(), _links(),
        _others(),
    ]  # fmt: skip


def _rivals() -> list[dict[str, Any]]:
    return [
        _others(),
        _page(
            "What works in the field",
            _item("competitors.works", 0, 0, 6, 4, "bars", "By format", params={"by": "format"}),
            _item("competitors.works", 6, 0, 6, 4, "bars", "By hashtag", params={"by": "hashtag"}),
            _item("competitors.table", 0, 4, 12, 4, "axes", "Two axes",
                  cells=["followers", "interactions for 1,000 followers"]),
        ),
        _networks(),
    ]  # fmt: skip


def _campaign() -> list[dict[str, Any]]:
    return [
        _page("The campaign at a glance", *_figures("posts,reach,interactions,visits,conversions")),
        _page(
            "What it brought",
            _item("site.funnel", 0, 0, 12, 3, "table", params={"by": "campaign"}),
            _item("results.groups", 0, 3, 6, 4, "bars", "By format", params={"by": "format"}),
            _item("site.attribution", 6, 3, 6, 4, "table", params={"by": "campaign"}),
        ),
    ]  # fmt: skip


def _conversions() -> list[dict[str, Any]]:
    return [
        _links(),
        _page(
            "Who brought it",
            _item("site.attribution", 0, 0, 12, 4, "table", params={"by": "channel"}),
            _item("links.hours", 0, 4, 12, 4, "grid", "When people click"),
        ),
    ]


def _coming(ahead: str, rows: int) -> dict[str, Any]:
    return _page(
        "What is planned", _item("plan.calendar", 0, 0, 12, rows, "calendar", params={"ahead": ahead}), has_words=False
    )


def _hours() -> list[dict[str, Any]]:
    return [
        _page(
            "When posts do well",
            _item("timing.hours", 0, 0, 12, 4, "grid", "Index by hour of the week"),
            _item("results.groups", 0, 4, 6, 4, "bars", "By day of the week", params={"by": "weekday"}),
            _item("results.course", 6, 4, 6, 4, "tiles", params={"metrics": "posts,posts_per_week,index"}),
        ),
        _coming("four_weeks", 8),
    ]


def _audience() -> list[dict[str, Any]]:
    return [
        _page(
            "Who follows",
            _item("results.course", 0, 0, 12, 2, "tiles", params={"metrics": "followers,net_followers,reach,er_reach"}),
            _item("results.audience", 0, 2, 12, 6, "bars", rows=24),
        )
    ]


def _service() -> list[dict[str, Any]]:
    return [
        _page(
            "What people say back",
            _item("results.course", 0, 0, 12, 2, "tiles", params={"metrics": "comments,first_comments,commenters"}),
            _item("results.course", 0, 2, 12, 4, "course", params={"metrics": "comments"}),
            _item("results.groups", 0, 6, 12, 2, "bars", "Comments by format",
                  params={"by": "format", "metric": "conversation"}),
        )
    ]  # fmt: skip


def _morning() -> list[dict[str, Any]]:
    return [
        _page("This morning", *_figures("interactions,reach,tracked_clicks,visits")),
        _page(
            "Worth knowing",
            _item("results.findings", 0, 0, 12, 4, "cards", params={"limit": "8"}),
            _item("plan.calendar", 0, 4, 12, 4, "calendar", params={"ahead": "this_week"}),
            has_words=False,
        ),
    ]


def _blank() -> list[dict[str, Any]]:
    return [_page("")]


# By key: name, what it is for, its days, and its pages.
TEMPLATES: dict[str, tuple[str, str, str, Callable[[], list[dict[str, Any]]]]] = {
    "blank": ("Blank", "An empty page.", "last_28", _blank),
    "weekly": ("Weekly review", "What the week brought, and which posts did it.", "last_week", _weekly),
    "monthly": ("Monthly report", "For a client: the month on five pages.", "last_month", _monthly),
    "competitors": ("Competitors", "Where we stand, and what works for the others.", "last_28", _rivals),
    "campaign": ("Campaign", "What a campaign brought; choose it in the study.", "last_28", _campaign),
    "links": ("Links and conversions", "From click to goal, and who brought it.", "last_28", _conversions),
    "timing": ("Timing and plan", "When posts do well, and what is set to go out.", "last_90", _hours),
    "audience": ("Audience for advertisers", "Who follows, on a page.", "last_28", _audience),
    "community": ("Community service", "What people say back.", "last_28", _service),
    "morning": ("Morning page", "The last seven days, every morning.", "last_7", _morning),
}


def pages_of(template: str, language: str) -> dict[str, Any]:
    """What a report of a template begins with, its titles in a language. Raises KeyError."""
    name, _, span, pages = TEMPLATES[template]
    made = pages()
    for page in made:
        page["title"] = translated(page["title"], language)
        for item in page["items"]:
            item["title"] = translated(item["title"], language)
    return {
        "title": translated(name, language), "language": language, "pages": made,
        "study": {"span": span, "compare": "previous"},
        "look": {"has_cover": template not in ("blank", "morning"), "subtitle": "", "logo": None, "accent": "",
                 "ground": "", "face": "serif", "header": "", "footer": ""},
    }  # fmt: skip
