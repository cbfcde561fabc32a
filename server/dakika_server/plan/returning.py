"""Posts that come back with their season: written anew as drafts some days before, year after year."""

import logging
from datetime import date, datetime, timedelta
from typing import Any

from dakika_core.plan.season import Busiest, busiest_weeks, next_time
from dakika_core.values.text import opening_words
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.http import Http404
from rest_framework.exceptions import APIException

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.models import ClickDay, TrackedLink
from dakika_server.notices.actions import notify
from dakika_server.plan.copying import write_again
from dakika_server.plan.models import PlannedPost, SeasonReturn, Version
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import field_errors
from dakika_server.sources.models import Post

log = logging.getLogger(__name__)
MOST_DAYS_BEFORE = 90


def return_of(brand: Brand, post_id: int) -> dict[str, Any]:
    """Whether a post comes back, when next, and its link's busiest weeks of the last year. Raises Http404."""
    post = _post(brand, post_id)
    found = SeasonReturn.objects.filter(post=post).first()
    today = clock.now().astimezone(brand.zone).date()
    busiest = _busiest(post, today)
    return {
        "day": next_time(found.month, found.day, today) if found else None,
        "days_before": found.days_before if found else 14,
        "busiest": vars(busiest) if busiest else None,
    }  # fmt: skip


def set_return(actor: Any, brand: Brand, post_id: int, *, day: date, days_before: int) -> SeasonReturn:
    """Let a post come back every year on a day; a draft waits some days before. Raises Http404, field errors."""
    require(actor, brand, "plan.write")
    post = _post(brand, post_id)
    if not 0 <= days_before <= MOST_DAYS_BEFORE:
        raise field_errors({"days_before": f"At most {MOST_DAYS_BEFORE} days before."})
    with transaction.atomic():
        found, _ = SeasonReturn.objects.update_or_create(
            post=post, defaults={"brand": brand, "month": day.month, "day": day.day, "days_before": days_before,
                                 "set_by": actor},
        )  # fmt: skip
        audit.record(actor, "set_return", found, brand_id=brand.pk, post=post.pk)
    return found


def leave_return(actor: Any, brand: Brand, post_id: int) -> None:
    """It no longer comes back; drafts that were made stay. Raises Http404."""
    require(actor, brand, "plan.write")
    with transaction.atomic():
        found = SeasonReturn.objects.filter(brand=brand, post=post_id).first()
        if found is None:
            raise Http404
        audit.record(actor, "leave_return", found, brand_id=brand.pk, post=post_id)
        found.delete()


def bring_back(now: datetime) -> int:
    """Write drafts of what comes back soon, each once a year; how many were made.

    Who set it writes it. Where they may no longer, or nothing can be published to, those who write are told instead.
    """
    made = 0
    for pk in SeasonReturn.objects.order_by("pk").values_list("pk", flat=True):
        with transaction.atomic():
            found = SeasonReturn.objects.select_for_update(of=("self",)).filter(pk=pk).first()
            if found is not None:
                made += _bring_back(found, now)
    return made


def _bring_back(found: SeasonReturn, now: datetime) -> bool:
    today = now.astimezone(found.brand.zone).date()
    day = next_time(found.month, found.day, today)
    if day - today > timedelta(days=found.days_before) or found.made_for == day:
        return False
    found.made_for = day
    found.save(update_fields=["made_for"])
    words = opening_words(found.post.text, 80) or "A post"
    key, people = f"return-{found.pk}-{day}", [found.set_by_id] if found.set_by_id else None
    try:
        with transaction.atomic():
            if found.set_by is None:
                raise PermissionDenied("Who set it is not here any more.")
            planned = write_again(found.set_by, found.brand, found.post_id)
    except (APIException, PermissionDenied) as error:
        log.warning("post %s could not come back: %s", found.post_id, error)
        told = f"\u201c{words}\u201d was to come back on {day:%d %B}, and could not be written."
        notify(found.brand, kind="plan", permission="plan.write", key=key, text=told, detail=str(error),
               path=f"results/posts/{found.post_id}")  # fmt: skip
        return False
    # At the hour at which it went out.
    hour = found.post.published_at.astimezone(found.brand.zone).time()
    at = datetime.combine(day, hour, tzinfo=found.brand.zone)
    PlannedPost.objects.filter(pk=planned.pk).update(scheduled_at=at, title=f"Back for its season: {words}"[:200])
    Version.objects.filter(planned_post=planned).update(due_at=at)
    notify(found.brand, kind="plan", permission="plan.write", key=key, people=people,
           text=f"\u201c{words}\u201d comes back for its season.", detail=f"A draft waits for {day:%d %B}.",
           path=f"plan/{planned.pk}")  # fmt: skip
    return True


def _post(brand: Brand, post_id: int) -> Post:
    post = Post.objects.filter(brand=brand, profile__kind="own", pk=post_id).first()
    if post is None:
        raise Http404
    return post


def _busiest(post: Post, today: date) -> Busiest | None:
    """Of its links the one whose weeks stand out most."""
    found = []
    for link in TrackedLink.objects.filter(uses__post=post).distinct():
        rows = ClickDay.objects.filter(brand_id=post.brand_id, link_id=link.pk, people__gt=0)
        days = list(rows.order_by("day").values_list("day", "people"))
        made = link.created_at.astimezone(post.brand.zone).date()
        busiest = busiest_weeks(made, today, [day for day, _ in days], [n for _, n in days])
        if busiest is not None:
            found.append(busiest)
    return max(found, key=lambda one: one.times, default=None)
