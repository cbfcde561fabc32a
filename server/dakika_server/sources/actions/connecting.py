"""Connecting one's own profiles through the network's consent page, renewing, disconnecting."""

import secrets
from datetime import datetime, timedelta
from typing import Any

from django.conf import settings
from django.db import transaction

from dakika_server.brands.models import Brand, Membership
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.networks.connectors.base import NetworkError, Tokens
from dakika_server.networks.connectors.registry import (
    authorise_address,
    connected,
    new_verifier,
    revoke_tokens,
    tokens_for_code,
)
from dakika_server.networks.definitions import all_networks, network, network_api, network_name
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.shared.hooks import Hook
from dakika_server.shared.vault import seal, unseal
from dakika_server.sources.actions.collecting import request_run
from dakika_server.sources.models import Connection, Credential, Profile

CONSENT_LASTS = timedelta(minutes=15)


def redirect_address() -> str:
    """Where networks send people back to after consent."""
    return f"{settings.PUBLIC_ADDRESS}/api/connections/return"


def start_connection(actor: Any, brand: Brand, *, network_key: str, renews: int | None = None) -> str:
    """Begin a consent, for new profiles or to renew one's: the address of the network's page.

    Raises ValidationError for a network that cannot be connected, or a profile that is not one's own.
    """
    require(actor, brand, "sources.connect")
    if network_key not in all_networks() or not network_api(network_key).scopes:
        raise field_errors({"network": "There is no such network to connect to."})
    profile = None
    if renews is not None:
        profile = Profile.objects.filter(brand=brand, pk=renews, kind=Profile.Kind.OWN, network=network_key).first()
        if profile is None:
            raise field_errors({"renews": "Choose one of the brand's own profiles on this network."})
    verifier, state = new_verifier(), secrets.token_urlsafe(32)
    Connection.objects.create(
        brand=brand, user=actor, network=network_key, state=state, verifier=seal(verifier), renews=profile,
        created_at=clock.now(),
    )  # fmt: skip
    return authorise_address(network_key, state=state, verifier=verifier, redirect=redirect_address())


def finish_consent(actor: Any, *, state: str, code: str, now: datetime) -> Connection:
    """Take the code that a network sent back, and ask which accounts it covers. A renewal is done with that.

    Raises Problem when the consent is unknown, somebody else's, too old, does not allow reading,
    or the network refuses; and when a renewal was given for other accounts than the profile's.
    """
    try:
        connection = Connection.objects.select_related("brand", "renews").get(state=state, user=actor, credential=None)
    except Connection.DoesNotExist:
        raise Problem("consent_unknown", "This consent is not known. Start connecting again.") from None
    require(actor, connection.brand, "sources.connect")
    if now - connection.created_at > CONSENT_LASTS:
        raise Problem("consent_expired", "The consent took longer than 15 minutes. Start connecting again.")
    name = network(connection.network).name
    try:
        tokens = tokens_for_code(
            connection.network, code=code, verifier=unseal(connection.verifier), redirect=redirect_address()
        )
        reading = network_api(connection.network).scopes["read"]
        if reading not in tokens.scopes:
            raise Problem(
                "scope_missing",
                f"{name} was not allowed to show us anything: “{reading}” was left unticked. "
                "Connect again and leave it ticked.",
            )
        with connected(connection.network, tokens.access) as api:
            accounts = api.offered_accounts()
    except NetworkError as error:
        raise Problem("network", str(error), status_code=502) from None
    renewed = connection.renews
    if renewed is not None and renewed.external_id not in {a.external_id for a in accounts}:
        raise Problem(
            "other_accounts", f"{name} let us see other accounts than {renewed.name}. Sign in there as whoever runs it."
        )
    with transaction.atomic():
        connection.credential = _new_credential(connection.brand, connection.network, tokens)
        connection.offered = [
            {"external_id": a.external_id, "handle": a.handle, "name": a.name, "picture": a.picture,
             "followers": a.followers, "refusal": a.refusal}
            for a in accounts
        ]  # fmt: skip
        connection.save()
        audit.record(actor, "consent", connection, brand_id=connection.brand_id, network=connection.network)
        if renewed is not None:
            _renew(actor, connection, renewed)
    return connection


def _new_credential(brand: Brand, key: str, tokens: Tokens) -> Credential:
    return Credential.objects.create(
        brand=brand, network=key, access=seal(tokens.access), refresh=seal(tokens.refresh),
        expires_at=tokens.expires_at, scopes=sorted(tokens.scopes),
    )  # fmt: skip


def _renew(actor: Any, connection: Connection, profile: Profile) -> None:
    """The new authorisation serves every profile of the brand that the old one served and the new one covers."""
    covered = [entry["external_id"] for entry in connection.offered]
    served = Profile.objects.filter(brand=connection.brand, network=connection.network, kind=Profile.Kind.OWN)
    if profile.credential_id is not None:
        served = served.filter(credential=profile.credential_id)
    else:
        served = served.filter(pk=profile.pk)
    for one in served.filter(external_id__in=covered):
        one.credential, one.is_followed = connection.credential, True
        one.save(update_fields=["credential", "is_followed"])
        audit.record(actor, "renew_authorisation", one, brand_id=connection.brand_id)
        request_run(one)


