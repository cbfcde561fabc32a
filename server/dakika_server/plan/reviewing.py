"""Saying yes to planned posts: who has to, what they said, and that nothing goes out without.

A yes is bound to a digest of what goes out. Whoever sets a post to go out, and whoever sends it, asks `is_allowed`.

In the trade's words: approval workflow.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from dakika_core.plan.content import FIELDS
from dakika_core.plan.review import MAY_SAY, MOST_STEPS, Verdict, digest_of, next_step
from dakika_core.plan.states import State
from django.core.exceptions import PermissionDenied
from django.db import transaction

from dakika_server.accounts.permissions import Role
from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import require
from dakika_server.notices.actions import notify
from dakika_server.plan.models import Guest, PlannedPost, ReviewRules, ReviewVerdict, Version
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors

SENT = (State.PUBLISHING.value, State.PUBLISHED.value)
NEEDS_YES = "Somebody has to say yes to this first. Ask for it."
MOST_REMIND_HOURS = 240


@dataclass(frozen=True, kw_only=True)
class Teller:
    """Who says something: a person of the team with their role, or a guest."""

    name: str
    role: str
    person: Any = None
    guest: Guest | None = None

    @property
    def key(self) -> str:
        """What tells them apart."""
        return f"guest {self.guest.pk}" if self.guest else f"person {self.person.pk}"

    @property
    def row(self) -> dict[str, Any]:
        """The columns that say who."""
        return {"person": self.person, "guest": self.guest, "name": self.name[:120]}


def teller_of(actor: Any, brand: Brand) -> Teller:
    """A person of the team. Raises PermissionDenied for somebody who is not of it."""
    member = Membership.objects.filter(user=actor, brand=brand).first()
    if member is None:
        raise PermissionDenied
    return Teller(name=actor.name or actor.email, role=member.role, person=actor)


def teller_of_guest(guest: Guest) -> Teller:
    """A guest."""
    return Teller(name=guest.name, role=Role.GUEST.value, guest=guest)


def rules_of_brand(brand_id: int) -> ReviewRules:
    """A brand's rules; none are no steps."""
    return ReviewRules.objects.filter(brand=brand_id).first() or ReviewRules(brand_id=brand_id)


def set_review_rules(
    actor: Any, brand: Brand, *, steps: Sequence[str], may_approve_own: bool, remind_hours: int
) -> ReviewRules:  # fmt: skip
    """Say who has to say yes. What is set to go out already stands as it is.

    Raises field errors for roles that are none, for more than two steps, and for a role twice.
    """
    require(actor, brand, "brand.change")
    if len(steps) > MOST_STEPS or len(set(steps)) != len(steps) or any(step not in MAY_SAY for step in steps):
        raise field_errors({"steps": "Choose at most two different roles."})
    if remind_hours > MOST_REMIND_HOURS:
        raise field_errors({"remind_hours": f"At most {MOST_REMIND_HOURS} hours before."})
    with transaction.atomic():
        values = {"steps": list(steps), "may_approve_own": may_approve_own, "remind_hours": remind_hours}
        rules, _ = ReviewRules.objects.update_or_create(brand=brand, defaults=values)
        set_already = PlannedPost.objects.select_for_update().filter(
            brand=brand, state=State.SCHEDULED.value, approved=""
        )
        for planned in set_already:
            planned.approved = digest_of_post(planned)
            planned.save(update_fields=["approved"])
        audit.record(actor, "set_review_rules", rules, brand_id=brand.pk, steps=list(steps))
    return rules


def digest_of_post(planned: PlannedPost) -> str:
    """A digest of all that goes out of a post, as it is in the database now."""
    rows = Version.objects.filter(planned_post=planned).values("profile_id", "options", "link_id", *FIELDS)
    return digest_of(rows, in_own_feed=planned.in_own_feed, as_push=planned.as_push)


def is_allowed(planned: PlannedPost) -> bool:
    """Whether a post may go out as it stands: its brand asks nobody, or all said yes to just this."""
    if not rules_of_brand(planned.brand_id).steps:
        return True
    return bool(planned.approved) and planned.approved == digest_of_post(planned)


