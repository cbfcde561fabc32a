"""Promise: clicks from a file belong to tracked links, come once, and can be taken out again."""

from typing import Any

import pytest
from django.utils import timezone

from dakika_server.links.models import Click, TrackedLink
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


def test_a_longer_export_of_the_same_clicks_adds_only_what_is_new(editor: Any, client_of: Any, brand: Any) -> None:
    TrackedLink.objects.create(
        brand=brand, code="abc", name="x", destination="x", target="x", created_at=timezone.now()
    )
    client = client_of(editor)
    head = "clicked at,short link,referrer,device\n"
    # Two clicks of the same second from the same page are two: nothing but their number tells them apart.
    rows = "2026-10-01T10:00Z,abc,,phone\n" * 2 + "2026-10-01T10:05Z,abc,,phone\n"
    assert brought(client, head + rows).added == 3
    longer = brought(client, head + "2026-10-02T09:00Z,abc,,phone\n" + rows + "2026-10-01T10:00Z,abc,,phone\n")
    assert longer.added == 2
    assert Click.objects.count() == 5
