"""Promise: clicks from a file belong to tracked links, come once, and can be taken out again."""

from typing import Any

import pytest
from django.utils import timezone

from dakika_server.links.models import Click, Conversion, Goal, TrackedLink
from dakika_server.sources.files.undoing import take_out
from dakika_server.sources.testing import brought, upload

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/sources/imports"


def test_clicks_belong_to_tracked_links(editor: Any, client_of: Any, brand: Any) -> None:
    TrackedLink.objects.create(
        brand=brand, code="abc", name="x", destination="x", target="x", created_at=timezone.now()
    )
    client = client_of(editor)
    rows = (
        "clicked at,short link,referrer,device,bot\n"
        "2026-10-01T10:00Z,https://x.example/l/abc,https://commons.example/a,phone,no\n"
        "2026-10-01T10:00Z,abc,,computer,yes\n"
        "2026-10-01T11:00Z,nope,,,\n"
    )
    assert upload(client, rows).json()["item"]["kind"] == "clicks"
    done = brought(client, rows)
    assert (done.added, done.refused) == (2, 1)
    assert Click.objects.filter(bot_reason="").get().referrer == "commons.example"
    assert brought(client, rows).added == 0
    client.post(f"{PATH}/{done.pk}/undo")
    take_out(done.pk)
    assert not Click.objects.exists()


def test_conversions_belong_to_goals_come_once_and_can_be_taken_out(editor: Any, client_of: Any, brand: Any) -> None:
    Goal.objects.create(brand=brand, name="Order", kind="import", cents=900)
    client = client_of(editor)
    rows = (
        "order number;goal;order date;revenue;customer;stage\n"
        "A-1;Order;2026-10-01T10:00Z;€ 12,50;no. 17;lead\n"
        "A-2;order;2026-10-01T11:00Z;;;\n"
        "A-3;Nothing;2026-10-01T12:00Z;3;;\n"
        "A-4;Order;2026-10-01T12:00Z;-3;;\n"
    )
    assert upload(client, rows).json()["item"]["kind"] == "conversions"
    done = brought(client, rows)
    assert (done.added, done.refused) == (3, 1)
    found = dict(Conversion.objects.values_list("key", "cents"))
    assert found == {"A-1": 1250, "A-2": 900, "A-4": -300}
    told = {note["message"] for note in done.notes}
    assert "rows without an amount are worth what their goal is worth" in told
    assert "amounts below nought are refunds: they lower the value" in told
    assert Conversion.objects.get(key="A-1").stage == "lead"
    assert brought(client, rows).added == 0
    client.post(f"{PATH}/{done.pk}/undo")
    take_out(done.pk)
    assert not Conversion.objects.exists()