def offered_to(actor: Any, connection: Connection) -> list[dict[str, Any]]:
    """The offered accounts, each with whether it is connected already, and why it cannot be.

    An account that another brand holds is refused; the brand is named only to its members.
    """
    ids = [entry["external_id"] for entry in connection.offered]
    held = {
        p.external_id: p
        for p in Profile.objects.filter(
            network=connection.network, external_id__in=ids, kind=Profile.Kind.OWN, is_followed=True
        ).select_related("brand")
    }
    mine = set(Membership.objects.filter(user=actor).values_list("brand_id", flat=True))
    found = []
    for entry in connection.offered:
        holder = held.get(entry["external_id"])
        is_here = holder is not None and holder.brand_id == connection.brand_id
        refusal = entry["refusal"]
        if holder is not None and not is_here and not refusal:
            whose = holder.brand.name if holder.brand_id in mine else "another brand"
            refusal = f"Connected to {whose} already. Disconnect it there first."
        found.append({**entry, "is_connected": is_here, "refusal": refusal})
    return found


def choose_accounts(actor: Any, connection: Connection, *, external_ids: list[str]) -> list[Profile]:
    """Connect the chosen accounts and start collecting them; known ones get the new authorisation.

    Raises ValidationError for accounts that were not offered or cannot be connected.
    """
    require(actor, connection.brand, "sources.connect")
    with transaction.atomic():
        # Two people may choose the same account for two brands at once: one of them is second.
        Connection.objects.select_for_update().get(pk=connection.pk)
        offered = {entry["external_id"]: entry for entry in offered_to(actor, connection) if not entry["refusal"]}
        if not external_ids or not set(external_ids) <= set(offered):
            raise field_errors({"external_ids": "Choose among the offered accounts."})
        profiles = [_connect(actor, connection, offered[external_id]) for external_id in external_ids]
        _picture_of(connection.brand, profiles[0])
    return profiles


def _connect(actor: Any, connection: Connection, entry: dict[str, Any]) -> Profile:
    shown = {"handle": entry["handle"][:200], "name": entry["name"][:200], "picture": entry["picture"][:500]}
    profile, _ = Profile.objects.update_or_create(
        brand=connection.brand, network=connection.network, external_id=entry["external_id"],
        defaults={**shown, "kind": Profile.Kind.OWN, "competitor": None, "credential": connection.credential,
                  "is_followed": True},
        create_defaults={**shown, "kind": Profile.Kind.OWN, "credential": connection.credential,
                         "added_at": clock.now()},
    )  # fmt: skip
    audit.record(actor, "connect_profile", profile, brand_id=connection.brand_id)
    request_run(profile)
    return profile


def _picture_of(brand: Brand, profile: Profile) -> None:
    """A brand without a picture takes that of its first profile, and follows it from then on."""
    Brand.objects.filter(pk=brand.pk, picture_from=None, picture="").update(
        picture=profile.picture, picture_from=profile.pk
    )


def take_picture_of(actor: Any, brand: Brand, *, profile_id: int | None) -> None:
    """Make a profile's picture the brand's, from now on; None takes it away.

    Raises ValidationError for a profile that is not the brand's own.
    """
    require(actor, brand, "sources.connect")
    profile = None
    if profile_id is not None:
        profile = Profile.objects.filter(brand=brand, pk=profile_id, kind=Profile.Kind.OWN).first()
        if profile is None:
            raise field_errors({"profile_id": "Choose one of the brand's own profiles."})
    Brand.objects.filter(pk=brand.pk).update(
        picture=profile.picture if profile else "", picture_from=profile.pk if profile else None
    )
    audit.record(actor, "take_picture", brand, brand_id=brand.pk)


# Why a profile cannot be disconnected now, in words; nothing where it can.
disconnecting: Hook[[Profile], str] = Hook("a profile is to be disconnected")


def disconnect_profile(actor: Any, profile: Profile, *, has_history_erased: bool = False) -> bool:
    """Give the authorisation back and stop collecting. The history stays unless one says otherwise.

    Returns whether the network took note; an authorisation that serves other profiles is kept. Raises Conflict where
    something is under way that needs the authorisation.
    """
    require(actor, profile.brand, "sources.connect")
    for reason in disconnecting(profile):
        if reason:
            raise Conflict("still_needed", reason)
    credential = profile.credential
    with transaction.atomic():
        profile.is_followed, profile.credential, profile.hook_secret, profile.next_run_at = False, None, None, None
        profile.save(update_fields=["is_followed", "credential", "hook_secret", "next_run_at"])
        is_last = credential is not None and not credential.profiles.exists()
        refresh = unseal(credential.refresh) if credential is not None and is_last else ""
        if credential is not None and is_last:
            credential.delete()
        audit.record(
            actor, "disconnect_profile", profile, brand_id=profile.brand_id, erased=has_history_erased,
            name=f"{profile.name} on {network_name(profile.network)}",
        )  # fmt: skip
        if has_history_erased:
            ask("sources.erase_profile", profile_id=profile.pk)
    return revoke_tokens(profile.network, refresh) if refresh else True
