"""Changes to the plan.

In the trade's words: optimistic locking, drafts, scheduling.
"""

from collections.abc import Sequence
from datetime import datetime, timedelta
from typing import Any
from uuid import uuid4

from dakika_core.plan.content import FIELDS
from dakika_core.plan.states import EDITABLE, State, may_become
from django.db import transaction
from django.db.models import F

from dakika_server.brands.models import Brand, Campaign
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.links.models import TrackedLink
from dakika_server.media.models import Asset
from dakika_server.networks.definitions import network_name
from dakika_server.plan.content import (
    LONGEST_TEXT,
    MOST_MEDIA,
    Common,
    VersionInput,
    Whole,
    assets_of,
    check_content,
    common_from,
    whole,
)
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.queries import planned_of
from dakika_server.plan.reviewing import back_to_review, require_allowed
from dakika_server.results.models import Tag
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.sources.models import Profile
from dakika_server.timing.rhythms import TAKEN_WITHIN, is_taken, slots_between

# On its way, or out: what people see of it is no longer ours to change.
SENT = (State.PUBLISHING.value, State.PUBLISHED.value)
FURTHEST = timedelta(days=366)
# Files are brought to the network so long before the minute.
AHEAD = timedelta(minutes=15)


def save_planned_post(
    actor: Any, brand: Brand, *, planned: PlannedPost | None = None, edition: int | None = None, title: str = "",
    scheduled_at: datetime | None = None, campaign_id: int | None = None, common: Common | None = None,
    versions: Sequence[VersionInput] = (), tags: Sequence[int] | None = None, in_own_feed: bool | None = None,
    as_push: bool | None = None,
) -> PlannedPost:  # fmt: skip
    """Write a planned post with its versions, new or changed.

    common: what its versions share; without it the versions are written out whole, and the first text is the common
    one. tags: those that it is to have when it is out, in_own_feed, as_push: whether it appears in the brand's feed
    and is sent to browsers, too; None leaves them as they are. A scheduled post stays scheduled, at its new time.
    A version that was or is being published stands as it went out. Raises Problem for a
    change that does not say which edition it is of, Conflict when somebody else changed the post in between, when all
    of it is being published, or when a version that went out would be changed or taken away, ValidationError for
    profiles, files and links of other brands.
    """
    require(actor, brand, "plan.write")
    common = common or common_from(versions)
    profiles = _profiles(brand, common, versions)
    links = _links(brand, versions)
    _require_media(brand, common, versions)
    campaign = Campaign.objects.filter(brand=brand, pk=campaign_id).first() if campaign_id else None
    if campaign_id and campaign is None:
        raise field_errors({"campaign_id": "There is no such campaign."})
    if tags and Tag.objects.filter(brand=brand, pk__in=tags).count() != len(set(tags)):
        raise field_errors({"tags": "One of the tags is not there any more."})
    with transaction.atomic():
        if planned is None:
            planned = PlannedPost(brand=brand, created_by=actor, created_at=clock.now())
            action = "plan_post"
        else:
            planned = _locked(planned, edition)
            action = "change_planned_post"
            planned.edition += 1
        was_scheduled = planned.state == State.SCHEDULED
        if was_scheduled:
            require(actor, brand, "plan.publish")
        if planned.state in (State.FAILED, State.MISSED):
            planned.state = State.DRAFT.value
        planned.title, planned.campaign, planned.scheduled_at = title.strip(), campaign, scheduled_at
        planned.in_own_feed = planned.in_own_feed if in_own_feed is None else in_own_feed
        planned.as_push = planned.as_push if as_push is None else as_push
        planned.tags = planned.tags if tags is None else list(dict.fromkeys(tags))
        planned.text, planned.headline = common.text.replace("\x00", ""), common.headline.replace("\x00", "")
        planned.first_comment, planned.media = common.first_comment.replace("\x00", ""), list(common.media)
        if was_scheduled and scheduled_at is None:
            planned.state = State.DRAFT.value
        planned.save()
        _write_versions(planned, [
            (one, profiles[one.profile_id], link, whole(common, one, link))
            for one, link in ((one, links.get(one.link_id or 0)) for one in versions)
        ])  # fmt: skip
        if not back_to_review(actor, planned) and was_scheduled and planned.state == State.SCHEDULED:
            require_publishable(planned)
            enqueue(planned)
        audit.record(actor, action, planned, brand_id=brand.pk)
    return planned


