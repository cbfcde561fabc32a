"""One collection run: profile, audience, posts with their counters, within what the network allows."""

import logging
from datetime import datetime, timedelta
from typing import TYPE_CHECKING

from django.db import transaction

from dakika_server.networks.connectors.base import Connector, NetworkError, NetworkPost, NotAuthorised
from dakika_server.networks.connectors.registry import connected, renewed_tokens
from dakika_server.shared import clock
from dakika_server.sources.intake import PostIn, take_posts, take_profile_days
from dakika_server.sources.models import CollectionRun, Credential, Post, PresenceReading, Profile, ProfileReading
from dakika_server.sources.vault import seal, unseal

if TYPE_CHECKING:
    from collections.abc import Callable

log = logging.getLogger(__name__)
# Posts older than this have stopped growing on every network so far; they are read again only on a first run.
STILL_GROWING = timedelta(days=42)
RENEW_BEFORE = timedelta(minutes=5)
AFTER_COLLECTING: list["Callable[[Profile], None]"] = []


def token_of(profile: Profile) -> str:
    """A valid access token of an own profile, renewed when it is about to lapse.

    Raises NotAuthorised when the person must consent anew; that is remembered on the credential.
    """
    if profile.credential_id is None:
        raise NotAuthorised("The profile is not connected. Connect it again.")
    with transaction.atomic():
        credential = Credential.objects.select_for_update().get(pk=profile.credential_id)
        if credential.is_lapsed:
            raise NotAuthorised("The authorisation has lapsed. Renew it.")
        # The network's clock decides on lapsing, so the real one is asked, not a stopped one.
        if credential.expires_at - RENEW_BEFORE > datetime.now(tz=credential.expires_at.tzinfo):
            return unseal(credential.access)
        tokens = renewed_tokens(credential.network, unseal(credential.refresh))
        credential.access, credential.refresh = seal(tokens.access), seal(tokens.refresh)
        credential.expires_at = tokens.expires_at
        credential.save()
    return tokens.access


def collect(run: CollectionRun) -> None:
    """Carry a run out. What came before an error is kept; the run then says that it is partial."""
    profile = run.profile
    run.state, run.started_at = CollectionRun.State.RUNNING, clock.now()
    run.save()
    try:
        token = token_of(profile) if profile.kind == Profile.Kind.OWN else ""
        with connected(profile.network, token) as network:
            _collect_with(network, run, profile)
        run.state, run.message = CollectionRun.State.COMPLETE, ""
    except NotAuthorised as error:
        if profile.credential_id is not None:
            Credential.objects.filter(pk=profile.credential_id).update(is_lapsed=True)
        run.state, run.message = CollectionRun.State.FAILED, str(error)
    except NetworkError as error:
        came = run.posts_seen > 0
        run.state = CollectionRun.State.PARTIAL if came else CollectionRun.State.FAILED
        run.message = f"{error} {run.posts_seen} posts were read; the next run brings the rest." if came else str(error)
    run.ended_at = clock.now()
    run.save()
    if run.posts_seen:
        for hook in AFTER_COLLECTING:
            hook(profile)


def _collect_with(network: Connector, run: CollectionRun, profile: Profile) -> None:
    is_own = profile.kind == Profile.Kind.OWN
    now = clock.now()
    account = network.account(profile.handle, profile.external_id) if is_own else network.public_account(profile.handle)
    today = now.astimezone(profile.brand.zone).date()
    if is_own:
        known = ProfileReading.objects.filter(profile=profile).order_by("-day").values_list("day", flat=True).first()
        since = known - timedelta(days=2) if known else today - timedelta(days=190)
        days = network.follower_days(profile.handle, profile.external_id, since)
        take_profile_days(profile, [(d.day, d.followers, d.gained, d.lost) for d in days], taken_at=now)
        presence = network.presence(profile.handle, profile.external_id)
        PresenceReading.objects.update_or_create(
            profile=profile, day=today,
            defaults={"brand_id": profile.brand_id, "hours_utc": presence.hours_utc, "zones": presence.zones},
        )  # fmt: skip
    take_profile_days(profile, [(today, account.followers, None, None)], taken_at=now)
    Profile.objects.filter(pk=profile.pk).update(name=account.name, picture=account.picture)
    _collect_posts(network, run, profile, is_own=is_own, now=now)


def _collect_posts(network: Connector, run: CollectionRun, profile: Profile, *, is_own: bool, now: datetime) -> None:
    has_history = Post.objects.filter(profile=profile, published_at__lt=now - STILL_GROWING).exists()
    oldest_seen = now
    for page in network.posts(profile.handle, profile.external_id, is_own=is_own):
        taken = take_posts(profile, [_post_in(post) for post in page])
        run.posts_seen += len(page)
        run.posts_new += taken.posts_new
        run.readings_new += taken.readings_new
        run.requests, run.calls_left = network.requests, network.calls_left
        run.save(update_fields=["posts_seen", "posts_new", "readings_new", "requests", "calls_left"])
        if page:
            _mark_removed(profile, page, oldest_seen, now)
            oldest_seen = min(post.published_at for post in page)
        if has_history and oldest_seen < now - STILL_GROWING:
            return


def _mark_removed(profile: Profile, page: list[NetworkPost], newest: datetime, now: datetime) -> None:
    """Posts that we know from the span of this page, and that the network no longer lists, were taken down."""
    oldest = min(post.published_at for post in page)
    Post.objects.filter(
        profile=profile, published_at__gt=oldest, published_at__lt=newest, removed_at__isnull=True, first_import=None
    ).exclude(external_id__in=[post.external_id for post in page]).update(removed_at=now)


def _post_in(post: NetworkPost) -> PostIn:
    return PostIn(
        external_id=post.external_id, published_at=post.published_at, format=post.format.value, text=post.text,
        url=post.url, readings=[(post.as_of, post.metrics, post.raw)] if post.metrics else (),
    )  # fmt: skip
