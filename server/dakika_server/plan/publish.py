"""Publish one version: never twice, never silently not at all.

Two transactions around one call. The first says that publishing has begun; the network is then
asked with the version's idempotency key; the second records what it said. A worker killed
anywhere leaves the version *publishing*; whoever takes the job up asks again with the same key,
and the network answers with the post that is there already.
"""

import logging
from datetime import timedelta

from dakika_core.networks.definition import Format
from dakika_core.plan.states import State, overall
from django.db import OperationalError, transaction

from dakika_server.links.models import LinkUse
from dakika_server.networks.connectors.base import NetworkError, NotAuthorised, PostOut, Published, Target, Unavailable
from dakika_server.networks.connectors.registry import connected
from dakika_server.networks.definitions import network_name
from dakika_server.plan.models import PlannedPost, Version
from dakika_server.shared import clock
from dakika_server.sources.actions import request_run
from dakika_server.sources.collect import token_of
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Post

log = logging.getLogger(__name__)
# A post that could not be sent within this time is missed: the moment it was written for has gone.
STILL_WORTH_SENDING = timedelta(hours=6)
MOST_ATTEMPTS = 8


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
        with connected(profile.network, token_of(profile)) as network:
            target = Target(handle=profile.handle, external_id=profile.external_id, is_own=True)
            published = network.publish(target, PostOut(text=version.text), idempotency_key=version.idempotency_key.hex)
    except Unavailable as error:
        _wait_or_fail(version, error)
        return
    except NotAuthorised as error:
        _fail(version, f"{error} Then schedule the post again.")
        return
    except NetworkError as error:
        _fail(version, str(error))
        return
    except Exception:
        # What a network says may be anything. It may have published, too: the same key is asked with again.
        log.exception("version %s: what the network said was not understood", version.pk)
        _wait_or_fail(version, Unavailable(f"{network_name(profile.network)} answered with what is not understood."))
        return
    try:
        _record(version, published)
    except OperationalError:
        raise
    except Exception:
        log.exception("version %s was sent but not written down", version.pk)
        _wait_or_fail(version, Unavailable("It was sent, but could not be written down here."))


def _begin(version_id: int) -> Version | None:
    """Mark a version as being published, if it is still to be."""
    with transaction.atomic():
        found = (
            Version.objects.select_for_update(of=("self",))
            .select_related("profile__brand", "planned_post")
            .filter(pk=version_id)
        )
        version = found.first()
        if version is None or version.state not in (State.SCHEDULED, State.PUBLISHING):
            return None
        due = version.planned_post.scheduled_at
        now = clock.now()
        if due is None or due > now + timedelta(seconds=2):
            return None
        if version.state == State.SCHEDULED and now - due > STILL_WORTH_SENDING:
            version.state, version.error = (
                State.MISSED.value,
                "The time passed while nothing was running. Choose a new one.",
            )
            version.save()
            _settle(version.planned_post_id)
            return None
        version.state = State.PUBLISHING.value
        version.attempts += 1
        version.save()
        _settle(version.planned_post_id)
    return version


def _record(version: Version, published: Published) -> None:
    """Remember what the network said, with the post it made, and ask for its first reading."""
    with transaction.atomic():
        format_ = Format.LINK if version.link_id else Format.TEXT
        if not Post.objects.filter(profile=version.profile, external_id=published.external_id).exists():
            # Once collected, a post is as the network shows it, not as we wrote it.
            take_posts(
                version.profile,
                [PostIn(external_id=published.external_id, published_at=published.published_at, format=format_.value,
                        text=version.text, url=published.url, campaign_id=version.planned_post.campaign_id,
                        next_reading_at=published.published_at)],
            )  # fmt: skip
        post = Post.objects.get(profile=version.profile, external_id=published.external_id)
        if post.campaign_id is None and version.planned_post.campaign_id:
            post.campaign_id = version.planned_post.campaign_id
            post.save(update_fields=["campaign"])
        Version.objects.filter(pk=version.pk).update(
            state=State.PUBLISHED.value, published_at=published.published_at, external_id=published.external_id,
            post=post, error="",
        )  # fmt: skip
        if version.link_id:
            LinkUse.objects.get_or_create(link_id=version.link_id, post=post)
        _settle(version.planned_post_id)
        request_run(version.profile)


def _wait_or_fail(version: Version, error: Unavailable) -> None:
    if version.attempts >= MOST_ATTEMPTS:
        _fail(version, f"{error} It was tried {version.attempts} times. Schedule it again when the network is back.")
        return
    Version.objects.filter(pk=version.pk).update(error=f"{error} Trying again.")
    raise TryLater(error.wait_seconds or min(300.0, 5.0 * 2**version.attempts))


def _fail(version: Version, message: str) -> None:
    log.warning("version %s was not published", version.pk)
    with transaction.atomic():
        Version.objects.filter(pk=version.pk).update(state=State.FAILED.value, error=message[:500])
        _settle(version.planned_post_id)


def _settle(planned_id: int) -> None:
    """The planned post's state follows from its versions'."""
    planned = PlannedPost.objects.select_for_update().get(pk=planned_id)
    planned.state = overall([State(state) for state in planned.versions.values_list("state", flat=True)]).value
    planned.save(update_fields=["state"])