Written = tuple[VersionInput, Profile, TrackedLink | None, Whole]


def _write_versions(planned: PlannedPost, written: Sequence[Written]) -> None:
    """Versions as they are to be. What went out stands; a rewritten version is another post, with a key of its own."""
    known = {version.profile_id: version for version in planned.versions.select_related("profile")}
    kept = {profile.pk for _, profile, _, _ in written}
    for version in known.values():
        if version.profile_id not in kept:
            if version.state in SENT:
                raise _went_out(version, "taken away")
            version.delete()
    for given, profile, link, told in written:
        version = known.get(profile.pk) or Version(planned_post=planned, profile=profile)
        values = {**told.values, "options": {k: v for k, v in given.options.items() if v}}
        is_other = any(getattr(version, name) != value for name, value in values.items())
        if version.state in SENT:
            if is_other or (link.pk if link else None) != version.link_id:
                raise _went_out(version, "changed")
            continue
        if version.attempts and is_other:
            version.idempotency_key, version.attempts = uuid4(), 0
        for name, value in values.items():
            setattr(version, name, value)
        has_own_time = given.scheduled_at is not None and given.scheduled_at != planned.scheduled_at
        version.own = [*told.own, *(["time"] if has_own_time else [])]
        version.due_at = given.scheduled_at if has_own_time else planned.scheduled_at
        version.link, version.state, version.error, version.remedy = link, planned.state, "", ""
        version.save()


def _went_out(version: Version, what: str) -> Conflict:
    is_over = version.state == State.PUBLISHED
    return Conflict(
        "already_published",
        f"On {network_name(version.profile.network)} this {'was' if is_over else 'is being'} published "
        f"and cannot be {what} here any more. The other versions can be.",
        profile_id=version.profile_id,
    )


def schedule_post(
    actor: Any, planned: PlannedPost, *, at: datetime | None = None, grace: timedelta = timedelta(),
    edition: int | None = None,
) -> PlannedPost:  # fmt: skip
    """Set a planned post to be published at a time; its jobs are enqueued in the same transaction.

    `at` None means now, after the grace in which it can be taken back; versions with a time of their own move along by
    as much. `edition`, where it is given, is the one that was read. Raises Conflict when there is
    a newer one, Problem when a version would be refused by its network, or when
    the time lies in the past or more than a year ahead.
    """
    require(actor, planned.brand, "plan.publish")
    now = clock.now()
    when = at or now + grace
    if when < now - timedelta(minutes=1):
        raise field_errors({"scheduled_at": "This time has passed. Choose a later one."})
    if when > now + FURTHEST:
        raise field_errors({"scheduled_at": "This is more than a year ahead."})
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=planned.pk)
        require_newest(planned, edition)
        state = State(planned.state)
        if state is not State.SCHEDULED and not may_become(state, State.SCHEDULED):
            raise Conflict("not_editable", f"The post is {state.value.replace('_', ' ')} and cannot be scheduled.")
        require_publishable(planned)
        require_allowed(planned)
        _move_versions(planned, when)
        planned.state, planned.scheduled_at = State.SCHEDULED.value, when
        planned.edition += 1
        planned.save()
        waiting = planned.versions.exclude(state__in=SENT)
        if at is not None and waiting.filter(due_at__lt=now - timedelta(minutes=1)).exists():
            raise field_errors({"scheduled_at": "The time of one of its versions has passed. Choose a later one."})
        waiting.update(state=State.SCHEDULED.value, error="", remedy="", attempts=0)
        enqueue(planned)
        audit.record(actor, "schedule_post", planned, brand_id=planned.brand_id, at=when.isoformat())
    return planned


