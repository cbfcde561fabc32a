"""Many planned posts changed together: moved, tagged, put to a campaign, said yes to, thrown away; and undone together.

Each is changed by the same action as alone, in a savepoint of its own: what cannot be is told by post, the others are
changed. What each was before is kept for a day, for one undo; a post that somebody changed since stays as it is.
"""

import json
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from dakika_core.plan.states import State
from django.core import serializers
from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.db.models.deletion import Collector
from django.http import Http404
from rest_framework.exceptions import APIException

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.plan.actions import SENT, delete_planned_post, enqueue, move_post, require_newest
from dakika_server.plan.models import PlannedPost, ReviewVerdict, SeveralChange
from dakika_server.plan.reviewing import digest_of_post, put_into, teller_of
from dakika_server.plan.saying import say
from dakika_server.results.models import Tag
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors, told_by

MOST_AT_ONCE, MOST_TAGS = 200, 20
KEPT = timedelta(days=1)
FURTHEST_DAYS = 366
_REFUSALS = (APIException, PermissionDenied)


@dataclass(frozen=True, kw_only=True)
class SeveralInput:
    """What is to become of them. days, minutes: by how much they are moved; an hour stays as the clocks change."""

    what: str
    days: int = 0
    minutes: int = 0
    campaign: int | None = None
    tags: Sequence[int] = ()


def change_several(
    actor: Any, brand: Brand, posts: Mapping[int, int], asked: SeveralInput
) -> tuple[SeveralChange | None, list[dict[str, Any]]]:
    """Change many posts, each of the edition that was read; and those that were not, with why.

    posts: number to edition. Raises field errors for too many, and for a campaign or tag of elsewhere.
    """
    require(actor, brand, "plan.write")
    if not 0 < len(posts) <= MOST_AT_ONCE:
        raise field_errors({"posts": f"Choose some posts, at most {MOST_AT_ONCE} at once."})
    change = _CHANGES[asked.what](_Act(actor=actor, brand=brand, asked=asked))
    before, refused = [], []
    with transaction.atomic():
        found = {one.pk: one for one in PlannedPost.objects.filter(brand=brand, pk__in=posts).order_by("pk")}
        for pk, edition in posts.items():
            planned = found.get(pk)
            try:
                if planned is None or planned.state == State.IDEA:
                    raise Conflict("not_there", "This post is not there any more.")
                with transaction.atomic():
                    require_newest(planned, edition)
                    before.append({"id": pk, **change(planned)})
            except _REFUSALS as error:
                refused.append({"id": pk, "title": planned.title if planned else "", "why": told_by(error)})
        if not before:
            return None, refused
        kept = SeveralChange.objects.create(
            brand=brand, what=asked.what, before=before, made_by=actor, made_at=clock.now()
        )
        audit.record(actor, "change_several", kept, brand_id=brand.pk, what=asked.what, posts=len(before))
    return kept, refused


def undo_several(actor: Any, brand: Brand, pk: int) -> tuple[int, int]:
    """Make a change of many undone; how many posts, and how many stay as they are since somebody changed them.

    Its own maker alone, once, within a day. Raises Http404, Conflict where it was undone or is too long ago.
    """
    require(actor, brand, "plan.write")
    with transaction.atomic():
        kept = SeveralChange.objects.select_for_update().filter(brand=brand, made_by=actor, pk=pk).first()
        if kept is None:
            raise Http404
        if kept.undone_at is not None or kept.made_at < clock.now() - KEPT:
            raise Conflict("not_undone", "This was undone already, or is more than a day ago.")
        undone, act = 0, _Act(actor=actor, brand=brand, asked=SeveralInput(what=kept.what))
        for row in kept.before:
            try:
                with transaction.atomic():
                    undone += _UNDO[kept.what](act, row)
            except _REFUSALS:
                continue
        kept.undone_at, left = clock.now(), len(kept.before) - undone
        kept.save(update_fields=["undone_at"])
        audit.record(actor, "undo_several", kept, brand_id=brand.pk, what=kept.what, posts=undone)
    return undone, left


def forget_changes(now: datetime) -> int:
    """Forget what cannot be undone any more; how many changes."""
    return SeveralChange.objects.filter(made_at__lt=now - KEPT).delete()[0]


Change = Callable[[PlannedPost], dict[str, Any]]


@dataclass(frozen=True, kw_only=True)
class _Act:
    """Who changes what of which brand."""

    actor: Any
    brand: Brand
    asked: SeveralInput


def _moving(act: _Act) -> Change:
    actor, brand, asked = act.actor, act.brand, act.asked
    if not (asked.days or asked.minutes) or abs(asked.days) > FURTHEST_DAYS or abs(asked.minutes) > 24 * 60:
        raise field_errors({"days": "Say by how many days, hours or minutes; at most a year."})

    def change(planned: PlannedPost) -> dict[str, Any]:
        if planned.scheduled_at is None:
            raise Conflict("no_time", "It has no time that could be moved.")
        was = planned.scheduled_at
        local = was.astimezone(brand.zone).replace(tzinfo=None) + timedelta(days=asked.days, minutes=asked.minutes)
        moved = move_post(actor, planned, at=local.replace(tzinfo=brand.zone), edition=planned.edition)
        return {"at": was.isoformat(), "edition": moved.edition}

    return change


