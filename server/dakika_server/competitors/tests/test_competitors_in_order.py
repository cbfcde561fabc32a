"""Promise: competitors are renamed, merged and their profiles moved with everything that hangs on them; two at once lose nothing."""

import threading
from typing import Any

import pytest
from django.db import connection

from dakika_server.brands.models import Brand
from dakika_server.competitors.testing import a_set, other_brand, rival
from dakika_server.measures.testing import fill, make_profile
from dakika_server.sources.actions import merge_competitors
from dakika_server.sources.models import Competitor, Post, Profile

pytestmark = pytest.mark.django_db
HOME = "/api/brands/orrery-house/sources"


def post(client: Any, path: str, values: Any, method: str = "post") -> Any:
    return getattr(client, method)(f"{HOME}/{path}", values, content_type="application/json")


def test_a_name_is_changed_and_one_that_is_taken_asks_to_merge(editor: Any, client_of: Any, brand: Brand) -> None:
    client, one, other = client_of(editor), rival(brand), rival(brand, "Tide Hall")
    done = post(client, f"competitors/{one.competitor_id}", {"name": " Halfmoon  Planetarium "}, "patch")
    assert done.json()["name"] == "Halfmoon Planetarium"
    taken = post(client, f"competitors/{other.competitor_id}", {"name": "halfmoon planetarium"}, "patch")
    assert (taken.status_code, "Merge" in taken.json()["detail"]) == (409, True)
    assert post(client, f"competitors/{other.competitor_id}", {"name": "   "}, "patch").status_code == 400


def test_merging_moves_profiles_posts_and_sets(editor: Any, client_of: Any, brand: Brand) -> None:
    client, one, other = client_of(editor), fill(rival(brand), 3), fill(rival(brand, "Half Moon", "brevi"), 4)
    peers = a_set(brand, make_profile(brand), one)
    Competitor.objects.filter(pk=one.competitor_id).update(website="https://halfmoon.example")
    done = post(client, f"competitors/{one.competitor_id}/merge", {"into": other.competitor_id})
    assert done.json() == {"id": other.competitor_id, "name": "Half Moon", "website": "https://halfmoon.example"}
    assert set(Profile.objects.filter(competitor=other.competitor_id)) == {one, other}
    assert Post.objects.filter(profile__in=[one, other]).count() == 7
    assert peers.profiles.count() == 2
    assert not Competitor.objects.filter(pk=one.competitor_id).exists()
    # Once more, as somebody does who had the list open: it is not there, and nothing is lost.
    assert post(client, f"competitors/{one.competitor_id}/merge", {"into": other.competitor_id}).status_code == 404
    assert post(client, f"competitors/{other.competitor_id}/merge", {"into": other.competitor_id}).status_code == 400


def test_a_profile_moves_and_who_is_left_without_any_is_gone(editor: Any, client_of: Any, brand: Brand) -> None:
    client, one, other = client_of(editor), rival(brand), rival(brand, "Tide Hall")
    first = one.competitor_id
    assert post(client, f"profiles/{one.pk}/move", {"competitor": other.competitor_id}).json()["name"] == "Tide Hall"
    assert not Competitor.objects.filter(pk=first).exists()
    assert post(client, f"profiles/{one.pk}/move", {"name": "A new one"}).json()["name"] == "A new one"
    assert Competitor.objects.filter(brand=brand).count() == 2
    assert post(client, f"profiles/{one.pk}/move", {}).status_code == 400
    assert post(client, f"profiles/{make_profile(brand).pk}/move", {"name": "X"}).status_code == 404


def test_another_brands_competitors_and_profiles_are_not_there(editor: Any, client_of: Any, brand: Brand) -> None:
    client, ours, theirs = client_of(editor), rival(brand), rival(other_brand())
    assert post(client, f"competitors/{theirs.competitor_id}", {"name": "X"}, "patch").status_code == 404
    assert post(client, f"competitors/{ours.competitor_id}/merge", {"into": theirs.competitor_id}).status_code == 404
    assert post(client, f"competitors/{theirs.competitor_id}/merge", {"into": ours.competitor_id}).status_code == 404
    assert post(client, f"profiles/{theirs.pk}/move", {"competitor": ours.competitor_id}).status_code == 404
    assert post(client, f"profiles/{ours.pk}/move", {"competitor": theirs.competitor_id}).status_code == 404
    assert Profile.objects.filter(competitor=theirs.competitor_id).exists()


@pytest.mark.django_db(transaction=True)
def test_two_people_merging_the_same_two_lose_no_profile(editor: Any, brand: Brand) -> None:
    """One merges the first into the second while the other merges the second into the first."""
    one, other = rival(brand), rival(brand, "Half Moon", "brevi")
    gone: list[BaseException] = []
    gate = threading.Barrier(2)

    def merge(first: int, second: int) -> None:
        try:
            gate.wait()
            merge_competitors(editor, brand, competitor_id=first, into=second)
        except Exception as error:  # noqa: BLE001
            gone.append(error)
        finally:
            connection.close()

    pair = (one.competitor_id, other.competitor_id)
    threads = [threading.Thread(target=merge, args=args) for args in (pair, pair[::-1])]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    assert len(gone) == 1, "the second finds one of them gone"
    assert Profile.objects.filter(brand=brand, kind="competitor").count() == 2
    assert Competitor.objects.filter(brand=brand).count() == 1
