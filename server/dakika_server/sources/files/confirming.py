"""From a file that is settled to rows that come in: whose they are, and taking it all back."""

import uuid
from typing import Any

from django.db import transaction

from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.sources.files import accounts
from dakika_server.sources.files.upload import OF_NO_PROFILE, preview_of, require_waiting
from dakika_server.sources.models import Import, Profile

# Above these a file has a lane of its own, so that somebody else's small one never waits behind it.
LARGE_BYTES, LARGE_ROWS = 4 * 1024 * 1024, 25_000
MAKE, LEAVE = "make", "leave"


def is_large(item: Import) -> bool:
    """Whether a file takes long to bring in."""
    return item.size > LARGE_BYTES or item.row_count > LARGE_ROWS


def lane_of(item: Import) -> str:
    """The queue in which a file's work stands."""
    return "bulk" if is_large(item) else "files"


def confirm_file(
    actor: Any, item: Import, *, profile_id: int | None = None, new_profile: str = "", network: str = "",
    is_per_row: bool = False, accounts_told: list[dict[str, Any]] | None = None,
) -> Import:  # fmt: skip
    """Begin bringing the rows in: into a profile, a new one, or the profiles that the rows name.

    accounts_told says of each account that the rows name which profile it is, or that it be made,
    or left out. Raises Problem when no row of the sample can be read, Conflict when the import is over.
    """
    require(actor, item.brand, "sources.files")
    with transaction.atomic():
        item = Import.objects.select_for_update(of=("self",)).select_related("brand").get(pk=item.pk)
        require_waiting(item)
        preview = preview_of(item)
        if preview.mapping_problems:
            raise Problem("mapping_incomplete", preview.mapping_problems[0])
        if not preview.items:
            raise Problem("nothing_to_import", "No row can be read. Correct the mapping, or the file.")
        if item.kind not in OF_NO_PROFILE:
            if is_per_row:
                item.profile = None
                item.options["accounts"] = _settled_accounts(item, accounts_told or [], network)
            else:
                item.profile = _target(item, profile_id, new_profile, network)
                # Kept beside the key: a profile that is erased leaves no file without an owner.
                item.options["into"] = item.profile.pk
        item.state, item.message = Import.State.RUNNING, ""
        item.save(update_fields=["profile", "state", "options", "message"])
        audit.record(actor, "import_file", item, brand_id=item.brand_id)
        ask("sources.read_file", queue=lane_of(item), import_id=item.pk)
    return item


def undo_file(actor: Any, item: Import) -> Import:
    """Begin taking out again what a file brought, or is bringing. Raises Conflict when there is nothing to take out."""
    require(actor, item.brand, "sources.files")
    with transaction.atomic():
        item = Import.objects.select_for_update(of=("self",)).select_related("brand").get(pk=item.pk)
        if item.state not in (Import.State.DONE, Import.State.FAILED, Import.State.RUNNING):
            raise Conflict("import_not_done", "Only a file that was brought in can be undone.")
        item.state = Import.State.UNDOING
        item.save(update_fields=["state"])
        audit.record(actor, "undo_import", item, brand_id=item.brand_id)
        ask("sources.undo_file", queue=lane_of(item), import_id=item.pk)
    return item


def _settled_accounts(item: Import, told: list[dict[str, Any]], network: str) -> list[dict[str, Any]]:
    """Each account with its profile, 0 for one whose rows are left out; new profiles are made here."""
    if not {"profile_handle", "profile_network"} & set(item.mapping):
        raise field_errors({"profile_id": "Say which columns hold the profile's network and handle."})
    said = {accounts.key_of(one.get("network"), one.get("handle")): one for one in told}
    settled = []
    for one in accounts.with_profiles(item):
        key = accounts.key_of(one["network"], one["handle"])
        choice = said.get(key, {})
        profile_id = choice.get("profile_id") or (one["profile_id"] if not choice.get("what") else None)
        if choice.get("what") == MAKE:
            profile_id = _made(item, one["handle"] or one["network"], one["network"] or choice.get("on") or network).pk
        elif profile_id and not Profile.objects.filter(brand=item.brand, pk=profile_id).exists():
            raise field_errors({"profile_id": "Choose one of the brand's profiles."})
        elif not profile_id and choice.get("what") != LEAVE:
            name = " on ".join(filter(None, [one["handle"], one["network"]]))
            raise field_errors({"accounts": f"Say what becomes of {name}: a profile, a new one, or left out."})
        settled.append({"network": key[0], "handle": key[1], "profile_id": profile_id or 0})
    return settled


def _target(item: Import, profile_id: int | None, new_profile: str, network: str) -> Profile:
    if profile_id is not None:
        found = Profile.objects.filter(brand=item.brand, pk=profile_id).select_related("brand").first()
        if found is None:
            raise field_errors({"profile_id": "Choose one of the brand's profiles."})
        return found
    if not new_profile.strip():
        raise field_errors({"profile_id": "Choose the profile that the rows belong to."})
    return _made(item, new_profile, network)


def _made(item: Import, name: str, network: str) -> Profile:
    key = "-".join(network.strip().lower().split())
    if not key or len(key) > 40 or not key.replace("-", "").replace("_", "").isalnum():
        raise field_errors({"network": "Name the network that the profile is on, in at most 40 letters."})
    name = name.replace("\x00", "").encode("utf-8", "replace").decode().strip()[:200]
    return Profile.objects.create(
        brand=item.brand, network=key, external_id=f"file:{uuid.uuid4()}", handle=name.removeprefix("@"),
        name=name, kind=Profile.Kind.OWN, added_at=clock.now(),
    )  # fmt: skip
