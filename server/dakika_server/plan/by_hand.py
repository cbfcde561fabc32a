"""Channels that nothing is connected to: a person publishes at the minute, and says that it is out.

In the trade's words: manual publishing.
"""

from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

from dakika_core.plan.states import State
from django.db import transaction
from django.db.models import QuerySet

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.links.models import LinkUse
from dakika_server.media.models import Asset
from dakika_server.networks.definitions import all_networks
from dakika_server.plan.content import format_of, is_by_hand
from dakika_server.plan.models import ChannelRules, PlannedPost, Version
from dakika_server.plan.told import tell_of
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.intake import PostIn, take_posts
from dakika_server.sources.models import Post, Profile

WAITS = (State.SCHEDULED.value, State.BY_HAND.value, State.MISSED.value)


def add_channel(actor: Any, brand: Brand, *, name: str, rules: Mapping[str, Any] | None = None) -> Profile:
    """A channel of one's own that is planned for and published to by hand; its results come by file.

    rules: fields of ChannelRules; None where nobody knows any. Raises a field error for a name that is there already.
    """
    require(actor, brand, "plan.publish")
    name = " ".join(name.replace("\x00", "").split())
    key = "".join(c if c.isalnum() else "-" for c in name.casefold()).strip("-")[:40]
    if not key:
        raise field_errors({"name": "Give the channel a name."})
    with transaction.atomic():
        if Profile.objects.filter(brand=brand, kind="own", network=key).exists():
            raise field_errors({"name": "A channel of this name is there already."})
        made = Profile.objects.create(
            brand=brand, network=key, external_id=f"file:by-hand-{key}", handle=key, name=name[:200], kind="own",
            added_at=clock.now(), history_done_at=clock.now(),
        )  # fmt: skip
        if rules is not None:
            ChannelRules.objects.create(profile=made, **rules)
        audit.record(actor, "add_channel", made, brand_id=brand.pk)
    return made


def channels(brand: Brand) -> QuerySet[Profile]:
    """Channels of a brand that nothing is connected to and no definition is known of, with their rules."""
    own = Profile.objects.filter(brand=brand, kind="own", is_followed=True).exclude(network__in=list(all_networks()))
    return own.select_related("brand", "channel_rules").order_by("name", "pk")


def set_channel_rules(actor: Any, profile: Profile, rules: Mapping[str, Any] | None) -> None:
    """Say what a channel without a connection takes; None forgets it. Raises Conflict for a network's profile."""
    require(actor, profile.brand, "plan.publish")
    if profile.network in all_networks():
        raise Conflict("not_by_hand", f"{profile.name} is on a network whose rules are known.")
    with transaction.atomic():
        if rules is None:
            ChannelRules.objects.filter(profile=profile).delete()
        else:
            ChannelRules.objects.update_or_create(profile=profile, defaults=dict(rules))
        audit.record(actor, "set_channel_rules", profile, brand_id=profile.brand_id)


def is_out(actor: Any, version: Version, *, address: str, at: datetime | None) -> Version:
    """Write down that somebody published a version by hand, with its address and when (now without).

    Raises Conflict for what is not published by hand or not waiting for it, field errors for a time to come.
    """
    require(actor, version.planned_post.brand, "plan.publish")
    now = clock.now()
    when = at or now
    if when > now + timedelta(minutes=5):
        raise field_errors({"at": "This is still to come."})
    with transaction.atomic():
        planned = PlannedPost.objects.select_for_update().get(pk=version.planned_post_id)
        version = (
            Version.objects.select_for_update(of=("self",))
            .select_related("profile__brand", "planned_post").get(pk=version.pk)
        )  # fmt: skip
        if not is_by_hand(version.profile) or version.state not in WAITS:
            raise Conflict("not_by_hand", "This is not waiting to be published by hand.")
        external = address.strip() or f"by-hand-{version.pk}"
        kinds = list(Asset.objects.filter(pk__in=version.media).values_list("kind", flat=True))
        format_ = format_of(version.profile.network, kinds, has_link=version.link_id is not None)
        take_posts(version.profile, [
            PostIn(external_id=external[:200], published_at=when, format=format_.value, text=version.text,
                   url=address.strip()[:500], campaign_id=version.planned_post.campaign_id)
        ])  # fmt: skip
        post = Post.objects.get(profile=version.profile, external_id=external[:200])
        if Version.objects.filter(post=post).exclude(pk=version.pk).exists():
            raise Conflict("address_taken", "Another post of the plan has this address already. Look at it again.")
        version.state, version.published_at, version.post = State.PUBLISHED.value, when, post
        version.external_id, version.error, version.remedy = external[:200], "", ""
        version.save()
        if version.link_id:
            LinkUse.objects.get_or_create(link_id=version.link_id, post=post)
        planned.settle()
        planned.save(update_fields=["state"])
        tell_of(version.pk, "post.published")
        audit.record(actor, "published_by_hand", planned, brand_id=planned.brand_id, version=version.pk)
    return version
