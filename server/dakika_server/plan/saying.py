"""Asking for a yes, saying it, and looking after what waits for one."""

from datetime import datetime, timedelta
from typing import Any

from dakika_core.plan.review import may_say
from dakika_core.plan.states import State, may_become
from django.core.exceptions import PermissionDenied
from django.db import transaction

from dakika_server.brands.permissions import can, require
from dakika_server.notices.actions import notify
from dakika_server.plan.actions import enqueue, require_newest, require_publishable, schedule_post
from dakika_server.plan.models import PlannedPost, ReviewRules, ReviewVerdict
from dakika_server.plan.publish import miss
from dakika_server.plan.reviewing import (
    MOST_REMIND_HOURS,
    SENT,
    Teller,
    ask_for,
    called,
    digest_of_post,
    people_for,
    put_into,
    rules_of_brand,
    teller_of,
    waits_for,
)
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors

NOT_SAID = "Nobody said yes to it by its minute. Ask for the yes again, with a new time."
SAID_TOO_LATE = "All said yes, but nobody scheduled it. Send it now, or choose a new time."
WAITING = (State.IN_REVIEW.value, State.APPROVED.value)


def on_its_way(actor: Any, planned: PlannedPost, *, at: datetime) -> None:
    """Set a post that was just made to go out, or hand it in for the yes that its brand wants.

    Without the permission to publish it stays a draft. Raises Problem where a network would refuse it.
    """
    if rules_of_brand(planned.brand_id).steps:
        submit(actor, planned)
    elif can(actor, planned.brand, "plan.publish"):
        schedule_post(actor, planned, at=at)


def submit(actor: Any, planned: PlannedPost, *, edition: int | None = None) -> PlannedPost:
    """Ask for a yes. A post with a time goes out at it as soon as all have said yes.

    Raises Conflict where the brand asks nobody, where it is asked for already, or where somebody changed the post;
    Problem where a network would refuse a version.
    """
    require(actor, planned.brand, "plan.write")
    rules = rules_of_brand(planned.brand_id)
    if not rules.steps:
        raise Conflict("nobody_asked", "Nobody has to say yes to posts of this brand.")
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=planned.pk)
        require_newest(planned, edition)
        if not may_become(State(planned.state), State.IN_REVIEW):
            raise Conflict("not_editable", f"The post is {planned.state.replace('_', ' ')}: nobody is asked about it.")
        if planned.scheduled_at is not None and planned.scheduled_at < clock.now():
            raise field_errors({"scheduled_at": "This time has passed. Choose a later one."})
        require_publishable(planned)
        planned.submitted_by, planned.submitted_at, planned.reminded_at = actor, clock.now(), None
        audit.record(actor, "submit_post", planned, brand_id=planned.brand_id)
        if waits_for(planned, rules) is None:
            # All said yes to just this before it was taken back.
            _all_said_yes(planned, teller_of(actor, planned.brand))
        else:
            put_into(planned, State.IN_REVIEW)
            ask_for(planned, rules)
    return planned


def say(teller: Teller, planned: PlannedPost, *, is_yes: bool, words: str = "", digest: str) -> PlannedPost:
    """Say yes to a post as it was looked at, or ask for a change of it.

    digest is that of what was looked at. Raises Conflict where the post is not asked about, where it was changed since,
    where its author would approve it and may not, or where one person would take both steps; PermissionDenied where
    one's role is not asked.
    """
    words = words.replace("\x00", "").strip()
    if not is_yes and not words:
        raise field_errors({"words": "Say what is to be changed."})
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=planned.pk)
        rules = rules_of_brand(planned.brand_id)
        if planned.state != State.IN_REVIEW.value:
            raise Conflict(
                "not_in_review", f"The post is {planned.state.replace('_', ' ')}: nobody is asked about it now."
            )
        if digest != digest_of_post(planned):
            raise Conflict("changed_meanwhile", "The post was changed since you looked. Look at it again.")
        step = waits_for(planned, rules)
        if step is None or not may_say(rules.steps, step, teller.role):
            raise PermissionDenied("It is not your turn to say yes to this post.")
        if is_yes:
            _require_other(planned, rules, teller)
        ReviewVerdict.objects.create(
            planned_post=planned,
            step=step,
            is_yes=is_yes,
            words=words[:4000],
            digest=digest,
            at=clock.now(),
            **teller.row,
        )
        audit.record(
            teller.person, "say_yes" if is_yes else "ask_for_change", planned, brand_id=planned.brand_id,
            by=teller.name, step=step,
        )  # fmt: skip
        if not is_yes:
            put_into(planned, State.DRAFT)
            _tell_author(planned, "change", f"{teller.name} asks for a change", words)
        elif waits_for(planned, rules) is None:
            _all_said_yes(planned, teller)
        else:
            ask_for(planned, rules)
    return planned


