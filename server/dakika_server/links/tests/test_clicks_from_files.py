"""Promise: clicks from a file belong to tracked links, come once, and can be taken out again."""

from datetime import UTC, datetime
from typing import Any

import pytest
from django.utils import timezone

from dakika_server.brands.models import Brand
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


def test_a_key_says_which_click_it_is_however_roughly_its_instant_is_told(
    editor: Any, client_of: Any, brand: Any
) -> None:
    link = TrackedLink.objects.create(
        brand=brand, code="abc", name="x", destination="x", target="x", created_at=timezone.now()
    )
    key = "0191e3a1-0000-7000-8000-000000000001"
    Click.objects.create(
        brand=brand, link=link, key=key, at=datetime(2026, 10, 1, 10, 0, 0, 123_456, UTC), device="phone",
        visitor=b"0" * 16,
    )  # fmt: skip
    rows = f"clicked at,short link,click id\n2026-10-01T10:00Z,abc,{key}\n2026-10-01T10:01Z,abc,{key[:-1]}2\n"
    done = brought(client_of(editor), rows + rows.splitlines()[-1].replace("10:01", "10:02"))
    assert done.added == 1
    assert [*Click.objects.order_by("at").values_list("at__minute", flat=True)] == [0, 1]


def test_a_file_of_another_brand_keeps_no_click_of_ours_away(editor: Any, client_of: Any, brand: Any) -> None:
    """Keys of clicks stand in addresses for everybody to see."""
    theirs = Brand.objects.create(name="Elsewhere", slug="elsewhere", time_zone="Europe/Lisbon")
    for owner in (brand, theirs):
        TrackedLink.objects.create(
            brand=owner, code=owner.slug, name="x", destination="x", target="x", created_at=timezone.now()
        )
    key, at = "0191e3a1-0000-7000-8000-000000000001", datetime(2026, 10, 1, 10, tzinfo=UTC)
    Click.objects.create(
        brand=theirs, link=TrackedLink.objects.get(brand=theirs), key=key, at=at, device="phone", visitor=b"0" * 16
    )
    rows = f"clicked at,short link,click id\n2026-10-01T10:00Z,{brand.slug},{key}\n"
    assert brought(client_of(editor), rows).added == 1
