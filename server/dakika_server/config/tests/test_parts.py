"""Promise: a list that grows is read to its end part by part, as each answer's header leads, and nothing of others comes."""

import re
from datetime import timedelta
from typing import Any

import pytest
from django.utils import timezone

from dakika_server.brands.models import Brand
from dakika_server.links.models import ClickDay, TrackedLink
from dakika_server.measures.testing import make_profile
from dakika_server.notices.models import Notification
from dakika_server.plan.models import Batch, Task
from dakika_server.site.models import Conversion, Goal
from dakika_server.sources.models import Comment, Feed, FeedItem, Import, Post

pytestmark = pytest.mark.django_db
NEXT = re.compile(r'<([^>]+)>; rel="next"')
HOME = "/api/brands/orrery-house"
LISTS = {
    "notifications?": ("notifications", Notification), "plan/tasks?mine=false&": ("", Task), "plan/batches?": ("", Batch),
    "sources/imports?": ("", Import), "sources/feeds?": ("items", FeedItem), "site/conversions?": ("conversions", Conversion),
    "links?": ("links", TrackedLink), "sources/posts/{post}/comments?": ("", Comment),
}  # fmt: skip


def rows_in(answer: Any, name: str) -> list[int]:
    assert answer.status_code == 200, answer.content
    told = answer.json()
    return [row["id"] for row in (told[name] if name else told)]


def fill(brand: Brand, person: Any) -> None:
    """Five of each, many of one instant."""
    now = timezone.now()
    goal = Goal.objects.create(brand=brand, name="Ticket", kind=Goal.Kind.PAGE, pattern="*/thanks")
    post = Post.objects.create(
        brand=brand, profile=make_profile(brand), external_id="p", published_at=now - timedelta(days=2), format="text",
        text="x",
    )  # fmt: skip
    feed = Feed.objects.create(brand=brand, address="https://x.example/feed", title="X", added_at=now)
    for i in range(5):
        at, due = now - timedelta(hours=i // 2), now.date() + timedelta(days=i)
        common: dict[str, Any] = {"brand": brand}
        Notification.objects.create(**common, person=person, at=at, key=f"k{i}", kind="task", text="x")
        Task.objects.create(
            **common, text="t", person=person, made_by=person, made_at=now, due_on=None if i % 2 else due
        )
        Batch.objects.create(**common, name=f"b{i}", made_at=at)
        Import.objects.create(**common, file_name=f"f{i}.csv", digest=f"{i}", created_at=at, state="done")
        Comment.objects.create(
            **common, post=post, external_id=f"c{i}", author="a", text="x", written_at=at, seen_at=now
        )
        FeedItem.objects.create(
            **common, feed=feed, guid=f"i{i}", title="x", seen_at=now, published_at=at if i % 2 else None
        )
        Conversion.objects.create(**common, goal=goal, key=f"v{i}", at=at, cents=100, currency="EUR")
        link = TrackedLink.objects.create(
            **common, code=f"{brand.pk}-{i}", name="l", destination="https://x.example/", target="https://x.example/",
            created_at=now,
        )  # fmt: skip
        ClickDay.objects.create(brand_id=brand.pk, link_id=link.pk, day=now.date(), people=i % 2, bots=0, over=0)


@pytest.mark.parametrize("address", LISTS)
def test_the_parts_are_the_whole(address: str, editor: Any, brand: Brand, stranger: Any, client_of: Any) -> None:
    fill(brand, editor)
    fill(Brand.objects.get(slug="lantern-line"), stranger)
    name, model = LISTS[address]
    rows, client = model._default_manager.filter(brand=brand), client_of(editor)
    here = f"{HOME}/{address.format(post=Comment.objects.filter(brand=brand)[0].post_id)}"
    parts = []
    following = f"{here}limit=2"
    while following:
        answer = client.get(following)
        parts.append(rows_in(answer, name))
        told = NEXT.fullmatch(answer.headers.get("Link", ""))
        following = told[1] if told else ""
    assert [len(part) for part in parts] == [2, 2, 1]
    found = [pk for part in parts for pk in part]
    assert sorted(found) == sorted(rows.values_list("pk", flat=True))
    # In the order in which the whole is told, which has no further part.
    whole = client.get(here)
    assert (rows_in(whole, name), "Link" in whole.headers) == (found, False)
    assert client.get(f"{here}cursor=x").status_code == 400
    assert client.get(f"{here}limit=0").status_code == 400
