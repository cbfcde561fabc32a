"""What follows from a profile's new rows, collected or brought, is worked out by a job of its own.

Collecting never waits for figures, nor figures for a network; people see how far it is.

In the trade's words: rebuild, backfill, recalculation.
"""

from collections.abc import Iterable
from datetime import timedelta

from django.db import transaction
from django.db.models import F, Q, QuerySet

from dakika_server.jobs.asking import ask
from dakika_server.shared import clock
from dakika_server.shared.hooks import Hook
from dakika_server.sources.models import Profile, ProfileRebuild

FORGOTTEN_AFTER = timedelta(seconds=20)
# Areas above bring up to date what they work out of a profile: measures, tags, uses of links.
collected: Hook[[Profile], None] = Hook("a profile was collected")


def request_rebuild(profile: Profile, *, is_large: bool = False) -> None:
    """Ask for a profile's figures to be worked out anew. Asked twice, it is done once after the last wish."""
    now = clock.now()
    with transaction.atomic():
        ProfileRebuild.objects.update_or_create(
            profile=profile, defaults={"asked_at": now, "done": 0, "total": 0}, create_defaults={
                "brand_id": profile.brand_id, "asked_at": now}
        )  # fmt: skip
        ask("sources.rebuild_profile", queue="bulk" if is_large else "measure", profile_id=profile.pk)


def rebuild(profile_id: int) -> None:
    """Work it out. Broken off, the job comes again and begins anew; what was asked meanwhile comes after."""
    profile = Profile.objects.select_related("brand").filter(pk=profile_id).first()
    if profile is None:
        return
    begun = clock.now()
    ProfileRebuild.objects.filter(profile=profile).update(begun_at=begun)
    collected(profile)
    ProfileRebuild.objects.filter(profile=profile).update(ended_at=begun)


def is_waiting() -> QuerySet[ProfileRebuild]:
    """What was asked for and is not there yet."""
    return ProfileRebuild.objects.filter(Q(ended_at__isnull=True) | Q(ended_at__lt=F("asked_at")))


def waiting_profiles() -> Iterable[int]:
    """Profiles whose figures were asked for a while ago and are not there yet."""
    return is_waiting().filter(asked_at__lt=clock.now() - FORGOTTEN_AFTER).values_list("profile_id", flat=True)


def report(profile_id: int, done: int, total: int) -> None:
    """Tell how far the work is, for those who wait."""
    ProfileRebuild.objects.filter(profile_id=profile_id).update(done=done, total=total)
