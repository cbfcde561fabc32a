"""Large files in parts: begun, gone on with where they broke off, put together when all of them is there.

In the trade's words: resumable upload, chunked upload.
"""

import tempfile
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db import transaction
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.brands.permissions import require
from dakika_server.media import storage
from dakika_server.media.actions import add_asset, called
from dakika_server.media.models import Asset, Upload
from dakika_server.shared import clock
from dakika_server.shared.errors import Conflict, Problem

LARGEST_PART = 8_000_000
MOST_AT_ONCE = 20
KEPT = timedelta(hours=24)


def begin_upload(actor: Any, brand: Brand, *, name: str, size: int) -> Upload:
    """An upload of a file; the same person's unfinished one of the same name and size goes on.

    Raises Problem for what is too large, Conflict where very many are unfinished.
    """
    require(actor, brand, "media.change")
    if size > settings.MEDIA_LARGEST_BYTES:
        most = settings.MEDIA_LARGEST_BYTES // 1_000_000
        raise Problem("file_too_large", f"A file may have {most:,} megabytes. Make it smaller and bring that.")
    known = Upload.objects.filter(person=actor, brand=brand, name=called(name), size=size).first()
    if known is not None:
        return known
    if Upload.objects.filter(person=actor, brand=brand).count() >= MOST_AT_ONCE:
        raise Conflict("too_many_uploads", "Very many uploads are unfinished. Finish some first.")
    made, _ = Upload.objects.get_or_create(
        person=actor, brand=brand, name=called(name), size=size, defaults={"touched_at": clock.now()}
    )
    return made


def take_part(actor: Any, brand: Brand, pk: int, *, start: int, content: bytes) -> tuple[Upload, Asset | None]:
    """The next part; with the last one comes the asset. Parts that came already are not taken twice.

    Raises Http404, Problem for a part that is empty, too large or beyond the end, and Conflict for one that is not the
    next: it says where to go on.
    """
    require(actor, brand, "media.change")
    if not 0 < len(content) <= LARGEST_PART:
        raise Problem("part_too_large", f"A part has 1 to {LARGEST_PART:,} bytes.")
    kept = storage.keep(brand.pk, content)
    try:
        with transaction.atomic():
            upload = Upload.objects.select_for_update().filter(person=actor, brand=brand, pk=pk).first()
            if upload is None:
                raise Http404
            if start != upload.received:
                raise Conflict("not_the_next", "This is not the next part.", received=upload.received)
            if upload.received + len(content) > upload.size:
                raise Problem("beyond_the_end", "The file is larger than was said when it was begun.")
            upload.received += len(content)
            upload.parts = [*upload.parts, kept]
            upload.touched_at = clock.now()
            upload.save(update_fields=["received", "parts", "touched_at"])
    except BaseException:
        storage.away([kept])
        raise
    if upload.received < upload.size:
        return upload, None
    return upload, _whole(actor, upload)


def _whole(actor: Any, upload: Upload) -> Asset:
    """Put the parts together. A kill before the end leaves the upload whole: the last part is asked for again."""
    with tempfile.TemporaryFile() as together:
        for name in upload.parts:
            with storage.opened(name) as part:
                for chunk in part.chunks():
                    together.write(chunk)
        together.seek(0)
        asset, _ = add_asset(actor, upload.brand, name=upload.name, size=upload.size, file=together)
    parts = list(upload.parts)
    upload.delete()
    storage.away(parts)
    return asset


def finish(actor: Any, brand: Brand, pk: int) -> tuple[Upload, Asset | None]:
    """How far an upload is; one of which all is there is put together. Raises Http404."""
    require(actor, brand, "media.change")
    upload = Upload.objects.filter(person=actor, brand=brand, pk=pk).select_related("brand").first()
    if upload is None:
        raise Http404
    return upload, _whole(actor, upload) if upload.received == upload.size else None


def forget_unfinished() -> int:
    """Uploads that nobody went on with for a day, and their parts; how many."""
    old = list(Upload.objects.filter(touched_at__lt=clock.now() - KEPT))
    for upload in old:
        parts = list(upload.parts)
        upload.delete()
        storage.away(parts)
    return len(old)
