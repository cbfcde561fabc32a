"""Reads of profiles, runs and imports, always by brand first."""

from datetime import datetime

from django.db.models import Count, Max, OuterRef, QuerySet, Subquery

from dakika_server.sources.models import CollectionRun, Import, PostReading, Profile, ProfileReading


def profiles_of(brand_id: int) -> QuerySet[Profile]:
    """Followed profiles with their last run, number of posts and followers; own ones first."""
    runs = CollectionRun.objects.filter(profile=OuterRef("pk")).order_by("-asked_at")
    done = runs.filter(state="complete").order_by("-ended_at")
    followers = ProfileReading.objects.filter(profile=OuterRef("pk"), followers__isnull=False).order_by("-day")
    return (
        Profile.objects.filter(brand_id=brand_id, is_followed=True)
        .select_related("competitor", "credential")
        .annotate(
            post_count=Count("posts"),
            last_post_at=Max("posts__published_at"),
            followers=Subquery(followers.values("followers")[:1]),
            last_state=Subquery(runs.values("state")[:1]),
            last_message=Subquery(runs.values("message")[:1]),
            last_success_at=Subquery(done.values("ended_at")[:1]),
        )
        .order_by("-kind", "competitor__name", "name", "network")
    )


def runs_of(brand_id: int, limit: int = 60) -> QuerySet[CollectionRun]:
    """The latest runs."""
    return (
        CollectionRun.objects.filter(brand_id=brand_id).select_related("profile").order_by("-asked_at", "-pk")[:limit]
    )


def data_as_of(brand_id: int) -> datetime | None:
    """When the freshest reading of any own profile was taken."""
    latest: datetime | None = ProfileReading.objects.filter(brand_id=brand_id, profile__kind="own").aggregate(
        at=Max("taken_at")
    )["at"]
    return latest


def readings_of(post_id: int) -> QuerySet[PostReading]:
    """A post's readings, oldest first."""
    return PostReading.objects.filter(post_id=post_id).order_by("taken_at").defer("raw")


def imports_of(brand_id: int) -> QuerySet[Import]:
    """Files, the latest first, without their rows."""
    return (
        Import.objects.filter(brand_id=brand_id).exclude(state="discarded").select_related("profile").defer("rows")
        .order_by("-created_at")[:30]
    )  # fmt: skip
