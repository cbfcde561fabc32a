"""Promise: whatever is read of a brand takes the same queries however much there is: never one for each row."""

import random
from typing import Any

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from upgrades.asking import PERIOD, PLAIN, STUDIED, TABLES

from figures.test_registry import ASKED

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house"
KINDS = [f"/figures/{key}?{'&'.join(f'{k}={v}' for k, v in every[0].items())}" for key, every in ASKED.items()]


def addresses() -> list[str]:
    with connection.cursor() as cursor:
        keys = {}
        for name, table in TABLES.items():
            cursor.execute(f"SELECT min(id) FROM {table}")
            keys[name] = cursor.fetchone()[0]
    paths = [*PLAIN, *STUDIED, *KINDS, "/studies", "/notifications", "/figures"]
    return [f"{path}{'&' if '?' in path else '?'}{PERIOD}".format(**keys) for path in paths]


def counts(client: Client, paths: list[str]) -> dict[str, int]:
    found = {}
    for path in paths:
        client.get(f"{HOME}{path}")  # what is remembered for the next time is remembered now
        with CaptureQueriesContext(connection) as asked:
            answer = client.get(f"{HOME}{path}")
            answer.getvalue()
        assert answer.status_code == 200, (path, answer.getvalue()[:300])
        found[path] = len(asked)
    return found


def more_of_everything(brand: Any) -> None:
    """Some more of each thing that a list shows."""
    from datetime import UTC, date, datetime

    from dakika_server.brands.models import Campaign
    from dakika_server.links.models import TrackedLink
    from dakika_server.notices.actions import notify
    from dakika_server.results.models import PostTag, Tag
    from dakika_server.site.models import Conversion, Goal
    from dakika_server.sources.models import Feed, Import, Post
    from upgrades.make import give_profile

    rng, at = random.Random(3), datetime(2026, 10, 20, tzinfo=UTC)
    days = {"first_day": date(2026, 9, 1), "last_day": date(2026, 12, 1)}
    campaigns = [Campaign.objects.create(brand=brand, name=f"More {i}", **days) for i in range(6)]
    tags = [Tag.objects.create(brand=brand, name=f"more {i}", colour=1) for i in range(6)]
    give_profile(rng, brand, "vignette", campaigns, None)
    for post in Post.objects.filter(brand=brand, profile__network="vignette"):
        PostTag.objects.create(tag=rng.choice(tags), post=post)
    page = "https://orrery.example/more"
    for i in range(9):
        TrackedLink.objects.create(
            brand=brand, code=f"more{i}", name=f"More {i}", destination=page, target=page, created_at=at,
            network="brevi", campaign=rng.choice(campaigns),
        )  # fmt: skip
        notify(brand, kind="task", key=str(i), text="More")
        Conversion.objects.create(
            brand=brand, goal=Goal.objects.filter(brand=brand).earliest("pk"), key=f"more {i}", at=at, cents=100
        )
        Feed.objects.create(brand=brand, address=f"{page}/{i}.xml", title=f"More {i}", added_at=at, next_at=at)
        Import.objects.create(brand=brand, created_at=at, file_name=f"{i}.csv", digest=str(i), state="done")


def test_more_rows_take_no_more_queries(world: Any) -> None:
    from dakika_server.accounts.models import User

    client = Client()
    client.force_login(User.objects.earliest("pk"), backend="django.contrib.auth.backends.ModelBackend")
    paths = addresses()
    before = counts(client, paths)
    more_of_everything(world)
    after = counts(client, paths)
    grown = {path: (before[path], after[path]) for path in paths if after[path] > before[path]}
    assert not grown
    assert len(client.get(f"{HOME}/links?{PERIOD}").json()["links"]) == 17, "there is more of what is listed"
    most = {path: count for path, count in after.items() if count > 60}
    assert not most, "so many are too many for one screen"
