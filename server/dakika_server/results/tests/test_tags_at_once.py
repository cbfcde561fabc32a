"""Promise: two people at the same tags at once get an answer that says so, and never a defect; no post loses its tags."""

import threading
from collections.abc import Callable
from typing import Any

import pytest
from django.db import connection
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import fill, make_profile
from dakika_server.results.models import PostTag, Tag
from dakika_server.sources.models import Post

pytestmark = pytest.mark.django_db(transaction=True)
BASE = "/api/brands/orrery-house/results/tags"
JSON = "application/json"


def at_once(*asked: Callable[[], Any]) -> list[Any]:
    """What each was answered, all begun at the same instant, each on a connection of its own."""
    answers: list[Any] = [None] * len(asked)
    start = threading.Barrier(len(asked))

    def ask(place: int, what: Callable[[], Any]) -> None:
        start.wait()
        try:
            answers[place] = what()
        finally:
            connection.close()

    threads = [threading.Thread(target=ask, args=(i, what)) for i, what in enumerate(asked)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return answers


@pytest.mark.parametrize("round_", range(3))
def test_merging_deleting_and_putting_on_at_once(round_: int, editor: Any, client_of: Any, brand: Brand) -> None:
    from datetime import UTC, datetime

    fill(make_profile(brand, "commons"), 8, start=datetime(2026, 10, 1, 12, tzinfo=UTC))
    posts = list(Post.objects.values_list("pk", flat=True))
    tags = [Tag.objects.create(brand=brand, name=f"tag {n}", colour=1) for n in range(4)]
    PostTag.objects.bulk_create([PostTag(post_id=pk, tag=tag) for pk in posts for tag in tags])
    a, b, c, d = (tag.pk for tag in tags)

    def client() -> Client:
        found: Client = client_of(editor)
        found.raise_request_exception = False
        return found

    clients = [client() for _ in range(8)]
    told = at_once(
        lambda: clients[0].post(f"{BASE}/{a}/merge", {"into": b}, content_type=JSON),
        lambda: clients[1].post(f"{BASE}/{b}/merge", {"into": a}, content_type=JSON),
        lambda: clients[2].post(f"{BASE}/{a}/merge", {"into": c}, content_type=JSON),
        lambda: clients[3].delete(f"{BASE}/{c}"),
        lambda: clients[4].delete(f"{BASE}/{c}"),
        lambda: clients[5].post(
            "/api/brands/orrery-house/results/posts/tags", {"posts": posts, "add": ["tag 2"]}, content_type=JSON
        ),
        lambda: clients[6].post(f"{BASE}/{c}/rules", {"kind": "text", "value": "post"}, content_type=JSON),
        lambda: clients[7].put(f"{BASE}/{b}", {"name": "another", "colour": 2}, content_type=JSON),
    )
    codes = [answer.status_code for answer in told]
    assert all(code in (200, 201, 204, 404, 409) for code in codes), [
        (answer.status_code, answer.content[:200]) for answer in told if answer.status_code >= 500
    ]
    assert Tag.objects.filter(pk=d).exists()
    assert PostTag.objects.filter(tag_id=d, is_off=False).count() == len(posts)
