"""Pictures for a table of posts, in a ZIP archive: files of the library, known to the table by their names."""

import tempfile
from typing import IO, Any

from dakika_core.plan.archives import ArchiveError, pictures_in, unpacked
from django.core.exceptions import PermissionDenied
from django.db import transaction
from rest_framework.exceptions import APIException

from dakika_server.brands.permissions import require
from dakika_server.media.actions import add_asset
from dakika_server.networks.fetcher import place_for_people
from dakika_server.plan.models import Batch
from dakika_server.shared import audit
from dakika_server.shared.errors import Conflict, field_errors, told_by

SPOOLED = 4_000_000
MOST_SAID = 50


def bring_pictures(actor: Any, batch: Batch, *, file: IO[bytes], size: int) -> dict[str, Any]:
    """Take pictures out of an archive; what was brought, and what was left out with why.

    One file after the other, each whole before the next: what broke off begins with those that are there. Raises field
    errors for what is no archive, Conflict where the table is made already.
    """
    require(actor, batch.brand, "plan.write")
    require(actor, batch.brand, "media.change")
    if batch.state != Batch.State.CHECKED:
        raise Conflict("made_already", "Posts were made of this table. Bring the pictures to the library.")
    found: dict[str, int] = {}
    left: list[dict[str, str]] = []
    with place_for_people():
        try:
            packed, others = pictures_in(file, size)
        except ArchiveError as error:
            raise field_errors({"file": str(error)}) from None
        left += [{"name": name, "why": "No picture, film or document that is taken."} for name in others]
        for one in packed:
            try:
                with tempfile.SpooledTemporaryFile(SPOOLED) as out:
                    for piece in unpacked(file, one):
                        out.write(piece)
                    length = out.tell()
                    out.seek(0)
                    asset, _ = add_asset(actor, batch.brand, name=one.name, size=length, file=out)
            except ArchiveError as error:
                left.append({"name": one.name, "why": str(error)})
            except (APIException, PermissionDenied) as error:
                left.append({"name": one.name, "why": told_by(error)})
            else:
                found[one.name] = asset.pk
                _note(batch, one.name, asset.pk)
    if not found:
        raise field_errors({"file": left[0]["why"] if left else "The archive holds no picture."})
    audit.record(actor, "bring_batch_pictures", batch, brand_id=batch.brand_id, files=len(found))
    return {"brought": len(found), "left": left[:MOST_SAID], "left_out": len(left)}


def _note(batch: Batch, name: str, asset: int) -> None:
    """The table knows it by this name, however else the library calls the same picture."""
    with transaction.atomic():
        kept = Batch.objects.select_for_update().get(pk=batch.pk)
        kept.pictures[name] = asset
        kept.save(update_fields=["pictures"])
        batch.pictures = kept.pictures
