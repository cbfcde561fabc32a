"""Looking through a brand's files: tags, uses, several at once.

In the trade's words: asset library, digital asset management.
"""

import tempfile
import zipfile
from collections.abc import Sequence
from typing import IO, Any

from django.db.models import Count, Func
from django.http import Http404

from dakika_server.brands.models import Brand
from dakika_server.media import storage
from dakika_server.media.actions import Use, used_for
from dakika_server.media.models import Asset
from dakika_server.shared.errors import Problem

MOST_TAGS = 200
LARGEST_ZIP = 2_000_000_000


def tags_of(brand: Brand) -> list[dict[str, Any]]:
    """Tags with how many files have each, the most used first."""
    every = Asset.objects.filter(brand=brand).annotate(tag=Func("tags", function="unnest"))
    rows = every.values("tag").annotate(files=Count("pk")).order_by("-files", "tag")[:MOST_TAGS]
    return [{"tag": row["tag"], "files": row["files"]} for row in rows]


def uses_of(asset: Asset) -> list[Use]:
    """What it is used for, as the areas above say."""
    return [use for answer in used_for(asset) for use in answer]


def zipped(brand: Brand, numbers: Sequence[int]) -> IO[bytes]:
    """Files as they were brought, in one zip on disk, each under a name of its own.

    Raises Http404 where one is not there or not ready, Problem for more than is given out at once.
    """
    assets = list(Asset.objects.filter(brand=brand, pk__in=numbers, state=Asset.State.READY).order_by("pk"))
    if len(assets) != len(set(numbers)):
        raise Http404
    if sum(asset.size for asset in assets) > LARGEST_ZIP:
        raise Problem("too_much", "This is more than two gigabytes. Choose fewer files.")
    out = tempfile.TemporaryFile()  # noqa: SIM115 (the answer closes it)
    taken: set[str] = set()
    # Pictures and videos do not get smaller.
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as made:
        for asset in assets:
            with storage.opened(asset.file) as content, made.open(_called(asset, taken), "w") as member:
                for chunk in content.chunks():
                    member.write(chunk)
    out.seek(0)
    return out


ENDINGS = {"image/jpeg": ".jpg", "image/png": ".png", "image/webp": ".webp", "image/gif": ".gif", "video/mp4": ".mp4",
           "video/webm": ".webm", "application/pdf": ".pdf"}  # fmt: skip


def _called(asset: Asset, taken: set[str]) -> str:
    """A name that no other has, without folders, with the ending that its content has."""
    plain = asset.name.replace("/", "_").replace("\\", "_").lstrip(".") or "file"
    stem = plain.rpartition(".")[0] or plain
    ending = ENDINGS.get(asset.media_type, "")
    name, number = f"{stem}{ending}", 1
    while name.casefold() in taken:
        number += 1
        name = f"{stem} {number}{ending}"
    taken.add(name.casefold())
    return name
