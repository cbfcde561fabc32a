"""What tests of sources share: a run carried to its end, and the rows it leaves."""

from typing import Any

from dakika_server.shared import clock
from dakika_server.sources.collect import collect
from dakika_server.sources.models import CollectionRun, Comment, Post, PostReading, Profile

MOST_TURNS = 60


def run_to_end(profile: Profile, *, most_turns: int = MOST_TURNS) -> CollectionRun:
    """Carry a run through all its turns, as the worker would, without waiting in between."""
    run = CollectionRun.objects.create(brand=profile.brand, profile=profile, asked_at=clock.now())
    for _ in range(most_turns):
        fresh = CollectionRun.objects.select_related("profile__brand", "profile__credential").get(pk=run.pk)
        if fresh.ended_at is not None or collect(fresh) is None:
            break
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
