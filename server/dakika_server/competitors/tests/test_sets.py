"""Promise: sets are the brand's own, nobody writes over a colleague's change, and a digest ends by one click."""

from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.competitors.models import DigestReader
from dakika_server.competitors.testing import HOME, a_set, other_brand, rival
from dakika_server.measures.testing import make_profile
from dakika_server.sources.models import PeerSet

pytestmark = pytest.mark.django_db
SETS, DIGEST = f"{HOME}/sets", f"{HOME}/digest"


def post(client: Client, path: str, values: Any, method: str = "post") -> Any:
    return getattr(client, method)(path, values, content_type="application/json")


def test_a_set_is_made_changed_and_removed(editor: Any, client_of: Any, brand: Brand) -> None:
    client = client_of(editor)
    us, them, more = make_profile(brand), rival(brand), rival(brand, "Tide Hall")
    made = post(client, SETS, {"name": "  Museums  ", "profiles": [us.pk, them.pk]}).json()
    assert (made["name"], made["profiles"]) == ("Museums", sorted([us.pk, them.pk]))
    changed = post(client, f"{SETS}/{made['id']}",
                   {"name": "All museums", "profiles": [us.pk, them.pk, more.pk], "edition": 1}, "put")  # fmt: skip
    assert (changed.status_code, changed.json()["edition"]) == (200, 2)
    # A colleague who still looks at the first edition changes nothing unseen.
    late = post(client, f"{SETS}/{made['id']}", {"name": "X", "profiles": [us.pk, them.pk], "edition": 1}, "put")
    assert late.status_code == 409
    assert [s["name"] for s in client.get(SETS).json()["sets"]] == ["All museums"]
    assert client.delete(f"{SETS}/{made['id']}").status_code == 204
    assert client.get(SETS).json()["sets"] == []


@pytest.mark.parametrize("name", ["", "   ", "x" * 81])
def test_a_name_is_due(editor: Any, client_of: Any, brand: Brand, name: str) -> None:
    answer = post(client_of(editor), SETS, {"name": name, "profiles": [make_profile(brand).pk, rival(brand).pk]})
    assert answer.status_code == 400
    assert "name" in answer.json()["errors"]


def test_names_are_taken_whatever_their_case_and_profiles_are_the_brands_own(
    editor: Any, client_of: Any, brand: Brand
) -> None:
    client, us, them = client_of(editor), make_profile(brand), rival(brand)
    a_set(brand, us, them)
    assert "name" in post(client, SETS, {"name": "MUSEUMS", "profiles": [us.pk, them.pk]}).json()["errors"]
    stranger = rival(other_brand())
    assert "profiles" in post(client, SETS, {"name": "Y", "profiles": [us.pk, stranger.pk]}).json()["errors"]
    assert "profiles" in post(client, SETS, {"name": "Y", "profiles": [us.pk]}).json()["errors"]
    assert PeerSet.objects.count() == 1


def test_sets_of_another_brand_are_not_there(editor: Any, client_of: Any, brand: Brand) -> None:
    client, us = client_of(editor), make_profile(brand)
    theirs = a_set(other_brand(), us)
    values = {"name": "Z", "profiles": [us.pk, rival(brand).pk]}
    assert post(client, f"{SETS}/{theirs.pk}", values, "put").status_code == 404
    assert client.delete(f"{SETS}/{theirs.pk}").status_code == 404
    assert post(client, DIGEST, {"set": theirs.pk}, "put").status_code == 400


def test_viewers_read_a_digest_and_make_no_set(viewer: Any, client_of: Any, brand: Brand) -> None:
    client, us, them = client_of(viewer), make_profile(brand), rival(brand)
    assert post(client, SETS, {"name": "Y", "profiles": [us.pk, them.pk]}).status_code == 403
    viewer.email = "viewer@ninthbell.example"
    viewer.save()
    assert post(client, DIGEST, {}, "put").status_code == 204
    assert client.get(SETS).json()["digests"] == [0]
    assert client.delete(DIGEST).status_code == 204
    assert client.get(SETS).json()["digests"] == []


def test_a_digest_ends_by_one_post_without_signing_in_and_by_no_mere_look(
    editor: Any, client: Client, brand: Brand
) -> None:
    """RFC 8058: a POST to the address of the header, nothing asked, no way round by another page."""
    reader = DigestReader.objects.create(brand=brand, person=editor, since="2026-10-01T00:00Z")
    address = f"/api/digests/stop/{reader.token}"
    assert b"<form" in client.get(address).content
    assert DigestReader.objects.exists(), "scanners of mail open addresses by themselves"
    strict = Client(enforce_csrf_checks=True)
    done = strict.post(address, "List-Unsubscribe=One-Click", content_type="application/x-www-form-urlencoded")
    assert (done.status_code, b"no longer sent" in done.content) == (200, True)
    assert not DigestReader.objects.exists()
    again = strict.post(address)
    assert (again.status_code, b"ended already" in again.content) == (200, True)
    assert strict.post("/api/digests/stop/nonsense").status_code == 200
    assert strict.put(address).status_code == 405
