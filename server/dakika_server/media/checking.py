"""Looking into what was brought, in a child with bounds; called by the worker, as often as it likes."""

import logging
import tempfile
from typing import IO

from django.db import transaction

from dakika_server.media import films, looking, storage
from dakika_server.media import pictures as pictures_of
from dakika_server.media.models import Asset, Rendition, Upload
from dakika_server.shared import apart, clock

log = logging.getLogger(__name__)
SECONDS, MEGABYTES = 60, 1500
State = Asset.State
DEFECT = "It could not be looked into. Save it again, as a JPEG, PNG, MP4 or PDF, and bring that."
ASKED_TOO_MUCH = (
    "Looking into the file took more time or memory than a file may. Save it again, smaller, and bring that."
)


def check(asset_id: int) -> None:
    """Look into an asset that waits for it: it is ready with its renditions, or refused with the reason."""
    asset = Asset.objects.filter(pk=asset_id, state=State.CHECKING).first()
    if asset is None:
        return None
    try:
        if asset.made_from_id and "to-be-made" in asset.file:
            _make(asset)
        with _on_disk(asset) as file:
            found: looking.Looked = apart.called_on(looking.look, file, seconds=SECONDS, megabytes=MEGABYTES)
    except looking.NotTaken as error:
        return _refuse(asset, str(error))
    except apart.TooMuch:
        return _refuse(asset, ASKED_TOO_MUCH)
    except FileNotFoundError:
        return _refuse(asset, "The file is gone. Bring it again.")
    except Exception:
        # Whatever a reader of hostile bytes meets: it is said, and nothing waits for ever.
        log.exception("asset %s could not be looked into", asset.pk)
        return _refuse(asset, DEFECT)
    kept = [(made, storage.keep(asset.brand_id, made.content)) for made in found.made]
    with transaction.atomic():
        # Taken away, or looked into by another, in the meantime: what was made is nobody's.
        if not Asset.objects.select_for_update().filter(pk=asset_id, state=State.CHECKING).exists():
            return storage.away([name for _, name in kept])
        Rendition.objects.bulk_create(
            Rendition(asset=asset, purpose=made.purpose, file=name, media_type=made.media_type, width=made.width,
                      height=made.height, size=len(made.content))
            for made, name in kept
        )  # fmt: skip
        Asset.objects.filter(pk=asset_id).update(
            state=State.READY, kind=found.kind, media_type=found.media_type, width=found.width, height=found.height,
            seconds=found.seconds, message=found.note,
        )  # fmt: skip
    return None


def _make(asset: Asset) -> None:
    """Make the bytes of an asset that comes of others, in a child with bounds; written down before the look."""
    edits = asset.edits
    bounds = {"seconds": SECONDS, "megabytes": MEGABYTES}
    if asset.made_from is None:
        raise FileNotFoundError
    made: bytes
    if "sequence" in edits:
        found = Asset.objects.filter(brand=asset.brand_id).prefetch_related("renditions").in_bulk(edits["sequence"])
        pictures = [_full(found[number]) for number in edits["sequence"] if number in found]
        made = apart.called(films.sequence_of, pictures, edits["seconds"], edits["shape"], **bounds)
    elif "still" in edits:
        with storage.opened(asset.made_from.file) as opened:
            content = opened.read()
        made = apart.called(films.still_of, content, edits["still"], **bounds)
    else:
        made = apart.called(pictures_of.edited_from, _full(asset.made_from), edits, **bounds)
    asset.file, asset.size = storage.keep(asset.brand_id, made), len(made)
    asset.save(update_fields=["file", "size"])


def _full(asset: Asset) -> bytes:
    """The bytes of a picture as we wrote it. Raises FileNotFoundError."""
    full = next((one for one in asset.renditions.all() if one.purpose == Rendition.Purpose.FULL), None)
    if full is None:
        raise FileNotFoundError
    with storage.opened(full.file) as opened:
        content: bytes = opened.read()
    return content


def _on_disk(asset: Asset) -> IO[bytes]:
    """The asset as a file of this machine, which a child can be given, wherever the storage is."""
    with storage.opened(asset.file) as source:
        made = tempfile.TemporaryFile()  # noqa: SIM115 (the caller closes it)
        for chunk in source.chunks():
            made.write(chunk)
        made.flush()
        made.seek(0)
    return made


def _refuse(asset: Asset, why: str) -> None:
    """What is refused keeps its reason; its bytes go."""
    log.warning("asset %s was refused", asset.pk)
    Asset.objects.filter(pk=asset.pk, state=State.CHECKING).update(state=State.REFUSED, message=why[:300])
    storage.away([asset.file])


def take_away_nobodys() -> int:
    """Files that no row tells of, a day after they were written: what a kill in the middle leaves. How many."""
    old = set(storage.older_than(clock.now() - storage.LEFT_ALONE))
    for rows in (Asset.objects.all(), Rendition.objects.all()):
        old -= set(rows.filter(file__in=list(old)).values_list("file", flat=True)) if old else set()
    old -= {part for parts in Upload.objects.values_list("parts", flat=True) for part in parts}
    storage.away(sorted(old))
    return len(old)
