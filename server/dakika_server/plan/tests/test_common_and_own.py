"""Promise: a post is written once; what is common reaches every version that has nothing of its own, links and all."""

from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.test import Client

from dakika_server.brands.models import Brand
from dakika_server.links.actions import Draft, make_link
from dakika_server.links.serializers.making import short_address
from dakika_server.measures.testing import make_profile
from dakika_server.media.testing import brought, picture, video
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.shared import clock
from dakika_server.sources.models import Profile

pytestmark = [pytest.mark.django_db, pytest.mark.usefixtures("media_folder")]
BASE = "/api/brands/orrery-house/plan"
JSON = "application/json"
PAGE = "https://orrery.example/tickets"


@pytest.fixture
def client(editor: Any, client_of: Any) -> Client:
    found: Client = client_of(editor)
    return found


@pytest.fixture
def profiles(brand: Brand) -> dict[str, Profile]:
    return {name: make_profile(brand, name) for name in ("commons", "brevi", "pictor", "corkboard")}


def body(common: dict[str, Any], *versions: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"title": "Night", "common": common, "versions": list(versions), **more}


def write(client: Client, *args: Any, **more: Any) -> Any:
    return client.post(BASE, body(*args, **more), content_type=JSON)


def of(told: dict[str, Any], network: str) -> dict[str, Any]:
    return next(one for one in told["versions"] if one["network"] == network)


def test_common_words_reach_all_and_own_words_stay(client: Client, profiles: dict[str, Profile]) -> None:
    ids = {name: profile.pk for name, profile in profiles.items()}
    made = write(
        client, {"text": "Tonight"}, {"profile_id": ids["commons"]}, {"profile_id": ids["brevi"], "text": "Short"}
    ).json()
    assert (made["text"], of(made, "commons")["text"], of(made, "brevi")["text"]) == ("Tonight", "Tonight", "Short")
    assert (of(made, "commons")["own"], of(made, "brevi")["own"]) == ([], ["text"])
    changed = client.put(
        f"{BASE}/{made['id']}",
        body(
            {"text": "Tomorrow"}, {"profile_id": ids["commons"]}, {"profile_id": ids["brevi"], "text": "Short"},
            edition=made["edition"],
        ),
        content_type=JSON,
    ).json()  # fmt: skip
    assert (of(changed, "commons")["text"], of(changed, "brevi")["text"]) == ("Tomorrow", "Short")
    # What is the same as the common words is not its own.
    again = client.put(
        f"{BASE}/{made['id']}",
        body({"text": "Short"}, {"profile_id": ids["brevi"], "text": "Short"}, edition=changed["edition"]),
        content_type=JSON,
    ).json()
    assert of(again, "brevi")["own"] == []


def test_each_version_has_its_own_link_in_the_same_words(
    client: Client, profiles: dict[str, Profile], editor: Any, brand: Brand
) -> None:
    links = {
        name: make_link(editor, brand, Draft(destination=PAGE, profile_id=profiles[name].pk))
        for name in ("commons", "brevi")
    }
    made = write(
        client, {"text": f"Come: {PAGE}"},
        *({"profile_id": profiles[name].pk, "link_id": link.pk} for name, link in links.items()),
    ).json()  # fmt: skip
    assert made["text"] == f"Come: {PAGE}"
    for name, link in links.items():
        assert of(made, name)["text"] == f"Come: {short_address(link)}"
        assert of(made, name)["own"] == []
        assert of(made, name)["link"] == {"id": link.pk, "short": short_address(link), "destination": PAGE}


def test_pictures_titles_first_comments_and_boards_are_checked_by_each_network(
    client: Client, profiles: dict[str, Profile], editor: Any, brand: Brand
) -> None:
    wide = brought(editor, brand, picture(900, 300), "wide.jpg")
    film = brought(editor, brand, video(), "film.mp4")
    ids = {name: profile.pk for name, profile in profiles.items()}

    def check(common: dict[str, Any], **own: Any) -> dict[int, set[str]]:
        versions = [{"profile_id": pk, **own} for pk in ids.values()]
        told = client.post(f"{BASE}/check", {"common": common, "versions": versions}, content_type=JSON).json()
        return {one["profile_id"]: {p["code"] for p in one["problems"]} for one in told}

    bare = check({"text": "x"})
    assert "needs_media" in bare[ids["pictor"]]
    assert {"needs_media", "needs_title", "needs_option"} <= bare[ids["corkboard"]]
    seen = check({"text": "x", "media": [wide.pk], "headline": "A clock", "first_comment": "more"})
    assert seen[ids["pictor"]] == {"is_cut", "no_words"}
    assert seen[ids["brevi"]] == {"no_words", "no_first_comment"}
    assert "no_videos" in check({"text": "x", "media": [film.pk]})[ids["brevi"]]
    assert "no_links" in check({"text": f"See {PAGE}", "media": [wide.pk]})[ids["pictor"]]