def require_allowed(planned: PlannedPost) -> None:
    """Raises Conflict where somebody has to say yes first."""
    if not is_allowed(planned):
        raise Conflict("not_approved", NEEDS_YES)


def waits_for(planned: PlannedPost, rules: ReviewRules) -> int | None:
    """The step whose yes is waited for; None where all have said it."""
    return waits_for_each([planned.pk], rules)[planned.pk]


def waits_for_each(posts: Sequence[int], rules: ReviewRules) -> dict[int, int | None]:
    """Of each post the step whose yes is waited for; two queries however many there are."""
    versions: dict[int, list[Any]] = {pk: [] for pk in posts}
    said: dict[int, list[Verdict]] = {pk: [] for pk in posts}
    columns = (
        "planned_post_id",
        "planned_post__in_own_feed",
        "planned_post__as_push",
        "profile_id",
        "options",
        "link_id",
        *FIELDS,
    )
    for row in Version.objects.filter(planned_post__in=posts).values(*columns):
        versions[row["planned_post_id"]].append(row)
    for one in ReviewVerdict.objects.filter(planned_post__in=posts).order_by("pk"):
        verdict = Verdict(step=one.step, is_yes=one.is_yes, digest=one.digest, who=one.name)
        said[one.planned_post_id].append(verdict)
    digests = {
        pk: digest_of(
            rows, in_own_feed=any(row["planned_post__in_own_feed"] for row in rows),
            as_push=any(row["planned_post__as_push"] for row in rows),
        )
        for pk, rows in versions.items()
    }  # fmt: skip
    return {pk: next_step(rules.steps, said[pk], digests[pk]) for pk in posts}


def back_to_review(actor: Any, planned: PlannedPost) -> bool:
    """Ask anew about a post that was changed after somebody said yes, or while they are asked; whether that was so.

    Within a transaction, the post's row held. What was said stays and counts no more.
    """
    rules = rules_of_brand(planned.brand_id)
    if not rules.steps or planned.state not in (State.APPROVED, State.SCHEDULED, State.IN_REVIEW):
        return False
    digest = digest_of_post(planned)
    if planned.approved == digest:
        return False
    was_approved = planned.state != State.IN_REVIEW
    if waits_for(planned, rules) is None:
        # It is again what all said yes to.
        planned.approved = digest
        put_into(planned, State.APPROVED)
        return False
    planned.approved = ""
    if was_approved:
        planned.submitted_by, planned.submitted_at, planned.reminded_at = actor, clock.now(), None
    put_into(planned, State.IN_REVIEW)
    if was_approved:
        audit.record(actor, "back_to_review", planned, brand_id=planned.brand_id)
        ask_for(planned, rules)
    return was_approved


def put_into(planned: PlannedPost, state: State) -> None:
    """Bring a post and what of it did not go out into a state; its row is held."""
    planned.versions.exclude(state__in=SENT).update(state=state.value, error="", remedy="")
    planned.state = state.value
    planned.edition += 1
    planned.save()


def people_for(planned: PlannedPost, rules: ReviewRules) -> list[int]:
    """Those of the team whose yes counts at the step that waits."""
    step = waits_for(planned, rules)
    if step is None:
        return []
    roles = MAY_SAY[rules.steps[step]]
    found = Membership.objects.filter(brand=planned.brand_id, role__in=roles)
    if not rules.may_approve_own:
        found = found.exclude(user=planned.submitted_by_id)
    return list(found.values_list("user_id", flat=True))


def ask_for(planned: PlannedPost, rules: ReviewRules) -> None:
    """Tell those whose yes is waited for."""
    notify(
        planned.brand, kind="review", text="A post waits for your yes.", detail=called(planned),
        path=f"plan/{planned.pk}", key=f"review-{planned.pk}-{planned.edition}", people=people_for(planned, rules),
    )  # fmt: skip


def called(planned: PlannedPost) -> str:
    """What to call a post by in a notice."""
    return (planned.title or planned.text or "A planned post")[:200]
