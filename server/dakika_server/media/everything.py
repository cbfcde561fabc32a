"""Files of a brand, for who gives them out or takes them all away."""

from collections.abc import Iterator
from functools import partial
from itertools import chain

from dakika_server.brands.everything import BrandFile
from dakika_server.media.models import Asset, Rendition, Upload
from dakika_server.media.storage import away, opened


def files_of(brand_id: int) -> Iterator[BrandFile]:
    """Every file in the storage, those half sent as well."""
    parts = Upload.objects.filter(brand=brand_id).values_list("parts", flat=True)
    names = chain(
        Asset.objects.filter(brand=brand_id).values_list("file", flat=True),
        Rendition.objects.filter(asset__brand=brand_id).values_list("file", flat=True),
        chain.from_iterable(parts),
    )  # fmt: skip
    for name in list(names):
        yield BrandFile(name=name, read=partial(_content, name), remove=partial(away, [name]))


def _content(name: str) -> bytes:
    with opened(name) as file:
        found: bytes = file.read()
    return found
