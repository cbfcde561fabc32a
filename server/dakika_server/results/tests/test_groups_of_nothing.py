"""Promise: where there is nothing to compare, nothing is compared, and nothing breaks."""

from datetime import UTC, datetime
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import fill, make_profile
from dakika_server.results.groups import GROUPINGS

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


@pytest.mark.parametrize("what", ["summary", "export?what=days", "posts", "spikes?metric=interactions", "groups?by=format",
                                  "posts/totals", "audience", "basis?metric=er_reach", "footing", "posts/top?metric=index"])  # fmt: skip
@pytest.mark.parametrize("narrow", ["network=commons&profile={other}", "profile=987654321", "tag=987654321&format=video",
                                    "language=xx&profile={other}"])  # fmt: skip
def test_a_study_of_nothing_is_empty_and_no_defect(client: Client, brand: Brand, what: str, narrow: str) -> None:
    fill(make_profile(brand, "commons"), 3, start=datetime(2026, 10, 1, 12, tzinfo=UTC))
    other = make_profile(brand, "brevi")
    sign = "&" if "?" in what else "?"
    client.raise_request_exception = False
    query = f"{narrow.format(other=other.pk)}&first=2026-09-28&last=2026-10-25"
    answer = client.get(f"/api/brands/orrery-house/results/{what}{sign}{query}")
    assert answer.status_code in (200, 400, 404), answer.content[:300]
    if answer.streaming:
        b"".join(answer.streaming_content)
