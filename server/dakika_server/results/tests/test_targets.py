"""Promise: a target is followed from where it began, by the same figure as everywhere, and a brand's is its own."""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.measures.testing import fill, make_profile
from dakika_server.results.models import Target
from dakika_server.shared import clock

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/results/targets"


def aim(client: Client, **values: Any) -> Any:
    by = (clock.now() + timedelta(days=100)).date().isoformat()
    return client.post(HOME, {"metric": "posts_per_week", "value": 10, "by": by} | values,
                       content_type="application/json")  # fmt: skip


def test_it_is_followed_from_where_it_began(editor: Any, client_of: Any, brand: Brand) -> None:
    client = client_of(editor)
    fill(make_profile(brand), 28, start=clock.now() - timedelta(days=28), days=28)
    made = aim(client, why="To pass Tide Hall").json()
    (target,) = made
    assert (target["name"], target["why"], target["days_left"]) == ("Posts per week", "To pass Tide Hall", 100)
    assert target["start"] == target["now"]["value"]
    assert target["way"] == 0
    assert not target["is_reached"]
    # Of the same metric a new one takes the place of the old.
    again = aim(client, value=1).json()
    assert len(again) == 1
    # Aiming below where one is: reached when one is there.
    assert not again[0]["is_reached"]
    assert client.delete(f"{HOME}/{again[0]['id']}").status_code == 204
    assert client.get(HOME).json() == []


@pytest.mark.parametrize("wrong", [{"metric": "nonsense"}, {"by": "2001-01-01"}, {"by": "2999-01-01"}, {"value": "many"},
                                   {"value": "NaN"}, {"value": 1e300}, {"profiles": [2**62]}])  # fmt: skip
def test_what_cannot_be_aimed_at_is_refused(editor: Any, client_of: Any, brand: Brand, wrong: Any) -> None:
    assert aim(client_of(editor), **wrong).status_code == 400
    assert not Target.objects.exists()


def test_other_brands_targets_are_not_there(editor: Any, client_of: Any, brand: Brand) -> None:
    other = Brand.objects.create(name="Elsewhere", slug="elsewhere", time_zone="UTC")
    theirs = Target.objects.create(brand=other, metric="followers", value=5, by="2027-01-01",
                                   made_at=clock.now())  # fmt: skip
    client = client_of(editor)
    assert client.get(HOME).json() == []
    assert client.delete(f"{HOME}/{theirs.pk}").status_code == 404
    assert aim(client, profiles=[make_profile(theirs.brand).pk]).status_code == 400


def test_a_metric_that_is_gone_is_said_and_its_target_can_be_dropped(editor: Any, client_of: Any, brand: Brand) -> None:
    client = client_of(editor)
    Target.objects.create(brand=brand, metric="own_gone", value=5, by="2999-01-01", made_at=clock.now())
    (target,) = client.get(HOME).json()
    assert "is gone" in target["name"]
    assert client.delete(f"{HOME}/{target['id']}").status_code == 204


def test_profiles_that_are_gone_leave_the_target_without_a_figure(editor: Any, client_of: Any, brand: Brand) -> None:
    client, profile = client_of(editor), make_profile(brand)
    assert aim(client, profiles=[profile.pk]).status_code == 201
    profile.delete()
    (target,) = client.get(HOME).json()
    assert (target["now"]["value"], target["way"]) == (None, None)
