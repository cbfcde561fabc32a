"""Reads of profiles, runs, comments and imports, always by brand first."""

from datetime import datetime
from typing import Any

from django.db.models import Count, IntegerField, Max, OuterRef, QuerySet, Subquery
from django.db.models.functions import Coalesce

from dakika_server.sources.models import (
    AudienceReading,
    CollectionRun,
    Comment,
    Feed,
    FeedItem,
    Import,
    Post,
    PostReading,
    Profile,
    ProfileReading,
    ProfileRebuild,
)


def profiles_of(brand_id: int) -> QuerySet[Profile]:
    """Followed profiles with their last run, number of posts and followers; own ones first."""
    runs = CollectionRun.objects.filter(profile=OuterRef("pk")).order_by("-asked_at")
    done = runs.filter(state="complete").order_by("-asked_at")
    followers = ProfileReading.objects.filter(profile=OuterRef("pk"), followers__isnull=False).order_by("-day")
    posts = Post.objects.filter(profile=OuterRef("pk")).order_by().values("profile")
    newest = Post.objects.filter(profile=OuterRef("pk")).order_by("-published_at")
    return (
        Profile.objects.filter(brand_id=brand_id, is_followed=True)
        .select_related("competitor", "credential")
        .annotate(
            post_count=Coalesce(Subquery(posts.annotate(n=Count("*")).values("n"), output_field=IntegerField()), 0),
            # The end of an index, rather than the largest of all rows.
            last_post_at=Subquery(newest.values("published_at")[:1]),
            followers=Subquery(followers.values("followers")[:1]),
            last_state=Subquery(runs.exclude(ended_at=None).values("state")[:1]),
            last_message=Subquery(runs.exclude(ended_at=None).values("message")[:1]),
            last_missing=Subquery(runs.exclude(ended_at=None).values("missing")[:1]),
            last_success_at=Subquery(done.values("ended_at")[:1]),
        )
        .order_by("-kind", "competitor__name", "name", "network")
    )


def runs_of(brand_id: int, limit: int = 60, profile_id: int | None = None) -> QuerySet[CollectionRun]:
    """The latest runs, of all or one profile; those that are open first."""
    runs = CollectionRun.objects.filter(brand_id=brand_id)
    if profile_id is not None:
        runs = runs.filter(profile=profile_id)
    return runs.select_related("profile").order_by("-asked_at", "-pk")[:limit]


def data_as_of(brand_id: int) -> datetime | None:
    """When the freshest reading of any own profile was taken."""
    # Of each profile the last day, by the index: days before it were read before it.
    newest = ProfileReading.objects.filter(profile=OuterRef("pk")).order_by("-day").values("taken_at")[:1]
    own = Profile.objects.filter(brand_id=brand_id, kind=Profile.Kind.OWN)
    latest: datetime | None = own.annotate(read_at=Subquery(newest)).aggregate(at=Max("read_at"))["at"]
    return latest


def readings_of(post_id: int) -> QuerySet[PostReading]:
    """A post's readings, oldest first."""
    return PostReading.objects.filter(post_id=post_id).order_by("taken_at").defer("raw")


def comments_of(brand_id: int, *, post_id: int | None = None, profile_id: int | None = None) -> QuerySet[Comment]:
    """Comments, the newest first."""
    found = Comment.objects.filter(brand_id=brand_id).select_related("post")
    if post_id is not None:
        found = found.filter(post=post_id)
    if profile_id is not None:
        found = found.filter(post__profile=profile_id)
    return found.order_by("-written_at")


def audience_of(profile_id: int) -> dict[str, list[AudienceReading]]:
    """A profile's audience readings by dimension, oldest first."""
    found: dict[str, list[AudienceReading]] = {}
    for reading in AudienceReading.objects.filter(profile=profile_id).order_by("dimension", "day"):
        found.setdefault(reading.dimension, []).append(reading)
    return found


def follower_days_of(profile_id: int, days: int = 90) -> list[dict[str, Any]]:
    """The last days' followers, gained and lost, oldest first."""
    rows = (
        ProfileReading.objects.filter(profile=profile_id).order_by("-day").values("day", "followers", "gained", "lost")
    )
    return [dict(row) for row in rows[:days]][::-1]


def imports_of(brand_id: int) -> QuerySet[Import]:
    """Files, the latest first, without their samples."""
    return (
        Import.objects.filter(brand_id=brand_id).exclude(state="discarded").select_related("profile")
        .defer("sample", "header", "spread", "notes", "sample_rows")
        .order_by("-created_at", "-pk")
    )  # fmt: skip


def rebuild_of(item: Import) -> dict[str, Any] | None:
    """How far the figures are that follow from a file's rows: posts worked out, of how many; None when all stand."""
    rows = [row for row in ProfileRebuild.objects.filter(profile__in=item.profiles_touched) if row.is_open]
    if not rows or item.state not in ("done", "failed", "undone"):
        return None
    return {
        "done": sum(row.done for row in rows), "total": sum(row.total for row in rows),
        "is_waiting": all(row.begun_at is None or row.begun_at < row.asked_at for row in rows),
    }  # fmt: skip


def feeds_of(brand_id: int) -> QuerySet[Feed]:
    """Followed feeds with the number of their items."""
    found = Feed.objects.filter(brand_id=brand_id, is_followed=True)
    return found.annotate(item_count=Count("items"), newest_at=Max("items__published_at")).order_by("title")


def items_of(brand_id: int, *, feed_id: int | None = None) -> QuerySet[FeedItem]:
    """Items of all feeds or one, the newest first; shown_at is when each came out, or was seen where nobody says."""
    found = FeedItem.objects.filter(brand_id=brand_id, feed__is_followed=True).select_related("feed")
    if feed_id is not None:
        found = found.filter(feed=feed_id)
    return found.annotate(shown_at=Coalesce("published_at", "seen_at")).order_by("-shown_at", "-pk")
