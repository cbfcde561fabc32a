"""Conversions as a table to be written out."""

from collections.abc import Iterator

from dakika_server.site.models import Conversion
from dakika_server.sources.files.exporting import ROWS_AT_ONCE, Row, Table


def _conversions(brand_id: int) -> Iterator[Row]:
    found = Conversion.objects.filter(brand_id=brand_id).order_by("pk")
    rows = found.values_list(
        "key", "goal__name", "at", "cents", "currency", "visit__click_key", "contact", "stage", "visit__channel"
    )
    for key, goal, at, cents, currency, click, contact, stage, channel in rows.iterator(chunk_size=ROWS_AT_ONCE):
        yield (key, goal, at, cents / 100, currency, str(click or ""), contact, stage, channel or "")


CONVERSIONS = Table(
    name="conversions",
    head=("key", "goal", "at", "amount", "currency", "click", "contact", "stage", "channel"),
    rows=_conversions,
)
