"""Changes to sources: connect, follow, collect, import."""

import secrets
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import IntegrityError, transaction

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require_editor
from dakika_server.networks.connectors.base import NetworkError, NotFound
from dakika_server.networks.connectors.registry import (
    authorise_address,
    connected,
    new_verifier,
    tokens_for_code,
)
from dakika_server.networks.definitions import all_networks, network
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.sources.models import CollectionRun, Competitor, Connection, Credential, Profile
from dakika_server.sources.vault import seal, unseal

CONSENT_LASTS = timedelta(minutes=15)


def redirect_address() -> str:
    """Where networks send people back to after consent."""
    return f"{settings.PUBLIC_ADDRESS}/api/connections/return"


def start_connection(actor: Any, brand: Brand, *, network_key: str) -> str:
    """Begin a consent: the address of the network's page. Raises ValidationError for an unknown network."""
    require_editor(actor, brand)
    if network_key not in all_networks():
        raise field_errors({"network": "There is no such network."})
    verifier, state = new_verifier(), secrets.token_urlsafe(32)
    Connection.objects.create(
        brand=brand, user=actor, network=network_key, state=state, verifier=seal(verifier), created_at=clock.now()
    )
    return authorise_address(network_key, state=state, verifier=verifier, redirect=redirect_address())


def finish_consent(actor: Any, *, state: str, code: str, now: datetime) -> Connection:
    """Take the code that a network sent back, and ask which accounts it covers.

    Raises Problem when the consent is unknown, somebody else's, too old, or the network refuses.
    """
    try:
        connection = Connection.objects.select_related("brand").get(state=state, user=actor, credential=None)
    except Connection.DoesNotExist:
        raise Problem("consent_unknown", "This consent is not known. Start connecting again.") from None
    require_editor(actor, connection.brand)
    if now - connection.created_at > CONSENT_LASTS:
        raise Problem("consent_expired", "The consent took longer than 15 minutes. Start connecting again.")
    try:
        tokens = tokens_for_code(
            connection.network, code=code, verifier=unseal(connection.verifier), redirect=redirect_address()
        )
        with connected(connection.network, tokens.access) as api:
            accounts = api.offered_accounts()
    except NetworkError as error:
        raise Problem("network", str(error), status_code=502) from None
    with transaction.atomic():
        connection.credential = Credential.objects.create(
            brand=connection.brand, network=connection.network, access=seal(tokens.access),
            refresh=seal(tokens.refresh), expires_at=tokens.expires_at,
        )  # fmt: skip
        connection.offered = [
            {"external_id": a.external_id, "handle": a.handle, "name": a.name, "picture": a.picture,
             "followers": a.followers, "refusal": a.refusal}
            for a in accounts
        ]  # fmt: skip
        connection.save()
        audit.record(actor, "consent", connection, brand_id=connection.brand_id, network=connection.network)
    return connection


def choose_accounts(actor: Any, connection: Connection, *, external_ids: list[str]) -> list[Profile]:
    """Connect the chosen accounts and start collecting them; known ones get the new authorisation.

    Raises ValidationError for accounts that were not offered or cannot be connected.
    """
    require_editor(actor, connection.brand)
    offered = {entry["external_id"]: entry for entry in connection.offered if not entry["refusal"]}
    if not external_ids or not set(external_ids) <= set(offered):
        raise field_errors({"external_ids": "Choose among the offered accounts."})
    profiles = []
    with transaction.atomic():
        for external_id in external_ids:
            entry = offered[external_id]
            profile, _ = Profile.objects.update_or_create(
                brand=connection.brand, network=connection.network, external_id=external_id,
                defaults={"handle": entry["handle"], "name": entry["name"], "picture": entry["picture"],
                          "kind": Profile.Kind.OWN, "competitor": None, "credential": connection.credential,
                          "is_followed": True},
                create_defaults={"handle": entry["handle"], "name": entry["name"], "picture": entry["picture"],
                                 "kind": Profile.Kind.OWN, "credential": connection.credential,
                                 "added_at": clock.now()},
            )  # fmt: skip
            profiles.append(profile)
            audit.record(actor, "connect_profile", profile, brand_id=connection.brand_id)
            request_run(profile)
    return profiles


def add_competitor(actor: Any, brand: Brand, *, network_key: str, handle: str, name: str = "") -> Profile:
    """Follow somebody's profile by handle, under a competitor's name.

    Raises ValidationError when there is no such account, Conflict when it is followed already.
    """
    require_editor(actor, brand)
    if network_key not in all_networks():
        raise field_errors({"network": "There is no such network."})
    handle = handle.strip().lstrip("@")
    try:
        with connected(network_key) as api:
            account = api.public_account(handle)
    except NotFound:
        raise field_errors(
            {"handle": f"{network(network_key).name} has no page called “{handle}”. Check the spelling."}
        ) from None
    except NetworkError as error:
        raise Problem("network", str(error), status_code=502) from None
    try:
        with transaction.atomic():
            competitor, _ = Competitor.objects.get_or_create(brand=brand, name=name.strip() or account.name)
            known = Profile.objects.filter(brand=brand, network=network_key, external_id=account.external_id).first()
            if known and not known.is_followed and known.kind == Profile.Kind.COMPETITOR:
                known.is_followed, known.competitor = True, competitor
                known.save()
                profile = known
            else:
                profile = Profile.objects.create(
                    brand=brand, network=network_key, external_id=account.external_id, handle=account.handle,
                    name=account.name, picture=account.picture, kind=Profile.Kind.COMPETITOR, competitor=competitor,
                    added_at=clock.now(),
                )  # fmt: skip
            audit.record(actor, "follow_profile", profile, brand_id=brand.pk)
            request_run(profile)
    except IntegrityError:
        raise Conflict(
            "already_followed", f"{account.name} on {network(network_key).name} is followed already."
        ) from None
    return profile


def stop_following(actor: Any, profile: Profile) -> None:
    """Stop collecting a profile. What was collected stays."""
    require_editor(actor, profile.brand)
    with transaction.atomic():
        profile.is_followed = False
        profile.save(update_fields=["is_followed"])
        audit.record(actor, "stop_following", profile, brand_id=profile.brand_id)


def request_run(profile: Profile) -> CollectionRun:
    """A run for the profile, with its job in the same transaction; the open one if there is one."""
    from dakika_server.sources.jobs import collect_profile

    with transaction.atomic():
        run, is_new = CollectionRun.objects.get_or_create(
            profile=profile, state__in=["waiting", "running"],
            defaults={"brand_id": profile.brand_id, "asked_at": clock.now(), "state": CollectionRun.State.WAITING},
        )  # fmt: skip
        if is_new:
            collect_profile.defer(run_id=run.pk)
    return run


def start_collection(actor: Any, brand: Brand, *, profile_id: int | None = None) -> list[CollectionRun]:
    """Collect all of a brand's profiles, or one, now."""
    require_editor(actor, brand)
    profiles = Profile.objects.filter(brand=brand, is_followed=True)
    if profile_id is not None:
        profiles = profiles.filter(pk=profile_id)
    return [request_run(profile) for profile in profiles.exclude(external_id__startswith="file:")]
