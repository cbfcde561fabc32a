"""Promise: where there is nothing to compare, nothing is compared, and nothing breaks."""

from datetime import UTC, datetime
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.results.groups import GROUPINGS
from dakika_server.results.testing import fill, make_profile

pytestmark = pytest.mark.django_db


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.mark.parametrize("by", GROUPINGS)
@pytest.mark.parametrize("has_posts", [False, True])
def test_groups_with_nothing_in_them_are_empty(client: Client, brand: Brand, by: str, has_posts: bool) -> None:
    if has_posts:
        fill(make_profile(brand, "commons"), 3, start=datetime(2026, 10, 1, 12, tzinfo=UTC))
    answer = client.get(f"/api/brands/orrery-house/results/groups?by={by}&first=2026-09-28&last=2026-10-25")
    assert answer.status_code == 200, answer.content[:300]
    if not has_posts or by in ("tag", "hashtag"):
        assert answer.json()["groups"] == []
