"""Promise: conversions from a file belong to goals, come once with their currency, and can be taken out again."""

from typing import Any

import pytest

from dakika_server.site.models import Conversion, Goal
from dakika_server.sources.files.undoing import take_out
from dakika_server.sources.testing import brought, upload

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/sources/imports"


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


def test_amounts_keep_their_currencies_and_refunds_lower_the_value(editor: Any, client_of: Any, brand: Any) -> None:
    Goal.objects.create(brand=brand, name="Order", kind="import", cents=900, currency="EUR")
    client = client_of(editor)
    rows = (
        "order number;goal;order date;revenue\n"
        "A-1;Order;2026-10-01T10:00Z;€ 12,50\n"
        "A-2;Order;2026-10-01T11:00Z;$ 9.99\n"
        "A-3;Order;2026-10-01T12:00Z;£9\n"
        "A-4;Order;2026-10-02T12:00Z;(4,00)\n"
        "A-5;Order;2026-10-02T13:00Z;7 USD\n"
        "A-6;Order;2026-10-02T14:00Z;a lot\n"
    )
    done = brought(client, rows)
    assert (done.added, done.refused) == (6, 0)
    kept = {c.key: (c.cents, c.currency) for c in Conversion.objects.all()}
    assert kept == {
        "A-1": (1250, "EUR"), "A-2": (999, "USD"), "A-3": (900, "GBP"), "A-4": (-400, "EUR"), "A-5": (700, "USD"),
        "A-6": (900, "EUR"),
    }  # fmt: skip
    told = [note["message"] for note in done.notes]
    assert any("is no amount of money" in note for note in told)
    assert any("amounts in USD are kept apart" in note for note in told)
    found = client.get("/api/brands/orrery-house/site/attribution?first=2026-10-01&last=2026-10-31").json()
    assert (found["conversions"], found["cents"], found["currency"]) == (6, 1250 - 400 + 900, "EUR")
    assert {(o["currency"], o["cents"], o["conversions"]) for o in found["other_currencies"]} == {
        ("USD", 1699, 2), ("GBP", 900, 1),
    }  # fmt: skip
    # Whatever the model, all of the value is given away: a refund too.
    for model in found["models"]:
        assert sum(row["cents"][model] for row in found["rows"]) == found["cents"], model


def test_a_column_of_currencies_and_a_currency_in_the_head_count(editor: Any, client_of: Any, brand: Any) -> None:
    Goal.objects.create(brand=brand, name="Order", kind="import", cents=0, currency="EUR")
    client = client_of(editor)
    brought(client, "order number,goal,date,revenue,currency\nB-1,Order,2026-10-01T10:00Z,5,brl\n")
    brought(client, "order number,goal,date,revenue (CHF)\nB-2,Order,2026-10-01T10:00Z,5\n")
    assert dict(Conversion.objects.values_list("key", "currency")) == {"B-1": "BRL", "B-2": "CHF"}
