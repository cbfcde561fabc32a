"""Things that somebody is to do, about a post, a campaign, or by themselves."""

from datetime import date
from typing import Any

from django.db import transaction
from django.db.models import F, QuerySet
from django.http import Http404

from dakika_server.brands.models import Brand, Campaign, Membership
from dakika_server.brands.permissions import require
from dakika_server.notices.actions import notify
from dakika_server.plan.models import PlannedPost, Task
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors

MOST_OPEN = 20_000


def tasks_of(
    brand: Brand, *, person: int | None = None, planned: int | None = None, is_done: bool = False
) -> QuerySet[Task]:
    """Tasks of a brand, those that are due first, undated ones last."""
    found = Task.objects.filter(brand=brand, done_at__isnull=not is_done)
    if person is not None:
        found = found.filter(person=person)
    if planned is not None:
        found = found.filter(planned_post=planned)
    return found.select_related("planned_post", "campaign", "person", "made_by").order_by(
        F("due_on").asc(nulls_last=True), "pk"
    )


def add_task(
    actor: Any, brand: Brand, *, text: str, person_id: int, due_on: date | None = None, planned_id: int | None = None,
    campaign_id: int | None = None,
) -> Task:  # fmt: skip
    """Give somebody of the brand something to do. Raises field errors for people, posts and campaigns of elsewhere."""
    require(actor, brand, "plan.write")
    text = " ".join(text.replace("\x00", "").split())[:300]
    if not text:
        raise field_errors({"text": "Write what is to be done."})
    if not Membership.objects.filter(brand=brand, user=person_id).exists():
        raise field_errors({"person": "This person does not work for the brand."})
    if planned_id and not PlannedPost.objects.filter(brand=brand, pk=planned_id).exists():
        raise field_errors({"planned": "There is no such post."})
    if campaign_id and not Campaign.objects.filter(brand=brand, pk=campaign_id).exists():
        raise field_errors({"campaign": "There is no such campaign."})
    if Task.objects.filter(brand=brand, done_at__isnull=True).count() >= MOST_OPEN:
        raise Conflict("too_many_tasks", "There is very much to be done already.")
    with transaction.atomic():
        made = Task.objects.create(
            brand=brand, text=text, person_id=person_id, due_on=due_on, planned_post_id=planned_id,
            campaign_id=campaign_id, made_by=actor, made_at=clock.now(),
        )  # fmt: skip
        audit.record(actor, "add_task", made, brand_id=brand.pk)
        if person_id != actor.pk:
            notify(
                brand, kind="task", text=f"{actor.name or 'A colleague'} gave you something to do.", detail=text,
                path=f"plan/{planned_id}" if planned_id else "plan/tasks", key=f"task-{made.pk}", people=[person_id],
            )  # fmt: skip
    return made


def finish_task(actor: Any, brand: Brand, pk: int, *, is_done: bool) -> Task:
    """Done, or to be done after all. Raises Http404."""
    require(actor, brand, "plan.read")
    with transaction.atomic():
        found = Task.objects.select_for_update().filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        if found.person_id != actor.pk:
            require(actor, brand, "plan.write")
        found.done_at = clock.now() if is_done else None
        found.save(update_fields=["done_at"])
        audit.record(actor, "finish_task", found, brand_id=brand.pk, done=is_done)
    return found


def remove_task(actor: Any, brand: Brand, pk: int) -> None:
    """Take a task away. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = Task.objects.filter(brand=brand, pk=pk).first()
        if found is None:
            raise Http404
        audit.record(actor, "remove_task", found, brand_id=brand.pk, text=found.text)
        found.delete()
