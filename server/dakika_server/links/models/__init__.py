"""Tracked links, their pages, and the clicks on them."""

from dakika_server.links.models.clicks import (
    Click,
    ClickDay,
    ClickHorizon,
    ClickHour,
    ClickPeople,
    ClickSpread,
    ClickTotal,
    Journal,
    PageView,
    UnseenClicks,
    VisitorSalt,
)
from dakika_server.links.models.links import (
    FormerTarget,
    LinkDomain,
    LinkPage,
    LinkPageEntry,
    LinkSettings,
    LinkUse,
    TrackedLink,
)

__all__ = [
    "Click",
    "ClickDay",
    "ClickHorizon",
    "ClickHour",
    "ClickPeople",
    "ClickSpread",
    "ClickTotal",
    "FormerTarget",
    "Journal",
    "LinkDomain",
    "LinkPage",
    "LinkPageEntry",
    "LinkSettings",
    "LinkUse",
    "PageView",
    "TrackedLink",
    "UnseenClicks",
    "VisitorSalt",
]  # fmt: skip
