"""Promise: the first steps are told in order with what each gives, and each is done by what it brings, of this brand alone."""

from typing import Any

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from dakika_server.accounts.permissions import permissions_of
from dakika_server.brands.models import Brand
from dakika_server.links.models import TrackedLink
from dakika_server.measures.testing import make_profile
from dakika_server.site.models import Visit
from dakika_server.sources.models import Import, Profile
from dakika_server.sources.models.profiles import FROM_FILE

pytestmark = pytest.mark.django_db
PATH = "/api/brands/orrery-house/first-steps"


def done(client: Any) -> dict[str, bool]:
    return {step["key"]: step["is_done"] for step in client.get(PATH).json()}


def visit(brand: Brand) -> None:
    now = timezone.now()
    Visit.objects.create(brand=brand, visitor=b"0" * 16, started_at=now, ended_at=now, pages=1, channel="direct")


def test_each_is_done_by_what_it_brings(editor: Any, brand: Brand, client_of: Any) -> None:
    client = client_of(editor)
    assert done(client) == {"file": False, "profile": False, "link": False, "site": False}
    # What another brand has is nothing of ours.
    other = Brand.objects.create(name="Half Moon", slug="half-moon", time_zone="UTC")
    make_profile(other, "brevi")
    visit(other)
    assert not any(done(client).values())
    # Nor is a profile that came with a file one that is followed.
    Profile.objects.create(
        brand=brand, network="brevi", external_id=f"{FROM_FILE}x", handle="x", name="x", kind="own", added_at=timezone.now()
    )  # fmt: skip
    assert not done(client)["profile"]
    make_profile(brand, "commons")
    assert done(client)["profile"]
    visit(brand)
    assert done(client)["site"]
    assert not done(client)["link"]


def test_who_may_do_them_is_a_permission_that_there_is_and_the_path_leads_within_the_brand(
    viewer: Any, brand: Brand, client_of: Any
) -> None:
    every = client_of(viewer).get(PATH).json()
    assert len({step["key"] for step in every}) == 4
    known = permissions_of("admin")
    for step in every:
        assert step["permission"] in known
        assert not step["path"].startswith("/")
        assert step["gives"].endswith(".")


def test_it_is_a_question_of_existence_each(editor: Any, brand: Brand, client_of: Any) -> None:
    client = client_of(editor)
    client.get(PATH)
    with CaptureQueriesContext(connection) as captured:
        client.get(PATH)
    asked = [one["sql"] for one in captured if "LIMIT 1" in one["sql"]]
    assert len(captured) < 12
    assert sum(model._meta.db_table in sql for model in (Import, Visit, TrackedLink) for sql in asked) == 3
