"""Reads of the plan."""

from collections.abc import Sequence
from datetime import datetime

from dakika_core.plan.states import State
from django.db.models import Prefetch, QuerySet

from dakika_server.media.models import Asset
from dakika_server.plan.content import format_of
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.sources.models import Profile
from dakika_server.timing.planned import Planned

WAITING = (State.DRAFT.value, State.SCHEDULED.value, State.PUBLISHING.value)


def planned_posts(brand_id: int) -> QuerySet[PlannedPost]:
    """Planned posts with their versions; two queries."""
    versions = Version.objects.select_related("profile", "link").order_by("pk")
    return (
        PlannedPost.objects.filter(brand_id=brand_id)
        .select_related("campaign", "link")
        .prefetch_related(Prefetch("versions", queryset=versions))
        .order_by("scheduled_at", "pk")
    )


def planned_between(brand_id: int, start: datetime, end: datetime) -> QuerySet[PlannedPost]:
    """Planned posts with a time in [start, end)."""
    return planned_posts(brand_id).filter(scheduled_at__gte=start, scheduled_at__lt=end)


def unscheduled(brand_id: int) -> QuerySet[PlannedPost]:
    """Drafts without a time, the latest first."""
    return planned_posts(brand_id).filter(scheduled_at__isnull=True).order_by("-pk")


def times_of(profile: Profile, now: datetime) -> list[datetime]:
    """Instants after `now` at which something is planned for the profile."""
    found = Version.objects.filter(profile=profile, state__in=WAITING, due_at__gt=now)
    return [at for at in found.values_list("due_at", flat=True) if at is not None]


def planned_of(profiles: Sequence[int], start: datetime, end: datetime) -> list[Planned]:
    """What is planned on some profiles in [start, end), for the strips of timing."""
    found = list(
        Version.objects.filter(profile__in=profiles, state__in=WAITING, due_at__gte=start, due_at__lt=end)
        .select_related("planned_post", "profile")
    )  # fmt: skip
    files = {number for version in found for number in version.media}
    kinds = dict(Asset.objects.filter(pk__in=files).values_list("pk", "kind")) if files else {}
    return [
        Planned(
            id=version.planned_post_id, profile_id=version.profile_id, at=version.due_at,
            title=(version.planned_post.title or version.text)[:80], edition=version.planned_post.edition,
            state=version.planned_post.state, campaign_id=version.planned_post.campaign_id,
            tags=frozenset(version.planned_post.tags),
            format=format_of(
                version.profile.network, [kinds[number] for number in version.media if number in kinds],
                has_link=version.link_id is not None or "http" in version.text,
            ).value,
        )
        for version in found
        if version.due_at is not None
    ]  # fmt: skip
