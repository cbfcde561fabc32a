"""Bringing files, saying what is on them, taking them away."""

import hashlib
from typing import IO, Any

from django.conf import settings
from django.db import IntegrityError, transaction
from django.db.models import Sum
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.jobs.asking import ask
from dakika_server.media import storage
from dakika_server.media.models import Asset
from dakika_server.shared import audit, clock
from dakika_server.shared.errors import Conflict, Problem, field_errors
from dakika_server.shared.hooks import Hook

CHUNK = 1 << 20
# Areas above say what an asset is used for, so that it is not taken away from under them.
used_for: Hook[[Asset], list[str]] = Hook("what an asset is used for")


def add_asset(actor: Any, brand: Brand, *, name: str, size: int, file: IO[bytes]) -> tuple[Asset, bool]:
    """Take a file in and have it looked into; whether it is new. What the brand has already is that asset.

    What was refused is looked into once more: a busy machine may have been the reason. Raises Problem for what is empty
    or too large, Conflict where the brand's room is full.
    """
    require(actor, brand, "media.change")
    if size <= 0:
        raise Problem("file_empty", "The file is empty. Choose another.")
    if size > settings.MEDIA_LARGEST_BYTES:
        most = settings.MEDIA_LARGEST_BYTES // 1_000_000
        raise Problem("file_too_large", f"A file may have {most:,} megabytes. Make it smaller and bring that.")
    digest = _digest_of(file)
    known = Asset.objects.filter(brand=brand, digest=digest).first()
    if known is not None and known.state != Asset.State.REFUSED:
        return known, False
    taken = Asset.objects.filter(brand=brand).aggregate(total=Sum("size"))["total"] or 0
    if taken + size > settings.MEDIA_MOST_BYTES:
        raise Conflict("media_full", "The room for files is full. Take some away that are not needed any more.")
    kept = storage.keep(brand.pk, file)
    if known is not None:
        return _once_more(actor, known, kept), False
    try:
        with transaction.atomic():
            asset = Asset.objects.create(
                brand=brand, created_by=actor, created_at=clock.now(), name=_called(name), file=kept, digest=digest,
                size=size,
            )  # fmt: skip
            audit.record(actor, "add_asset", asset, brand_id=brand.pk, name=asset.name)
            ask("media.check_one", asset_id=asset.pk)
    except IntegrityError:
        # Somebody brought the same at the same time.
        storage.away([kept])
        return Asset.objects.get(brand=brand, digest=digest), False
    return asset, True


def _once_more(actor: Any, known: Asset, kept: str) -> Asset:
    """Have an asset that was refused looked into again, from the bytes that were brought now."""
    with transaction.atomic():
        asset = Asset.objects.select_for_update(of=("self",)).get(pk=known.pk)
        if asset.state != Asset.State.REFUSED:
            transaction.on_commit(lambda: storage.away([kept]))
            return asset
        asset.file, asset.state, asset.message = kept, Asset.State.CHECKING, ""
        asset.save(update_fields=["file", "state", "message"])
        audit.record(actor, "add_asset", asset, brand_id=asset.brand_id, name=asset.name)
        ask("media.check_one", asset_id=asset.pk)
    return asset


def change_asset(actor: Any, brand: Brand, pk: int, *, name: str | None = None, words: str | None = None) -> Asset:
    """Another name, or other words for those who do not see it. Raises Http404."""
    require(actor, brand, "media.change")
    if name is not None and not name.strip():
        raise field_errors({"name": "Give the file a name."})
    with transaction.atomic():
        asset = _of(brand, pk)
        if name is not None:
            asset.name = _called(name)
        if words is not None:
            asset.words = " ".join(words.split())[:1000]
        asset.save(update_fields=["name", "words"])
        audit.record(actor, "change_asset", asset, brand_id=brand.pk)
    return asset


def remove_asset(actor: Any, brand: Brand, pk: int) -> None:
    """Take a file and its renditions away. Raises Http404, and Conflict while something is made with it."""
    require(actor, brand, "media.change")
    with transaction.atomic():
        asset = _of(brand, pk)
        uses = [use for answer in used_for(asset) for use in answer]
        if uses:
            raise Conflict("asset_in_use", f"It is used for {uses[0]}. Take it out there first.")
        names = [asset.file, *asset.renditions.values_list("file", flat=True)]
        audit.record(actor, "remove_asset", asset, brand_id=brand.pk, name=asset.name)
        asset.delete()
        transaction.on_commit(lambda: storage.away(names))


def _of(brand: Brand, pk: int) -> Asset:
    found = Asset.objects.select_for_update(of=("self",)).filter(brand=brand, pk=pk).first()
    if found is None:
        raise Http404
    return found


def _called(name: str) -> str:
    """A name as people read it: no path, no control characters."""
    cleaned = "".join(letter for letter in name if letter.isprintable()).replace("\\", "/").rpartition("/")[2]
    return cleaned.strip()[:200] or "file"


def _digest_of(file: IO[bytes]) -> bytes:
    found = hashlib.sha256()
    file.seek(0)
    while chunk := file.read(CHUNK):
        found.update(chunk)
    file.seek(0)
    return found.digest()
