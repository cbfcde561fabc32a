"""Bringing files, saying what is on them, taking them away."""

import hashlib
import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import IO, Any
from uuid import uuid4

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


@dataclass(frozen=True, kw_only=True)
class Use:
    """What an asset is used for: in words, where (below the brand), and what came of it."""

    text: str
    path: str = ""
    result: str = ""


# Areas above say what an asset is used for, so that it is not taken away from under them.
used_for: Hook[[Asset], list[Use]] = Hook("what an asset is used for")
# They put another in its place wherever nothing went out yet, and say in how many places; within a transaction.
replaced: Hook[[Any, Asset, Asset], int] = Hook("replacing an asset")


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
                brand=brand, created_by=actor, created_at=clock.now(), name=called(name), file=kept, digest=digest,
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


def copy_asset(actor: Any, asset: Asset, brand: Brand) -> Asset:
    """The same file for another brand, looked into there again. Raises Conflict where that brand's room is full."""
    with storage.opened(asset.file) as file:
        copied, is_new = add_asset(actor, brand, name=asset.name, size=asset.size, file=file)
    if is_new:
        copied.words, copied.focus_x, copied.focus_y = asset.words, asset.focus_x, asset.focus_y
        copied.tags, copied.origin = asset.tags, asset.origin
        copied.save(update_fields=["words", "focus_x", "focus_y", "tags", "origin"])
    return copied


def edit_asset(actor: Any, brand: Brand, pk: int, edits: Mapping[str, Any]) -> Asset:
    """Have a picture worked on: another asset, with the same words, made from it; the first one stays as it is.

    Raises Http404, and Conflict for what is no picture that is ready.
    """
    require(actor, brand, "media.change")
    source = Asset.objects.filter(brand=brand, pk=pk).first()
    if source is None:
        raise Http404
    if source.kind != Asset.Kind.PICTURE or source.state != Asset.State.READY:
        raise Conflict("no_picture", "Only a picture that was looked into can be worked on.")
    return _to_be_made(actor, source, edits, source.name)


def _to_be_made(actor: Any, source: Asset, edits: Mapping[str, Any], name: str) -> Asset:
    """An asset that a worker makes of another; the same work on the same bytes is the same asset."""
    brand = source.brand
    digest = hashlib.sha256(bytes(source.digest) + json.dumps(edits, sort_keys=True).encode()).digest()
    with transaction.atomic():
        made, is_new = Asset.objects.get_or_create(
            brand=brand, digest=digest,
            defaults={
                "created_by": actor, "created_at": clock.now(), "name": name[:200], "words": source.words,
                "file": f"{brand.pk}/to-be-made/{uuid4().hex}", "size": source.size, "tags": source.tags,
                "origin": source.origin, "focus_x": source.focus_x, "focus_y": source.focus_y, "made_from": source,
                "edits": dict(edits),
            },
        )  # fmt: skip
        if is_new:
            audit.record(actor, "edit_asset", made, brand_id=brand.pk, made_from=source.pk)
            ask("media.check_one", asset_id=made.pk)
    return made


def take_still(actor: Any, brand: Brand, pk: int, seconds: float) -> Asset:
    """Have a picture made of what a video shows at some seconds, such as its cover.

    Raises Http404, and Conflict for what is no video that is ready.
    """
    require(actor, brand, "media.change")
    source = Asset.objects.filter(brand=brand, pk=pk).first()
    if source is None:
        raise Http404
    if source.kind != Asset.Kind.VIDEO or source.state != Asset.State.READY:
        raise Conflict("no_video", "Only a video that was looked into has stills.")
    seconds = round(min(seconds, source.seconds or 0.0), 2)
    return _to_be_made(actor, source, {"still": seconds}, f"{source.name} at {seconds:.1f} s")


def make_sequence(actor: Any, brand: Brand, pictures: Sequence[int], *, seconds: float, shape: float) -> Asset:
    """Have a short video made of pictures one after the other. Raises field errors for what are no pictures."""
    require(actor, brand, "media.change")
    found = Asset.objects.filter(
        brand=brand, pk__in=pictures, kind=Asset.Kind.PICTURE, state=Asset.State.READY
    ).in_bulk()  # fmt: skip
    if set(found) != set(pictures):
        raise field_errors({"pictures": "Choose pictures that are there and were looked into."})
    edits = {"sequence": list(pictures), "seconds": seconds, "shape": shape}
    return _to_be_made(actor, found[pictures[0]], edits, f"{len(pictures)} pictures of {seconds:.1f} s")


def change_asset(
    actor: Any, brand: Brand, pk: int, *, name: str | None = None, words: str | None = None,
    tags: Sequence[str] | None = None, focus: tuple[float, float] | None = None,
) -> Asset:  # fmt: skip
    """Another name, other words for those who do not see it, tags, or what must stay when it is cut. Raises Http404."""
    require(actor, brand, "media.change")
    if name is not None and not name.strip():
        raise field_errors({"name": "Give the file a name."})
    with transaction.atomic():
        asset = _of(brand, pk)
        if name is not None:
            asset.name = called(name)
        if words is not None:
            asset.words = " ".join(words.split())[:1000]
        if tags is not None:
            cleaned = (" ".join(tag.replace("\x00", "").split()) for tag in tags)
            asset.tags = list(dict.fromkeys(tag for tag in cleaned if tag))
        if focus is not None:
            asset.focus_x, asset.focus_y = focus
        asset.save(update_fields=["name", "words", "tags", "focus_x", "focus_y"])
        audit.record(actor, "change_asset", asset, brand_id=brand.pk)
    return asset


def remove_asset(actor: Any, brand: Brand, pk: int) -> None:
    """Take a file and its renditions away. Raises Http404, and Conflict while something is made with it."""
    require(actor, brand, "media.change")
    with transaction.atomic():
        asset = _of(brand, pk)
        uses = [use for answer in used_for(asset) for use in answer]
        if uses:
            raise Conflict("asset_in_use", f"It is used for {uses[0].text}. Take it out there first.")
        names = [asset.file, *asset.renditions.values_list("file", flat=True)]
        audit.record(actor, "remove_asset", asset, brand_id=brand.pk, name=asset.name)
        asset.delete()
        transaction.on_commit(lambda: storage.away(names))


def replace_asset(actor: Any, brand: Brand, pk: int, by: int) -> int:
    """Put another of the brand's files in its place wherever nothing went out yet; in how many places it was.

    Raises Http404, and Conflict for a file that is not ready or of another kind.
    """
    require(actor, brand, "media.change")
    with transaction.atomic():
        old = _of(brand, pk)
        new = Asset.objects.filter(brand=brand, pk=by).first()
        if new is None or new.pk == old.pk:
            raise field_errors({"by": "There is no such other file."})
        if new.state != Asset.State.READY or new.kind != old.kind:
            raise Conflict("not_alike", "Only a file of the same kind that was looked into can take its place.")
        count = sum(replaced(actor, old, new))
        audit.record(actor, "replace_asset", old, brand_id=brand.pk, by=new.pk, places=count)
    return count


def _of(brand: Brand, pk: int) -> Asset:
    found = Asset.objects.select_for_update(of=("self",)).filter(brand=brand, pk=pk).first()
    if found is None:
        raise Http404
    return found


def called(name: str) -> str:
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
