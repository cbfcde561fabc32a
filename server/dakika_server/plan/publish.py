"""Publish one version: never twice, never silently not at all.

Two transactions around one call. The first says that publishing has begun; the network is then
asked with the version's idempotency key; the second records what it said. A worker killed
anywhere leaves the version *publishing*; whoever takes the job up asks again with the same key,
and the network answers with the post that is there already.

In the trade's words: exactly once publishing, idempotency key, scheduler.
"""

import logging
from datetime import timedelta

from dakika_core.networks.definition import Format
from dakika_core.plan.states import State
from django.db import OperationalError, transaction

from dakika_server.jobs.asking import ask
from dakika_server.links.models import LinkUse
from dakika_server.media.models import Asset
from dakika_server.networks.connectors.base import NetworkError, NotAuthorised, Published, Target, Unavailable
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.definitions import network, network_name
from dakika_server.notices.actions import notify
from dakika_server.plan.content import format_of, is_by_hand
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.plan.outgoing import MediaGone, media_out, post_out
from dakika_server.plan.pauses import is_paused
from dakika_server.plan.reviewing import is_allowed
from dakika_server.plan.told import tell_of
from dakika_server.results.models import PostTag, Tag
from dakika_server.shared import clock
from dakika_server.sources.actions import request_run
from dakika_server.sources.collect import token_of
from dakika_server.sources.intake import PostIn, take_published
from dakika_server.sources.models import Post

log = logging.getLogger(__name__)
# Nothing is sent later than this without asking: the moment it was written for has gone.
STILL_WORTH_SENDING = timedelta(minutes=15)
MOST_ATTEMPTS = 8
# A profile is read so long after a post: many that go out in one minute are read at once.
FIRST_READING = timedelta(seconds=20)
Remedy = Version.Remedy


class TryLater(Exception):
    """The network could not take it now; `seconds` says when to ask again."""

    def __init__(self, seconds: float) -> None:
        super().__init__(f"again in {seconds:.0f} s")
        self.seconds = seconds


def publish_version(version_id: int) -> None:
    """Publish a version that is due. Raises TryLater when the network is not to be reached for now."""
    version = _begin(version_id)
    if version is None:
        return
    profile = version.profile
    try:
        with connected(profile.network, token_of(profile)) as there:
            published = there.publish(
                target_of(version), post_out(version), idempotency_key=version.idempotency_key.hex
            )
    except Unavailable as error:
        _wait_or_fail(version, error)
        return
    except NotAuthorised as error:
        _fail(version, f"{error} Then send the post again.", Remedy.AUTHORISE)
        return
    except (NetworkError, MediaGone) as error:
        _fail(version, str(error), Remedy.CHANGE)
        return
    except Exception:
        # What a network says may be anything. It may have published, too: the same key is asked with again.
        log.exception("version %s: what the network said was not understood", version.pk)
        answer = Unavailable(f"{network_name(profile.network)} answered with what is not understood.")
        _wait_or_fail(version, answer, Remedy.CHECK)
        return
    try:
        _record(version, published)
    except OperationalError:
        raise
    except Exception:
        log.exception("version %s was sent but not written down", version.pk)
        _wait_or_fail(version, Unavailable("It was sent, but could not be written down here."), Remedy.CHECK)


def target_of(version: Version) -> Target:
    """The version's profile as a connector needs it."""
    return Target(handle=version.profile.handle, external_id=version.profile.external_id, is_own=True)


def bring_ahead(version_id: int) -> None:
    """Bring a version's files to its network before the minute. What goes wrong is told at the minute, not before."""
    version = Version.objects.select_related("profile__brand").filter(pk=version_id).first()
    if version is None or version.state != State.SCHEDULED or not version.media or is_by_hand(version.profile):
        return
    try:
        with connected(version.profile.network, token_of(version.profile)) as there:
            for media in media_out(version):
                there.bring(target_of(version), media)
    except (NetworkError, MediaGone):
        log.warning("version %s: its files were not brought ahead", version.pk)


def say_first(version_id: int) -> None:
    """Write the first comment under a version that is out, once. Raises TryLater when the network is away."""
    version = Version.objects.select_related("profile__brand", "planned_post").filter(pk=version_id).first()
    if version is None or version.first_comment_state != Version.Said.WAITING or not version.external_id:
        return
    try:
        with connected(version.profile.network, token_of(version.profile)) as there:
            there.say_first(
                target_of(version), version.external_id, version.first_comment,
                idempotency_key=f"{version.idempotency_key.hex}c",
            )  # fmt: skip
    except Unavailable as error:
        now = clock.now()
        if version.published_at is not None and now - version.published_at < STILL_WORTH_SENDING:
            raise TryLater(error.wait_seconds or 30.0) from None
        _first_comment_failed(version, str(error))
    except NetworkError as error:
        _first_comment_failed(version, str(error))
    else:
        Version.objects.filter(pk=version.pk).update(first_comment_state=Version.Said.DONE, first_comment_error="")


def _first_comment_failed(version: Version, message: str) -> None:
    Version.objects.filter(pk=version.pk).update(
        first_comment_state=Version.Said.FAILED, first_comment_error=message[:300]
    )
    _tell(version, "first_comment", f"The first comment on {network_name(version.profile.network)} was not written")