def _campaigning(act: _Act) -> Change:
    brand, asked = act.brand, act.asked
    if asked.campaign is not None and not Campaign.objects.filter(brand=brand, pk=asked.campaign).exists():
        raise field_errors({"campaign": "There is no such campaign."})

    def change(planned: PlannedPost) -> dict[str, Any]:
        was = planned.campaign_id
        PlannedPost.objects.filter(pk=planned.pk).update(campaign=asked.campaign)
        return {"was": was, "is": asked.campaign}

    return change


def _tagging(act: _Act) -> Change:
    wanted = list(dict.fromkeys(act.asked.tags))
    if not wanted or Tag.objects.filter(brand=act.brand, pk__in=wanted).count() != len(wanted):
        raise field_errors({"tags": "Choose tags that are there."})

    def change(planned: PlannedPost) -> dict[str, Any]:
        was = list(planned.tags)
        now = list(dict.fromkeys([*was, *wanted]))[:MOST_TAGS]
        PlannedPost.objects.filter(pk=planned.pk).update(tags=now)
        return {"was": was, "is": now}

    return change


def _saying_yes(act: _Act) -> Change:
    teller = teller_of(act.actor, act.brand)

    def change(planned: PlannedPost) -> dict[str, Any]:
        newest = ReviewVerdict.objects.order_by("-pk").values_list("pk", flat=True).first() or 0
        # Editions were compared: what was read is what is said yes to.
        say(teller, planned, is_yes=True, digest=digest_of_post(planned))
        made = ReviewVerdict.objects.filter(planned_post=planned, pk__gt=newest, person=act.actor)
        now = PlannedPost.objects.values_list("edition", flat=True).get(pk=planned.pk)
        return {"verdicts": list(made.values_list("pk", flat=True)), "edition": now}

    return change


def _throwing_away(act: _Act) -> Change:
    def change(planned: PlannedPost) -> dict[str, Any]:
        everything = _everything_of(planned)
        delete_planned_post(act.actor, planned)
        return {"all": everything}

    return change


def _everything_of(planned: PlannedPost) -> list[Any]:
    """A post with all rows that go with it: its versions, what was said of it, tasks."""
    collector = Collector(using=planned._state.db or "default", origin=planned)
    collector.collect([planned])
    rows = [planned, *(row for rows in collector.data.values() for row in rows if row != planned)]
    rows += [row for found in collector.fast_deletes for row in found]
    told: list[Any] = json.loads(serializers.serialize("json", rows))
    return told


def _move_back(act: _Act, row: Mapping[str, Any]) -> bool:
    planned = PlannedPost.objects.filter(brand=act.brand, pk=row["id"], edition=row["edition"]).first()
    if planned is None:
        return False
    move_post(act.actor, planned, at=datetime.fromisoformat(row["at"]), edition=planned.edition)
    return True


def _campaign_back(act: _Act, row: Mapping[str, Any]) -> bool:
    was = Campaign.objects.filter(brand=act.brand, pk=row["was"] or 0).first()
    posts = PlannedPost.objects.filter(brand=act.brand, pk=row["id"], campaign=row["is"])
    return (was is not None or row["was"] is None) and posts.update(campaign=was) > 0


def _tags_back(act: _Act, row: Mapping[str, Any]) -> bool:
    return PlannedPost.objects.filter(brand=act.brand, pk=row["id"], tags=row["is"]).update(tags=row["was"]) > 0


def _take_yes_back(act: _Act, row: Mapping[str, Any]) -> bool:
    """The yes is taken back where nothing of the post went out; it waits for one again."""
    posts = PlannedPost.objects.select_for_update().filter(brand=act.brand, pk=row["id"], edition=row["edition"])
    planned = posts.first()
    is_waiting = planned is not None and planned.state in (State.IN_REVIEW, State.APPROVED, State.SCHEDULED)
    if planned is None or not is_waiting or planned.versions.filter(state__in=SENT).exists():
        return False
    ReviewVerdict.objects.filter(planned_post=planned, person=act.actor, pk__in=row["verdicts"]).delete()
    planned.approved = ""
    put_into(planned, State.IN_REVIEW)
    return True


def _bring_back(act: _Act, row: Mapping[str, Any]) -> bool:
    if PlannedPost.objects.filter(pk=row["id"]).exists():
        return False
    for one in serializers.deserialize("json", json.dumps(row["all"])):
        if _stands(one.object):
            one.save()
    planned = PlannedPost.objects.get(brand=act.brand, pk=row["id"])
    if planned.state == State.SCHEDULED:
        require(act.actor, act.brand, "plan.publish")
        enqueue(planned)
    return True


def _stands(row: Any) -> bool:
    """Whether a row can come back: what it needs is there; what it may point to and is gone is no longer named."""
    for field in row._meta.concrete_fields:
        value = getattr(row, field.attname)
        if not field.is_relation or value is None or row._meta.pk is field:
            continue
        # What comes back with it stands already: the post is the first of its rows.
        if field.related_model._base_manager.filter(pk=value).exists():
            continue
        if not field.null:
            return False
        setattr(row, field.attname, None)
    return True


_CHANGES: dict[str, Callable[[_Act], Change]] = {
    "move": _moving, "campaign": _campaigning, "tags": _tagging, "say_yes": _saying_yes, "delete": _throwing_away,
}  # fmt: skip
_UNDO: dict[str, Callable[[_Act, Mapping[str, Any]], bool]] = {
    "move": _move_back, "campaign": _campaign_back, "tags": _tags_back, "say_yes": _take_yes_back,
    "delete": _bring_back,
}  # fmt: skip
WHAT = tuple(_CHANGES)