def _require_other(planned: PlannedPost, rules: ReviewRules, teller: Teller) -> None:
    """Two see more than one: the author does not approve, nor one person twice, but where a brand lets them."""
    if rules.may_approve_own:
        return
    if teller.person is not None and planned.submitted_by_id == teller.person.pk:
        raise Conflict("own_post", "You asked for the yes yourself. Somebody else has to say it.")
    said = ReviewVerdict.objects.filter(planned_post=planned)
    change = said.filter(is_yes=False).order_by("-pk").first()
    earlier = said.filter(is_yes=True, digest=digest_of_post(planned), pk__gt=change.pk if change else 0)
    if earlier.filter(person=teller.person, guest=teller.guest).exists():
        raise Conflict("said_already", "You have said yes already. Somebody else has to say the other one.")


def _all_said_yes(planned: PlannedPost, teller: Teller) -> None:
    planned.approved = digest_of_post(planned)
    when = planned.scheduled_at
    if when is None or when < clock.now():
        put_into(planned, State.APPROVED)
        _tell_author(planned, "approved", f"{teller.name} said yes; it has no time yet")
        return
    # A network may have changed its mind meanwhile; then it waits for somebody instead of failing at its minute.
    require_publishable(planned)
    planned.versions.exclude(state__in=SENT).filter(due_at=None).update(due_at=when)
    put_into(planned, State.SCHEDULED)
    enqueue(planned)
    _tell_author(planned, "approved", f"{teller.name} said yes; it goes out at its minute")


def _tell_author(planned: PlannedPost, what: str, text: str, words: str = "") -> None:
    people = [pk for pk in {planned.submitted_by_id, planned.created_by_id} if pk]
    notify(
        planned.brand, kind="review", text=f"{text}.", detail=words or called(planned), path=f"plan/{planned.pk}",
        key=f"review-{what}-{planned.pk}-{planned.edition}", people=people,
    )  # fmt: skip


def look_after_reviews() -> int:
    """Remind of what waits for a yes and goes out soon, and miss what nobody said yes to by its minute; how many."""
    now = clock.now()
    waiting = PlannedPost.objects.filter(
        state__in=WAITING, scheduled_at__lt=now + timedelta(hours=MOST_REMIND_HOURS)
    ).select_related("brand")  # fmt: skip
    count = 0
    for found in waiting.order_by("scheduled_at")[:500]:
        rules = rules_of_brand(found.brand_id)
        if found.scheduled_at is not None and found.scheduled_at <= now:
            count += _not_said_in_time(found)
        elif found.state == State.IN_REVIEW and found.reminded_at is None and found.scheduled_at is not None and (
            found.scheduled_at - now <= timedelta(hours=rules.remind_hours)
        ):  # fmt: skip
            _remind(found, rules)
            count += 1
    return count


def _remind(planned: PlannedPost, rules: ReviewRules) -> None:
    if not PlannedPost.objects.filter(pk=planned.pk, reminded_at=None).update(reminded_at=clock.now()):
        return
    author = [pk for pk in (planned.submitted_by_id,) if pk]
    notify(
        planned.brand, kind="review", path=f"plan/{planned.pk}", detail=called(planned),
        text="A post still waits for a yes: without it, it does not go out at its minute.",
        key=f"review-soon-{planned.pk}-{planned.edition}", people=[*people_for(planned, rules), *author],
    )  # fmt: skip


def _not_said_in_time(found: PlannedPost) -> int:
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=found.pk)
        if planned.state not in WAITING or planned.scheduled_at is None or planned.scheduled_at > clock.now():
            return 0
        is_approved = planned.state == State.APPROVED
        for version in planned.versions.exclude(state__in=SENT).select_related("profile__brand", "planned_post"):
            version.due_at = version.due_at or planned.scheduled_at
            miss(version, SAID_TOO_LATE if is_approved else NOT_SAID)
        return 1
