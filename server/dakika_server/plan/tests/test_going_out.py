"""Promise: files and first comments go out with a post, a pause holds everything, and nothing is late without asking."""

from datetime import timedelta
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.jobs.forgotten import take_up_forgotten
from dakika_server.media.testing import brought, picture
from dakika_server.notices.models import Notification
from dakika_server.plan.actions import save_planned_post, schedule_post
from dakika_server.plan.content import Common, VersionInput
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.publish import STILL_WORTH_SENDING, bring_ahead, publish_version, say_first
from dakika_server.shared import clock
from dakika_server.sources.models import Post

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def planned(editor: Any, brand: Brand, own_profile: Any) -> PlannedPost:
    """A wide picture with a first comment, for a network that wants other shapes."""
    asset = brought(editor, brand, picture(900, 300))
    return save_planned_post(
        editor, brand, title="A clock", common=Common(text="It strikes", media=(asset.pk,), first_comment="Tickets inside"),
        versions=[VersionInput(profile_id=own_profile("pictor").pk)],
    )  # fmt: skip


def only(planned: PlannedPost) -> Version:
    return planned.versions.select_related("profile").get()


def test_a_picture_goes_out_cut_to_the_networks_shape_and_brought_ahead(
    planned: PlannedPost, editor: Any, world: Any
) -> None:
    schedule_post(editor, planned, at=clock.now() + timedelta(hours=1))
    bring_ahead(only(planned).pk)
    before = set(world.state.data["uploads"])
    assert len(before) >= 1
    Version.objects.update(due_at=clock.now())
    publish_version(only(planned).pk)
    assert set(world.state.data["uploads"]) == before, "the same bytes are the same file there"
    version = only(planned)
    assert (version.state, version.first_comment_state) == ("published", "waiting")
    assert Post.objects.get(version=version).format == "image"
    assert world.state.sent_posts[-1].format == "image"


def test_a_first_comment_that_failed_says_so_and_is_tried_alone(
    planned: PlannedPost, editor: Any, world: Any, client: Client
) -> None:
    schedule_post(editor, planned)
    publish_version(only(planned).pk)
    sent = len(world.state.data["sent"])
    world.faults(pictor__no_remarks=1)
    say_first(only(planned).pk)
    version = only(planned)
    assert (version.state, version.first_comment_state) == ("published", "failed")
    (told,) = client.get(f"{BASE}/going-out").json()["to_settle"]
    assert (told["is_first_comment"], told["id"]) == (True, version.pk)
    assert Notification.objects.filter(kind="publishing", path=f"plan/{planned.pk}").exists()
    world.faults(pictor__no_remarks=0)
    again = client.post(f"{BASE}/versions/{version.pk}/settle", {"what": "say_again"}, content_type=JSON)
    assert again.json()["to_settle"] == []
    for _ in range(2):
        say_first(version.pk)
    assert only(planned).first_comment_state == "done"
    assert len(world.state.data["sent"]) == sent, "the post itself is not sent again"
    assert [one["text"] for one in world.state.data["remarks"][version.external_id or only(planned).external_id].values()] == [
        "Tickets inside"
    ]  # fmt: skip


def test_nothing_is_late_without_asking_and_can_then_be_sent(
    planned: PlannedPost, editor: Any, world: Any, client: Client
) -> None:
    schedule_post(editor, planned)
    Version.objects.update(due_at=clock.now() - STILL_WORTH_SENDING - timedelta(seconds=5))
    before = len(world.state.data["sent"])
    publish_version(only(planned).pk)
    (told,) = client.get(f"{BASE}/going-out").json()["to_settle"]
    assert (told["state"], told["remedy"]) == ("missed", "later")
    assert len(world.state.data["sent"]) == before
    assert Notification.objects.filter(kind="publishing").exists()
    settled = client.post(f"{BASE}/versions/{told['id']}/settle", {"what": "send"}, content_type=JSON)
    assert settled.json()["to_settle"] == []
    publish_version(told["id"])
    assert only(planned).state == "published"
    twice = client.post(f"{BASE}/versions/{told['id']}/settle", {"what": "send"}, content_type=JSON)
    assert twice.status_code == 409, "somebody settled it"


