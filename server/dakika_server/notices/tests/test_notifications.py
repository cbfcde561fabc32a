"""Promise: everybody who may is told once, reads their own, and nobody reads another's."""

from typing import Any

import pytest

from dakika_server.brands.models import Brand, Membership
from dakika_server.notices.actions import notify
from dakika_server.notices.models import Notification

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/notifications"


def test_each_is_told_once_and_guests_are_not(brand: Brand, editor: Any, viewer: Any, stranger: Any) -> None:
    Membership.objects.create(user=stranger, brand=brand, role="guest")
    assert notify(brand, kind="task", key="a", text="One") == 2
    assert notify(brand, kind="task", key="a", text="One, again") == 0
    assert {*Notification.objects.values_list("person__email", flat=True)} == {editor.email, viewer.email}


def test_one_reads_ones_own_alone(brand: Brand, editor: Any, viewer: Any, stranger: Any, client_of: Any) -> None:
    for number in range(3):
        notify(brand, kind="task", key=str(number), text=f"No {number}", path="results/findings")
    mine, theirs = client_of(viewer), client_of(editor)
    told = mine.get(PATH).json()
    assert told["unread"] == 3
    assert [one["text"] for one in told["notifications"]] == ["No 2", "No 1", "No 0"]
    others = Notification.objects.filter(person=editor).values_list("pk", flat=True)
    answer = mine.post(PATH, {"ids": [told["notifications"][0]["id"], *others]}, content_type="application/json")
    assert answer.json()["unread"] == 2
    assert theirs.get(PATH).json()["unread"] == 3
    assert mine.post(PATH, {}, content_type="application/json").json()["unread"] == 0
    assert client_of(stranger).get(PATH).status_code == 404
    assert mine.post(PATH, {"ids": ["x"]}, content_type="application/json").status_code == 400


def test_the_list_takes_the_same_queries_however_long(
    brand: Brand, viewer: Any, client_of: Any, django_assert_num_queries: Any
) -> None:
    client = client_of(viewer)
    counts = []
    for number in range(40):
        notify(brand, kind="task", key=str(number), text="x")
        if number in (0, 39):
            from django.db import connection
            from django.test.utils import CaptureQueriesContext

            with CaptureQueriesContext(connection) as asked:
                client.get(PATH)
            counts.append(len(asked))
    assert counts[0] == counts[1]
