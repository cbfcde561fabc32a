"""Clicks that a file brings: each belongs to a tracked link of the brand."""

import uuid
from typing import Any
from urllib.parse import urlsplit

from dakika_core.links.bots import BotReason
from dakika_core.sources.files.rows import RowProblem

from dakika_server.links.jobs import forget_people_since
from dakika_server.links.models import TrackedLink
from dakika_server.shared.locks import Lock, wait_within_transaction
from dakika_server.sources.files.rows_in import Batch, BatchIn, Places, copied, copy_in, days_of
from dakika_server.sources.models import Import

DEVICES = ("phone", "tablet", "computer")
_STAGE = """
CREATE TEMP TABLE rows_clicks (link_id bigint, key uuid, at timestamptz, referrer text, device text, bot_reason text)
    ON COMMIT DROP
"""
_INSERT = """
INSERT INTO links_click (brand_id, link_id, key, at, referrer, device, visitor, bot_reason, import_id)
SELECT %(brand)s, link_id, key, at, referrer, device, decode(md5(key::text), 'hex'), bot_reason, %(import)s
FROM (SELECT DISTINCT ON (key) * FROM rows_clicks ORDER BY key, at) r
WHERE NOT EXISTS (SELECT FROM links_click c WHERE c.key = r.key AND c.brand_id = %(brand)s) ORDER BY at
"""


def take_clicks_batch(cursor: Any, item: Import, batch: Batch, places: Places) -> BatchIn:
    """Clicks by link. A click without an identifier gets one from what its row says and its place among rows alike.

    So a longer export of the same clicks adds only what is new. Nothing tells visitors of a file
    apart, so each click counts as a visitor of its own.
    """
    codes = dict(TrackedLink.objects.filter(brand=item.brand_id).values_list("code", "pk"))
    column = item.header[item.mapping["code"][0]] if "code" in item.mapping else ""
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
            link, _key(item, v, places), v["at"], _host(str(v["referrer"] or "")),
            device if device in DEVICES else "other", BotReason.AGENT.value if v["is_bot"] else "",
        )  # fmt: skip
        lines.append("\t".join(map(copied, cells)))
    cursor.execute("DROP TABLE IF EXISTS rows_clicks")
    cursor.execute(_STAGE)
    copy_in(cursor, "COPY rows_clicks FROM STDIN", lines)
    # A file may tell a click's instant less finely than the redirect did: its key alone says which click it is, and two
    # files of a brand do not bring the same one at once.
    wait_within_transaction(Lock.CLICK_FILES, item.brand_id)
    cursor.execute(_INSERT, {"brand": item.brand_id, "import": item.pk})
    added = cursor.rowcount
    if added:
        cursor.execute("SELECT min(at) FROM rows_clicks")
        forget_people_since(item.brand_id, cursor.fetchone()[0].date())
    return BatchIn(added=added, problems=problems, days=days_of((v["at"] for _, v in batch), item))


def _key(item: Import, v: dict[str, Any], places: Places) -> uuid.UUID:
    given = str(v["key"] or "")
    try:
        return uuid.UUID(given)
    except ValueError:
        pass
    if given:
        return uuid.uuid5(uuid.NAMESPACE_OID, f"{item.brand_id} {given}")
    told = _told(v)
    return uuid.uuid5(uuid.NAMESPACE_OID, repr((item.brand_id, *told, places.ordinals.next(*told))))


def _told(v: dict[str, Any]) -> tuple[str, ...]:
    code = str(v["code"]).rstrip("/").rpartition("/")[2]
    return (code, v["at"].isoformat(), str(v["referrer"] or ""), str(v["device"] or ""), str(bool(v["is_bot"])))


def recount_click(places: Places, values: dict[str, Any]) -> None:
    """Count a click that came in before a reading broke off."""
    if not values["key"]:
        places.ordinals.next(*_told(values))


def _host(referrer: str) -> str:
    try:
        return ((urlsplit(referrer).hostname if "://" in referrer else referrer) or "")[:255]
    except ValueError:
        return ""
