"""Promise: a new draft from a post that is out has its words and links of its own, to the same pages."""

from typing import Any

import pytest
from django.conf import settings
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.links.actions import Draft, make_link
from dakika_server.links.models import LinkUse, TrackedLink
from dakika_server.measures.testing import fill, make_profile
from dakika_server.plan.models import PlannedPost
from dakika_server.sources.models import Post, Profile
from dakika_server.sources.models.profiles import FROM_FILE

pytestmark = pytest.mark.django_db
AGAIN = "/api/brands/orrery-house/plan/again"


@pytest.fixture
def profile(brand: Brand) -> Profile:
    return make_profile(brand, "commons")


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


def published(profile: Profile, text: str) -> Post:
    """A post that is out."""
    fill(profile, 3)
    post = Post.objects.filter(profile=profile).order_by("pk")[0]
    post.text = text
    post.save(update_fields=["text"])
    return post


def from_file(profile: Profile) -> None:
    profile.external_id = f"{FROM_FILE}{profile.pk}"
    profile.save(update_fields=["external_id"])


def short(link: TrackedLink) -> str:
    return f"{settings.LINKS_ADDRESS}/{link.code}"


def test_its_links_are_made_anew(client: Client, editor: Any, brand: Brand, profile: Profile) -> None:
    old = make_link(editor, brand, Draft(destination="https://orrery.example/night?a=1", name="Night"))
    post = published(profile, f"Come! {short(old)} and again {short(old)}, not https://elsewhere.example/{old.code}")
    answer = client.post(f"{AGAIN}/{post.pk}")
    assert answer.status_code == 201
    version = answer.json()["versions"][0]
    new = TrackedLink.objects.exclude(pk=old.pk).get()
    assert version["link_id"] == new.pk
    assert version["text"] == f"Come! {short(new)} and again {short(new)}, not https://elsewhere.example/{old.code}"
    assert (new.destination, new.name, new.network) == (old.destination, "Night", "commons")
    assert PlannedPost.objects.get().state == "draft"


def test_a_link_that_went_beside_the_text_is_made_anew_too(
    client: Client, editor: Any, brand: Brand, profile: Profile
) -> None:
    beside = make_link(editor, brand, Draft(destination="https://orrery.example/night", name="Night"))
    post = published(profile, "Tonight we open late")
    LinkUse.objects.create(link=beside, post=post)
    version = client.post(f"{AGAIN}/{post.pk}").json()["versions"][0]
    new = TrackedLink.objects.exclude(pk=beside.pk).get()
    assert (version["text"], version["link_id"]) == (f"Tonight we open late\n{short(new)}", new.pk)


def test_a_text_without_links_stays_as_it_is(client: Client, profile: Profile) -> None:
    post = published(profile, "Tonight we open late")
    version = client.post(f"{AGAIN}/{post.pk}").json()["versions"][0]
    assert (version["text"], version["link_id"]) == ("Tonight we open late", None)


def test_a_profile_that_takes_no_posts_gives_its_words_to_those_that_do(
    client: Client, brand: Brand, profile: Profile
) -> None:
    seen = make_profile(brand, "brevi")
    from_file(seen)
    post = published(seen, "Tonight we open late")
    versions = client.post(f"{AGAIN}/{post.pk}").json()["versions"]
    assert [one["profile_id"] for one in versions] == [profile.pk]
    from_file(profile)
    answer = client.post(f"{AGAIN}/{post.pk}")
    assert answer.status_code == 409
    assert "Connect one in Sources" in answer.json()["detail"]


def test_only_ones_own_and_only_by_those_who_may_change(
    client: Client, viewer: Any, stranger: Any, client_of: Any, brand: Brand, profile: Profile
) -> None:
    post = published(profile, "Tonight we open late")
    assert client_of(viewer).post(f"{AGAIN}/{post.pk}").status_code == 403
    assert client_of(stranger).post(f"{AGAIN}/{post.pk}").status_code == 404
    theirs = make_profile(Brand.objects.get(slug="lantern-line"), "commons")
    assert client.post(f"{AGAIN}/{published(theirs, 'x').pk}").status_code == 404
    assert not PlannedPost.objects.exists()
