"""Tracked links, their pages, and the clicks on them."""

from dakika_server.links.models.clicks import (
    Click,
    ClickDay,
    ClickHour,
    ClickPeople,
    ClickSpread,
    ClickTotal,
    Journal,
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
from dakika_server.links.models.logs import AccessLog, AccessLogChunk
from dakika_server.links.models.visits import Conversion, ConversionStage, Goal, Site, Visit

__all__ = [
    "AccessLog", "AccessLogChunk", "Click", "ClickDay", "ClickHour", "ClickPeople", "ClickSpread", "ClickTotal",
    "Conversion", "ConversionStage", "FormerTarget", "Goal", "Journal", "LinkDomain", "LinkPage", "LinkPageEntry",
    "LinkSettings", "LinkUse", "Site", "TrackedLink", "Visit", "VisitorSalt",
]  # fmt: skip
