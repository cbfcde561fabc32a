"""What changed since a report was sent: the same figures of the same days, asked anew."""

from datetime import datetime
from typing import Any

from dakika_core.reports.languages import number_text

from dakika_server.brands.models import Brand
from dakika_server.reports.models import Report
from dakika_server.reports.serializers.reports import shown_pages
from dakika_server.reports.showing import Shower

MOST_CHANGES = 60
DAYS = ("span", "first", "last")


def changed_since(brand: Brand, kept: dict[str, Any], now: datetime) -> list[dict[str, str]]:
    """Figures of a kept report that are written another way now, of the days that it was of."""
    language = kept["language"]
    shown = {item["id"]: item for page in kept["shown"]["pages"] for item in page["items"]}
    pages = [
        {**page, "words": [], "has_words": False, "items": [_on_its_days(item, shown) for item in page["items"]]}
        for page in kept["pages"]
    ]
    as_it_was = Report(brand=brand, language=language, study={}, look=kept["look"], pages=pages)
    fresh = shown_pages(Shower(as_it_was, brand, now), pages, language)
    told: list[dict[str, str]] = []
    for before, after in zip(kept["shown"]["pages"], fresh["pages"], strict=True):
        title = next((page["title"] for page in kept["pages"] if page["id"] == before["id"]), "")
        cells = {(item["id"], cell["key"]): cell for item in after["items"] for cell in item["cells"]}
        for item in before["items"]:
            for cell in item["cells"]:
                new = cells.get((item["id"], cell["key"]))
                sent = number_text(cell["now"]["value"], cell["unit"], language)
                is_now = number_text(new["now"]["value"] if new else None, cell["unit"], language)
                if sent != is_now:
                    told.append(
                        {"page": title, "item": item["title"], "name": cell["name"], "sent": sent, "now": is_now}
                    )
    return told[:MOST_CHANGES]


def _on_its_days(item: dict[str, Any], shown: dict[str, Any]) -> dict[str, Any]:
    query = shown.get(item["id"], {}).get("query") or {}
    study = {name: value for name, value in query.items() if name not in item["params"]}
    return {**item, "study": study}
