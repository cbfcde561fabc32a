"""What people say about a post while it is made: remarks, votes, and what changed since they looked."""

from collections.abc import Mapping
from typing import Any

from dakika_core.plan.content import FIELDS
from django.db import transaction
from django.http import Http404

from dakika_server.brands.permissions import require
from dakika_server.notices.actions import notify
from dakika_server.plan.models import Look, PlannedPost, Remark, Vote
from dakika_server.plan.reviewing import Teller, called
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors

MOST_REMARKS = 500
LONGEST = 4_000


def remark(
    teller: Teller, planned: PlannedPost, *, text: str, quote: str = "", asset: int | None = None,
    profile_id: int | None = None,
) -> Remark:  # fmt: skip
    """Say something about a post: all of it, words that are quoted, a picture, or the version for a profile.

    Raises field errors for nothing said, for a version or picture that the post does not have; Conflict for very many.
    """
    text = text.replace("\x00", "").strip()
    if not text:
        raise field_errors({"text": "Write what you want to say."})
    versions = {version.profile_id: version for version in planned.versions.all()}
    if profile_id is not None and profile_id not in versions:
        raise field_errors({"profile_id": "The post has no version for this profile."})
    if asset is not None and asset not in {*planned.media, *(one for v in versions.values() for one in v.media)}:
        raise field_errors({"asset": "The post has no such picture any more."})
    if Remark.objects.filter(planned_post=planned).count() >= MOST_REMARKS:
        raise Conflict("too_many_remarks", "Very much has been said about this post already.")
    with transaction.atomic():
        made = Remark.objects.create(
            planned_post=planned, profile_id=profile_id, quote=" ".join(quote.replace("\x00", "").split())[:300],
            asset=asset, text=text[:LONGEST], at=clock.now(), **teller.row,
        )  # fmt: skip
        audit.record(teller.person, "remark", planned, brand_id=planned.brand_id, by=teller.name)
        people = {planned.created_by_id, planned.submitted_by_id, *_who_spoke(planned)}
        people.discard(teller.person.pk if teller.person else None)
        notify(
            planned.brand, kind="review", text=f"{teller.name} said something about {called(planned)[:120]}.",
            detail=text[:300], path=f"plan/{planned.pk}", key=f"remark-{made.pk}",
            people=[pk for pk in people if pk is not None],
        )  # fmt: skip
    return made


def _who_spoke(planned: PlannedPost) -> list[int]:
    found = Remark.objects.filter(planned_post=planned, person__isnull=False)
    return list(found.values_list("person_id", flat=True).distinct())


def settle_remark(actor: Any, planned: PlannedPost, pk: int, *, is_settled: bool) -> Remark:
    """Take a remark as done, or open it again. Raises Http404."""
    require(actor, planned.brand, "plan.write")
    with transaction.atomic():
        found = Remark.objects.select_for_update().filter(planned_post=planned, pk=pk).first()
        if found is None:
            raise Http404
        found.settled_at, found.settled_by = (clock.now(), actor) if is_settled else (None, None)
        found.save(update_fields=["settled_at", "settled_by"])
        audit.record(actor, "settle_remark", planned, brand_id=planned.brand_id, remark=pk, settled=is_settled)
    return found


def vote(teller: Teller, planned: PlannedPost, value: int) -> None:
    """Be for a post (1), against it (-1), or neither (0)."""
    who = {"person": teller.person, "guest": teller.guest}
    if value == 0:
        Vote.objects.filter(planned_post=planned, **who).delete()
    else:
        Vote.objects.update_or_create(planned_post=planned, **who, defaults={"value": 1 if value > 0 else -1})


def votes_of(planned: PlannedPost, teller: Teller) -> dict[str, int]:
    """How many are for and against, and how oneself voted."""
    rows = list(Vote.objects.filter(planned_post=planned).values_list("value", "person", "guest"))
    mine = (teller.person.pk if teller.person else None, teller.guest.pk if teller.guest else None)
    return {
        "for_it": sum(value > 0 for value, _, _ in rows), "against": sum(value < 0 for value, _, _ in rows),
        "mine": next((value for value, *who in rows if tuple(who) == mine), 0),
    }  # fmt: skip


def content_of(planned: PlannedPost) -> dict[str, Any]:
    """What is seen of a post, by version: to be kept, and held against what it is later."""
    rows = planned.versions.order_by("pk").values("profile_id", "profile__name", "profile__network", "due_at", *FIELDS)
    return {
        "at": planned.scheduled_at.isoformat() if planned.scheduled_at else None,
        "versions": [
            {"profile": row["profile_id"], "name": row["profile__name"], "network": row["profile__network"],
             **{name: list(row[name]) if name == "media" else row[name] for name in FIELDS}}
            for row in rows
        ],
    }  # fmt: skip


def since_looked(teller: Teller, planned: PlannedPost) -> tuple[Mapping[str, Any] | None, Any]:
    """What a post was like when somebody looked last, and when; None where they never did, or it is the same."""
    who = {"person": teller.person, "guest": teller.guest}
    found = Look.objects.filter(planned_post=planned, **who).first()
    if found is None or found.content == content_of(planned):
        return None, found.at if found else None
    before: Mapping[str, Any] = found.content
    return before, found.at


def looked(teller: Teller, planned: PlannedPost) -> None:
    """Remember what somebody has seen now."""
    who = {"person": teller.person, "guest": teller.guest}
    Look.objects.update_or_create(
        planned_post=planned, **who, defaults={"content": content_of(planned), "at": clock.now()}
    )
