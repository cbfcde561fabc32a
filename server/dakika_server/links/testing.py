"""What tests of links share: links, and clicks on them at hours that can be counted by hand."""

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from dakika_server.brands.models import Brand
from dakika_server.links.models import Click, TrackedLink

START = datetime(2026, 10, 5, 9, tzinfo=UTC)  # a Monday, ten o'clock in Lisbon


def a_link(brand: Brand, code: str, **values: Any) -> TrackedLink:
    """A link that was made at the start."""
    page = f"https://orrery.example/{code}"
    return TrackedLink.objects.create(
        brand=brand, code=code, name=code, destination=page, target=page, created_at=START, **values
    )


def click(link: TrackedLink, hours: float, count: int = 1, **values: Any) -> None:
    """Clicks of as many people, so many hours after the start."""
    values = {"device": "phone", "referrer": "brevi.example", "country": "PT", "bot_reason": ""} | values
    Click.objects.bulk_create(
        Click(
            brand_id=link.brand_id,
            link=link,
            key=uuid.uuid4(),
            at=START + timedelta(hours=hours),
            visitor=uuid.uuid4().bytes,
            **values,
        )
        for _ in range(count)
    )
