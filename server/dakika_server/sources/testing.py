"""What tests of sources share: a run carried to its end, a file brought in, and the rows they leave."""

from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from dakika_server.shared import clock
from dakika_server.sources.collect import collect
from dakika_server.sources.files.looking import look_into
from dakika_server.sources.files.reading import read_into
from dakika_server.sources.files.undoing import take_out
from dakika_server.sources.models import CollectionRun, Comment, Import, Post, PostReading, Profile
from dakika_server.sources.rebuilding import is_waiting, rebuild

FILES = "/api/brands/orrery-house/sources/imports"
INTO = {"new_profile": "Old page", "network": "commons"}

MOST_TURNS = 60


def run_to_end(profile: Profile, *, most_turns: int = MOST_TURNS) -> CollectionRun:
    """Carry a run through all its turns, and work out what follows, as the worker would, without waiting in between."""
    run = CollectionRun.objects.create(brand=profile.brand, profile=profile, asked_at=clock.now())
    for _ in range(most_turns):
        fresh = CollectionRun.objects.select_related("profile__brand", "profile__credential").get(pk=run.pk)
        if fresh.ended_at is not None or collect(fresh) is None:
            break
    if is_waiting().filter(profile=profile).exists():
        rebuild(profile.pk)
    run.refresh_from_db()
    return run


def rows_of(profile: Profile) -> dict[str, Any]:
    """Everything of a profile that must be the same however it came: posts, comments, the last counters."""
    posts = Post.objects.filter(profile=profile)
    comments = Comment.objects.filter(post__profile=profile, removed_at=None)
    last = {
        r.post.external_id: r
        for r in PostReading.objects.filter(post__profile=profile).select_related("post").order_by("taken_at")
    }
    return {
        "posts": sorted(posts.values_list("external_id", "text", "format", "removed_at")),
        "comments": sorted(comments.values_list("external_id", "text")),
        "counted": sorted(last),
    }  # fmt: skip


def upload(client: Any, content: bytes | str, name: str = "posts.csv") -> Any:
    """Send a file and have it looked into, as interface and worker do. What cannot be read is refused either way."""
    data = content.encode() if isinstance(content, str) else content
    return looked_into(client, client.post(FILES, {"file": SimpleUploadedFile(name, data)}))


def settle(client: Any, number: int, **told: Any) -> Any:
    """Say something of a file, and have it looked into again where that needs it."""
    return looked_into(client, client.put(f"{FILES}/{number}", told, content_type="application/json"))


def looked_into(client: Any, answer: Any) -> Any:
    """The answer once a worker has looked into the file; a refusal by the worker as one of the server."""
    if answer.status_code not in (200, 201) or answer.json()["item"]["state"] != "looking":
        return answer
    number = answer.json()["item"]["id"]
    look_into(number)
    after = client.get(f"{FILES}/{number}")
    if message := after.json()["item"]["message"]:
        after.status_code, after._json = 400, {"detail": message}
    else:
        after.status_code = answer.status_code
    return after


def bring_in(client: Any, number: int, **where: Any) -> Import:
    """Confirm a file, read it to its end and work out what follows, as the worker would."""
    answer = client.post(f"{FILES}/{number}", where or INTO, content_type="application/json")
    assert answer.status_code == 202, answer.content
    read_into(number)
    return worked_out(number)


def taken_out(client: Any, number: int) -> Import:
    """Undo a file and work out what follows, as the worker would."""
    answer = client.post(f"{FILES}/{number}/undo")
    assert answer.status_code == 202, answer.content
    take_out(number)
    return worked_out(number)


def worked_out(number: int) -> Import:
    """Work out the figures of the profiles that a file touched."""
    item = Import.objects.get(pk=number)
    for profile_id in item.profiles_touched:
        rebuild(profile_id)
    return item


def brought(client: Any, content: bytes | str, name: str = "posts.csv", **where: Any) -> Import:
    """Send a file and bring it in."""
    return bring_in(client, upload(client, content, name).json()["item"]["id"], **where)
