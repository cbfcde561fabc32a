"""Changes to peer sets, and what a person chose for themselves."""

from collections.abc import Sequence
from typing import Any

from django.db import IntegrityError, transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.competitors.models import DigestReader, LastLook
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, field_errors
from dakika_server.sources.models import PeerSet, Profile

MOST_SETS, MOST_IN_A_SET = 100, 400


def keep_set(
    actor: Any,
    brand: Brand,
    *,
    name: str,
    profiles: Sequence[int],
    set_id: int | None = None,
    edition: int | None = None,
) -> PeerSet:
    """Make a peer set, or change one. Other brands' profiles are not found.

    Raises field errors for a name that is taken and for profiles that are not there, Conflict where somebody else
    changed the set meanwhile, Http404 for a set that is not there.
    """
    require(actor, brand, "competitors.sets")
    name, wanted = " ".join(name.split())[:80], {*profiles}
    if not name:
        raise field_errors({"name": "Give the set a name."})
    found = list(Profile.objects.filter(brand=brand, pk__in=wanted))
    if len(found) < len(wanted):
        raise field_errors({"profiles": "One of these profiles is not here, or not any more. Choose again."})
    if not 2 <= len(found) <= MOST_IN_A_SET:
        raise field_errors({"profiles": f"Choose 2 to {MOST_IN_A_SET} profiles: a set is there to compare."})
    with transaction.atomic():
        if set_id is None:
            if PeerSet.objects.filter(brand=brand).count() >= MOST_SETS:
                raise field_errors({"name": f"A brand has at most {MOST_SETS} sets. Remove one that nobody uses."})
            kept = PeerSet(brand=brand, made_by=actor, made_at=clock.now())
        else:
            kept = _locked(brand, set_id)
            if edition is not None and edition != kept.edition:
                raise Conflict("changed_meanwhile", "Somebody changed this set meanwhile. Load it anew first.")
            kept.edition += 1
        kept.name = name
        try:
            with transaction.atomic():
                kept.save()
        except IntegrityError:
            raise field_errors({"name": f"There is a set {name} already."}) from None
        kept.profiles.set(found)
        audit.record(actor, "keep_peer_set", kept, brand_id=brand.pk, profiles=len(found))
    return kept


def remove_set(actor: Any, brand: Brand, *, set_id: int) -> None:
    """Remove a peer set; its profiles are followed as before. Raises Http404 where it is not there."""
    require(actor, brand, "competitors.sets")
    with transaction.atomic():
        found = _locked(brand, set_id)
        audit.record(actor, "remove_peer_set", found, brand_id=brand.pk)
        found.delete()


def _locked(brand: Brand, set_id: int) -> PeerSet:
    found = PeerSet.objects.select_for_update().filter(brand=brand, pk=set_id).first()
    if found is None:
        raise Http404
    return found


def mark_looked(person: Any, brand: Brand, peers: PeerSet | None) -> None:
    """What was published up to now is no longer new to a person."""
    LastLook.objects.update_or_create(brand=brand, person=person, peers=peers, defaults={"at": clock.now()})


def read_digest(person: Any, brand: Brand, peers: PeerSet | None) -> DigestReader:
    """Send a person the weekly digest of a set. Raises a field error for somebody without an address."""
    if not person.email:
        raise field_errors({"set": "There is no mail address of yours to send it to. An admin can add one."})
    return DigestReader.objects.get_or_create(
        brand=brand, person=person, peers=peers, defaults={"since": clock.now()}
    )[0]  # fmt: skip


def leave_digest(person: Any, brand: Brand, peers: PeerSet | None) -> None:
    """Send it no longer."""
    DigestReader.objects.filter(brand=brand, person=person, peers=peers).delete()


def stop_by_token(token: str) -> str | None:
    """End a digest from within its letter; whose it was, None where it has ended already or never was."""
    found = DigestReader.objects.select_related("brand").filter(token=token).first()
    if found is None:
        return None
    found.delete()
    return found.brand.name