@pytest.mark.parametrize("of_profile", [False, True])
@pytest.mark.parametrize("send", [False, True])
def test_a_pause_holds_back_and_whoever_ends_it_says_what_becomes_of_the_rest(
    of_profile: bool, send: bool, planned: PlannedPost, editor: Any, world: Any, client: Client
) -> None:
    profile = only(planned).profile_id if of_profile else None
    told = client.post(f"{BASE}/pauses", {"profile": profile, "why": "A fire next door"}, content_type=JSON).json()
    assert told["pauses"][0]["why"] == "A fire next door"
    schedule_post(editor, planned)
    before = len(world.state.data["sent"])
    publish_version(only(planned).pk)
    take_up_forgotten()
    assert (only(planned).state, len(world.state.data["sent"])) == ("scheduled", before)
    assert client.get(f"{BASE}/going-out").json()["pauses"][0]["waiting"] == 1
    ended = client.put(f"{BASE}/pauses", {"profile": profile, "send_overdue": send}, content_type=JSON)
    assert ended.json() == {"overdue": 1}
    publish_version(only(planned).pk)
    assert only(planned).state == ("published" if send else "missed")
    planned.refresh_from_db()
    assert planned.state == only(planned).state


def test_a_pause_of_another_profile_or_brand_holds_nothing(
    planned: PlannedPost, editor: Any, world: Any, client: Client, own_profile: Any
) -> None:
    client.post(f"{BASE}/pauses", {"profile": own_profile("commons").pk}, content_type=JSON)
    other = Brand.objects.create(name="Other", slug="other", time_zone="UTC")
    from dakika_server.plan.models import Pause

    Pause.objects.create(brand=other, begun_at=clock.now())
    schedule_post(editor, planned)
    publish_version(only(planned).pk)
    assert only(planned).state == "published"


def test_an_authorisation_that_lapses_between_upload_and_publishing_says_what_to_do(
    planned: PlannedPost, editor: Any, world: Any, client: Client
) -> None:
    schedule_post(editor, planned)
    world.faults(pictor__lapses=1)
    publish_version(only(planned).pk)
    (told,) = client.get(f"{BASE}/going-out").json()["to_settle"]
    assert (told["state"], told["remedy"]) == ("failed", "authorise")
    assert "Renew" in told["error"]


def test_a_channel_of_ones_own_is_reminded_of_and_published_by_hand(editor: Any, brand: Brand, client: Client) -> None:
    made = client.post(f"{BASE}/channels", {"name": "The notice board"}, content_type=JSON)
    assert made.status_code == 201
    assert client.post(f"{BASE}/channels", {"name": "the notice  board"}, content_type=JSON).status_code == 400
    planned = save_planned_post(
        editor, brand, title="Poster", versions=[VersionInput(profile_id=made.json()["id"], text="Open late")]
    )
    schedule_post(editor, planned)
    publish_version(only(planned).pk)
    assert only(planned).state == "by_hand"
    assert Notification.objects.filter(kind="publishing", text__contains="by hand").exists()
    address = "https://board.example/7"
    out = client.post(f"{BASE}/versions/{only(planned).pk}/by-hand", {"address": address}, content_type=JSON).json()
    assert (out["state"], out["versions"][0]["state"]) == ("published", "published")
    assert Post.objects.get(version=only(planned)).url == address
    again = client.post(f"{BASE}/versions/{only(planned).pk}/by-hand", {"address": address}, content_type=JSON)
    assert again.status_code == 409


def test_what_is_connected_is_not_published_by_hand(planned: PlannedPost, editor: Any, client: Client) -> None:
    schedule_post(editor, planned)
    told = client.post(f"{BASE}/versions/{only(planned).pk}/by-hand", {}, content_type=JSON)
    assert told.status_code == 409


@pytest.mark.parametrize("path", ["going-out", "pauses", "channels", "versions/1/settle", "versions/1/by-hand"])
def test_viewers_settle_nothing(path: str, viewer: Any, client_of: Any) -> None:
    told = client_of(viewer).post(f"{BASE}/{path}", {"what": "leave", "name": "x"}, content_type=JSON)
    assert told.status_code in (403, 405)