def move_post(actor: Any, planned: PlannedPost, *, at: datetime, edition: int) -> PlannedPost:
    """Put a planned post at another time, whatever its state: a draft stays one, a scheduled one is scheduled anew.

    One that waits for a yes goes on waiting; one that all said yes to is scheduled.

    Raises Conflict where a colleague has changed it since it was read, or where it went out; field errors for a time
    that has passed.
    """
    if planned.state in (State.SCHEDULED.value, State.APPROVED.value):
        return schedule_post(actor, planned, at=at, edition=edition)
    require(actor, planned.brand, "plan.write")
    if at < clock.now() - timedelta(minutes=1):
        raise field_errors({"scheduled_at": "This time has passed. Choose a later one."})
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=planned.pk)
        require_newest(planned, edition)
        if planned.state not in (State.DRAFT.value, State.IN_REVIEW.value):
            raise Conflict("not_editable", f"The post is {planned.state.replace('_', ' ')} and cannot be moved.")
        _move_versions(planned, at)
        planned.scheduled_at, planned.reminded_at = at, None
        planned.edition += 1
        planned.save()
        audit.record(actor, "move_post", planned, brand_id=planned.brand_id, at=at.isoformat())
    return planned


def _move_versions(planned: PlannedPost, at: datetime) -> None:
    """Bring what did not go out to a new time of the post; own times move along, but when there was none before."""
    waiting = planned.versions.exclude(state__in=SENT)
    waiting.exclude(own__contains=["time"]).update(due_at=at)
    if planned.scheduled_at is not None:
        by = at - planned.scheduled_at
        waiting.filter(own__contains=["time"], due_at__isnull=False).update(due_at=F("due_at") + by)


def fill_slots(actor: Any, brand: Brand, profiles: Sequence[int], *, days: int) -> int:
    """Put an empty draft at every free standing slot of some profiles in the days ahead; how many were made.

    A slot is taken by what is planned for its profile within half an hour of it.
    """
    require(actor, brand, "plan.write")
    now = clock.now()
    with transaction.atomic():
        own = list(
            Profile.objects.select_for_update()
            .filter(brand=brand, kind="own", is_followed=True, pk__in=list(profiles)).order_by("pk")
        )  # fmt: skip
        if len(own) != len(set(profiles)):
            raise field_errors({"profiles": "Choose own profiles that are there."})
        ids = [profile.pk for profile in own]
        taken = planned_of(ids, now - TAKEN_WITHIN, now + timedelta(days=days) + TAKEN_WITHIN)
        made = 0
        for slot in slots_between(brand, ids, now, now + timedelta(days=days)):
            if is_taken(slot, taken):
                continue
            title = f"{slot.trial}: to be written" if slot.trial else "To be written"
            planned = PlannedPost.objects.create(
                brand=brand, title=title[:200], scheduled_at=slot.at, created_by=actor, created_at=now
            )
            Version.objects.create(planned_post=planned, profile_id=slot.profile_id, due_at=slot.at)
            made += 1
        if made:
            audit.record(actor, "fill_slots", brand, brand_id=brand.pk, drafts=made)
    return made


def take_back(actor: Any, planned: PlannedPost) -> PlannedPost:
    """Make a scheduled post, or one that waits for a yes, a draft again. Its jobs find that and do nothing."""
    require(actor, planned.brand, "plan.write" if planned.state == State.IN_REVIEW else "plan.publish")
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=planned.pk)
        if not may_become(State(planned.state), State.DRAFT):
            raise Conflict("not_editable", f"The post is {planned.state} and cannot be taken back.")
        planned.state = State.DRAFT.value
        planned.edition += 1
        planned.save()
        planned.versions.exclude(state__in=SENT).update(state=State.DRAFT.value)
        audit.record(actor, "take_back", planned, brand_id=planned.brand_id)
    return planned


def delete_planned_post(actor: Any, planned: PlannedPost) -> None:
    """Throw a planned post away. What was published stays published."""
    require(actor, planned.brand, "plan.write")
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=planned.pk)
        if planned.state == State.SCHEDULED:
            require(actor, planned.brand, "plan.publish")
        if State(planned.state) not in EDITABLE:
            raise Conflict("not_editable", f"The post is {planned.state} and stays in the plan.")
        audit.record(actor, "delete_planned_post", planned, brand_id=planned.brand_id)
        planned.delete()