def _begin(version_id: int) -> Version | None:
    """Mark a version as being published, if it is still to be."""
    with transaction.atomic():
        _lock_post_of(version_id)
        found = (
            Version.objects.select_for_update(of=("self",))
            .select_related("profile__brand", "planned_post")
            .filter(pk=version_id)
        )
        version = found.first()
        if version is None or version.state not in (State.SCHEDULED, State.PUBLISHING):
            return None
        due, now = version.due_at, clock.now()
        if due is None or due > now + timedelta(seconds=2):
            return None
        if version.state == State.SCHEDULED and is_paused(version.profile):
            return None  # it waits; whoever ends the pause says what becomes of it
        if version.state == State.SCHEDULED and now - due > STILL_WORTH_SENDING:
            miss(version, "Its time passed while nothing could be sent. Send it now, or choose a new time.")
            return None
        if version.state == State.SCHEDULED and not is_allowed(version.planned_post):
            miss(version, "It was changed after somebody said yes to it. Ask for the yes again.")
            return None
        if is_by_hand(version.profile):
            if version.state == State.SCHEDULED:
                version.state = State.BY_HAND.value
                version.save()
                settle(version.planned_post_id)
                _tell(version, "by_hand", f"To be published by hand on {version.profile.name} now")
                tell_of(version.pk, "post.by_hand")
            return None
        version.state = State.PUBLISHING.value
        version.attempts += 1
        version.save()
        settle(version.planned_post_id)
    return version


def _lock_post_of(version_id: int) -> None:
    """Take the post's row before its versions', as everybody does who changes both: nobody waits in a ring."""
    owner = Version.objects.filter(pk=version_id).values("planned_post")
    PlannedPost.objects.select_for_update().filter(pk__in=owner).first()


def miss(version: Version, why: str) -> None:
    """The minute of a version went by; within a transaction."""
    version.state, version.error, version.remedy = State.MISSED.value, why, Remedy.LATER
    version.save(update_fields=["state", "error", "remedy"])
    settle(version.planned_post_id)
    _tell(version, "missed", f"A post on {network_name(version.profile.network)} was missed")
    tell_of(version.pk, "post.missed")


def _tell(version: Version, what: str, text: str) -> None:
    """Everybody who may publish is told, once for each time it was set for."""
    planned = version.planned_post
    detail = planned.title or version.text or version.headline
    notify(
        version.profile.brand, kind="publishing", text=f"{text}.", detail=detail[:200], path=f"plan/{planned.pk}",
        key=f"{what}-{version.pk}-{version.due_at:%Y%m%d%H%M}", permission="plan.publish",
    )  # fmt: skip


def _format_of(version: Version) -> Format:
    kinds = list(Asset.objects.filter(pk__in=version.media).values_list("kind", flat=True))
    return format_of(version.profile.network, kinds, has_link=version.link_id is not None)


def _record(version: Version, published: Published) -> None:
    """Remember what the network said, with the post it made, and ask for its first reading."""
    with transaction.atomic():
        _lock_post_of(version.pk)
        format_ = _format_of(version)
        post = take_published(version.profile, PostIn(
            external_id=published.external_id, published_at=published.published_at, format=format_.value,
            text=version.text, url=published.url, campaign_id=version.planned_post.campaign_id,
            next_reading_at=published.published_at,
        ))  # fmt: skip
        if post.campaign_id is None and version.planned_post.campaign_id:
            post.campaign_id = version.planned_post.campaign_id
            post.save(update_fields=["campaign"])
        _put_on_tags(version.planned_post, post)
        comments = version.first_comment.strip() and network(version.profile.network).offer.has_first_comment
        said = Version.Said.WAITING if comments else Version.Said.NONE
        Version.objects.filter(pk=version.pk).update(
            first_comment_state=said, remedy="", state=State.PUBLISHED.value, published_at=published.published_at,
            external_id=published.external_id, post=post, error="",
        )  # fmt: skip
        if version.link_id:
            LinkUse.objects.get_or_create(link_id=version.link_id, post=post)
        settle(version.planned_post_id)
        tell_of(version.pk, "post.published")
        request_run(version.profile, after=FIRST_READING)
        if said:
            ask("plan.say_first", version_id=version.pk)


def _put_on_tags(planned: PlannedPost, post: Post) -> None:
    """Tags that it was to have; those that are gone, or of elsewhere, are left out."""
    there = Tag.objects.filter(brand=planned.brand_id, pk__in=planned.tags)
    PostTag.objects.bulk_create((PostTag(post=post, tag=tag) for tag in there), ignore_conflicts=True)


def _wait_or_fail(version: Version, error: Unavailable, remedy: str = Remedy.LATER) -> None:
    if version.attempts >= MOST_ATTEMPTS:
        what = "Look whether it is there before you send it again." if remedy == Remedy.CHECK else (
            "Send it again when the network is back.")  # fmt: skip
        _fail(version, f"{error} It was tried {version.attempts} times. {what}", remedy)
        return
    Version.objects.filter(pk=version.pk).update(error=f"{error} Trying again.")
    raise TryLater(error.wait_seconds or min(300.0, 5.0 * 2**version.attempts))


def _fail(version: Version, message: str, remedy: str) -> None:
    log.warning("version %s was not published", version.pk)
    with transaction.atomic():
        _lock_post_of(version.pk)
        Version.objects.filter(pk=version.pk).update(state=State.FAILED.value, error=message[:500], remedy=remedy)
        settle(version.planned_post_id)
        _tell(version, "failed", f"A post on {network_name(version.profile.network)} was not published")
        tell_of(version.pk, "post.failed")


def settle(planned_id: int) -> None:
    """The planned post's state follows from its versions'."""
    planned = PlannedPost.objects.select_for_update().get(pk=planned_id)
    planned.settle()
    planned.save(update_fields=["state"])
