"""Clicks and conversions that a file brings: each belongs to a tracked link, or to a goal, of the brand."""

import uuid
from typing import Any
from urllib.parse import urlsplit

from dakika_core.links.bots import BotReason
from dakika_core.sources.rows import RowProblem

from dakika_server.links.actions.sites import ConversionIn, store_conversions
from dakika_server.links.jobs import forget_people_since
from dakika_server.links.models import Goal, TrackedLink
from dakika_server.sources.files.rows_in import Batch, BatchIn, Places, copied, copy_in
from dakika_server.sources.models import Import

DEVICES = ("phone", "tablet", "computer")
_STAGE = """
CREATE TEMP TABLE rows_clicks (link_id bigint, key uuid, at timestamptz, referrer text, device text, bot_reason text)
    ON COMMIT DROP
"""
_INSERT = """
INSERT INTO links_click (brand_id, link_id, key, at, referrer, device, visitor, bot_reason, import_id)
SELECT %(brand)s, link_id, key, at, referrer, device, decode(md5(key::text), 'hex'), bot_reason, %(import)s
FROM rows_clicks ON CONFLICT (key) DO NOTHING
"""


def take_clicks_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Clicks by link. A click without an identifier gets one from the file and its row, so that it comes once.

    Nothing tells visitors of a file apart, so each click counts as a visitor of its own.
    """
    del places
    codes = dict(TrackedLink.objects.filter(brand=item.brand_id).values_list("code", "pk"))
    column = item.header[item.mapping["code"]] if "code" in item.mapping else ""
    lines, problems = [], []
    for row, v in batch:
        code = str(v["code"]).rstrip("/").rpartition("/")[2]
        link = codes.get(code)
        if link is None:
            problems.append(
                RowProblem(row=row, column=column, message="there is no tracked link of this code; make it first")
            )
            continue
        device = str(v["device"] or "").lower()
        cells = (
            link, _key(item, row, str(v["key"] or "")), v["at"], _host(str(v["referrer"] or "")),
            device if device in DEVICES else "other", BotReason.AGENT.value if v["is_bot"] else "",
        )  # fmt: skip
        lines.append("\t".join(map(copied, cells)))
    cursor.execute("DROP TABLE IF EXISTS rows_clicks")
    cursor.execute(_STAGE)
    copy_in(cursor, "COPY rows_clicks FROM STDIN", lines)
    cursor.execute(_INSERT, {"brand": item.brand_id, "import": item.pk})
    added = cursor.rowcount
    if added:
        cursor.execute("SELECT min(at) FROM rows_clicks")
        forget_people_since(item.brand_id, cursor.fetchone()[0].date())
    return BatchIn(added=added, problems=problems)


def _key(item: Import, row: int, given: str) -> uuid.UUID:
    try:
        return uuid.UUID(given)
    except ValueError:
        return uuid.uuid5(uuid.NAMESPACE_OID, (given and f"{item.brand_id} {given}") or f"{item.digest} {row}")


def _host(referrer: str) -> str:
    try:
        return ((urlsplit(referrer).hostname if "://" in referrer else referrer) or "")[:255]
    except ValueError:
        return ""


def take_conversions_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Conversions by goal and key. A known key adds nothing, but a stage that the row names is set."""
    del cursor, places
    goals = {goal.name.lower(): goal for goal in Goal.objects.filter(brand_id=item.brand_id, is_archived=False)}
    column = item.header[item.mapping["goal"]] if "goal" in item.mapping else ""
    taken, problems = [], []
    for row, v in batch:
        if str(v["goal"]).lower() not in goals:
            known = ", ".join(goal.name for goal in goals.values()) or "none"
            problems.append(
                RowProblem(row=row, column=column, message=f"is no goal of the brand; its goals are: {known}")
            )
            continue
        taken.append(ConversionIn(
            key=str(v["key"])[:120], goal=str(v["goal"]), at=v["at"], click=_click(str(v["click"] or "")),
            cents=None if v["amount"] is None else round(v["amount"] * 100), contact=str(v["contact"] or "")[:120],
            stage=str(v["stage"] or "")[:40],
        ))  # fmt: skip
    added, _ = store_conversions(None, item.brand, taken, goals, import_id=item.pk)
    return BatchIn(added=added, problems=problems)


def _click(given: str) -> uuid.UUID | None:
    try:
        return uuid.UUID(given)
    except ValueError:
        return None
