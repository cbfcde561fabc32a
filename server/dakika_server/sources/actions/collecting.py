"""Asking for collections: by a person, by a network's webhook."""

import hashlib
import hmac
import json
from datetime import timedelta
from typing import Any

from django.core.exceptions import PermissionDenied
from django.db import transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.networks.definitions import all_networks
from dakika_server.shared import clock
from dakika_server.shared.vault import unseal
from dakika_server.sources.models import CollectionRun, Post, Profile


def request_run(profile: Profile, *, after: timedelta | None = None) -> CollectionRun:
    """A run for the profile, with its job in the same transaction; the open one if there is one.

    after: so much later, so that what many ask for in the meantime is done at once.
    """
    with transaction.atomic():
        run, is_new = CollectionRun.objects.get_or_create(
            profile=profile, state__in=["waiting", "running"],
            defaults={"brand_id": profile.brand_id, "asked_at": clock.now(), "state": CollectionRun.State.WAITING},
        )  # fmt: skip
        if is_new:
            ask("sources.collect_profile", schedule_at=clock.now() + after if after else None, run_id=run.pk)
    return run


def start_collection(actor: Any, brand: Brand, *, profile_id: int | None = None) -> list[CollectionRun]:
    """Collect all of a brand's profiles, or one, now."""
    require(actor, brand, "sources.collect")
    profiles = Profile.objects.filter(brand=brand, is_followed=True, network__in=list(all_networks()))
    if profile_id is not None:
        profiles = profiles.filter(pk=profile_id)
    return [request_run(profile) for profile in profiles.exclude(external_id__startswith="file:")]


def take_hook(*, network: str, profile_id: int, body: bytes, signature: str) -> CollectionRun | None:
    """A network tells that something is new: look at the post it names, soon.

    Nothing of what the call says is believed but that: the figures are asked for. Raises
    PermissionDenied unless the body carries the profile's own signature (HMAC-SHA-256).
    """
    profile = Profile.objects.filter(pk=profile_id, network=network, is_followed=True).first()
    if profile is None or profile.hook_secret is None:
        raise PermissionDenied
    wanted = hmac.new(unseal(profile.hook_secret).encode(), body, hashlib.sha256).hexdigest()
    if not hmac.compare_digest(wanted, signature):
        raise PermissionDenied
    try:
        said = json.loads(body)
    except (ValueError, RecursionError):
        return None
    post = str(said.get("post", ""))[:200] if isinstance(said, dict) else ""
    with transaction.atomic():
        Post.objects.filter(profile=profile, external_id=post, removed_at=None).update(next_reading_at=clock.now())
        return request_run(profile)