def _locked(planned: PlannedPost, edition: int | None) -> PlannedPost:
    current = PlannedPost.objects.select_for_update().get(pk=planned.pk)
    if current.state == State.IDEA:
        raise Conflict("is_idea", "This is an idea. It stays one: write a draft from it.")
    if State(current.state) not in EDITABLE:
        raise Conflict("not_editable", f"The post is {current.state.replace('_', ' ')} and cannot be changed.")
    if edition is None:
        raise Problem("edition_missing", "Say which edition of the post this changes: the one that was read.")
    require_newest(current, edition)
    return current


def require_newest(current: PlannedPost, edition: int | None) -> None:
    """Raises Conflict where somebody changed the post since an edition was read."""
    if edition is not None and edition != current.edition:
        raise Conflict(
            "changed_meanwhile",
            "Somebody changed this post while you were writing. Your text is still here; "
            "look at theirs before you save.",
            edition=current.edition,
        )


def _profiles(brand: Brand, common: Common, versions: Sequence[VersionInput]) -> dict[int, Profile]:
    wanted = [version.profile_id for version in versions]
    found = {p.pk: p for p in Profile.objects.filter(brand=brand, kind="own", pk__in=wanted)}
    if len(set(wanted)) != len(wanted) or set(wanted) != set(found):
        raise field_errors({"versions": "Choose each of the brand's own profiles at most once."})
    if any(len(text) > LONGEST_TEXT for text in [common.text, *(version.text or "" for version in versions)]):
        raise field_errors({"versions": f"A text has at most {LONGEST_TEXT:,} characters."})
    return found


def _require_media(brand: Brand, common: Common, versions: Sequence[VersionInput]) -> None:
    """Raises a field error for files that are not there, and for more than anybody takes."""
    every = [common.media, *(version.media for version in versions if version.media is not None)]
    if any(len(one) > MOST_MEDIA or len(set(one)) != len(one) for one in every):
        raise field_errors({"media": f"A post takes each file once, and at most {MOST_MEDIA}."})
    cards = [version.options.get("card_picture", "") for version in versions]
    if any(one and not (one.isascii() and one.isdecimal()) for one in cards):
        raise field_errors({"media": "The picture of a link's card is none of the files."})
    assets_of(brand, {number for one in every for number in one} | {int(one) for one in cards if one})


def _links(brand: Brand, versions: Sequence[VersionInput]) -> dict[int, TrackedLink]:
    wanted = {version.link_id for version in versions if version.link_id}
    found = {link.pk: link for link in TrackedLink.objects.filter(brand=brand, pk__in=wanted)}
    if set(found) != wanted:
        raise field_errors({"versions": "There is no such link."})
    return found


def require_publishable(planned: PlannedPost) -> None:
    """Raises Problem where a network would refuse a version that is not out yet, a field error where there is none."""
    versions = list(planned.versions.select_related("profile"))
    if not versions:
        raise field_errors({"versions": "Choose at least one profile."})
    assets = assets_of(planned.brand, {number for version in versions for number in version.media})
    unseen = [asset.name for asset in assets.values() if asset.state != Asset.State.READY]
    if unseen:
        raise Problem("not_publishable", f"\u201c{unseen[0]}\u201d is still being looked into. A moment, please.")
    for version in versions:
        values = {name: getattr(version, name) for name in (*FIELDS, "options")}
        check = check_content(version.profile, values, assets)
        blocking = [problem.message for problem in check.problems if problem.is_blocking]
        if blocking and version.state not in SENT:
            name = network_name(version.profile.network)
            raise Problem("not_publishable", f"{name}: {blocking[0]}", profile_id=version.profile_id)


def enqueue(planned: PlannedPost) -> None:
    """Have what did not go out sent at its minute, its files brought before; within a transaction."""
    for version in planned.versions.exclude(state__in=SENT):
        ask("plan.publish", schedule_at=version.due_at, version_id=version.pk)
        if version.media and version.due_at is not None:
            ask("plan.bring", schedule_at=version.due_at - AHEAD, version_id=version.pk)
