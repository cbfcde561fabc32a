"""A pause for everything, or for one profile: nothing goes out until somebody ends it.

In the trade's words: kill switch, emergency stop.
"""

from typing import Any

from dakika_core.plan.states import State
from django.db import transaction
from django.db.models import Exists, OuterRef, Q, QuerySet

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.plan.models import Pause, PlannedPost, Version
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Profile


def is_paused(profile: Profile) -> bool:
    """Whether nothing goes out there for now."""
    return Pause.objects.filter(Q(profile=None) | Q(profile=profile), brand_id=profile.brand_id).exists()


def not_paused(versions: QuerySet[Version]) -> QuerySet[Version]:
    """Those that no pause holds back; what is on its way already is never held."""
    held = Pause.objects.filter(Q(profile=None) | Q(profile=OuterRef("profile")), brand=OuterRef("profile__brand"))
    return versions.exclude(Q(state=State.SCHEDULED.value) & Exists(held))


def waiting_in(pause: Pause) -> QuerySet[Version]:
    """What is set to go out there, the soonest first."""
    found = Version.objects.filter(profile__brand_id=pause.brand_id, state=State.SCHEDULED.value)
    if pause.profile_id:
        found = found.filter(profile_id=pause.profile_id)
    return found.select_related("planned_post", "profile__brand").order_by("due_at", "pk")


def begin_pause(actor: Any, brand: Brand, *, profile_id: int | None, why: str) -> Pause:
    """Let nothing out any more, of the brand or of a profile; one that is there already stays as it is."""
    require(actor, brand, "plan.publish")
    profile = Profile.objects.filter(brand=brand, kind="own", pk=profile_id).first() if profile_id else None
    if profile_id and profile is None:
        raise field_errors({"profile": "There is no such profile of yours."})
    with transaction.atomic():
        pause, is_new = Pause.objects.get_or_create(
            brand=brand, profile=profile, defaults={"why": why.strip(), "begun_at": clock.now(), "begun_by": actor}
        )
        if is_new:
            audit.record(actor, "begin_pause", pause, brand_id=brand.pk, profile=profile_id)
    return pause


def end_pause(actor: Any, brand: Brand, *, profile_id: int | None, send_overdue: bool) -> int:
    """Let things out again. What had its minute meanwhile is sent now if asked for, else it is missed; how many it was.

    What still waits in another pause stays there.
    """
    require(actor, brand, "plan.publish")
    with transaction.atomic():
        pause = Pause.objects.select_for_update().filter(brand=brand, profile=profile_id).first()
        if pause is None:
            return 0
        now, overdue = clock.now(), 0
        waiting = waiting_in(pause).filter(due_at__lte=now)
        pause.delete()
        for version in waiting:
            # The post's row before its versions', as everywhere.
            PlannedPost.objects.select_for_update().get(pk=version.planned_post_id)
            if is_paused(version.profile):
                continue
            overdue += 1
            if send_overdue:
                version.due_at = now
                version.save(update_fields=["due_at"])
                ask("plan.publish", version_id=version.pk)
            else:
                _miss(version)
        audit.record(
            actor, "end_pause", brand, brand_id=brand.pk, profile=profile_id, overdue=overdue, sent=send_overdue
        )
    return overdue


def _miss(version: Version) -> None:
    version.state, version.remedy = State.MISSED.value, Version.Remedy.LATER
    version.error = "Its time passed in a pause. Send it now, or choose a new time."
    version.save(update_fields=["state", "error", "remedy"])
    planned = PlannedPost.objects.select_for_update().get(pk=version.planned_post_id)
    planned.settle()
    planned.save(update_fields=["state"])
