"""Links and clicks as tables to be written out."""

from collections.abc import Iterator
from typing import Any

from django.db.models import F

from dakika_server.links.models import Click, TrackedLink
from dakika_server.sources.files.exporting import ROWS_AT_ONCE, Row, Table


def _links(brand_id: int) -> Iterator[Row]:
    found = TrackedLink.objects.filter(brand_id=brand_id).order_by("pk")
    return iter(
        found.values_list("code", "name", "destination", "target", "network", "campaign__name", "created_at").iterator(
            chunk_size=ROWS_AT_ONCE
        )
    )


def _clicks(brand_id: int) -> Iterator[Row]:
    """Visitors' hashes stay here: they serve for counting alone."""
    found = Click.objects.filter(brand_id=brand_id).order_by("pk")
    rows = found.values_list(
        "at", F("link__code"), "key", "referrer", "device", "bot_reason", "browser", "language", "country"
    )
    for at, code, key, referrer, device, reason, *more in rows.iterator(chunk_size=ROWS_AT_ONCE):
        values: tuple[Any, ...] = (at, code, str(key), referrer, device, "yes" if reason else "no", reason, *more)
        yield values


LINKS = Table(
    name="links", head=("code", "name", "destination", "target", "network", "campaign", "created_at"), rows=_links
)
CLICKS = Table(
    name="clicks",
    head=("at", "code", "key", "referrer", "device", "is_bot", "bot_reason", "browser", "language", "country"),
    rows=_clicks,
)
