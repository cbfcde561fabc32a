"""Writing together: what everybody is writing is kept as they write, and whoever opens the same post is told.

In the trade's words: autosave, presence, concurrent editing.
"""

from datetime import timedelta
from typing import Any

from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.plan.models import PlannedPost, Writing
from dakika_server.shared import clock
from dakika_server.shared.errors import Problem

# Whoever said nothing for so long has left.
IS_THERE = timedelta(seconds=45)
KEPT = timedelta(days=30)
LARGEST = 200_000


def keep_writing(actor: Any, brand: Brand, planned: PlannedPost | None, content: dict[str, Any] | None) -> Writing:
    """Keep what somebody is writing; None says that they are looking at it and have not written anything yet.

    Raises Problem for more than anybody writes.
    """
    require(actor, brand, "plan.write")
    if content is not None and len(str(content)) > LARGEST:
        raise Problem("too_much", "This is more than a post can hold.")
    now = clock.now()
    with transaction.atomic():
        kept, _ = Writing.objects.select_for_update().get_or_create(
            person=actor, brand=brand, planned_post=planned, defaults={"content": content or {}, "at": now}
        )
        kept.at = now
        if content is not None:
            kept.content = content
        kept.save(update_fields=["at", "content"])
        Writing.objects.filter(person=actor, brand=brand, at__lt=now - KEPT).delete()
    return kept


def writing_of(actor: Any, brand: Brand, planned: PlannedPost | None) -> Writing | None:
    """What one wrote and did not save, if it is there."""
    found = Writing.objects.filter(person=actor, brand=brand, planned_post=planned).first()
    return found if found is not None and found.content else None


def leave(actor: Any, brand: Brand, planned: PlannedPost | None) -> None:
    """Forget what one was writing: it was saved, or thrown away."""
    Writing.objects.filter(person=actor, brand=brand, planned_post=planned).delete()


def others_at(actor: Any, planned: PlannedPost) -> list[str]:
    """Who else has the post open now."""
    found = Writing.objects.filter(planned_post=planned, at__gt=clock.now() - IS_THERE).exclude(person=actor)
    return [one.person.name or one.person.email for one in found.select_related("person").order_by("person__name")]