def test_what_its_network_would_refuse_is_not_scheduled(
    client: Client, profiles: dict[str, Profile], editor: Any, brand: Brand
) -> None:
    made = write(client, {"text": "x"}, {"profile_id": profiles["pictor"].pk}).json()
    at = (clock.now() + timedelta(days=1)).isoformat()
    asked = {"scheduled_at": at, "edition": made["edition"]}
    refused = client.post(f"{BASE}/{made['id']}/schedule", asked, content_type=JSON)
    assert "wants a picture or a video" in refused.json()["detail"]
    asset = brought(editor, brand, picture(800, 800))
    changed = client.put(
        f"{BASE}/{made['id']}",
        body(
            {"text": "x", "media": [asset.pk]}, {"profile_id": profiles["pictor"].pk}, edition=made["edition"]
        ),
        content_type=JSON,
    ).json()  # fmt: skip
    asked["edition"] = changed["edition"]
    assert client.post(f"{BASE}/{made['id']}/schedule", asked, content_type=JSON).status_code == 200


@pytest.mark.parametrize("media", [[999_999], [1, 1], list(range(1, 22)), ["x"], [-1]])
def test_files_that_are_not_there_or_not_ours_are_refused(
    media: list[Any], client: Client, profiles: dict[str, Profile]
) -> None:
    told = write(client, {"text": "x", "media": media}, {"profile_id": profiles["commons"].pk})
    assert told.status_code == 400


def test_another_brands_file_is_not_found(client: Client, profiles: dict[str, Profile], editor: Any) -> None:
    other = Brand.objects.create(name="Other", slug="other", time_zone="UTC")
    from dakika_server.brands.models import Membership

    Membership.objects.create(user=editor, brand=other, role="admin")
    theirs = brought(editor, other, picture(9, 9))
    told = write(client, {"text": "x", "media": [theirs.pk]}, {"profile_id": profiles["commons"].pk})
    assert told.status_code == 400
    assert "not there any more" in told.json()["detail"]


def test_a_version_with_a_time_of_its_own_moves_along(client: Client, profiles: dict[str, Profile]) -> None:
    noon = clock.now().replace(microsecond=0) + timedelta(days=2)
    made = write(
        client, {"text": "x"}, {"profile_id": profiles["commons"].pk},
        {"profile_id": profiles["brevi"].pk, "scheduled_at": (noon + timedelta(hours=3)).isoformat()},
        scheduled_at=noon.isoformat(),
    ).json()  # fmt: skip
    assert (of(made, "commons")["own"], of(made, "brevi")["own"]) == ([], ["time"])
    moved = client.post(
        f"{BASE}/{made['id']}/move",
        {"scheduled_at": (noon + timedelta(days=1)).isoformat(), "edition": made["edition"]}, content_type=JSON,
    )  # fmt: skip
    assert moved.status_code == 200
    due = dict(Version.objects.values_list("profile__network", "due_at"))
    assert due == {"commons": noon + timedelta(days=1), "brevi": noon + timedelta(days=1, hours=3)}


def test_now_is_after_the_grace_and_can_be_taken_back(client: Client, profiles: dict[str, Profile]) -> None:
    made = write(client, {"text": "x"}, {"profile_id": profiles["commons"].pk}).json()
    asked = {"scheduled_at": None, "edition": made["edition"], "grace": 300}
    done = client.post(f"{BASE}/{made['id']}/schedule", asked, content_type=JSON).json()
    left = PlannedPost.objects.get(pk=made["id"]).scheduled_at - clock.now()  # type: ignore[operator]
    assert timedelta(seconds=280) < left <= timedelta(seconds=300)
    assert done["state"] == "scheduled"
    assert client.delete(f"{BASE}/{made['id']}/schedule").json()["state"] == "draft"


def test_a_file_in_use_is_not_taken_away_but_replaced_where_nothing_went_out(
    client: Client, profiles: dict[str, Profile], editor: Any, brand: Brand, media_folder: Path
) -> None:
    old, new = (brought(editor, brand, picture(n, n), f"{n}.jpg") for n in (20, 30))
    film = brought(editor, brand, video())
    made = write(
        client, {"text": "x", "media": [old.pk]}, {"profile_id": profiles["commons"].pk},
        {"profile_id": profiles["pictor"].pk, "media": [new.pk, old.pk]},
    ).json()  # fmt: skip
    gone = Version.objects.create(
        planned_post=PlannedPost.objects.create(brand=brand, created_at=clock.now(), state="published",
                                                scheduled_at=clock.now(), media=[old.pk]),
        profile=profiles["brevi"], state="published", media=[old.pk],
    )  # fmt: skip
    media = "/api/brands/orrery-house/media"
    assert client.delete(f"{media}/{old.pk}").status_code == 409
    uses = client.get(f"{media}/{old.pk}/uses").json()
    assert {one["path"] for one in uses} == {f"plan/{made['id']}", f"plan/{gone.planned_post_id}"}
    assert client.post(f"{media}/{old.pk}/replace", {"by": film.pk}, content_type=JSON).status_code == 409
    assert client.post(f"{media}/{old.pk}/replace", {"by": new.pk}, content_type=JSON).json() == {"posts": 1}
    told = client.get(f"{BASE}/{made['id']}").json()
    assert (told["media"], of(told, "pictor")["media"]) == ([new.pk], [new.pk])
    gone.refresh_from_db()
    assert gone.media == [old.pk], "what went out stands"
